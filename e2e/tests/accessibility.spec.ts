/** No serious finding of axe on any view, at 1280x800 and 360x740, in light and dark. */
import { accessible, expect, openOutline, row, say, signIn, test } from "../fixtures";

const sizes = [
  { width: 1280, height: 800 },
  { width: 360, height: 740 },
];

for (const size of sizes) {
  // The dark theme changes colours only, so one size is enough for it.
  for (const colorScheme of size.width > 1_000 ? (["light", "dark"] as const) : (["light"] as const)) {
    test(`every view at ${size.width}x${size.height} in ${colorScheme}`, async ({ page }) => {
      test.setTimeout(300_000);
      await page.setViewportSize(size);
      await page.emulateMedia({ colorScheme, reducedMotion: "reduce" });
      await page.goto("/sign-in");
      await accessible(page, "sign in");
      await signIn(page, "edda");
      await expect(page.getByRole("link", { name: "Storage enquiry" })).toBeVisible();
      await accessible(page, "dialogues");
      await openOutline(page);
      await accessible(page, "outline");
      await (await row(page, "Roughly how many pallets")).click();
      await accessible(page, "an open Ask");
      await (await row(page, "Frozen")).click();
      await accessible(page, "an open arm");
      await page.keyboard.press("Escape");
      await page.getByRole("tab", { name: /Checks/ }).click();
      await accessible(page, "checks");
      await page.getByRole("tab", { name: "History" }).click();
      await accessible(page, "history");
      for (const tab of ["Uses", "Comments"]) {
        await page.getByRole("tab", { name: tab }).click();
        await accessible(page, tab);
      }
      if (size.width > 1_000) {
        for (const panel of ["Side-talk", "Offers", "Greeting", "Tables", "Phrases", "Pace and limits"]) {
          await page.getByRole("navigation", { name: "Sections" }).getByRole("button", { name: panel }).click();
          await accessible(page, panel);
        }
      }
      await page.getByRole("link", { name: "Brief" }).click();
      await expect(page.getByText("Field ledger")).toBeVisible();
      await accessible(page, "brief");
      await page.getByRole("link", { name: "Outline", exact: true }).click();
      await page.getByRole("main", { name: "Outline" }).waitFor();
      await page.keyboard.press("Control+f");
      await page.getByLabel("Find", { exact: true }).fill("pallets");
      await expect(page.getByText(/\d+ of \d+ places/)).toBeVisible();
      await accessible(page, "find and replace");
      await page.keyboard.press("Escape");
      await page.keyboard.press("Control+k");
      await expect(page.getByPlaceholder("Find a dialogue, row or field, or do something")).toBeFocused();
      await accessible(page, "find or do");
      await page.keyboard.press("Escape");
      await page.getByRole("button", { name: "Release…" }).click();
      await accessible(page, "release");
      await page.keyboard.press("Escape");
      await page.getByRole("link", { name: "Releases" }).click();
      await expect(page.getByText("First release", { exact: false })).toBeVisible();
      await accessible(page, "releases");
      await page.goto("/new-dialogue");
      await page.getByText("From a brief").click();
      await accessible(page, "a new dialogue");
      await page.goto("/leads");
      await expect(page.getByText("In their words")).toBeVisible();
      await accessible(page, "leads");
      await page.goto("/p/storage-enquiry");
      await accessible(page, "the greeting");
      await page.getByRole("button", { name: "Get a price" }).click();
      await expect(page.getByText("What can we help you with?")).toBeVisible();
      await accessible(page, "a question with options");
      await say(page, "storage");
      await say(page, "frozen");
      await say(page, "perhaps");
      await accessible(page, "an answer that was not kept");
      await page.goto("/p/nothing-here");
      await expect(page.getByText("There is nothing to talk about at this address right now.")).toBeVisible();
      await accessible(page, "nothing on air");
    });
  }
}

for (const size of sizes) {
  test(`answers and records at ${size.width}x${size.height}`, async ({ page }) => {
    test.setTimeout(300_000);
    await page.setViewportSize(size);
    await page.emulateMedia({ colorScheme: size.width > 1_000 ? "dark" : "light", reducedMotion: "reduce" });
    await signIn(page, "admin");
    await openOutline(page);
    await page.getByRole("navigation", { name: "Stages" }).getByRole("link", { name: "Answers" }).click();
    await expect(page.getByRole("complementary", { name: "Conversation" }).getByText("What can we help you with?")).toBeVisible();
    await accessible(page, "answers");
    for (const [path, words] of [
      ["/requests", "Nothing to answer"],
      ["/contacts", "What they told of themselves"],
      ["/companies", "What it is to us"],
      ["/settings/workspace", "How long things are kept"],
    ] as const) {
      await page.goto(path);
      await expect(page.getByText(words).last()).toBeVisible();
      await accessible(page, path);
    }
  });
}
