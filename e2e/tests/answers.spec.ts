/** What a dialogue's conversations said: one table, each to be read with its reasons, and the table as a file. */
import { readFileSync } from "node:fs";

import { accessible, expect, signIn, test } from "../fixtures";

test.use({ own: "answers" });

async function openAnswers(page: import("@playwright/test").Page) {
  await signIn(page, "edda");
  await page.goto("/dialogues");
  await page.getByRole("link", { name: "Storage enquiry", exact: true }).click();
  await page.getByRole("navigation", { name: "Stages" }).getByRole("link", { name: "Answers" }).click();
  await expect(page.getByRole("table")).toBeVisible();
}

test("an author finds conversations by how they ended, by a condition and by words, and reads one", async ({ page }) => {
  await openAnswers(page);
  const rows = page.locator("tbody tr");
  await expect(rows).toHaveCount(100);
  await page.getByLabel("A condition that holds").fill("Pallets at least 200 and Temperature is Frozen");
  const pallets = () =>
    page.locator("tbody tr").evaluateAll((lines) => lines.map((line) => Number(/(\d[\d,]*) pallets/.exec(line.textContent ?? "")?.[1]?.replace(",", "") ?? "0")));
  await expect.poll(async () => (await pallets()).every((count) => count >= 200)).toBe(true);
  expect((await pallets()).length).toBeGreaterThan(3);
  // A condition that cannot be read says so, and the table stays.
  await page.getByLabel("A condition that holds").fill("Pallets at least many");
  await expect(page.getByText("Pallets: “many” is not a number.")).toBeVisible();
  expect((await pallets()).length).toBeGreaterThan(3);
  await page.getByLabel("A condition that holds").fill("");
  await page.getByLabel("Words in an answer").fill("harrow");
  await expect(rows).toHaveCount(1);
  const pane = page.getByRole("complementary", { name: "Conversation" });
  await expect(pane.getByText("Harrow & Peel Foods").first()).toBeVisible();
  await expect(pane.getByText(/^Filed a lead: \d+, \w+; /)).toBeVisible();
  await expect(pane.getByText(/Pallets 340; \+25 points/)).toBeVisible();
  await accessible(page, "the answers of a dialogue");
  await pane.getByRole("link", { name: "Open the lead" }).click();
  await expect(page.getByRole("heading", { name: "Pia Lindqvist" })).toBeVisible();
});

test("columns are chosen and kept, and J and K go through the conversations", async ({ page }) => {
  await openAnswers(page);
  await page.getByRole("button", { name: /^Columns/ }).click();
  await page.getByRole("menuitemcheckbox", { name: "Role" }).click();
  await page.getByRole("menuitemcheckbox", { name: "Email" }).click();
  await page.keyboard.press("Escape");
  await expect(page.getByRole("columnheader", { name: "Email" })).toBeVisible();
  await expect(page.getByRole("columnheader", { name: "Role" })).toHaveCount(0);
  await page.reload();
  await expect(page.getByRole("columnheader", { name: "Email" })).toBeVisible();
  const first = await page.locator("tr[aria-selected=true]").getAttribute("data-row");
  await page.keyboard.press("j");
  await expect(page.locator("tr[aria-selected=true]")).not.toHaveAttribute("data-row", first ?? "");
  await page.keyboard.press("k");
  await expect(page.locator("tr[aria-selected=true]")).toHaveAttribute("data-row", first ?? "");
});

test("the table is saved as CSV and as a spreadsheet, and a release leads to its conversations", async ({ page }) => {
  await openAnswers(page);
  await page.getByLabel("Words in an answer").fill("harrow");
  await expect(page.locator("tbody tr")).toHaveCount(1);
  const [csv] = await Promise.all([page.waitForEvent("download"), page.getByRole("link", { name: "CSV" }).click()]);
  const lines = readFileSync(await csv.path(), "utf8").trim().split("\r\n");
  expect(lines).toHaveLength(2);
  expect(lines[0]).toContain("Began,Last heard of,Release,Ended,Lead,Band,Points,Placement,Page,Campaign,Conversation,");
  expect(lines[1]).toContain("Harrow & Peel Foods");
  const [sheet] = await Promise.all([page.waitForEvent("download"), page.getByRole("link", { name: "Spreadsheet" }).click()]);
  // A zip archive, as the format is.
  expect(readFileSync(await sheet.path()).subarray(0, 4).toString("hex")).toBe("504b0304");
  await page.getByRole("navigation", { name: "Stages" }).getByRole("link", { name: "Releases" }).click();
  await page.getByRole("link", { name: /^\d+$/ }).first().click();
  await expect(page.getByLabel("Which release")).toHaveValue("1");
  await page.getByLabel("How it ended").selectOption("still open");
  await expect(page.locator("tbody tr").first()).toContainText("open at “");
});
