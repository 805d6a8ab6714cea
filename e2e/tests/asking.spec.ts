/** Writing an ask: its field's type, options with pictures, rules, messages per try, way out; and rehearsing it by tapping. */
import { readFileSync } from "node:fs";
import { fileURLToPath } from "node:url";

import type { Page } from "@playwright/test";

import { expect, putOnAir, row, saved, say, test } from "../fixtures";

const callback = readFileSync(fileURLToPath(new URL("../../demo/callback.json", import.meta.url)), "utf8");
// A change of a field is followed by every draft that carries it: the demo's own must stay as they are for other tests.
const apart = [
  ["fld_temperature", "f_cold"],
  ['"temperature"', '"cold"'],
  ['"Temperature"', '"Cold"'],
].reduce((text, [from, to]) => text.replaceAll(from!, to!), callback);
const file = JSON.parse(apart) as Record<string, unknown>;

/** The smallest PNG: one pixel. */
const PNG = Buffer.from("iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==", "base64");

async function openDraft(page: Page): Promise<string> {
  const slug = await putOnAir(page, file, "Asking");
  await page.goto("/dialogues");
  await page
    .getByRole("row")
    .filter({ has: page.locator(`a[href="/p/${slug}"]`) })
    .getByRole("link", { name: /^Asking/ })
    .click();
  return slug;
}

async function release(page: Page) {
  await page.getByRole("button", { name: "Release…" }).click();
  await page.getByLabel(/What changed/).fill("For the test.");
  await page.getByRole("button", { name: "Release", exact: true }).click();
  await expect(page.getByText(/As release 2/)).toBeVisible();
}

test("an option's picture, a rule with its own message per try, and a way out reach the prospect", async ({ page }) => {
  const slug = await openDraft(page);
  await (await row(page, "Roughly how many pallets?")).click();
  await page.getByLabel("Add a rule").selectOption("no decimals");
  await page.getByLabel("Message for").selectOption("range");
  await page.getByLabel("Message at try 1").fill("We start at one pallet.");
  await page.getByRole("button", { name: "Another at the next try" }).click();
  await page.getByLabel("Message at try 2").fill("Between 1 and 20,000, please.");
  await page.getByLabel("Tries", { exact: true }).selectOption("2");
  await page.getByLabel("After the tries").selectOption({ label: "3 Just looking" });
  await page.getByRole("button", { name: "Done" }).click();
  await saved(page);
  await (await row(page, "Frozen or chilled?")).click();
  await page.getByLabel("Picture file of Frozen").setInputFiles({ name: "frozen.png", mimeType: "image/png", buffer: PNG });
  await expect(page.getByRole("button", { name: "Take out the picture of Frozen" })).toBeVisible();
  await page.getByLabel("Not chilled", { exact: true }).uncheck();
  await page.getByRole("button", { name: "Done" }).click();
  await saved(page);
  await release(page);
  await page.goto(`/p/${slug}`);
  await page.getByRole("button", { name: "Tell us" }).click();
  await say(page, "we start in March");
  const frozen = page.getByRole("button", { name: /Frozen/ });
  await expect(frozen.locator("img")).toBeVisible();
  expect(await frozen.locator("img").evaluate((image: HTMLImageElement) => image.naturalWidth)).toBe(1);
  await expect(page.getByRole("button", { name: /Not chilled/ })).toHaveCount(0);
  await frozen.click();
  await say(page, "0");
  await expect(page.getByText("We start at one pallet.")).toBeVisible();
  await say(page, "90000");
  // The way out leads to the section at once, without asking once more.
  await expect(page.getByText("Roughly how many pallets?")).toHaveCount(1);
  await expect(page.getByLabel("Type your answer")).toHaveCount(0);
});

test("every type of field can be made where it is asked, a scale with words at its ends", async ({ page }) => {
  await openDraft(page);
  await (await row(page, "How soon should we call")).click();
  await page.getByRole("button", { name: "New field" }).click();
  await page.getByLabel("Name of the new field").fill("Mood");
  await expect(page.getByLabel("Type of the new field").locator("option")).toHaveCount(20);
  await page.getByLabel("Type of the new field").selectOption("scale");
  await page.getByRole("button", { name: "Make it" }).click();
  await page.getByLabel("Highest step").fill("3");
  await page.getByLabel("Words at the high end").fill("very much");
  await page.getByRole("button", { name: "Done" }).click();
  await saved(page);
  await expect(page.getByText(/keeps Mood, scale/)).toBeVisible();
  // Somebody may decline what a lead must carry, or never say yes or no to the mails; the checks say so, and nothing else.
  await expect(page.getByText("2 to look at")).toBeVisible();
});

test("a rehearsal is answered by tapping: ticks, a small form, and what was kept", async ({ page }) => {
  await openDraft(page);
  const box = page.getByLabel("Answer as a prospect would");
  const answer = async (words: string) => {
    await box.fill(words);
    await box.press("Enter");
    await expect(page.getByRole("button", { name: words, exact: true })).toBeVisible();
  };
  await answer("40 pallets frozen from next March");
  await page.getByLabel("Blast freezing").check();
  await page.getByLabel("Chilled haulage").check();
  await expect(page.getByLabel("Picking and packing")).toBeDisabled();
  await page.getByRole("button", { name: "Done", exact: true }).click();
  await page.getByRole("button", { name: "4", exact: true }).click();
  await answer("yes, I agree");
  const form = page.getByRole("form", { name: "The small form" });
  await form.getByLabel("Name").fill("Ana");
  await form.getByRole("button", { name: "Send the form" }).click();
  await expect(form.getByLabel("Name")).toHaveAttribute("aria-invalid", "true");
  await form.getByLabel("Name").fill("Ana Ruiz");
  await form.getByLabel("Phone").fill("020 7946 0958");
  await form.getByRole("button", { name: "Send the form" }).click();
  await page.getByRole("button", { name: "Change Phone" }).click();
  await answer("020 7946 0111");
  await expect(page.getByText("+44 20 7946 0111").first()).toBeVisible();
  await page.getByRole("button", { name: "All right" }).click();
  await expect(page.getByPlaceholder("The conversation has ended")).toBeVisible();
});
