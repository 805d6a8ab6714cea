/** Contacts and companies, requests, who left before the end, and erasing somebody. */
import { readFileSync } from "node:fs";

import { parse } from "vcard4";

import { accessible, expect, putOnAir, saved, say, signIn, test } from "../fixtures";

test.use({ own: "records" });

test("who left before the end and can be reached stands under Unfinished, with the question they left at", async ({ page }) => {
  await signIn(page, "priya");
  await page.getByRole("button", { name: /^Unfinished/ }).click();
  await page.getByRole("button", { name: "Lotte Vink" }).click();
  const lead = page.getByRole("complementary", { name: "Lead" });
  await expect(lead.getByRole("heading", { name: "Lotte Vink" })).toBeVisible();
  await expect(lead.getByText(/^Left before the end, at “.*number.*”/)).toBeVisible();
  await expect(lead.getByText(/^Left “Storage enquiry” unfinished, at “/)).toBeVisible();
  await lead.getByRole("link", { name: "Contact" }).click();
  await expect(page.getByRole("complementary", { name: "What is on file" }).getByRole("heading", { name: "Lotte Vink" })).toBeVisible();
  await expect(page.getByText("said in “Storage enquiry”", { exact: false }).first()).toBeVisible();
});

test("a rep corrects a contact, and a wrong address is refused with what to do", async ({ page }) => {
  await signIn(page, "priya");
  await page.getByRole("navigation", { name: "Leads" }).getByRole("link", { name: "Contacts" }).click();
  await page.getByLabel("Search contacts").fill("pia");
  await page.getByRole("button", { name: "Pia Lindqvist" }).click();
  const pane = page.getByRole("complementary", { name: "What is on file" });
  await pane.getByRole("button", { name: "Change e-mail" }).click();
  await pane.getByLabel("E-mail").fill("pia at harrow");
  await page.keyboard.press("Enter");
  await expect(pane.getByRole("alert")).toHaveText("Type an e-mail address, such as pia@harrowpeel.example.");
  await pane.getByLabel("E-mail").fill("p.lindqvist@harrowpeel.example");
  await page.keyboard.press("Enter");
  await expect(pane.getByRole("link", { name: "p.lindqvist@harrowpeel.example" })).toBeVisible();
  await expect(pane.getByText("by Priya Nand, just now · before: pia@harrowpeel.example")).toBeVisible();
  await accessible(page, "a contact");
  const [card] = await Promise.all([page.waitForEvent("download"), pane.getByRole("link", { name: "Contact card" }).click()]);
  const read = parse(readFileSync(await card.path(), "utf8"));
  expect(JSON.stringify(read)).toContain("p.lindqvist@harrowpeel.example");
  await pane.getByRole("link", { name: "Harrow & Peel Foods" }).click();
  await expect(page.getByLabel("What it is to us")).toBeVisible();
});

test("what a contact refuses is not offered on their leads, and what they prefer comes first", async ({ page }) => {
  await signIn(page, "priya");
  await page.getByRole("navigation", { name: "Leads" }).getByRole("link", { name: "Contacts" }).click();
  await page.getByLabel("Search contacts").fill("pia");
  await page.getByRole("button", { name: "Pia Lindqvist" }).click();
  const pane = page.getByRole("complementary", { name: "What is on file" });
  await pane.getByLabel("They prefer").selectOption({ label: "a call first" });
  await pane.getByLabel("no calls").check();
  // Nobody prefers what they refuse.
  await expect(pane.getByLabel("They prefer")).toHaveValue("");
  await pane.getByLabel("They prefer").selectOption({ label: "mail first" });
  await expect(pane.getByText("Kept by Priya Nand, just now")).toBeVisible();
  await accessible(page, "how a contact wants to be reached");
  await page.getByRole("navigation", { name: "Leads" }).getByRole("link", { name: "Call list" }).click();
  await page.getByRole("button", { name: /^Everything/ }).click();
  await page.getByLabel("Search leads").fill("pia lindqvist");
  await page.getByRole("main").getByRole("button", { name: "Pia Lindqvist" }).first().click();
  const lead = page.getByRole("complementary", { name: "Lead" });
  await expect(lead.getByText("They want no calls.", { exact: true })).toBeVisible();
  await expect(lead.getByText("They prefer mail.", { exact: true })).toBeVisible();
  await expect(lead.getByRole("link", { name: /^Call \+/ })).toHaveCount(0);
});

