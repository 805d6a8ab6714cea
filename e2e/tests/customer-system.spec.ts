/** A lead becomes records of a customer system and a row of a sheet: mapped against a real lead, kept through failures. */
import type { Page } from "@playwright/test";

import { accessible, expect, filesLead, signIn, test } from "../fixtures";

test.use({ own: "customers" });

/** Adds a destination with the token that the stand-in takes. */
async function adds(page: Page, kind: string, name: string, address: string): Promise<void> {
  await page.goto("/settings/destinations");
  await page.getByRole("button", { name: "New destination" }).click();
  await page.getByLabel("Kind").selectOption({ label: kind });
  await page.getByLabel("Name").fill(name);
  await page.getByLabel("Address").fill(address);
  await page.getByLabel("Token").fill("let-me-in");
  await page.getByRole("button", { name: "Add it" }).click();
  await page.getByRole("link", { name: "What goes where" }).click();
}

test("an author's lead stands in the customer system and in the sheet, also after a failure", async ({ page, browser, server }) => {
  await signIn(page, "admin");
  await adds(page, "Customer system", "Customer records", `${server.standins}/customers/api`);
  await expect(page.getByText("Read first which properties the customer system has")).toBeVisible();
  await page.getByRole("button", { name: "Read its properties" }).click();
  await page.getByRole("button", { name: "Fill them in" }).click();
  // What is required there and can be missing here is named before anything is sent.
  await expect(page.getByText(/It is required there, and leads of Call back can come without/)).toBeVisible();
  await expect(page.getByText("No counterpart there: Nurture. These are left out.")).toBeVisible();
  const stage = page.getByRole("row").filter({ hasText: "Stage" });
  await stage.getByRole("button", { name: "What means what" }).click();
  await page.getByLabel("Lead, Stage: Not called yet").selectOption({ label: "Open" });
  await page.getByLabel("Lead, Rating comes from").waitFor();
  await page.getByRole("button", { name: "Who is who" }).click();
  await page.getByLabel("Lead, Owner: Priya Nand").selectOption({ label: "Priya Nand" });
  await expect(page.getByText(/Nobody there is/)).toBeHidden();
  await page.getByLabel("Company, How we met comes from", { exact: true }).selectOption({ label: "The same words each time" });
  await page.getByLabel("Company, How we met comes from: words").fill("Our website");
  await page.getByLabel("Company, How we met is written").selectOption({ label: "only where empty" });
  await accessible(page, "what goes where");
  await page.getByRole("button", { name: "Keep", exact: true }).click();
  await expect(page.getByText("Kept", { exact: true })).toBeVisible();
  await page.reload();
  await expect(page.getByLabel("Company, How we met is written")).toHaveValue("if_empty");

  await adds(page, "Sheet", "Weekly sheet", `${server.standins}/sheet`);
  await page.getByRole("button", { name: "Begin with ten usual ones" }).click();
  await page.getByLabel("Name of column 1", { exact: true }).fill("When");
  await page.getByRole("button", { name: "Take column 10 out" }).click();
  await page.getByRole("button", { name: "Move column 1 down" }).click();
  await expect(page.getByLabel("Name of column 2", { exact: true })).toHaveValue("When");
  await page.getByRole("button", { name: "Keep", exact: true }).click();
  await expect(page.getByText("Kept", { exact: true })).toBeVisible();

  // The customer system loses an answer: what it did is found again, not made twice.
  const there = await (await browser.newContext()).newPage();
  await there.goto(`${server.standins}/customers`);
  await there.getByLabel("Fail the next").fill("1");
  await there.getByLabel("with code").fill("503");
  await there.getByLabel("Do it, lose the answer").check();
  await there.getByRole("button", { name: "Switch on" }).click();
  await filesLead(page, "harrow");
  const leads = there.getByRole("article").filter({ hasText: "external_id" });
  await expect(async () => {
    await there.reload();
    await expect(leads).toHaveCount(1, { timeout: 500 });
  }).toPass({ timeout: 40_000 });
  await expect(leads.getByText("> 340", { exact: false })).toBeVisible();
  await expect(there.getByRole("heading", { name: /Companies/ })).toContainText("1");
  await there.goto(`${server.standins}/sheet`);
  await expect(there.getByRole("cell", { name: "Pia Lindqvist" })).toBeVisible();
  await expect(there.getByRole("columnheader", { name: "When" })).toBeVisible();

  // The lead links to its record there.
  await page.goto("/settings/destinations");
  await page.getByRole("button", { name: "Customer records" }).click();
  await page.getByRole("listitem").getByText("Pia Lindqvist").first().click();
  await page.getByRole("link", { name: "Open the lead" }).first().click();
  const link = page.getByRole("link", { name: "In Customer records" });
  await expect(link).toHaveAttribute("href", /\/customers#leads-/);

  // Earlier leads are counted before they go.
  await page.goto("/settings/destinations");
  await page.getByRole("button", { name: "Weekly sheet" }).click();
  await page.getByText("Send earlier leads").click();
  await page.getByRole("button", { name: "Count them" }).click();
  await expect(page.getByText(/never went there/)).toBeVisible();
  await page.getByRole("button", { name: /^Send \d/ }).click();
  await expect(page.getByText(/leads are on their way/)).toBeVisible();
  await accessible(page, "a sheet");
});
