/** What authors and their colleagues are promised: what a line becomes, files, fit and outcomes, trying, holding back. */
import { readFile } from "node:fs/promises";

import type { Page } from "@playwright/test";

import { accessible, expect, openOutline, putOnAir, row, saved, say, sees, signIn, test } from "../fixtures";

/** A small dialogue that asks who somebody is and files them. */
const enquiry = {
  format: "lumbo.dialogue/1",
  id: "enquiry",
  title: "Enquiry",
  language: "en",
  opening: { say: { en: "Hello." }, button: { en: "Begin" } },
  fields: [
    {
      id: "fld_size",
      key: "size",
      label: "Size",
      type: "choice",
      options: [
        { key: "small", label: { en: "Small" } },
        { key: "large", label: { en: "Large" } },
      ],
    },
    { id: "fld_mailbox", key: "mailbox", label: "Mailbox", type: "email", personal: true, record: "contact" },
  ],
  outcomes: [
    { id: "lead", label: "A lead", class: "lead" },
    { id: "none", label: "Not for us", class: "not_a_fit" },
  ],
  sections: [
    {
      id: "main",
      title: "Main",
      turns: [
        {
          kind: "ask",
          id: "t_size",
          say: { text: { en: "How large is it?" } },
          field: "size",
          arms: [{ id: "a_small", when: { options: ["small"] }, turns: [] }],
        },
        { kind: "ask", id: "t_mail", say: { text: { en: "Where do we write to?" } }, field: "mailbox" },
        { kind: "file_lead", id: "t_file" },
      ],
      then: { close: { outcome: "lead", say: { en: "Thank you." } } },
    },
  ],
  routing: { otherwise: "aldermoor" },
};

async function talk(page: Page, slug: string, query = ""): Promise<void> {
  await page.goto(`/p/${slug}${query}`);
  await page.getByRole("button", { name: "Begin" }).click();
  await say(page, "probably the large one");
  await say(page, "ana@quayside.example");
  await expect(page.getByText("Thank you.")).toBeVisible();
}

test("a line says what it becomes while it is typed, before anything is made", async ({ page }) => {
  await signIn(page, "edda");
  await openOutline(page);
  await page.keyboard.press("j");
  await page.keyboard.press("a");
  const becomes = page.getByLabel("What it becomes");
  await page.getByLabel("What to add").fill("Which door do you use? North / South [Door]");
  await expect(becomes).toContainText("Ask keeps Door, one of several, a new field; arms for North and South");
  await page.getByLabel("What to add").fill("How many, roughly? [Pallets]");
  await expect(becomes).toContainText(/Ask keeps Pallets, [a-z ]+$/);
  await page.getByLabel("What to add").fill("So that is {nobody}.");
  await expect(becomes).toContainText("this text shows “nobody”, and there is no such field");
  await page.keyboard.press("Escape");
});

test("a dialogue goes out as a file and comes in again, its fields beside the workspace’s", async ({ page }) => {
  await putOnAir(page, enquiry, "Leaves");
  await page.goto("/dialogues");
  await page.getByRole("link", { name: /^Leaves / }).click();
  await page.getByRole("link", { name: "Releases", exact: true }).click();
  const download = page.waitForEvent("download");
  await page.getByRole("link", { name: "Save the draft as a file" }).click();
  const path = await (await download).path();
  const file = JSON.parse(await readFile(path, "utf8")) as { fields: { id: string; key: string; label: string }[] };
  expect(file.fields.map((field) => field.label)).toEqual(["Size", "Mailbox"]);

  await page.goto("/new-dialogue");
  await page.getByRole("radio", { name: /^From a file/ }).check();
  await page.getByLabel("File", { exact: true }).setInputFiles({ name: "x.json", mimeType: "application/json", buffer: Buffer.from("no json") });
  await expect(page.getByText("This is not a dialogue file. Pick one that was saved")).toBeVisible();
  await page.getByLabel("File", { exact: true }).setInputFiles(path);
  await expect(page.getByLabel("Mailbox in this workspace")).toHaveValue("fld_mailbox");
  await page.getByLabel("Mailbox in this workspace").selectOption({ label: "a new field" });
  await accessible(page, "a new dialogue from a file");
  await page.getByLabel("Title").fill("Comes back");
  await page.getByRole("button", { name: "Make it" }).click();
  await sees(page, "Where do we write to?");
  await sees(page, "keeps Size");
  await page.goto("/settings/fields");
  await expect(page.getByText("Mailbox", { exact: true })).toHaveCount(2);
});

test("who is a fit is said in conditions, outcomes are added, and an option rules out where it stands", async ({ page }) => {
  await putOnAir(page, enquiry, "Fits");
  await page.goto("/dialogues");
  await page.getByRole("link", { name: /^Fits / }).click();
  await page.getByRole("link", { name: "Brief", exact: true }).click();
  await page.getByRole("button", { name: "Add a condition" }).click();
  await page.getByPlaceholder(/or type it/).fill("Size is Large");
  await page.keyboard.press("Enter");
  await expect(page.getByLabel("What it says of them")).toBeVisible();
  await page.getByRole("button", { name: "Put it into the scorecard" }).click();
  await saved(page);
  await expect(page.getByRole("button", { name: "Put it into the scorecard" })).toHaveCount(0);
  await page.getByRole("button", { name: "Add an outcome" }).click();
  await page.getByLabel("Name of the outcome New outcome").fill("Sent elsewhere");
  await page.keyboard.press("Enter");
  await page.getByLabel("What “Sent elsewhere” comes to").selectOption({ label: "a customer already" });
  await saved(page);
  await expect(page.getByRole("button", { name: "Take out A lead" })).toHaveCount(0);
  await expect(page.getByRole("button", { name: "Take out Sent elsewhere" })).toBeVisible();
  await accessible(page, "the brief");

  await page.getByRole("link", { name: "Outline", exact: true }).click();
  await (await row(page, "Small")).click();
  await page.getByLabel("Rules out", { exact: true }).check();
  await page.getByLabel("Why it rules out").fill("We carry large ones only");
  await page.getByRole("button", { name: "Done" }).click();
  await saved(page);
  await page.getByRole("link", { name: "Scoring", exact: true }).click();
  await expect(page.locator("[data-line]").filter({ hasText: "Size is Large" })).toBeVisible();
  await expect(page.locator("[data-line]").filter({ hasText: "We carry large ones only" })).toBeVisible();
});

