/** Other ways in than a password, and what administrators see of what goes on: a provider, tokens, jobs. */
import type { Page } from "@playwright/test";

import { accessible, expect, signIn, test } from "../fixtures";

test.use({ own: "access" });

/** What is wrong with the provider's next token. */
async function wrong(page: Page, standins: string, what: string) {
  await page.goto(`${standins}/id`);
  await page.getByLabel("What is wrong with the next token").selectOption(what);
  await page.getByRole("button", { name: "Switch on" }).click();
}

test("one links one’s account with the sign-in provider, and signs in there from then on", async ({ page, server }) => {
  await page.goto("/sign-in");
  await page.getByRole("button", { name: "Sign in with Winterlode ID" }).click();
  await expect(page.getByRole("heading", { name: "Who are you?" })).toBeVisible();
  await page.getByRole("button", { name: "Edda Quill" }).click();
  await expect(page.getByRole("alert")).toContainText("Nobody here is linked with that account yet");
  await accessible(page, "signing in with a provider");

  await signIn(page, "edda");
  await page.goto("/settings/account");
  const box = page.getByRole("form", { name: "Signing in with Winterlode ID" });
  await box.getByLabel("Your password").fill("not my password");
  await box.getByRole("button", { name: "Link with Winterlode ID" }).click();
  await expect(box.getByRole("alert")).toContainText("That is not your password");
  await box.getByLabel("Your password").fill("keep it cold");
  await box.getByRole("button", { name: "Link with Winterlode ID" }).click();
  await page.getByRole("button", { name: "Edda Quill" }).click();
  await expect(page.getByText(/Linked since/)).toBeVisible();
  await accessible(page, "a linked account");

  await page.context().clearCookies();
  await page.goto("/settings/fields");
  await page.getByRole("button", { name: "Sign in with Winterlode ID" }).click();
  await page.getByRole("button", { name: "Edda Quill" }).click();
  await expect(page.getByRole("heading", { name: "Fields" })).toBeVisible();

  // Whoever says no there, or whose proof does not hold, does not come in and is told what to do.
  await page.context().clearCookies();
  await page.goto("/sign-in");
  await page.getByRole("button", { name: "Sign in with Winterlode ID" }).click();
  await page.getByRole("button", { name: "Not now" }).click();
  await expect(page.getByRole("alert")).toContainText("You did not sign in at Winterlode ID");
  await wrong(page, server.standins, "signature");
  await page.goto("/sign-in");
  await page.getByRole("button", { name: "Sign in with Winterlode ID" }).click();
  await page.getByRole("button", { name: "Edda Quill" }).click();
  await expect(page.getByRole("alert")).toContainText("Winterlode ID did not prove who you are");
});

test("a token is made, works for what was ticked, and is ended", async ({ page, server }) => {
  await signIn(page, "admin");
  await page.goto("/settings/tokens");
  await expect(page.getByText("No token yet")).toBeVisible();
  await page.getByRole("button", { name: "New token" }).click();
  await page.getByLabel("What it is for").fill("Nightly copy");
  await page.getByRole("button", { name: "Make the token" }).click();
  await expect(page.getByRole("alert")).toContainText("tick one at least");
  await page.getByLabel("read leads, contacts and answers").check();
  await page.getByLabel("Works for").selectOption({ label: "30 days" });
  await accessible(page, "a new token");
  await page.getByRole("button", { name: "Make the token" }).click();
  const token = await page.getByText(/^lumbo_/).innerText();
  await page.getByRole("button", { name: "I have it" }).click();
  await expect(page.getByText(token)).toHaveCount(0);
  const row = page.getByRole("row", { name: /Nightly copy/ });
  await expect(row).toContainText("never");
  await expect(page.getByText("1 token works")).toBeVisible();

  const asks = (path: string) => fetch(`${server.url}${path}`, { headers: { authorization: `Bearer ${token}` } });
  const leads = await asks("/api/leads?show=all");
  expect(leads.status).toBe(200);
  expect(((await leads.json()) as { leads: unknown[] }).leads.length).toBeGreaterThan(10);
  expect((await asks("/api/dialogues")).status).toBe(403);
  await page.reload();
  await expect(row).not.toContainText("never");
  await accessible(page, "tokens");
  await row.getByRole("button", { name: "End it for good" }).click();
  await expect(row).toContainText("ended");
  expect((await asks("/api/leads?show=all")).status).toBe(401);
});

