/** Four rules written with the keyboard alone, tried, held against past leads, released, and followed by a new lead. */
import type { Page } from "@playwright/test";

import { expect, filesLead, saved, signIn, test } from "../fixtures";

test.use({ own: "rules" });

/** Tab until what has the focus is called so. */
async function tabTo(page: Page, name: RegExp): Promise<void> {
  for (let at = 0; at < 150; at += 1) {
    const named = await page.evaluate(() => {
      const on = document.activeElement;
      if (!(on instanceof HTMLElement)) return "";
      const labels = "labels" in on ? Array.from((on as HTMLInputElement).labels ?? []).map((label) => label.innerText) : [];
      return on.getAttribute("aria-label") ?? (labels.join(" ") || on.innerText);
    });
    if (name.test(named)) return;
    await page.keyboard.press("Tab");
  }
  throw new Error(`nothing called ${name.source} can be reached with Tab`);
}

/** Writes a rule behind the picked one: its condition as a sentence, then where it goes. */
async function writeRule(page: Page, condition: string, queue: string, firm?: string): Promise<void> {
  await page.keyboard.press("a");
  await expect(page.getByLabel("Type the condition as a sentence")).toBeFocused();
  await page.keyboard.type(condition);
  await page.keyboard.press("Enter");
  await expect(page.locator("[data-rule]").filter({ hasText: condition }).first()).toBeVisible();
  if (firm) {
    await tabTo(page, /^Their firm$/);
    await page.keyboard.type(firm);
  }
  await tabTo(page, /^Goes to$/);
  await page.keyboard.type(queue);
  await saved(page);
  await page.keyboard.press("Escape");
}

test("an author writes four rules by keyboard, sees who changes hands, and releases; the next lead goes by them", async ({ page, server }) => {
  await signIn(page, "edda");
  await page.goto("/dialogues");
  await page.getByRole("link", { name: "Storage enquiry", exact: true }).click();
  await page.getByRole("link", { name: "Routing", exact: true }).click();
  await expect(page.getByRole("region", { name: "Queue" })).toBeVisible();
  const rules = page.locator("[data-rule]");
  const before = await rules.count();

  // From here on nothing is done with the mouse.
  await page.keyboard.press("j");
  await page.keyboard.press("k");
  await writeRule(page, "Pallets at least 900", "Senior");
  await writeRule(page, "Pallets at least 100", "Saltwick", "a customer");
  await writeRule(page, "Role is Owner", "Tarn");
  await writeRule(page, "Score at most 5", "Saltwick");
  await expect(rules).toHaveCount(before + 4);
  // The last one first: it stands above the three others then.
  for (let up = 0; up < 3; up += 1) await page.keyboard.press("Alt+ArrowUp");
  await expect(rules.nth(1)).toContainText("Score at most 5");
  await expect(rules.nth(3)).toContainText("Pallets at least 100and their firm is a customer");
  await expect(rules.nth(3)).toContainText("Saltwick queue");
  await expect(rules.nth(4)).toContainText("Tarn Quay queue");

  // Who changes hands.
  await page.keyboard.press("p");
  const pane = page.getByRole("tabpanel");
  await tabTo(page, /^How far back$/);
  await page.keyboard.type("last 365");
  await expect(pane.getByText(/leads? would go to another queue/)).toBeVisible();
  await tabTo(page, /^show them$/);
  await page.keyboard.press("Enter");
  await expect(pane.getByText(/→ Tarn Quay queue/).first()).toBeVisible();

  // A lead that is tried: a firm that is not on file is no customer.
  await page.keyboard.press("t");
  await tabTo(page, /^Pallets$/);
  await page.keyboard.type("about 300");
  const steps = page.getByRole("region", { name: "Where it goes" });
  await expect(steps.getByText("Pallets at least 100, and their firm is a customer: theirs is not on file")).toBeVisible();

  // Released from the list of what can be done.
  await page.keyboard.press("Control+k");
  await page.keyboard.type("Release");
  await page.keyboard.press("Enter");
  const dialog = page.getByRole("dialog", { name: /[Rr]elease/ });
  await expect(dialog).toBeVisible();
  await expect(dialog.getByRole("textbox").first()).toBeFocused();
  await page.keyboard.type("Large loads to Senior, customers to Saltwick.");
  await tabTo(page, /^Release/);
  await page.keyboard.press("Enter");
  await expect(page.getByText(/As release \d/)).toBeVisible();

  // A prospect at a customer’s, whose rule it is, and one at a firm that nobody knows.
  await server.ask(
    `insert into companies (id, workspace_id, name, domain, standing, made_at)
     select gen_random_uuid(), id, 'Quince Larder', 'quince.example', 'customer', now() from workspaces limit 1`,
  );
  await filesLead(page, "quince");
  await filesLead(page, "sorrel");
  const queue = (email: string) =>
    server.ask(`select q.name from leads l join queues q on q.id = l.queue_id where l.email = '${email}'`);
  await expect.poll(() => queue("pia@quince.example")).toBe("Saltwick queue");
  await expect.poll(() => queue("pia@sorrel.example")).toBe("Tarn Quay queue");

  // The reason a sales lead reads is the one that decided.
  await page.context().clearCookies();
  await signIn(page, "priya");
  const id = await server.ask("select id from leads where email = 'pia@quince.example'");
  await page.goto(`/leads/${id}`);
  await expect(page.getByText("Pallets at least 100, and their firm is a customer (Quince Larder): Saltwick queue")).toBeAttached();
});
