/** The rep's day: from the list to the call to the next lead, by keyboard only, and what two reps do at once. */
import type { Page } from "@playwright/test";

import { accessible, expect, signIn, test } from "../fixtures";

test.use({ own: "calls" });

const pane = (page: Page) => page.getByRole("complementary", { name: "Lead" });
const nameOf = (page: Page) => pane(page).getByRole("heading", { level: 1 }).innerText();

test("a rep works leads by keyboard: one key for the call, one for the next lead", async ({ page }) => {
  await signIn(page, "maren");
  await expect(pane(page).getByRole("heading", { level: 1 })).toBeVisible();
  await expect(pane(page).getByRole("link", { name: /^Call \+/ })).toHaveAttribute("href", /^tel:\+/);
  const seen: string[] = [];
  // Two keys from hanging up to the next lead.
  for (const [key, words] of [
    ["2", "Called: no reply"],
    ["3", "Called: left a message"],
    ["1", "Called: spoke with them"],
  ] as const) {
    const name = await nameOf(page);
    seen.push(name);
    await page.keyboard.press(key);
    await expect(pane(page).getByText(words)).toBeVisible();
    await expect(pane(page).getByText("Kept.")).toBeVisible();
    await page.keyboard.press("Enter");
    await expect(pane(page).getByRole("heading", { level: 1 })).not.toHaveText(name);
  }
  expect(new Set(seen).size).toBe(3);
  await accessible(page, "the call list");
});

test("a call is taken back by one key, and a note goes with the call", async ({ page }) => {
  await signIn(page, "joss");
  const status = pane(page).getByText("Not called yet");
  await expect(status).toBeVisible();
  await page.keyboard.press("1");
  await expect(pane(page).getByText("Spoken to")).toBeVisible();
  await page.keyboard.press("z");
  await expect(status).toBeVisible();
  await expect(pane(page).getByText("Called: spoke with them")).toHaveCount(0);
  await page.keyboard.press("m");
  await page.keyboard.type("gate code is with the porter");
  await page.keyboard.press("Escape");
  await page.keyboard.press("2");
  await expect(pane(page).getByText("Called: no reply. gate code is with the porter")).toBeVisible();
  await expect(pane(page).getByLabel("Note")).toHaveValue("");
  // Enter in the box keeps a note by itself.
  await pane(page).getByLabel("Note").fill("ring after four");
  await page.keyboard.press("Enter");
  await expect(pane(page).getByText("ring after four")).toBeVisible();
  // The next step can be put on another moment.
  await pane(page).getByRole("button", { name: "Tomorrow" }).click();
  await expect(pane(page).getByText(/Call again.*tomorrow 09:00/)).toBeVisible();
});

test("two reps take the same lead, and the second is told whose it is", async ({ page, browser, baseURL }) => {
  await signIn(page, "priya");
  await page.getByRole("button", { name: /Everything/ }).click();
  await page.getByRole("row", { name: /Pia Lindqvist/ }).first().click();
  await expect(pane(page).getByRole("heading", { name: "Pia Lindqvist" })).toBeVisible();
  const other = await (await browser.newContext(baseURL ? { baseURL } : {})).newPage();
  await signIn(other, "admin");
  // Told nothing of what the other does, as on a bad line.
  await other.route("**/api/live*", (route) => route.abort());
  await other.goto(new URL(page.url()).pathname);
  await expect(pane(other).getByRole("button", { name: "Take it" })).toBeVisible();
  await other.route("**/api/leads/*", (route) => (route.request().method() === "GET" ? route.abort() : route.continue()));
  await pane(page).getByRole("button", { name: "Take it" }).click();
  await expect(pane(page).getByText("Took it, Priya Nand")).toBeVisible();
  await pane(other).getByRole("button", { name: "Take it" }).click();
  await expect(pane(other).getByText(/somebody changed this lead meanwhile/i)).toBeVisible();
  await other.unrouteAll({ behavior: "ignoreErrors" });
  // Passed on with a word.
  await pane(page).getByRole("button", { name: "Pass on…" }).click();
  await pane(page).getByLabel("To whom").selectOption({ label: "Joss Calder" });
  await pane(page).getByLabel("What they should know").fill("knows the site");
  await pane(page).getByRole("button", { name: "Pass on", exact: true }).click();
  await expect(pane(page).getByText("Passed to Joss Calder. knows the site, Priya Nand")).toBeVisible();
});

test("a sales lead sees load and pace, pauses a rep and shares out what they have", async ({ page }) => {
  await signIn(page, "priya");
  await page.getByRole("link", { name: "Team" }).click();
  const row = page.getByRole("row", { name: /Tobias Rell/ });
  await expect(row).toBeVisible();
  await accessible(page, "the team");
  await row.getByRole("button", { name: "Pause" }).click();
  await expect(row.getByText("takes no new leads")).toBeVisible();
  await row.getByRole("button", { name: "Share out" }).click();
  await expect(page.getByText(/of Tobias Rell’s leads are being dealt anew/)).toBeVisible();
  await expect(row.getByRole("button", { name: "Share out" })).toHaveCount(0);
  await row.getByRole("button", { name: "Let go on" }).click();
  await expect(row.getByText("takes no new leads")).toHaveCount(0);
  // The weeks add up to what was filed.
  const weeks = page.getByRole("region", { name: "This week and those before" });
  await expect(weeks.getByRole("row")).toHaveCount(7);
});
