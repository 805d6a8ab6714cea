/** The scoring room: a scorecard from nothing by keyboard, thresholds, suggestions, a file of leads, and the lead. */
import { readFileSync } from "node:fs";

import type { Page } from "@playwright/test";

import { accessible, expect, putOnAir, saved, say, signIn, test } from "../fixtures";

async function openScoring(page: Page, title = "Storage enquiry"): Promise<void> {
  await signIn(page, "edda");
  await page.goto("/dialogues");
  await page.getByRole("link", { name: title, exact: true }).click();
  await page.getByRole("link", { name: "Scoring", exact: true }).click();
  await expect(page.getByRole("main", { name: "Scorecard" })).toBeVisible();
}

const line = (page: Page, words: string) => page.locator("[data-line]").filter({ hasText: words }).first();

test("a year of closed leads stands beside the scorecard, and every count agrees", async ({ page, server }) => {
  await openScoring(page);
  await expect(page.getByText(/closed in the last 12 months/)).toContainText("431 closed in the last 12 months");
  const won = server.ask("select count(*) from leads where status = 'won'");
  await expect(page.getByText(/closed in the last 12 months/)).toContainText(`${won} won`);
  await expect(page.getByText(/times in 100/)).toBeVisible();
  const frozen = line(page, "Temperature is Frozen");
  const met = server.ask(
    "select count(*) from leads l join lead_values v on v.lead_id = l.id where v.field_id = 'fld_temperature' and v.text_value = 'frozen' and l.status in ('won', 'lost', 'not_a_fit')",
  );
  await expect(frozen.locator("td").nth(2)).toHaveText(met);
  await frozen.getByRole("button").click();
  await expect(page.getByText(/points (more|less) often won when met/)).toBeVisible();
  await accessible(page, "scoring");
});

test("a threshold moved by keyboard shows who changes band before it is kept, and undo takes it back", async ({ page }) => {
  await openScoring(page);
  const hot = page.getByRole("slider", { name: "Hot begins at" });
  await expect(hot).toHaveAttribute("aria-valuenow", "70");
  await hot.focus();
  await page.keyboard.down("Shift");
  await page.keyboard.down("ArrowLeft");
  await expect(page.getByText(/by this move/)).toBeVisible();
  await page.keyboard.up("ArrowLeft");
  await page.keyboard.up("Shift");
  await expect(hot).toHaveAttribute("aria-valuenow", "60");
  await saved(page);
  await expect(page.getByText(/against the last release/)).toBeVisible();
  await page.getByRole("button", { name: "Show them" }).click();
  await expect(page.getByText(/Warm → \d+ Hot/).first()).toBeVisible();
  await page.getByLabel("Name of the scorecard").focus();
  await page.keyboard.press("Tab");
  await page.getByRole("heading", { name: "Where past leads land" }).click();
  await page.keyboard.press("Control+z");
  await expect(hot).toHaveAttribute("aria-valuenow", "70");
});

test("an author builds a scorecard from nothing by keyboard alone", async ({ page }) => {
  await openScoring(page, "Call back");
  await page.getByRole("button", { name: "Make a scorecard" }).press("Enter");
  await expect(page.getByLabel("Name of the scorecard")).toHaveValue("Fit");
  await page.keyboard.press("a");
  // The new criterion is open; its condition is typed as a sentence.
  await page.getByLabel("Type the condition as a sentence").fill("Stock at least 50");
  await page.keyboard.press("Enter");
  await expect(line(page, "Stock at least 50")).toBeVisible();
  await page.getByLabel("Points, Stock at least 50").focus();
  await page.keyboard.type("35");
  await page.keyboard.press("Enter");
  await page.keyboard.press("Escape");
  await page.keyboard.press("+");
  await expect(page.getByLabel("Points, Stock at least 50")).toHaveValue("+36");
  await page.keyboard.press("o");
  await page.getByLabel("Type the condition as a sentence").fill("Stock less than 5");
  await page.keyboard.press("Enter");
  await expect(line(page, "Stock less than 5")).toBeVisible();
  await page.getByLabel("Why", { exact: true }).fill("Too small for a bay.");
  await page.keyboard.press("Tab");
  await saved(page);
  await expect(page.getByText("criterion, 0 must-haves, 1 rule-out")).toBeVisible();
  await page.keyboard.press("Escape");
});

