/** The routing room: rules by keyboard, a tried lead, past leads given out again, queues and people. */
import { readFileSync } from "node:fs";

import type { Page } from "@playwright/test";

import { accessible, expect, putOnAir, row, saved, say, sees, signIn, test } from "../fixtures";

async function openRouting(page: Page, title = "Storage enquiry"): Promise<void> {
  await signIn(page, "edda");
  await page.goto("/dialogues");
  await page.getByRole("link", { name: title, exact: true }).click();
  await page.getByRole("link", { name: "Routing", exact: true }).click();
  await expect(page.getByRole("main", { name: "Routing" })).toBeVisible();
  await expect(page.getByRole("region", { name: "Queue" })).toBeVisible();
}

const rule = (page: Page, words: string) => page.locator("[data-rule]").filter({ hasText: words }).first();

test("an author writes a rule by keyboard, tries a lead, and undoes it", async ({ page }) => {
  await openRouting(page);
  await expect(rule(page, "Band is Hot")).toBeVisible();
  await page.keyboard.press("j");
  await page.keyboard.press("a");
  await page.getByLabel("Type the condition as a sentence").fill("Pallets at least 500");
  await page.keyboard.press("Enter");
  await expect(rule(page, "Pallets at least 500")).toBeVisible();
  await page.getByLabel("Goes to").selectOption({ label: "Tarn Quay queue" });
  await saved(page);
  // It stands behind the first rule.
  await expect(page.locator("[data-rule]").nth(1)).toContainText("Pallets at least 500");
  await page.getByRole("tabpanel").getByLabel("Pallets").fill("about 600");
  const steps = page.getByRole("region", { name: "Where it goes" });
  await expect(steps.getByText("Pallets at least 500: Tarn Quay queue")).toBeVisible();
  await expect(steps.getByText("Tarn Quay queue always goes to Priya Nand")).toBeVisible();
  await page.getByRole("tabpanel").getByLabel("Pallets").fill("60");
  await expect(steps.getByText("Pallets at least 500: does not hold")).toBeVisible();
  await page.getByRole("button", { name: "Pallets at least 500" }).focus();
  await page.keyboard.press("Alt+ArrowUp");
  await expect(page.locator("[data-rule]").first()).toContainText("Pallets at least 500");
  await page.keyboard.press("Escape");
  await page.keyboard.press("Delete");
  await expect(rule(page, "Pallets at least 500")).toBeHidden();
  await page.keyboard.press("Control+z");
  await expect(rule(page, "Pallets at least 500")).toBeVisible();
  await page.keyboard.press("Control+Shift+z");
  await expect(rule(page, "Pallets at least 500")).toBeHidden();
  await saved(page);
  await accessible(page, "routing");
});

test("past leads given out again say who would get how many, and which would move", async ({ page }) => {
  await openRouting(page);
  await page.getByRole("tab", { name: "Past leads again" }).click();
  await page.getByLabel("How far back").selectOption("365");
  const pane = page.getByRole("tabpanel");
  await expect(pane.getByRole("row", { name: /Maren Holt/ })).toBeVisible();
  await expect(pane.getByText("No lead would go to another queue")).toBeVisible();
  await page.getByLabel("Where no rule holds").selectOption({ label: "Tarn Quay queue" });
  await expect(pane.getByText(/leads? would go to another queue/)).toBeVisible();
  await pane.getByRole("button", { name: "show them" }).click();
  await expect(pane.getByText("Aldermoor queue → Tarn Quay queue").first()).toBeVisible();
  await page.getByRole("heading", { name: /Past leads, given out again/ }).click();
  await page.keyboard.press("Control+z");
  await expect(pane.getByText("No lead would go to another queue")).toBeVisible();
  await saved(page);
});

