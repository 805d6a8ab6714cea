/** People come in, prove who they are and lose access: from an empty workspace to a colleague's second factor. */
import { createHash, createHmac } from "node:crypto";

import type { Browser, Page } from "@playwright/test";

import type { Server } from "../server";
import { accessible, expect, signIn, test } from "../fixtures";

test.use({ own: "people" });

/** Six digits for a secret at a moment: RFC 6238, written down apart from the product's. */
function totp(secret: string, seconds: number): string {
  const bits = [...secret].map((letter) => "ABCDEFGHIJKLMNOPQRSTUVWXYZ234567".indexOf(letter).toString(2).padStart(5, "0")).join("");
  const key = Buffer.from((bits.match(/.{8}/g) ?? []).map((byte) => Number.parseInt(byte, 2)));
  const counter = Buffer.alloc(8);
  counter.writeBigUInt64BE(BigInt(Math.floor(seconds / 30)));
  const hash = createHmac("sha1", key).update(counter).digest();
  const at = (hash.at(-1) ?? 0) & 15;
  return String((hash.readUInt32BE(at) & 0x7fffffff) % 1_000_000).padStart(6, "0");
}

const setupCode = (server: Server, code: string) =>
  server.ask(`update setup_code set hash = decode('${createHash("sha256").update(code).digest("hex")}', 'hex')`);

