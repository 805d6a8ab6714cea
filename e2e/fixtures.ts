import AxeBuilder from "@axe-core/playwright";
import type { Locator, Page } from "@playwright/test";
import { test as base, expect } from "@playwright/test";

import { Server } from "./server";

export { expect };

export const test = base.extend<{ failOnConsole: void }, { server: Server; own: string }>({
  // A file that names one of its own gets a server with a fresh demo, which no other file has changed.
  own: ["", { scope: "worker", option: true }],
  server: [
    // oxlint-disable-next-line no-empty-pattern -- a fixture without others
    async ({}, use) => {
      const server = await Server.start();
      await use(server);
      await server.end();
    },
    { scope: "worker", timeout: 180_000 },
  ],
  baseURL: async ({ server }, use) => use(server.url),
  // Nothing may throw in a page, and no policy may be broken.
  failOnConsole: [
    async ({ page }, use) => {
      const said: string[] = [];
      page.on("pageerror", (error) => said.push(error.message));
      page.on("console", (message) => {
        if (message.type() === "error" && /Content Security Policy|Uncaught|React/.test(message.text())) said.push(message.text());
      });
      await use();
      expect(said).toEqual([]);
    },
    { auto: true },
  ],
});

export async function signIn(page: Page, who: string): Promise<void> {
  await page.goto("/sign-in");
  await page.getByLabel("Email").fill(`${who}@winterlode.example`);
  await page.getByLabel("Password").fill("keep it cold");
  await page.getByRole("button", { name: "Sign in", exact: true }).click();
  await page.waitForURL((url) => !url.pathname.startsWith("/sign-in"));
}

export async function openOutline(page: Page, title = "Storage enquiry"): Promise<void> {
  await page.goto("/dialogues");
  await page.getByRole("link", { name: title, exact: true }).click();
  await expect(page.getByRole("main", { name: "Outline" })).toBeVisible();
}

/** The row of a turn or arm by words in it, brought into the page: only rows near the part in view are there. */
export async function row(page: Page, words: string): Promise<Locator> {
  const found = page.locator("[data-row]").filter({ hasText: words }).first().locator("[data-open]");
  const outline = page.getByRole("main", { name: "Outline" });
  if ((await found.count()) > 0) return found;
  await outline.evaluate((main) => main.scrollTo(0, 0));
  for (let at = 0; at < 60; at += 1) {
    await page.waitForTimeout(30);
    if ((await found.count()) > 0) return found;
    const end = await outline.evaluate((main) => {
      const before = main.scrollTop;
      main.scrollBy(0, main.clientHeight * 0.8);
      return main.scrollTop === before;
    });
    if (end) break;
  }
  return found;
}

/** Waits until the outline has a row with these words. */
export const sees = (page: Page, words: string): Promise<void> =>
  expect.poll(async () => (await row(page, words)).count(), { message: `a row with “${words}”` }).toBeGreaterThan(0);

/** Waits until the outline has no row with these words. */
export const seesNot = (page: Page, words: string): Promise<void> =>
  expect.poll(async () => (await row(page, words)).count(), { message: `no row with “${words}”` }).toBe(0);

export const saved = async (page: Page): Promise<void> => expect(page.getByText(/^Saved \d\d:\d\d$/)).toBeVisible();

/** One typed answer on the prospect's page. */
export async function say(page: Page, words: string): Promise<void> {
  const before = await page.locator(".lines > *").count();
  await page.getByLabel("Type your answer").fill(words);
  await page.keyboard.press("Enter");
  await expect.poll(() => page.locator(".lines > *:not(.waiting)").count()).toBeGreaterThan(before + 1);
}

/** No finding of serious or critical impact. */
export async function accessible(page: Page, where: string): Promise<void> {
  const { violations } = await new AxeBuilder({ page }).withTags(["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa"]).analyze();
  const serious = violations.filter((found) => found.impact === "serious" || found.impact === "critical");
  expect(
    serious.map((found) => `${where}: ${found.id}: ${found.nodes.map((node) => node.target.join(" ")).join("; ")}`),
    where,
  ).toEqual([]);
}

let made = 0;

/** Makes a dialogue of a file and puts it on air, signed in as its author; gives its address. */
export async function putOnAir(page: Page, file: Record<string, unknown>, name: string): Promise<string> {
  await signIn(page, "edda");
  made += 1;
  // An address is made of the title.
  const title = `${name} ${made} ${Date.now().toString(36)}`;
  // From a page of its own, as its own pages ask.
  const failed = await page.evaluate(
    async ({ file, title }) => {
      const post = async (path: string, data: unknown) => fetch(path, { method: "POST", headers: { "content-type": "application/json" }, body: JSON.stringify(data) });
      const created = await post("/api/dialogues", { title, file });
      if (!created.ok) return created.text();
      const { id } = (await created.json()) as { id: string };
      const released = await post(`/api/dialogues/${id}/releases`, { revision: 1, note: "For the test." });
      return released.ok ? null : released.text();
    },
    { file, title },
  );
  expect(failed).toBeNull();
  return title.toLowerCase().replaceAll(" ", "-");
}

/** A conversation that ends with a lead, as the prospect's page has it. */
export async function filesLead(page: Page, company: string, timeZone?: string): Promise<void> {
  const failed = await page.evaluate(async ([company, timeZone]) => {
    const post = async (path: string, data: unknown, token?: string) => {
      const headers = { "content-type": "application/json", ...(token ? { authorization: `Bearer ${token}` } : {}) };
      // A prospect: whoever is signed in would only try it.
      return fetch(path, { method: "POST", headers, body: JSON.stringify(data), credentials: "omit" });
    };
    const begun = await post("/api/p/storage-enquiry/conversations", { id: "start", context: { time_zone: timeZone } });
    const { token } = (await begun.json()) as { token: string };
    // With its country, as whoever is elsewhere would write it.
    const replies = ["storage", "frozen", "no", "340", "owner", "Pia Lindqvist", company, `pia@${company}.example`, "+44 20 7946 0014"];
    for (const [index, text] of replies.entries()) {
      const said = await post("/api/conversation/inputs", { id: `r${index}`, expects: index + 1, body: { kind: "reply", text } }, token);
      if (!said.ok) return said.text();
    }
    return null;
  }, [company, timeZone] as const);
  expect(failed).toBeNull();
}