test("a company gets a standing and somebody who looks after it", async ({ page }) => {
  await signIn(page, "priya");
  await page.goto("/companies");
  await page.getByLabel("Search companies").fill("ekström");
  await page.getByRole("button", { name: "Ekström Berries" }).click();
  const pane = page.getByRole("complementary", { name: "What is on file" });
  await pane.getByLabel("What it is to us").selectOption("Competitor");
  await expect(pane.getByText("Its leads are kept, but take nobody’s turn and go to nobody.")).toBeVisible();
  await pane.getByLabel("Looked after by").selectOption("Joss Calder");
  await expect(pane.getByText(/^New leads of the company go to them/)).toBeVisible();
  await expect(page.getByRole("row", { name: /Ekström Berries/ })).toContainText("Competitor");
  await expect(page.getByRole("row", { name: /Ekström Berries/ })).toContainText("Joss Calder");
  await accessible(page, "a company");
  await pane.getByRole("link", { name: "Maud Ekström" }).first().click();
  await expect(page.getByText("is a competitor")).toBeVisible();
});

test("two contacts become one, field by field, and two again", async ({ page }) => {
  await signIn(page, "priya");
  // Somebody in the demo's year who shares a number with somebody else.
  const found = await page.evaluate(async () => {
    const read = async (path: string) => (await fetch(path)).json();
    for (let after = ""; ; ) {
      const list = (await read(`/api/contacts?search=${after}`)) as { contacts: { id: string; name: string }[]; next?: string };
      for (const one of list.contacts) {
        const alike = (await read(`/api/contacts/${one.id}/alike`)) as { name: string }[];
        if (alike.length === 1 && alike[0]?.name !== one.name) return { id: one.id, name: one.name, other: alike[0]?.name ?? "" };
      }
      if (!list.next) return null;
      after = `&after=${encodeURIComponent(list.next)}`;
    }
  });
  if (!found) throw new Error("the demo has no two contacts with one number");
  await page.goto(`/contacts/${found.id}`);
  const pane = page.getByRole("complementary", { name: "What is on file" });
  await expect(pane.getByText(/same phone number/)).toBeVisible();
  await pane.getByRole("button", { name: "Make them one…" }).click();
  const dialog = page.getByRole("dialog");
  await expect(dialog.getByText(new RegExp(`moves? to ${found.name}`))).toBeVisible();
  await dialog.getByRole("group", { name: "Which Name is kept" }).getByRole("button", { name: "right one" }).click();
  await accessible(page, "two contacts side by side");
  await dialog.getByRole("button", { name: "Make them one" }).click();
  await expect(dialog).toHaveCount(0);
  await expect(pane.getByRole("heading", { name: found.other })).toBeVisible();
  await expect(pane.getByText(`Became one with ${found.other}`)).toBeVisible();
  await pane.getByRole("button", { name: "Make them two again" }).click();
  await expect(pane.getByRole("heading", { name: found.name })).toBeVisible();
  await expect(pane.getByText(/same phone number/)).toBeVisible();
});

test("an administrator erases somebody, and only after typing their name", async ({ page }) => {
  await signIn(page, "admin");
  await page.goto("/contacts");
  await page.getByLabel("Search contacts").fill("kettlelane");
  await page.getByRole("button", { name: "Osei Bramah" }).click();
  const pane = page.getByRole("complementary", { name: "What is on file" });
  const [held] = await Promise.all([page.waitForEvent("download"), pane.getByRole("link", { name: "Everything held on them" }).click()]);
  const told = JSON.parse(readFileSync(await held.path(), "utf8"));
  expect(told.format).toBe("lumbo.contact/1");
  expect(JSON.stringify(told.leads[0].conversations[0].said)).toContain("osei@kettlelane.example");
  await pane.getByRole("button", { name: "Erase…" }).click();
  const dialog = page.getByRole("dialog");
  await expect(dialog.getByText("1 lead: answers, transcripts, notes and what was sent")).toBeVisible();
  await expect(dialog.getByRole("button", { name: "Erase for good" })).toBeDisabled();
  await accessible(page, "erasing a contact");
  await dialog.getByLabel(/^Type/).fill("Osei Bramah");
  await dialog.getByRole("button", { name: "Erase for good" }).click();
  await expect(dialog).toHaveCount(0);
  await page.getByLabel("Search contacts").fill("kettlelane");
  await expect(page.getByText("Nobody with “kettlelane”.")).toBeVisible();
  await page.goto("/leads");
  await page.getByRole("button", { name: /^Everything/ }).click();
  await page.getByLabel("Search leads").fill("osei");
  await expect(page.getByText("No lead with “osei”.")).toBeVisible();
  // How long things are kept is said in the settings, with its limits.
  await page.goto("/settings/workspace");
  await page.getByLabel("No lead").fill("60");
  await expect(page.getByText("What is older than that is erased within a day.")).toBeVisible();
});