async function invited(page: Page, email: string, role: string): Promise<string> {
  await page.goto("/settings/people");
  await page.getByLabel("Email").fill(email);
  await page.getByLabel("Role", { exact: true }).selectOption({ label: role });
  await page.getByRole("button", { name: "Invite", exact: true }).click();
  return page.getByText(/\/join#/).innerText();
}

const elsewhere = async (browser: Browser, baseURL: string | undefined) => (await browser.newContext(baseURL ? { baseURL } : {})).newPage();

test("a workspace is set up with the code, and a colleague joins it and turns the second factor on", async ({ page, browser, baseURL, server }) => {
  test.setTimeout(120_000);
  setupCode(server, "abcde-fghjk");
  await page.goto("/setup");
  await expect(page.getByRole("heading", { name: "Set up your workspace" })).toBeVisible();
  await accessible(page, "setting up");
  await page.getByLabel("Code").fill("nonsense");
  await page.getByLabel("Workspace").fill("Heron & Sons");
  await page.getByLabel("Your name").fill("Ana Ruiz");
  await page.getByLabel("Your email").fill("ana@heron.example");
  await page.getByLabel("Password").fill("four words in snow");
  await page.getByRole("button", { name: "Set it up" }).click();
  await expect(page.getByRole("alert")).toContainText("That is not the code");
  await page.getByLabel("Code").fill("ABCDE-FGHJK");
  await page.getByRole("button", { name: "Set it up" }).click();
  await expect(page).toHaveURL(/\/dialogues/);
  await expect(page.getByText("Heron & Sons")).toBeVisible();
  // It is nobody's demo, and there is no second set-up.
  await expect(page.getByText("Storage enquiry")).toHaveCount(0);
  await page.goto("/setup");
  await expect(page.getByText("A workspace is set up here already")).toBeVisible();

  const link = await invited(page, "nia@heron.example", "Author");
  await accessible(page, "people");
  const colleague = await elsewhere(browser, baseURL);
  await colleague.goto(link);
  await expect(colleague.getByRole("heading", { name: "Join Heron & Sons" })).toBeVisible();
  await expect(colleague.getByText("Ana Ruiz invites you as an author")).toBeVisible();
  await accessible(colleague, "joining");
  await colleague.getByLabel("Your name").fill("Nia Obi");
  await colleague.getByLabel("A password of your own").fill("short");
  await colleague.getByRole("button", { name: "Join" }).click();
  await expect(colleague.getByRole("alert")).toContainText("at least 10 characters");
  await colleague.getByLabel("A password of your own").fill("grey heron, wet field");
  await colleague.getByRole("button", { name: "Join" }).click();
  await expect(colleague).toHaveURL(/\/dialogues/);
  // The link is used up.
  const late = await elsewhere(browser, baseURL);
  await late.goto(link);
  await expect(late.getByRole("heading", { name: "This link does nothing any more" })).toBeVisible();

  await colleague.goto("/settings/account");
  const factor = colleague.getByRole("form", { name: "Second factor" });
  await factor.getByLabel("Your password").fill("grey heron, wet field");
  await factor.getByRole("button", { name: "Set it up" }).click();
  await expect(factor.getByAltText("Code to scan with an authenticator")).toBeVisible();
  const secret = await factor.getByText(/^[A-Z2-7]{32}$/).innerText();
  const now = Math.floor(Date.now() / 1000);
  await factor.getByLabel("Its code now").fill(totp(secret, now));
  await factor.getByRole("button", { name: "Turn it on" }).click();
  await expect(factor.getByText("Keep these codes somewhere else than on the phone")).toBeVisible();
  const recovery = await factor.getByRole("listitem").first().innerText();
  await accessible(colleague, "the own account");

  await late.goto("/sign-in");
  await late.getByLabel("Email").fill("nia@heron.example");
  await late.getByLabel("Password").fill("grey heron, wet field");
  await late.getByRole("button", { name: "Sign in", exact: true }).click();
  await late.getByLabel("Code").fill("000000");
  await late.getByRole("button", { name: "Sign in", exact: true }).click();
  await expect(late.getByRole("alert")).toContainText("That code is not right");
  await late.getByLabel("Code").fill(totp(secret, now + 30));
  await late.getByRole("button", { name: "Sign in", exact: true }).click();
  await expect(late).toHaveURL(/\/dialogues/);
  const lost = await elsewhere(browser, baseURL);
  await lost.goto("/sign-in");
  await lost.getByLabel("Email").fill("nia@heron.example");
  await lost.getByLabel("Password").fill("grey heron, wet field");
  await lost.getByRole("button", { name: "Sign in", exact: true }).click();
  await lost.getByLabel("Code").fill(recovery);
  await lost.getByRole("button", { name: "Sign in", exact: true }).click();
  await expect(lost).toHaveURL(/\/dialogues/);

  // Signed out everywhere else by one button.
  await colleague.reload();
  await colleague.getByRole("button", { name: "Sign out everywhere else" }).click();
  await expect(colleague.getByRole("button", { name: "Sign out everywhere else" })).toHaveCount(0);
  await lost.goto("/dialogues");
  await expect(lost).toHaveURL(/\/sign-in/);
});

test("a rep who leaves is signed out at once, and what is left of them is shared out", async ({ page, browser, baseURL }) => {
  await signIn(page, "admin");
  const rep = await elsewhere(browser, baseURL);
  await signIn(rep, "tobias");
  await expect(rep).toHaveURL(/\/leads/);
  await page.goto("/settings/people");
  const row = page.getByRole("row", { name: /Tobias Rell/ });
  await row.getByRole("button", { name: "End access" }).click();
  await expect(page.getByText("Tobias Rell cannot sign in here any more.")).toBeVisible();
  await rep.goto("/leads");
  await expect(rep).toHaveURL(/\/sign-in/);
  await row.getByRole("button", { name: "Share out" }).click();
  await expect(page.getByText(/of Tobias Rell’s leads (is|are) being dealt anew/)).toBeVisible();
  await expect(row.getByText("none")).toBeVisible();
  // The last administrator cannot leave.
  await page.getByRole("row", { name: /\(you\)/ }).getByRole("button", { name: "End access" }).click();
  await expect(page.getByText("This is the last administrator")).toBeVisible();
  await row.getByRole("button", { name: "Restore access" }).click();
  await expect(page.getByText("Tobias Rell can sign in here again.")).toBeVisible();
  // All of it stands in the audit.
  await page.getByRole("link", { name: "Audit" }).click();
  await expect(page.getByText("Tobias Rell: access restored")).toBeVisible();
  await page.getByLabel("What", { exact: true }).selectOption({ label: "shared out leads" });
  await expect(page.getByText(/Tobias Rell: \d+ open leads/)).toBeVisible();
  await expect(page.getByText("access restored")).toHaveCount(0);
  await accessible(page, "the audit");
});

test("a viewer reads leads, and neither writes dialogues nor says what became of a lead", async ({ page, browser, baseURL }) => {
  await signIn(page, "admin");
  const link = await invited(page, "vera@winterlode.example", "Viewer");
  const viewer = await elsewhere(browser, baseURL);
  await viewer.goto(link);
  await viewer.getByLabel("Your name").fill("Vera Lund");
  await viewer.getByLabel("A password of your own").fill("looking is enough");
  await viewer.getByRole("button", { name: "Join" }).click();
  await expect(viewer).toHaveURL(/\/leads/);
  await expect(viewer.getByRole("link", { name: "Dialogues" })).toHaveCount(0);
  await expect(viewer.getByRole("button", { name: /Everything/ })).toHaveAttribute("aria-pressed", "true");
  await expect(viewer.getByText("Only reps and sales leads say what became of a lead.")).toBeVisible();
  await expect(viewer.getByRole("button", { name: /Spoke/ })).toHaveCount(0);
  await viewer.goto("/dialogues");
  await expect(viewer.getByText("Dialogues are written by authors.")).toBeVisible();
  await viewer.goto("/settings");
  await expect(viewer.getByRole("heading", { name: "Your account" })).toBeVisible();
  await expect(viewer.getByRole("link", { name: "People" })).toHaveCount(0);
});

test("one person in two workspaces goes from one to the other", async ({ page, browser, baseURL, server }) => {
  // The workspace of the first test may be there or not, by the order of tests: another one, from outside.
  const other = server.ask("insert into workspaces (id, slug, name) values (gen_random_uuid(), 'kestrel', 'Kestrel Agency') returning id");
  const account = server.ask("select id from accounts where email = 'edda@winterlode.example'");
  server.ask(
    `insert into people (id, workspace_id, account_id, email, name, role) values (gen_random_uuid(), '${other}', '${account}', 'edda@winterlode.example', 'Edda Quill', 'author')`,
  );
  await signIn(page, "edda");
  await expect(page.getByText("Storage enquiry")).toBeVisible();
  await page.getByRole("button", { name: /Edda/ }).click();
  await page.getByRole("menuitemradio", { name: "Kestrel Agency" }).click();
  await expect(page.getByRole("button", { name: /Kestrel Agency · Edda/ })).toBeVisible();
  await expect(page.getByText("Storage enquiry")).toHaveCount(0);
  // The next sign-in begins where one was last.
  const again = await elsewhere(browser, baseURL);
  await signIn(again, "edda");
  await expect(again.getByRole("button", { name: /Kestrel Agency · Edda/ })).toBeVisible();
  await again.getByRole("button", { name: /Edda/ }).click();
  await again.getByRole("menuitemradio", { name: "Winterlode" }).click();
  await expect(again.getByText("Storage enquiry")).toBeVisible();
});
