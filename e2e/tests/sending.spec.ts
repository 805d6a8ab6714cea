/** Leads leave Lumbo: a destination is added and tried, a lead arrives in the stand-in's page, a failing place is mended. */
import { accessible, expect, filesLead, signIn, test } from "../fixtures";

test.use({ own: "sending" });

test("a lead arrives signed where an administrator sends it, and what was refused is sent again", async ({ page, browser, server }) => {
  await signIn(page, "admin");
  await page.goto("/settings/destinations");
  await expect(page.getByText("Leads are sent nowhere yet.")).toBeVisible();
  await accessible(page, "no destination yet");
  await page.getByRole("button", { name: "New destination" }).click();
  await page.getByLabel("Name").fill("Sales system");
  await page.getByLabel("Address").fill("http://10.0.0.8/leads");
  await page.getByRole("button", { name: "Add it" }).click();
  await expect(page.getByRole("alert")).toContainText("must begin with https://");
  await page.getByLabel("Address").fill(`${server.standins}/receive/sales`);
  await page.getByRole("button", { name: "Add it" }).click();
  const secret = await page.getByText(/^whsec_/).innerText();
  await page.getByRole("button", { name: "I have it" }).click();
  await page.getByRole("button", { name: "Send a test" }).click();
  await expect(page.getByText(/The test arrived: answered 200/)).toBeVisible();
  await accessible(page, "a destination");

  // The receiver verifies with the secret.
  const standin = await (await browser.newContext()).newPage();
  await standin.goto(`${server.standins}/receiver`);
  await standin.getByLabel("Secret it verifies with").fill(secret);
  await standin.getByRole("button", { name: "Keep" }).click();

  await filesLead(page, "harrow");
  await expect(page.getByText(/Works, last just now/).first()).toBeVisible({ timeout: 15_000 });
  await standin.reload();
  const first = standin.getByRole("article").first();
  await expect(first.getByText("signature good")).toBeVisible();
  await first.getByText("What it held").click();
  await expect(first.getByText("lead.filed")).toBeVisible();
  await expect(first.getByText("pia@harrow.example").first()).toBeVisible();
  await expect(first.getByText('"text": "storage"')).toBeVisible();

  // It refuses the next one, which is kept aside, and takes it when it is sent again.
  await standin.getByLabel("Fail the next").fill("1");
  await standin.getByLabel("with code").fill("422");
  await standin.getByRole("button", { name: "Switch on" }).click();
  await filesLead(page, "kettle");
  const log = page.getByRole("region", { name: "What went there" });
  await expect(log.getByText("Kept aside").last()).toBeVisible({ timeout: 15_000 });
  await log.locator("summary", { hasText: "Kept aside" }).click();
  await expect(log.getByText("answered 422", { exact: false })).toBeVisible();
  await log.getByRole("button", { name: "Send it again as the lead is today" }).click();
  await expect(log.locator("summary", { hasText: "Kept aside" })).toHaveCount(0, { timeout: 15_000 });
  await standin.reload();
  await expect(standin.getByText("answered 422")).toHaveCount(1);

  // The row is open still; the lead's story tells of it.
  await log.getByRole("link", { name: "Open the lead" }).first().click();
  await expect(page.getByRole("complementary", { name: "Lead" }).getByText("Sent to Sales system").first()).toBeVisible();
});

test("a chat room gets one short message for each lead", async ({ page, browser, server }) => {
  await signIn(page, "admin");
  await page.goto("/settings/destinations");
  await page.getByRole("button", { name: "New destination" }).click();
  await page.getByLabel("Name").fill("Sales room");
  await page.getByLabel("Kind").selectOption({ label: "Chat alert" });
  await page.getByLabel("Address").fill(`${server.standins}/receive/room`);
  await page.getByRole("button", { name: "Add it" }).click();
  await expect(page.getByRole("heading", { name: "Sales room" })).toBeVisible();
  await filesLead(page, "orchard");
  await expect(page.getByRole("row", { name: /Sales room/ }).getByText(/Works/)).toBeVisible({ timeout: 15_000 });
  const room = await (await browser.newContext()).newPage();
  await room.goto(`${server.standins}/chat`);
  await expect(room.getByText(/Pia Lindqvist, orchard .*340 pallets/)).toBeVisible();
});