test("an author says in place what an outcome that is no lead leaves behind", async ({ page }) => {
  await signIn(page, "edda");
  await page.goto("/dialogues");
  await page.getByRole("link", { name: "Call back", exact: true }).click();
  await page.getByRole("navigation", { name: "Stages" }).getByRole("link", { name: "Routing" }).click();
  await page.getByLabel("What “Just looking” leaves behind").selectOption("leaves a request in Tarn Quay queue");
  await page.getByLabel("How soon “Just looking” is answered").selectOption("4 working hours");
  await saved(page);
  await accessible(page, "outcomes that are no lead");
  await page.reload();
  const soon = page.getByLabel("How soon “Just looking” is answered");
  await expect(soon).toHaveValue("240");
  await soon.selectOption("16 working hours");
  await expect(soon).toHaveValue("960");
  await page.keyboard.press("Control+z");
  await expect(soon).toHaveValue("240");
  await page.getByLabel("What “Just looking” leaves behind").selectOption("leaves nothing behind");
  await expect(page.getByLabel("How soon “Just looking” is answered")).toHaveCount(0);
  await saved(page);
});

test("a customer’s question becomes a request, which a rep takes and answers", async ({ page, browser, baseURL }) => {
  const file = {
    format: "lumbo.dialogue/1", id: "questions", title: "Questions", language: "en",
    opening: { say: { en: "What would you like to know?" }, button: { en: "Ask" } },
    fields: [
      { id: "f_rq_what", key: "rq_what", label: "Question", type: "long_text" },
      { id: "f_rq_mail", key: "rq_mail", label: "Where to write", type: "email" },
    ],
    outcomes: [{ id: "asked", label: "A customer’s question", class: "customer", request: { queue: "tarn_quay", within: 240 } }],
    sections: [{
      id: "main", title: "Main",
      turns: [
        { kind: "ask", id: "t_what", say: { text: { en: "What is it about?" } }, field: "rq_what" },
        { kind: "ask", id: "t_mail", say: { text: { en: "Where do we write to?" } }, field: "rq_mail" },
      ],
      then: { close: { outcome: "asked", say: { en: "Thank you. We will write to you." } } },
    }],
  };
  const slug = await putOnAir(page, file, "Questions");
  const prospect = await (await browser.newContext({ baseURL })).newPage();
  await prospect.goto(`/p/${slug}`);
  await prospect.getByRole("button", { name: "Ask" }).click();
  await say(prospect, "Can we move our slot on Friday to the afternoon?");
  await say(prospect, "ines@tidewater.example");
  await expect(prospect.getByText("Thank you. We will write to you.")).toBeVisible();
  await prospect.context().close();

  const rep = await (await browser.newContext({ baseURL })).newPage();
  await signIn(rep, "priya");
  await rep.getByRole("navigation", { name: "Leads" }).getByRole("link", { name: "Requests" }).click();
  const pane = rep.getByRole("complementary", { name: "What is on file" });
  await expect(pane.getByText("A customer’s question")).toBeVisible();
  await expect(pane.getByText("Can we move our slot on Friday to the afternoon?").first()).toBeVisible();
  await expect(pane.getByRole("link", { name: "ines@tidewater.example" })).toHaveAttribute("href", "mailto:ines@tidewater.example");
  await pane.getByRole("button", { name: "Take it" }).click();
  await expect(rep.getByRole("row", { name: /Can we move our slot/ })).toContainText("you");
  await accessible(rep, "a request");
  await pane.getByLabel("What to remember of it").fill("moved to 14:00");
  await pane.getByRole("button", { name: "Done" }).click();
  await expect(pane.getByText(/^Answered by Priya Nand/)).toBeVisible();
  await expect(pane.getByText("moved to 14:00")).toBeVisible();
  await rep.getByLabel("Which requests").selectOption("done");
  await expect(rep.getByRole("row", { name: /Can we move our slot/ })).toBeVisible();
  await rep.context().close();
});
