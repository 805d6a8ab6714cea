/** Bad input on the prospect's page: kept as typed or refused with a clear message, and shown escaped everywhere. */
import { expect, say, signIn, test } from "../fixtures";

const nasty = ["<img src=x onerror=alert(1)>", "'; drop table leads; --", "=HYPERLINK(\"http://x.example\")", "\u202etxet tfel ot thgir", "😀👩‍👩‍👧", "{name|x} {{"];

test("what a prospect types is shown as typed, on their page and on the rep's", async ({ page, context }) => {
  let alerted = false;
  page.on("dialog", (dialog) => {
    alerted = true;
    void dialog.dismiss();
  });
  for (const words of nasty) {
    await page.goto("/p/storage-enquiry");
    await page.evaluate(() => localStorage.clear());
    await page.reload();
    await page.getByRole("button", { name: "Get a price" }).click();
    await say(page, words);
    await expect(page.locator(".you").filter({ hasText: words })).toHaveCount(1);
    await expect(page.getByText("Please pick one of the answers, or type it as it is shown.")).toBeVisible();
  }
  // A company may be called anything: it is kept, and shown escaped to the rep.
  const company = "<b>Frost</b> & =Sons";
  for (const words of ["storage", "frozen", "no", "99", "soon", "owner", "Ana Ruiz", company, "ana@frost.example"]) await say(page, words);
  await page.getByRole("button", { name: "E-mail is enough" }).click();
  await expect(page.getByText("This conversation has ended.")).toBeVisible();
  const rep = await context.newPage();
  await signIn(rep, "priya");
  await rep.getByRole("button", { name: /Everything/ }).click();
  await rep.getByRole("row", { name: /Ana Ruiz/ }).click();
  await expect(rep.getByRole("complementary", { name: "Lead" }).getByText(company).first()).toBeVisible();
  expect(await rep.locator("b", { hasText: /^Frost$/ }).count()).toBe(0);
  expect(alerted).toBe(false);
});

test("a megabyte is refused with a clear message and the question stays open", async ({ page }) => {
  await page.goto("/p/storage-enquiry");
  await page.getByRole("button", { name: "Get a price" }).click();
  await page.getByLabel("Type your answer").evaluate((box: HTMLInputElement) => {
    const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, "value")?.set;
    set?.call(box, "x".repeat(1_000_000));
    box.dispatchEvent(new Event("input", { bubbles: true }));
  });
  await page.getByRole("button", { name: "Send" }).click();
  await expect(page.getByRole("alert")).toHaveText("That is more than we can take at once. Please send less.");
  await page.getByLabel("Type your answer").fill("storage");
  await page.keyboard.press("Enter");
  await expect(page.getByText("How cold does it have to be?")).toBeVisible();
});
