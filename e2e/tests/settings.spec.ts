/** Settings of the workspace as an author uses them: the catalogue of fields, own e-mail domains, signed-in visitors. */
import { createHmac } from "node:crypto";
import { readFileSync } from "node:fs";

import type { Page } from "@playwright/test";

import { accessible, expect, putOnAir, say, signIn, test } from "../fixtures";

async function open(page: Page, part: string, who = "edda") {
  await signIn(page, who);
  await page.goto(`/settings/${part}`);
}

const field = (page: Page, name: string) => page.getByRole("button", { name, exact: true });

/** A dialogue with a field of its own: changes of a field are followed by every draft, and the demo's stay for other tests. */
const crates = {
  format: "lumbo.dialogue/1",
  id: "crates",
  title: "Crates",
  language: "en",
  opening: { say: { en: "Crates." }, button: { en: "Begin" } },
  fields: [{ id: "f_crates", key: "crates", label: "Crates", type: "whole_number", rules: [{ rule: "range", min: "1", max: "500" }] }],
  outcomes: [{ id: "done", label: "Done", class: "other" }],
  sections: [
    {
      id: "all",
      title: "All",
      turns: [
        { kind: "ask", id: "t_many", say: { text: { en: "How many crates?" } }, field: "crates" },
        {
          kind: "fork",
          id: "t_fork",
          arms: [
            {
              id: "a_many",
              when: { holds: { compare: { what: "crates", is: "at_least", to: "50" } } },
              turns: [{ kind: "tell", id: "t_wow", say: [{ line: { text: { en: "{crates} is a lot." } } }] }],
            },
            { id: "a_few", when: "otherwise", turns: [] },
          ],
        },
      ],
      then: { close: { outcome: "done", say: { en: "Thank you." } } },
    },
  ],
};

test("a field is renamed with every reference, a new type is reported before it is kept, and both can be undone", async ({ page }) => {
  await putOnAir(page, crates, "Crates");
  await page.goto("/dialogues");
  await page.getByRole("button", { name: /Winterlode · Edda/ }).click();
  await page.getByRole("menuitem", { name: "Settings" }).click();
  await field(page, "Crates").click();
  await page.getByLabel("Key", { exact: true }).fill("boxes");
  await page.getByLabel("Name", { exact: true }).fill("Boxes");
  await expect(page.getByText("Nothing breaks. 3 places in 1 draft follow.")).toBeVisible();
  await accessible(page, "settings");
  await page.getByRole("button", { name: "Keep the change" }).click();
  await expect(page.getByText("“Boxes” was changed.")).toBeVisible();
  await page.goto("/dialogues");
  await page.getByRole("link", { name: /^Crates/ }).click();
  await expect(page.getByText("keeps Boxes")).toBeVisible();
  await expect(page.getByText("Boxes at least 50")).toBeVisible();
  await expect(page.getByText("nothing found by the checks")).toBeVisible();
  await page.goto("/settings/fields");
  await field(page, "Boxes").click();
  await page.getByLabel("Holds").selectOption("text");
  await expect(page.getByText(/findings? would come up in/)).toBeVisible();
  await expect(page.getByText("“at least” does not fit boxes").first()).toBeVisible();
  // What was written is not dropped by a key.
  await page.keyboard.press("Escape");
  await page.getByRole("button", { name: "Drop it" }).click();
  await field(page, "Boxes").click();
  await page.getByLabel("Key", { exact: true }).fill("Not a key");
  await expect(page.getByText("is not a key")).toBeVisible();
  await expect(page.getByRole("button", { name: "Keep the change" })).toBeDisabled();
  await page.getByLabel("Key", { exact: true }).fill("tubs");
  await page.getByLabel("Name", { exact: true }).fill("Tubs");
  await page.getByRole("button", { name: "Keep the change" }).click();
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(field(page, "Boxes")).toBeVisible();
  await field(page, "Boxes").click();
  await page.keyboard.press("Escape");
  await expect(page.getByLabel("Key", { exact: true })).toHaveCount(0);
});