test("an administrator sees what was given up, and has it run again", async ({ page, server }) => {
  await signIn(page, "admin");
  await page.goto("/settings/running");
  await expect(page.getByText("Nothing was given up.")).toBeVisible();
  await expect(page.getByRole("row", { name: /^Leads \d/ })).toBeVisible();
  await expect(page.getByText(/^Lumbo \d.*PostgreSQL \d.*tables at step \d/)).toBeVisible();
  server.ask(
    `insert into jobs (workspace_id, id, kind, subject, key, state, attempts, due_at, made_at, ended_at, last_error)
     select id, gen_random_uuid(), 'deal', gen_random_uuid(), 'browser', 'parked', 26, now(), now(), now(), 'the queue could not be read'
     from workspaces where slug = 'winterlode'`,
  );
  await page.getByRole("button", { name: "Look again" }).click();
  const given = page.getByRole("row", { name: /the queue could not be read/ });
  await expect(given).toContainText("Deal waiting leads at opening");
  await accessible(page, "jobs and sizes");
  await given.getByRole("button", { name: "Run it again" }).click();
  await expect(page.getByText("Nothing was given up.")).toBeVisible();
  await page.getByRole("link", { name: "Audit" }).click();
  await expect(page.getByRole("row", { name: /had a job run again that was given up: deal/ })).toBeVisible();
});

test("authors see neither tokens nor jobs", async ({ page }) => {
  await signIn(page, "edda");
  await page.goto("/settings");
  await expect(page.getByRole("link", { name: "Fields" })).toBeVisible();
  await expect(page.getByRole("link", { name: "API tokens" })).toHaveCount(0);
  await expect(page.getByRole("link", { name: "Jobs and sizes" })).toHaveCount(0);
  await page.goto("/settings/tokens");
  await expect(page.getByText("Only administrators handle secrets.")).toBeVisible();
});

test("a sales lead with a team sees its people and nobody else", async ({ page, browser, baseURL }) => {
  await signIn(page, "admin");
  await page.goto("/settings/people");
  for (const who of ["Priya", "Maren"]) {
    const box = page.getByLabel(new RegExp(`Team of ${who}`));
    await box.fill("Coast");
    await box.press("Enter");
    await expect(page.getByText(new RegExp(`${who} .* is in Coast now`))).toBeVisible();
  }
  await accessible(page, "people in teams");
  const lead = await (await browser.newContext(baseURL ? { baseURL } : {})).newPage();
  await signIn(lead, "priya");
  await lead.goto("/team");
  await expect(lead.getByRole("row", { name: /Maren/ }).first()).toBeVisible();
  await expect(lead.getByRole("row", { name: /Tobias/ })).toHaveCount(0);
  await page.getByLabel(/Team of Priya/).fill("");
  await page.getByLabel(/Team of Priya/).press("Enter");
  await expect(page.getByText(/Priya .* is in no team now/)).toBeVisible();
  await lead.reload();
  await expect(lead.getByRole("row", { name: /Tobias/ }).first()).toBeVisible();
});

test("a picture of one’s own stands in the top line and beside one’s name, and is taken out again", async ({ page }) => {
  const png = Buffer.from("iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNkYPhfDwAChwGA60e6kgAAAABJRU5ErkJggg==", "base64");
  await signIn(page, "admin");
  await page.goto("/settings/account");
  const box = page.getByLabel("Picture");
  await box.setInputFiles({ name: "notes.txt", mimeType: "text/plain", buffer: Buffer.from("no picture") });
  await expect(page.getByText("This is no PNG, JPEG, GIF or WebP picture.")).toBeVisible();
  await box.setInputFiles({ name: "me.png", mimeType: "image/png", buffer: png });
  const top = page.locator("header").getByRole("button", { name: /Solveig/ }).locator("img");
  await expect(top).toHaveCount(1);
  await page.goto("/settings/people");
  await expect(page.getByRole("row", { name: /Solveig Aune/ }).locator("img")).toBeVisible();
  await page.goto("/settings/workspace");
  await page.getByLabel("Picture").setInputFiles({ name: "sign.png", mimeType: "image/png", buffer: png });
  await expect(top).toHaveCount(2);
  await accessible(page, "a workspace with a picture");
  await page.getByRole("button", { name: "Take it out" }).click();
  await expect(top).toHaveCount(1);
});