test("suggested points are taken over one by one, and each is undone by itself", async ({ page }) => {
  await openScoring(page);
  await page.getByRole("tab", { name: "Suggest" }).click();
  await expect(page.getByRole("heading", { name: /closed leads speak for/ })).toBeVisible();
  const before = await page.getByLabel("Points, Temperature is Frozen").inputValue();
  const take = page.getByRole("button", { name: /Take over .* for Temperature is Frozen/ });
  const suggested = /Take over (\S+) for/.exec((await take.getAttribute("aria-label")) ?? "")?.[1] ?? "";
  await take.click();
  await expect(page.getByLabel("Points, Temperature is Frozen")).toHaveValue(suggested);
  await saved(page);
  await page.getByRole("button", { name: /Take over .* for Blast freezing is yes/ }).click();
  await saved(page);
  await page.keyboard.press("Control+z");
  await expect(page.getByLabel("Points, Blast freezing is yes")).toHaveValue("+12");
  await expect(page.getByLabel("Points, Temperature is Frozen")).toHaveValue(suggested);
  expect(suggested).not.toBe(before);
  await page.keyboard.press("Control+z");
  await expect(page.getByLabel("Points, Temperature is Frozen")).toHaveValue(before);
});

test("a pasted file names its bad rows and shows the same figures", async ({ page }) => {
  await openScoring(page);
  await page.getByRole("tab", { name: "A file" }).click();
  const rows = Array.from({ length: 40 }, (_, at) => `${at % 2 ? "frozen" : "chilled"},${at * 10 + 5},${at % 3 ? "lost" : "won"}`);
  await page.getByLabel("or paste it").fill(["temperature,pallets,outcome", "lukewarm,12,won", ...rows].join("\n"));
  await expect(page.getByText("41 rows")).toBeVisible();
  await page.getByRole("button", { name: "Hold the scorecard against it" }).click();
  await expect(page.getByText("40 closed leads of the file")).toBeVisible();
  await page.getByText("1 row could not be read").click();
  await expect(page.getByText("Line 2: Temperature: “lukewarm” cannot be read")).toBeVisible();
  await page.getByLabel("or paste it").fill("");
  await page.getByLabel("or paste it").fill('a,"b\n');
  await expect(page.getByText(/is not CSV|names the columns|rows/).first()).toBeVisible();
  await accessible(page, "a file of leads");
});

test("a lead typed by hand is scored with its reasons, and what cannot be read is said beside it", async ({ page }) => {
  await openScoring(page);
  await page.getByRole("tab", { name: "Try a lead" }).click();
  const pane = page.getByRole("tabpanel");
  await pane.getByLabel("Temperature").selectOption("Frozen");
  await pane.getByLabel("Pallets").fill("about 250");
  await expect(pane.getByText("Pallets 250")).toBeVisible();
  await expect(pane.getByText(/: 40, /)).toBeVisible();
  await pane.getByLabel("Pallets").fill("lots");
  await expect(pane.getByText(/Just a number|number/).first()).toBeVisible();
});

test("a rep says whether a lead fits, and sees what today’s card would give", async ({ page }) => {
  await signIn(page, "maren");
  await page.goto("/leads");
  await page.getByRole("button", { name: "Does not fit" }).click();
  await page.getByLabel("what misled").selectOption({ index: 1 });
  await expect(page.getByText(/Does not fit: “/)).toBeVisible();
  await page.getByRole("button", { name: "What would today’s scorecard give?" }).click();
  await expect(page.getByText("The same.")).toBeVisible();
});

test("changed points are part of the next release, and the next lead carries them", async ({ page, server }) => {
  // A dialogue of its own, so that no other test meets its second release.
  const file = JSON.parse(readFileSync(new URL("../../demo/storage-enquiry.json", import.meta.url), "utf8")) as Record<string, unknown>;
  const slug = await putOnAir(page, file, "Scored");
  await page.goto("/dialogues");
  await page.getByRole("link", { name: /^Scored / }).click();
  await page.getByRole("link", { name: "Scoring", exact: true }).click();
  await page.getByLabel("Points, Temperature is Frozen").fill("21");
  await page.keyboard.press("Enter");
  await saved(page);
  await expect(line(page, "Temperature is Frozen").getByText("changed")).toBeVisible();
  await page.getByRole("button", { name: "Release…" }).click();
  const dialog = page.getByRole("dialog");
  await dialog.getByRole("textbox").first().fill("Frozen weighs more.");
  await dialog.getByRole("button", { name: /^Release/ }).click();
  await expect(page.getByText("As release 2")).toBeVisible();
  // Whoever is signed in only tries it.
  await page.context().clearCookies();
  await page.goto(`/p/${slug}`);
  await page.getByRole("button", { name: "Get a price" }).click();
  for (const words of ["storage", "frozen", "no", "20", "later", "manager", "Wren Coldbeck", "Gorse Larder", "wren@gorselarder.example", "E-mail is enough"])
    await say(page, words);
  await expect
    .poll(() => server.ask("select total || ' ' || band_label from leads where email = 'wren@gorselarder.example'"))
    .toBe("21 Nurture");
});