test("a table of territories is typed and pasted, a rule looks leads up in it, and it is put back after it was taken out", async ({
  page,
}) => {
  await openRouting(page);
  const panel = page.getByRole("region", { name: "Territories" });
  await panel.getByRole("button", { name: "+ table" }).click();
  await panel.getByLabel("Table’s name").fill("Known firms");
  await panel.getByLabel("Add a queue").selectOption({ label: "Saltwick queue" });
  await panel.getByLabel("Saltwick queue").fill("Harrow, Marsh");
  await panel.getByText("Paste a list").click();
  await panel.getByLabel("A line for each place, with its queue behind a comma or a tab").fill("Pell\tTarn Quay queue\nOrr, Nowhere queue");
  await panel.getByRole("button", { name: "Add these lines" }).click();
  await expect(panel.getByText(/One line is left: each needs a place/)).toBeVisible();
  await expect(panel.getByLabel("Tarn Quay queue")).toHaveValue("Pell");
  await panel.getByRole("button", { name: "Keep" }).click();
  await expect(panel.getByText("Known firms. The longest beginning that fits goes first.")).toBeVisible();
  await accessible(page, "territories");

  // A rule of its own before all others, which looks the company up.
  await page.keyboard.press("j");
  await page.keyboard.press("a");
  await page.getByLabel("Type the condition as a sentence").fill("Pallets at least 1");
  await page.keyboard.press("Enter");
  await expect(rule(page, "Pallets at least 1")).toBeVisible();
  await page.getByLabel("Goes to").selectOption({ label: "Known firms" });
  await page.getByLabel("Looks up").selectOption({ label: "Company" });
  await saved(page);
  const pane = page.getByRole("tabpanel");
  await pane.getByLabel("Pallets").fill("40");
  await pane.getByLabel("Company").fill("Marsh Fish");
  const steps = page.getByRole("region", { name: "Where it goes" });
  await expect(steps.getByText("Pallets at least 1: Known firms has Marsh for Marsh Fish: Saltwick queue")).toBeVisible();
  await pane.getByLabel("Company").fill("Quarmby Foods");
  await expect(steps.getByText("Pallets at least 1: Known firms has no row for Quarmby Foods")).toBeVisible();
  await expect(steps.getByText(/No rule holds|Aldermoor/).first()).toBeVisible();

  // While a rule looks things up in it, it stays.
  await panel.getByRole("button", { name: "Take out" }).click();
  await expect(panel.getByRole("alert")).toContainText("looks leads up in it");
  await page.getByRole("heading", { name: "Territories" }).click();
  for (let left = 0; left < 3; left += 1) await page.keyboard.press("Control+z");
  await expect(rule(page, "Pallets at least 1")).toBeHidden();
  await saved(page);
  await panel.getByRole("button", { name: "Take out" }).click();
  await expect(panel.getByText("Known firms is taken out.")).toBeVisible();
  await panel.getByRole("button", { name: "Put it back" }).click();
  await expect(panel.getByText("Tarn Quay queue")).toBeVisible();
  await panel.getByRole("button", { name: "Take out" }).click();
  await expect(panel.getByText("A table says which queue has which postcodes")).toBeVisible();
});

test("holidays are read from a calendar file, and a file that is none says so", async ({ page }) => {
  await openRouting(page);
  const queue = page.getByRole("region", { name: "Queue" });
  await queue.getByRole("combobox", { name: "Queue" }).selectOption("@new");
  await queue.getByLabel("Name").fill("Holiday queue");
  await queue.getByLabel("Open", { exact: true }).selectOption("hours");
  const year = new Date().getFullYear();
  const event = (lines: string) => `BEGIN:VEVENT\r\n${lines}\r\nEND:VEVENT\r\n`;
  const christmas = event(`DTSTART;VALUE=DATE:${year}1225\r\nDTEND;VALUE=DATE:${year}1227\r\nSUMMARY:Christmas`);
  const meeting = event(`DTSTART:${year}1201T090000Z\r\nSUMMARY:Stand-up`);
  const upload = (name: string, text: string) =>
    queue.getByLabel("From a calendar").setInputFiles({ name, mimeType: "text/calendar", buffer: Buffer.from(text) });
  await upload("off.ics", `BEGIN:VCALENDAR\r\nVERSION:2.0\r\n${christmas}${meeting}END:VCALENDAR\r\n`);
  await expect(queue.getByText("2 days added: Christmas.")).toBeVisible();
  await expect(queue.getByText("Left aside: Stand-up: it is not a whole day.")).toBeVisible();
  await expect(queue.getByLabel("Holidays")).toHaveValue(`${year}-12-25, ${year}-12-26`);
  await upload("off.ics", "Christmas, 25 December");
  await expect(queue.getByText("This is no iCalendar file; choose one that ends in .ics.")).toBeVisible();
  await queue.getByRole("button", { name: "Not now" }).click();
});