test("whoever is signed in only tries a dialogue, and a link tries it too", async ({ page, browser, baseURL, server }) => {
  const slug = await putOnAir(page, enquiry, "Tried");
  await talk(page, slug);
  await expect(page.getByText("You’re trying this out. Nothing will be filed.")).toBeVisible();
  await page.reload();
  await expect(page.getByText("You’re trying this out. Nothing will be filed.")).toBeVisible();
  const visitor = await browser.newContext({ baseURL });
  const prospect = await visitor.newPage();
  await talk(prospect, slug, "?test");
  await expect(prospect.getByText("You’re trying this out.")).toBeVisible();
  await prospect.evaluate(() => localStorage.clear());
  await talk(prospect, slug);
  await expect(prospect.getByText("You’re trying this out.")).toHaveCount(0);
  await visitor.close();
  expect(server.ask("select count(*) from leads where email = 'ana@quayside.example'")).toBe("1");

  await page.goto("/dialogues");
  await page.getByRole("link", { name: /^Tried / }).click();
  await page.getByRole("link", { name: "Answers", exact: true }).click();
  const rows = page.getByRole("row").filter({ hasText: "Large" });
  await expect(rows).toHaveCount(1);
  await page.getByLabel("Leads, others or tests").selectOption({ label: "our own tests" });
  await expect(rows).toHaveCount(2);
  await rows.first().click();
  await expect(page.getByText("One of your own people tried this. Nothing of it was filed.")).toBeVisible();

  await test.step("the rep sees that they were not sure", async () => {
    const lead = server.ask("select id from leads where email = 'ana@quayside.example'");
    await signIn(page, "admin");
    await page.goto(`/leads/${lead}`);
    await expect(page.getByText("not sure of it")).toBeVisible();
  });
});

test("what fills the field that nobody sees waits, and is filed by hand", async ({ page, browser, baseURL, server }) => {
  const slug = await putOnAir(page, enquiry, "Trapped");
  const visitor = await browser.newContext({ baseURL });
  const machine = await visitor.newPage();
  await machine.goto(`/p/${slug}`);
  await machine.locator("input[name=website]").evaluate((input: HTMLInputElement) => (input.value = "https://spam.example"));
  await machine.getByRole("button", { name: "Begin" }).click();
  await say(machine, "small");
  await say(machine, "bot@spamfoods.example");
  await expect(machine.getByText("Thank you.")).toBeVisible();
  await visitor.close();
  const leads = () => server.ask("select count(*) from leads where email = 'bot@spamfoods.example'");
  expect(leads()).toBe("0");

  await signIn(page, "admin");
  await page.goto("/leads");
  await page.getByRole("navigation", { name: "Leads" }).getByRole("link", { name: /Held back/ }).click();
  const waiting = page.getByRole("row").filter({ hasText: "bot@spamfoods.example" });
  await expect(waiting).toContainText("a field was filled that nobody sees");
  await accessible(page, "what is held back");
  await waiting.getByRole("button", { name: "Leave it" }).click();
  await expect(waiting.getByText("Left", { exact: true })).toBeVisible();
  expect(leads()).toBe("0");
  await waiting.getByRole("button", { name: "File it after all" }).click();
  await expect(waiting).toHaveCount(0);
  expect(leads()).toBe("1");
});

test("a field lets an ask leave out one of its rules, and no other", async ({ page }) => {
  const strict = {
    ...enquiry,
    fields: enquiry.fields.map((field) =>
      field.key === "mailbox"
        ? { ...field, id: "fld_strict", key: "strict_mail", label: "Office mail", rules: [{ rule: "company_address" }] }
        : { ...field, id: "fld_strict_size", key: "strict_size" },
    ),
    sections: JSON.parse(
      JSON.stringify(enquiry.sections).replaceAll('"mailbox"', '"strict_mail"').replaceAll('"size"', '"strict_size"'),
    ) as unknown,
  };
  await putOnAir(page, strict, "Loosens");
  await page.goto("/settings/fields");
  await page.getByText("Office mail", { exact: true }).click();
  await page.getByRole("button", { name: "company address: may be left out" }).click();
  await page.getByRole("button", { name: "Keep the change" }).click();
  await expect(page.getByText("“Office mail” was changed.")).toBeVisible();
  await page.goto("/dialogues");
  await page.getByRole("link", { name: /^Loosens / }).click();
  await (await row(page, "Where do we write to?")).click();
  const here = page.getByRole("button", { name: "company address: left out here" });
  await expect(here).toHaveAttribute("aria-pressed", "false");
  await here.click();
  await expect(here).toHaveAttribute("aria-pressed", "true");
  await page.getByRole("button", { name: "Done" }).click();
  await saved(page);
  await sees(page, "company address left out");
});
