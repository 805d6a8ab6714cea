/** What can happen: an outline that is broken in several ways, each found with its way, and mended. */
import { expect, saved, sees, signIn, test } from "../fixtures";

const FAULTY = [
  "Your e-mail address? [Email]",
  "So that is {price}.",
  "How many barrels? [Barrels, whole number]",
  "If Barrels more than 10 and Barrels less than 5",
  "  A line that nobody reads.",
  "price = barrels * 3",
  "File lead",
  "Close as A lead: Thank you.",
  "Nobody comes here either.",
].join("\n");

test("an outline broken in several ways shows each, with a conversation that does it, and is mended", async ({ page }) => {
  await signIn(page, "edda");
  await page.goto("/new-dialogue");
  await page.getByLabel("Title").fill("Broken on purpose");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("main", { name: "Outline" })).toBeVisible();
  await page.keyboard.press("j");
  await page.evaluate((text) => {
    const data = new DataTransfer();
    data.setData("text/plain", text);
    document.activeElement?.dispatchEvent(new ClipboardEvent("paste", { clipboardData: data, bubbles: true, cancelable: true }));
  }, FAULTY);
  await sees(page, "How many barrels?");
  await saved(page);

  const dock = page.getByRole("complementary", { name: "Dock" });
  await dock.getByRole("tab", { name: /Checks/ }).click();
  const finding = (words: string | RegExp) => dock.getByRole("listitem").filter({ hasText: words });
  await expect(finding("the first question can be the one for email")).toBeVisible();
  await expect(finding("price may be missing where this text shows it")).toBeVisible();
  await expect(finding("Barrels may be missing here, and then this formula gives nothing")).toBeVisible();
  await expect(finding(/no conversation takes this arm: “.*” never holds here/)).toBeVisible();
  await expect(finding("no conversation comes to this turn").first()).toBeVisible();

  await test.step("one is opened in Rehearse: the conversation that does it is held", async () => {
    await finding("price may be missing").getByRole("button", { name: "Rehearse it" }).click();
    await expect(dock.getByRole("tab", { name: "Rehearse" })).toHaveAttribute("aria-selected", "true");
    await expect(dock.getByText("Your e-mail address?").first()).toBeVisible();
  });

  await test.step("and by one key from its row", async () => {
    await dock.getByRole("tab", { name: /Checks/ }).click();
    await finding("price may be missing").getByRole("button", { name: /^Tell/ }).click();
    await page.keyboard.press("w");
    await expect(dock.getByRole("tab", { name: "Rehearse" })).toHaveAttribute("aria-selected", "true");
  });

  await test.step("a fallback mends it", async () => {
    await dock.getByRole("tab", { name: /Checks/ }).click();
    await finding("price may be missing").getByRole("button", { name: /^Tell/ }).click();
    await page.keyboard.press("Enter");
    await page.getByLabel("Line 1", { exact: true }).fill("So that is {price|not much}.");
    await page.getByRole("button", { name: "Done" }).click();
    await saved(page);
    await expect(finding("price may be missing")).toHaveCount(0);
  });

  await test.step("one is accepted, shown no more, and shown again", async () => {
    await finding("the first question can be the one for email").getByRole("button", { name: "Accept" }).click();
    await expect(finding("the first question can be the one for email")).toHaveCount(0);
    await expect(dock.getByText("1 accepted, and not shown.")).toBeVisible();
    await dock.getByRole("button", { name: "Show all again" }).click();
    await expect(finding("the first question can be the one for email")).toBeVisible();
  });
});