test("a rep who is paused is passed over, and a queue’s hours and next one are kept", async ({ page }) => {
  await openRouting(page);
  const queue = page.getByRole("region", { name: "Queue" });
  await queue.getByRole("button", { name: "Pause Maren Holt" }).click();
  await expect(queue.getByRole("button", { name: "Let Maren Holt take leads again" })).toBeVisible();
  const steps = page.getByRole("region", { name: "Where it goes" });
  await expect(steps.getByText("Maren Holt takes no new leads at the moment")).toBeVisible();
  await queue.getByRole("button", { name: "Let Maren Holt take leads again" }).click();
  await expect(steps.getByText("takes no new leads")).toBeHidden();

  await queue.getByRole("combobox", { name: "Queue" }).selectOption("@new");
  await queue.getByLabel("Name").fill("Night shift");
  await queue.getByLabel("Add a member").selectOption({ label: "Joss Calder" });
  await queue.getByLabel("Open", { exact: true }).selectOption("hours");
  await queue.getByLabel("Time zone").selectOption("Europe/London");
  await queue.getByLabel("Monday").fill("early");
  await queue.getByLabel("Tuesday").click();
  await expect(queue.getByText("Write hours as 8:00–12:00, 13:00–17:30.")).toBeVisible();
  await queue.getByLabel("Monday").fill("20-24");
  await queue.getByLabel("Nobody free").selectOption({ label: "ask Senior queue" });
  await queue.getByLabel("Holidays").fill("2026-12-25");
  await queue.getByRole("button", { name: "Keep" }).click();
  await expect(queue.getByRole("heading", { name: "Night shift" })).toBeVisible();
  await expect(queue.getByText(/Monday 20:00–24:00, Tuesday to Friday 08:00–17:30, London time, 1 holiday off/)).toBeVisible();
  await expect(queue.getByText(/Nobody free: Senior queue, then the queue itself/)).toBeVisible();
  await expect(queue.getByText(/No dialogue names it/)).toBeVisible();
});

test("a lead is filed early and tagged by its arm, its rule and its ending, and its owner is chosen at the end", async ({ page, server }) => {
  const file = JSON.parse(readFileSync(new URL("../../demo/storage-enquiry.json", import.meta.url), "utf8")) as Record<string, unknown>;
  const slug = await putOnAir(page, file, "Early");
  await page.goto("/dialogues");
  await page.getByRole("link", { name: /^Early / }).click();
  await expect(page.getByRole("main", { name: "Outline" })).toBeVisible();
  await (await row(page, "files the lead and picks its owner")).click();
  await page.getByLabel("More is asked after it: choose the owner later").check();
  await saved(page);
  await accessible(page, "the editor of a File lead");
  await page.keyboard.press("Escape");
  await sees(page, "files the lead, and picks its owner later");
  const arm = page.locator("[data-row='arm:a_frozen'] [data-open]");
  await row(page, "How cold does it have to be?");
  await arm.click();
  await page.getByLabel("Tags the lead").fill("cold chain, deep frost");
  await page.keyboard.press("Enter");
  await saved(page);
  await page.getByRole("link", { name: "Brief", exact: true }).click();
  await page.getByLabel("Tags of leads that end as A lead").fill("to its end");
  await page.keyboard.press("Enter");
  await saved(page);
  await accessible(page, "the brief");
  await page.getByRole("link", { name: "Routing", exact: true }).click();
  await page.getByRole("button", { name: "Band is Hot" }).click();
  await page.getByLabel("Tags its leads").fill("call first");
  await page.keyboard.press("Enter");
  await saved(page);
  await page.getByRole("button", { name: "Release…" }).click();
  const dialog = page.getByRole("dialog");
  await dialog.getByRole("textbox").first().fill("Early, with tags.");
  await dialog.getByRole("button", { name: /^Release/ }).click();
  await expect(page.getByText("As release 2")).toBeVisible();
  // Whoever is signed in only tries it.
  await page.context().clearCookies();
  await page.goto(`/p/${slug}`);
  await page.getByRole("button", { name: "Get a price" }).click();
  for (const words of ["Blast freezing", "frozen", "yes", "250", "owner", "Wren Coldbeck", "Fern Larder", "wren@fernlarder.example", "E-mail is enough"])
    await say(page, words);
  const kept = () =>
    server.ask(
      `select array_to_string(array(select unnest(l.tags) order by 1), '; ') || ' / ' || l.undecided || ' / ' || (l.owner_id is not null)
       from leads l where l.email = 'wren@fernlarder.example'`,
    );
  await expect.poll(kept).toBe("call first; cold chain; deep frost; to its end / false / true");
});
