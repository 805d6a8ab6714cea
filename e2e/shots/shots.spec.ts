/** The pictures of docs/screenshots/, from the demo. */
import { fileURLToPath } from "node:url";

import { expect, openOutline, row, saved, say, signIn, test } from "../fixtures";

const picture = (name: string) => fileURLToPath(new URL(`../../docs/screenshots/${name}.png`, import.meta.url));

test("pictures of the administrator's side", async ({ page, server }) => {
  await signIn(page, "admin");
  await page.goto("/contacts");
  await page.getByLabel("Search contacts").fill("lindqvist");
  await page.getByRole("button", { name: "Pia Lindqvist" }).click();
  await expect(page.getByRole("button", { name: "Erase…" })).toBeVisible();
  await page.screenshot({ path: picture("contact") });
  await page.goto("/team");
  await expect(page.getByText("Maren Holt")).toBeVisible();
  await page.screenshot({ path: picture("team") });
  await page.goto("/settings/destinations");
  await page.getByRole("button", { name: "New destination" }).click();
  await page.getByLabel("Kind").selectOption({ label: "Customer system" });
  await page.getByLabel("Name").fill("Customer records");
  await page.getByLabel("Address").fill(`${server.standins}/customers/api`);
  await page.getByLabel("Token").fill("let-me-in");
  await page.getByRole("button", { name: "Add it" }).click();
  await page.getByRole("link", { name: "What goes where" }).click();
  await page.getByRole("button", { name: "Read its properties" }).click();
  await page.getByRole("button", { name: "Fill them in" }).click();
  await page.getByRole("row").filter({ hasText: "Rating" }).getByRole("button", { name: "What means what" }).click();
  await expect(page.getByText("No counterpart there: Nurture.")).toBeVisible();
  await page.getByRole("main").evaluate((main) => main.scrollTo(0, 430));
  await page.screenshot({ path: picture("destinations") });
});

test("pictures of placements", async ({ page, server }) => {
  await signIn(page, "edda");
  await openOutline(page);
  await page.getByRole("link", { name: "Placement", exact: true }).click();
  await page.getByLabel("Address of a page").fill("https://winterlode.example/prices/frozen?utm_campaign=autumn-26");
  await page.getByLabel("Device").selectOption("phone");
  await expect(page.getByText(/on a phone only the button/)).toBeVisible();
  await page.screenshot({ path: picture("placement") });
  await page.goto(`${server.standins}/prices/frozen`);
  await page.getByRole("button", { name: /Freezer space/ }).click();
  await page.frameLocator('iframe[title="Winterlode"]').locator("main .primary").click();
  await expect(page.frameLocator('iframe[title="Winterlode"]').getByRole("textbox").first()).toBeVisible();
  await page.screenshot({ path: picture("on-a-page") });
});

test("pictures of the author's side", async ({ page }) => {
  await signIn(page, "edda");
  await expect(page.getByRole("link", { name: "Storage enquiry" })).toBeVisible();
  await page.screenshot({ path: picture("dialogues") });
  await openOutline(page);
  const box = page.getByLabel("Answer as a prospect would");
  for (const words of ["storage", "minus 18", "some, yes", "about 3 hundred and forty"]) {
    await box.fill(words);
    await box.press("Enter");
    await expect(page.getByRole("button", { name: words, exact: true })).toBeVisible();
  }
  await page.getByRole("navigation", { name: "Sections" }).getByRole("button", { name: "The load" }).click();
  await page.getByRole("main", { name: "Outline" }).evaluate((outline) => outline.scrollBy(0, 260));
  await page.screenshot({ path: picture("outline") });
  await (await row(page, "Roughly how many pallets")).click();
  await expect(page.getByRole("textbox", { name: "Asks", exact: true })).toBeFocused();
  await page.screenshot({ path: picture("outline-open-ask") });
  await page.keyboard.press("Escape");
  await (await row(page, "Under 5 pallets")).click();
  await expect(page.getByLabel("Type the condition as a sentence")).toBeVisible();
  await page.getByRole("button", { name: "Show the page" }).click();
  await expect(page.frameLocator("iframe").getByLabel("Type your answer")).toBeVisible();
  await page.screenshot({ path: picture("outline-condition") });
  await page.keyboard.press("Escape");
  await page.getByRole("link", { name: "Brief" }).click();
  await expect(page.getByRole("row", { name: /^Phone/ })).toBeVisible();
  await page.screenshot({ path: picture("brief") });
  await page.getByRole("link", { name: "Scoring", exact: true }).click();
  await expect(page.getByText(/times in 100/)).toBeVisible();
  await page.screenshot({ path: picture("scoring") });
  await page.getByRole("link", { name: "Routing", exact: true }).click();
  await page.getByRole("tabpanel").getByLabel("Pallets").fill("about 240");
  await page.getByRole("tabpanel").getByLabel("Temperature").selectOption("Frozen");
  await page.getByRole("tabpanel").getByLabel("Role").selectOption("Owner or director");
  await expect(page.getByRole("region", { name: "Where it goes" }).getByText(/Call by/)).toBeVisible();
  await page.screenshot({ path: picture("routing") });
  await page.goto("/new-dialogue");
  await page.getByText("From a brief").click();
  await page.screenshot({ path: picture("new-dialogue") });
  await openOutline(page);
  await (await row(page, "A few questions about what")).click();
  await page.getByLabel("Line 1", { exact: true }).fill("Thanks. A few questions about what has to stay cold.");
  await page.getByRole("button", { name: "Done" }).click();
  await (await row(page, "Just looking")).focus();
  await page.keyboard.press("Delete");
  await saved(page);
  await page.getByRole("link", { name: "Releases" }).click();
  await page.getByRole("button", { name: "Compare" }).first().click();
  await expect(page.getByText("reworded").first()).toBeVisible();
  await page.screenshot({ path: picture("releases") });
});

test("a picture of what conversations said", async ({ page }) => {
  await signIn(page, "edda");
  await openOutline(page);
  await page.getByRole("navigation", { name: "Stages" }).getByRole("link", { name: "Answers" }).click();
  await page.getByLabel("A condition that holds").fill("Pallets at least 200 and Temperature is Frozen");
  await page.getByRole("row", { name: /A lead/ }).first().getByRole("button").click();
  await expect(page.getByText(/^Filed a lead/)).toBeVisible();
  await page.screenshot({ path: picture("answers") });
});

test("pictures of the settings", async ({ page }) => {
  await signIn(page, "edda");
  await page.goto("/settings/fields");
  await page.getByRole("button", { name: "Pallets", exact: true }).click();
  await page.getByLabel("Holds").selectOption("text");
  await expect(page.getByText(/would come up in/)).toBeVisible();
  await page.screenshot({ path: picture("settings-fields") });
});

test("pictures of the rep's side", async ({ page }) => {
  await signIn(page, "maren");
  await expect(page.getByText("In their words")).toBeVisible();
  await page.screenshot({ path: picture("leads") });
});

test("pictures of the prospect's page", async ({ page }) => {
  await page.setViewportSize({ width: 360, height: 740 });
  await page.goto("/p/storage-enquiry");
  await expect(page.getByRole("button", { name: "Get a price" })).toBeVisible();
  await page.screenshot({ path: picture("prospect-greeting") });
  await page.getByRole("button", { name: "Get a price" }).click();
  await say(page, "storage");
  await page.screenshot({ path: picture("prospect-question") });
});
