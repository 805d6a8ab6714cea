/** People are told: a rep of a new lead, a sales lead puts somebody on leave, mails go out, a password is found again. */
import { accessible, expect, filesLead, signIn, test } from "../fixtures";

test.use({ own: "alerts" });

test("a rep hears of a new lead without loading the page, and opens it from the bell", async ({ page, browser }) => {
  await signIn(page, "maren");
  const bell = page.getByRole("button", { name: /^Notices/ });
  await bell.click();
  await page.getByRole("button", { name: "All seen" }).click();
  await page.keyboard.press("Escape");
  await expect(page.getByRole("button", { name: "Notices", exact: true })).toBeVisible();
  const visitor = await (await browser.newContext()).newPage();
  await visitor.goto(`${new URL(page.url()).origin}/p/storage-enquiry`);
  // Of two who take turns one is Maren.
  await filesLead(visitor, "harrow");
  await filesLead(visitor, "kettle");
  await filesLead(visitor, "fennel");
  await expect(page.getByRole("button", { name: /^Notices, \d new/ })).toBeVisible({ timeout: 15_000 });
  await page.getByRole("button", { name: /^Notices, \d new/ }).click();
  await accessible(page, "notices");
  const first = page.getByRole("dialog", { name: "Notices" }).getByRole("listitem").first();
  await expect(first).toContainText("A lead for you");
  await expect(first.getByRole("link", { name: "+442079460014" })).toHaveAttribute("href", "tel:+442079460014");
  await first.getByRole("button", { name: "Open" }).click();
  await expect(page).toHaveURL(/\/leads\//);
  await expect(page.getByRole("heading", { name: /Pia Lindqvist/ })).toBeVisible();
});

test("a sales lead enters days away with somebody who stands in, and takes them out again", async ({ page }) => {
  await signIn(page, "priya");
  await page.goto("/team");
  const row = page.getByRole("row").filter({ hasText: "Joss Calder" });
  await row.getByRole("button", { name: "Away…" }).click();
  const away = page.getByRole("dialog");
  await away.getByLabel("First day").fill("2020-01-01");
  await away.getByRole("button", { name: "Enter these days" }).click();
  await expect(away.getByRole("alert")).toContainText("are over already");
  const today = new Date().toISOString().slice(0, 10);
  await away.getByLabel("First day").fill(today);
  await away.getByLabel("Last day").fill("2126-01-01");
  await away.getByLabel("Stands in").selectOption({ label: "Maren Holt" });
  await accessible(page, "days away");
  await away.getByRole("button", { name: "Enter these days" }).click();
  await expect(away.getByRole("listitem")).toContainText("Maren Holt stands in");
  await away.getByRole("button", { name: "Close" }).click();
  await expect(row).toContainText("Maren Holt stands in");
  await row.getByRole("button", { name: "Away…" }).click();
  await away.getByRole("button", { name: /^Take out/ }).click();
  await expect(away.getByRole("listitem")).toHaveCount(0);
  await away.getByRole("button", { name: "Close" }).click();
  await expect(row).not.toContainText("stands in");
});

test("an invitation comes by mail, a mail leads to a new password, and leads come by mail", async ({ page, browser, server }) => {
  await signIn(page, "admin");
  await page.goto("/settings/people");
  await page.getByLabel("Email").fill("ida@winterlode.example");
  await page.getByRole("button", { name: "Invite", exact: true }).click();
  await expect(page.getByText(/A mail with a link is on its way to ida@winterlode.example/)).toBeVisible();
  const outside = await browser.newContext();
  const mailbox = await outside.newPage();
  await expect(async () => {
    await mailbox.goto(`${server.standins}/mailbox`);
    await expect(mailbox.getByText("Your invitation to Winterlode").first()).toBeVisible({ timeout: 1_000 });
  }).toPass({ timeout: 15_000 });
  const frame = mailbox.frameLocator("iframe").first();
  const [joining] = await Promise.all([outside.waitForEvent("page"), frame.getByRole("link", { name: "Come in" }).click()]);
  await joining.getByLabel("Your name").fill("Ida Lund");
  await joining.getByLabel("A password of your own").fill("a fine long word");
  await joining.getByRole("button", { name: "Join" }).click();
  await expect(joining.getByRole("link", { name: "Leads", exact: true })).toBeVisible();
  // She wants mails of leads.
  await joining.goto(`${server.url}/settings/account`);
  await joining.getByLabel("Mail", { exact: true }).check();
  await expect(joining.getByText("Kept.")).toBeVisible();
  await accessible(joining, "how one is told");

  // She forgets her password.
  const later = await (await browser.newContext()).newPage();
  await later.goto(`${server.url}/sign-in`);
  await later.getByRole("link", { name: "Forgot your password?" }).click();
  await later.getByLabel("Email").fill("ida@winterlode.example");
  await later.getByRole("button", { name: "Send the mail" }).click();
  await expect(later.getByText(/a mail is on its way there/)).toBeVisible();
  await accessible(later, "a new password");
  await expect(async () => {
    await mailbox.reload();
    await expect(mailbox.getByText("A new password for Lumbo").first()).toBeVisible({ timeout: 1_000 });
  }).toPass({ timeout: 15_000 });
  const reset = mailbox.frameLocator("iframe").first().getByRole("link", { name: "Choose a new password" });
  const [choosing] = await Promise.all([outside.waitForEvent("page"), reset.click()]);
  await choosing.getByLabel("A password of your own").fill("short");
  await choosing.getByRole("button", { name: "Keep it" }).click();
  await expect(choosing.getByRole("alert")).not.toBeEmpty();
  await choosing.getByLabel("A password of your own").fill("another long word");
  await choosing.getByRole("button", { name: "Keep it" }).click();
  await expect(choosing.getByText("Your password is changed")).toBeVisible();
  const link = choosing.url();
  await choosing.goto("about:blank");
  await choosing.goto(link);
  await expect(choosing.getByText("This link does nothing any more")).toBeVisible();

  // The team gets every lead by mail.
  await page.goto("/settings/destinations");
  await page.getByRole("button", { name: "New destination" }).click();
  await page.getByLabel("Kind").selectOption({ label: "Mail" });
  await page.getByLabel("Name").fill("The team");
  await page.getByLabel("Address").fill("sales@winterlode.example");
  await page.getByRole("button", { name: "Add it" }).click();
  await page.getByRole("button", { name: "Send a test" }).click();
  await expect(page.getByText(/The test arrived: answered 250/)).toBeVisible();
  await filesLead(page, "orchard");
  await expect(async () => {
    await mailbox.reload();
    await expect(mailbox.getByText("New lead: Pia Lindqvist, orchard").first()).toBeVisible({ timeout: 1_000 });
  }).toPass({ timeout: 15_000 });
});
