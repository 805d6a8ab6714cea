/** Prospects who answer like people, on the page of a dialogue that takes free replies, forms and corrections. */
import { readFileSync } from "node:fs";
import { fileURLToPath } from "node:url";

import type { Page } from "@playwright/test";

import { expect, putOnAir, say, test } from "../fixtures";

const file = JSON.parse(readFileSync(fileURLToPath(new URL("../../demo/callback.json", import.meta.url)), "utf8")) as Record<string, unknown>;
const onAir = (page: Page) => putOnAir(page, file, "Call back");

async function begin(page: Page, slug: string) {
  await page.goto(`/p/${slug}`);
  await page.getByRole("button", { name: "Tell us" }).click();
  await expect(page.getByText("What do you need?")).toBeVisible();
}

async function fillWho(page: Page, values: Record<string, string>) {
  for (const [label, value] of Object.entries(values)) await page.getByLabel(label).fill(value);
  await page.getByRole("button", { name: "Send" }).click();
}

test("a prospect who gives everything in one sentence is asked only for what is missing", async ({ page }) => {
  const slug = await onAir(page);
  await begin(page, slug);
  await say(page, "About 340 pallets frozen from March, I'm Ana Ruiz from Blue Heron Ices");
  await expect(page.getByText("Thanks. We have: 340 pallets, Frozen, March")).toBeVisible();
  // Neither the temperature nor the pallets nor the start are asked again.
  await expect(page.getByText("Anything else we can do?")).toBeVisible();
  await expect(page.getByText("Frozen or chilled?", { exact: true })).toHaveCount(0);
  await page.getByLabel("Blast freezing").check();
  await page.getByLabel("Chilled haulage").check();
  await expect(page.getByLabel("Picking and packing")).toBeDisabled();
  await page.getByRole("button", { name: /Done/ }).click();
  await page.getByRole("button", { name: "4", exact: true }).click();
  await page.getByRole("button", { name: "Yes, I agree" }).click();
  // All errors at once, the first in focus.
  await fillWho(page, { Name: "Ana" });
  await expect(page.getByText("Please check the marked answers.")).toBeVisible();
  await expect(page.getByLabel("Name")).toBeFocused();
  await expect(page.getByLabel("Name")).toHaveAttribute("aria-invalid", "true");
  await expect(page.locator(".problem")).toHaveCount(2);
  // What was written stays when the page is left.
  await page.reload();
  await expect(page.getByLabel("Name")).toHaveValue("Ana");
  await fillWho(page, { Name: "Ana Ruiz", Company: "Blue Heron Ices", Email: "ana@heron.example", Phone: "020 7946 0958" });
  await expect(page.locator(".kept")).toContainText("+44 20 7946 0958");
  await page.getByRole("button", { name: "All right" }).click();
  await expect(page.getByText("Thank you, Ana. We will call you.")).toBeVisible();
});

test("one who goes off script three times still finishes", async ({ page }) => {
  const slug = await onAir(page);
  await begin(page, slug);
  await say(page, "how much does it cost?");
  await expect(page.getByText("Frozen storage starts at £4.20")).toBeVisible();
  await say(page, "where are you?");
  await expect(page.getByText("In Aldermoor, Saltwick and Tarn Quay.")).toBeVisible();
  await expect(page.getByText("Our one-page guide")).toBeVisible();
  await say(page, "20 pallets from 5 January");
  // The temperature is still missing; why we ask is answered and the question stays open.
  await say(page, "why do you ask?");
  await expect(page.getByText("Each has halls of its own.")).toBeVisible();
  await expect(page.getByText("Frozen, or chilled?")).toBeVisible();
  await say(page, "chilled not frozen");
  await page.getByRole("button", { name: "Nothing else" }).click();
  await page.getByRole("button", { name: "It doesn’t matter" }).click();
  await say(page, "yes");
  await fillWho(page, { Name: "Tom Ashdown", Phone: "020 7946 0958" });
  await say(page, "looks good");
  await expect(page.getByText("Thank you, Tom. We will call you.")).toBeVisible();
});

test("one who corrects two answers, one in the talk and one at the read back", async ({ page }) => {
  const slug = await onAir(page);
  await begin(page, slug);
  await say(page, "200 pallets frozen in 3 weeks");
  await page.getByRole("button", { name: "Nothing else" }).click();
  await page.getByRole("button", { name: "5, this week" }).click();
  await page.getByRole("button", { name: "Change the answer: 5, this week" }).click();
  await page.getByLabel("Change the answer: 5, this week").fill("2");
  await page.keyboard.press("Enter");
  await expect(page.getByText("Urgency: now 2.")).toBeVisible();
  await page.getByRole("button", { name: "Yes, I agree" }).click();
  await fillWho(page, { Name: "Ana Ruiz", Phone: "020 7946 0958" });
  await say(page, "the phone is wrong, it's 020 7946 0014");
  await expect(page.locator(".kept")).toContainText("+44 20 7946 0014");
  await page.getByRole("button", { name: "Change: Stock" }).click();
  await say(page, "about 250");
  await expect(page.locator(".kept")).toContainText("250 pallets");
  await page.getByRole("button", { name: "All right" }).click();
  await expect(page.getByText("Thank you, Ana.")).toBeVisible();
});

test("one who skips all that can be skipped", async ({ page }) => {
  const slug = await onAir(page);
  await begin(page, slug);
  await say(page, "not sure, something chilled");
  for (const skip of ["I don’t know yet", "Not decided", "Nothing else", "It doesn’t matter", "No"]) {
    await page.getByRole("button", { name: skip, exact: true }).click();
  }
  await fillWho(page, { Name: "Tom Ashdown", Phone: "020 7946 0958" });
  await expect(page.locator(".kept .none").first()).toHaveText("not given");
  await page.getByRole("button", { name: "All right" }).click();
  await expect(page.getByText("Thank you, Tom.")).toBeVisible();
});

test("on a phone every part is named for a screen reader", async ({ page }) => {
  const slug = await onAir(page);
  await page.setViewportSize({ width: 360, height: 740 });
  await begin(page, slug);
  await expect(page.getByRole("main")).toMatchAriaSnapshot(`
    - main:
      - progressbar "Question 1"
      - log:
        - paragraph: What do you need? How much, frozen or chilled, and from when?
      - textbox "Type your answer"
      - button "Send" [disabled]
  `);
  await say(page, "40 pallets frozen in 3 weeks");
  await expect(page.getByRole("checkbox")).toHaveCount(3);
  await page.getByRole("button", { name: "Nothing else" }).click();
  await say(page, "3");
  await say(page, "yes");
  await expect(page.getByRole("textbox", { name: "Name" })).toBeFocused();
  await fillWho(page, { Name: "Ana Ruiz", Phone: "020 7946 0958" });
  await expect(page.getByRole("main")).toMatchAriaSnapshot(`
    - term: Temperature
    - definition: Frozen
  `);
  await expect(page.getByRole("button", { name: "Change: Temperature" })).toBeVisible();
  const wide = await page.evaluate(() => document.documentElement.scrollWidth);
  expect(wide).toBeLessThanOrEqual(360);
});