test("a field is made with options and rules, and taken out again; one in use says where", async ({ page }) => {
  await open(page, "fields");
  await page.getByRole("button", { name: "New field" }).click();
  await page.getByLabel("Name", { exact: true }).fill("Depot wanted");
  await expect(page.getByLabel("Key", { exact: true })).toHaveValue("depot_wanted");
  await page.getByLabel("Holds").selectOption("choices");
  await page.getByLabel("Option 1", { exact: true }).fill("Aldermoor");
  await page.getByLabel("Option 2", { exact: true }).fill("Saltwick");
  await page.getByLabel("Add a rule").selectOption("at most so many");
  await page.getByLabel("How many").fill("1");
  await page.getByLabel("Description").fill("Where it should stand");
  await page.getByRole("button", { name: "Make it" }).click();
  await expect(page.getByText("“Depot wanted” was made.")).toBeVisible();
  await expect(page.getByText("Where it should stand")).toBeVisible();
  await field(page, "Depot wanted").click();
  await page.getByRole("button", { name: "Take out", exact: true }).click();
  await expect(page.getByText("“Depot wanted” was taken out.")).toBeVisible();
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(field(page, "Depot wanted")).toBeVisible();
  await field(page, "Depot wanted").click();
  await page.getByRole("button", { name: "Take out", exact: true }).click();
  await expect(field(page, "Depot wanted")).toHaveCount(0);
  await field(page, "Pallets").click();
  await page.getByRole("button", { name: "Take out", exact: true }).click();
  await expect(page.getByText(/is still used in “Storage enquiry”/)).toBeVisible();
});

test("the catalogue goes out as CSV and a changed file comes in, line by line", async ({ page }) => {
  await open(page, "fields");
  const waiting = page.waitForEvent("download");
  await page.getByRole("link", { name: "Export as CSV" }).click();
  const path = await (await waiting).path();
  const csv = readFileSync(path, "utf8");
  expect(csv).toContain("id,key,label,type,options,language");
  await page.getByRole("button", { name: "Import CSV" }).click();
  const take = (text: string) => page.getByLabel("CSV file").setInputFiles({ name: "fields.csv", mimeType: "text/csv", buffer: Buffer.from(text) });
  await take(`${csv},forklift,Forklift on site,colour,,,,,,,,\r\n`);
  await expect(page.getByText("“colour” is not a type")).toBeVisible();
  await expect(page.getByRole("button", { name: /Take in/ })).toBeDisabled();
  await take(`${csv},forklift,Forklift on site,yes or no,,,,,,,,\r\n`.replace("yes or no", "yes_no"));
  await expect(page.getByText("1 new, 0 changed")).toBeVisible();
  await page.getByRole("button", { name: "Take in 1 field" }).click();
  await expect(field(page, "Forklift on site")).toBeVisible();
});

test("own e-mail domains are kept, refused by name where they are none, and undone", async ({ page }) => {
  await open(page, "domains");
  await page.getByLabel("Always taken").fill("@Gmail.com\nnot a domain");
  await page.getByRole("button", { name: "Keep the lists" }).click();
  await expect(page.getByRole("alert").getByText("“not” is not a domain")).toBeVisible();
  await expect(page.getByLabel("Always taken")).toHaveValue("@Gmail.com\nnot a domain");
  await page.getByLabel("Always taken").fill("@Gmail.com");
  await page.getByLabel("Never taken").fill("rival.example");
  await page.getByRole("button", { name: "Keep the lists" }).click();
  await expect(page.getByLabel("Always taken")).toHaveValue("gmail.com");
  await accessible(page, "settings");
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByLabel("Always taken")).toHaveValue("");
});

/** A JSON Web Token as a site's server would make it. */
function sign(key: { id: string; secret: string }, claims: object): string {
  const part = (value: object) => Buffer.from(JSON.stringify(value)).toString("base64url");
  const head = `${part({ alg: "HS256", typ: "JWT", kid: key.id })}.${part({ exp: Math.floor(Date.now() / 1000) + 600, ...claims })}`;
  return `${head}.${createHmac("sha256", key.secret).update(head).digest("base64url")}`;
}

test("what the site signs about its visitor is not asked again, and leaves no trace in the address", async ({ page }) => {
  await open(page, "visitors", "admin");
  await expect(page.getByText("No secret yet.")).toBeVisible();
  await page.getByRole("button", { name: "New secret" }).click();
  await expect(page.getByText("This secret is shown only now.")).toBeVisible();
  const shown = page.getByRole("status").first();
  const [id = "", secret = ""] = await shown.locator("dd").allTextContents();
  const token = sign({ id, secret }, { name: "Ana Ruiz", email: "ana@heron.example" });
  await page.getByLabel("Token").fill(token);
  await page.getByRole("button", { name: "Look at it" }).click();
  await expect(page.getByText("the first person name")).toBeVisible();
  await accessible(page, "settings");
  await page.getByLabel("Token").fill(sign({ id, secret: "guessed" }, {}));
  await page.getByRole("button", { name: "Look at it" }).click();
  await expect(page.getByText("The signature does not fit")).toBeVisible();
  await page.goto(`/p/storage-enquiry?utm_source=newsletter#visitor=${token}`);
  await page.getByRole("button", { name: "Get a price" }).click();
  expect(new URL(page.url()).hash).toBe("");
  for (const text of ["storage", "frozen", "no", "340", "owner"]) await say(page, text);
  await expect(page.getByText("And the company?")).toBeVisible();
  await expect(page.getByText("Who should we ask for?")).toHaveCount(0);
});
