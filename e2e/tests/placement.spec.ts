/** Placements across origins: Winterlode's own site at the stand-ins' origin, the dialogue at Lumbo's. */
import type { Page } from "@playwright/test";

import { accessible, expect, signIn, test } from "../fixtures";

test.use({ own: "placement" });
test.describe.configure({ timeout: 120_000 });

const button = (page: Page) => page.getByRole("button", { name: /Freezer space|Questions about storage/ }).first();
const dialogue = (page: Page) => page.frameLocator('iframe[title="Winterlode"]');
const saw = (page: Page) => page.evaluate(() => (window as unknown as { winterlodeSaw: [string, unknown][] }).winterlodeSaw);

test("a visitor opens the corner button, answers by keyboard, closes it and goes on on another page", async ({ page, server }) => {
  await page.goto(`${server.standins}/prices/frozen?utm_campaign=autumn-26&gclid=c1`);
  await expect(button(page)).toBeVisible();
  expect((await saw(page)).map(([what]) => what)).toContain("shown");
  await page.getByRole("button", { name: "Yes" }).click();
  await accessible(page, "a page with the button");
  await button(page).click();
  const inside = dialogue(page);
  await expect(inside.getByText("Winterlode").first()).toBeVisible();
  await inside.locator("main .primary").click();
  await expect(inside.getByText("What can we help you with?")).toBeVisible();
  const box = inside.getByRole("textbox").first();
  await box.fill("storage");
  await box.press("Enter");
  await expect(inside.locator(".you").first()).toContainText("storage", { ignoreCase: true });
  await page.keyboard.press("Escape");
  await expect(button(page)).toBeFocused();
  expect(await saw(page)).toEqual(
    expect.arrayContaining([
      ["opened", null],
      ["started", null],
      ["closed", null],
    ]),
  );
  // The same conversation goes on where the visitor goes on.
  await page.goto(`${server.standins}/prices`);
  await button(page).click();
  await expect(dialogue(page).locator(".you").first()).toContainText("storage", { ignoreCase: true });
});

test("nothing is kept before consent, and what was kept goes when it is refused", async ({ page, server }) => {
  await page.goto(`${server.standins}/prices`);
  await expect(button(page)).toBeVisible();
  const kept = () => page.evaluate(() => Object.keys(localStorage).filter((key) => key.startsWith("lumbo")));
  expect(await kept()).toEqual([]);
  await button(page).click();
  await dialogue(page).locator("main .primary").click();
  await expect(dialogue(page).getByRole("textbox").first()).toBeVisible();
  const frame = page.frames().find((known) => known.url().includes("/f/"));
  expect(await frame?.evaluate(() => localStorage.length)).toBe(0);
  await page.keyboard.press("Escape");
  await page.getByRole("button", { name: "Yes" }).click();
  expect(await kept()).toEqual(["lumbo:winterlode"]);
  await page.getByRole("button", { name: "No", exact: true }).click();
  expect(await kept()).toEqual([]);
});

test("excluded pages show the next that fits, or nothing; pages that change without loading are asked again", async ({ page, server }) => {
  await page.goto(`${server.standins}/prices/haulage`);
  await expect(page.getByRole("button", { name: /Questions about storage/ })).toBeVisible();
  await page.goto(`${server.standins}/jobs/driver`);
  await page.waitForTimeout(600);
  await expect(button(page)).toHaveCount(0);
  await page.goto(`${server.standins}/app`);
  await expect(page.getByRole("button", { name: /Questions about storage/ })).toBeVisible();
  await page.getByRole("link", { name: "Prices inside" }).click();
  await expect(page.getByRole("button", { name: /Freezer space/ })).toBeVisible();
  await expect(page.getByRole("button", { name: /Questions about storage/ })).toHaveCount(0);
  await page.getByRole("link", { name: "Jobs inside" }).click();
  await expect(button(page)).toHaveCount(0);
});

test("a strict policy, the line twice, and a click on what carries data-lumbo-open", async ({ page, server }) => {
  const refused: string[] = [];
  page.on("console", (message) => message.type() === "error" && refused.push(message.text()));
  await page.goto(`${server.standins}/strict`);
  await page.getByRole("button", { name: "Ask for a price" }).click();
  await expect(dialogue(page).locator("main .primary")).toBeVisible();
  expect(refused).toEqual([]);
  await page.goto(`${server.standins}/twice`);
  await expect(button(page)).toBeVisible();
  await expect(page.getByRole("button", { name: /Questions about storage/ })).toHaveCount(1);
  expect(await page.evaluate(() => Object.keys(window).filter((name) => /lumbo/i.test(name)))).toEqual(["lumbo"]);
});

test("the line invites after its seconds, and stays away once it was closed", async ({ page, server }) => {
  await page.clock.install();
  await page.goto(`${server.standins}/prices`);
  await page.getByRole("button", { name: "Yes" }).click();
  await page.clock.runFor(1_000);
  await expect(button(page)).toBeVisible();
  await expect(page.getByText("Freezer space from January?")).toHaveCount(0);
  await page.clock.runFor(9_000);
  await expect(page.getByText("Freezer space from January?")).toBeVisible();
  await page.getByRole("button", { name: "×" }).click();
  await expect(page.getByText("Freezer space from January?")).toHaveCount(0);
  await page.reload();
  await page.clock.runFor(20_000);
  await expect(button(page)).toBeVisible();
  await expect(page.getByText("Freezer space from January?")).toHaveCount(0);
});

test("on a phone the page is never covered unasked, and the window fills it when asked", async ({ page, server }) => {
  await page.setViewportSize({ width: 360, height: 740 });
  await page.goto(`${server.standins}/phone`);
  await expect(button(page)).toBeVisible();
  await button(page).click();
  const box = await page.locator('iframe[title="Winterlode"]').boundingBox();
  expect(box).toEqual({ x: 0, y: 0, width: 360, height: 740 });
  await expect(dialogue(page).locator("main .primary")).toBeVisible();
  await dialogue(page).getByRole("button", { name: "Close" }).click();
  await expect(button(page)).toBeVisible();
});

test("a frame in the text, and a page of its own", async ({ page, server }) => {
  await page.goto(`${server.standins}/depots`);
  await expect(page.locator("[data-lumbo=depots] iframe")).toBeVisible();
  await expect(page.frameLocator("[data-lumbo=depots] iframe").locator("main")).toBeVisible();
  await page.goto("/at/autumn-26");
  await expect(page).toHaveTitle("Winterlode");
  expect(await page.locator('meta[property="og:title"]').getAttribute("content")).toBe("Cold storage, priced in two minutes");
  await expect(page.locator("main .primary")).toBeVisible();
  await accessible(page, "a placement’s own page");
});

test("no other origin can show the frame or hear it, and a forged message does nothing", async ({ page, server }) => {
  await page.goto(`${server.standins}/prices`);
  await button(page).click();
  await expect(dialogue(page).locator("main .primary")).toBeVisible();
  const frame = page.frames().find((known) => known.url().includes("/f/"));
  // The page around cannot read the conversation.
  expect(
    await page.evaluate(() => {
      const host = Array.from(document.body.children).find((one) => one.shadowRoot?.querySelector("iframe"));
      const there = host?.shadowRoot?.querySelector("iframe");
      return there ? (there.contentDocument === null ? "out of reach" : there.contentDocument.body.innerText) : "no frame";
    }),
  ).toBe("out of reach");
  // What does not come from Lumbo's frame does nothing on the page.
  await page.evaluate(() => window.postMessage({ lumbo: 1, did: "close" }, "*"));
  await expect(dialogue(page).locator("main .primary")).toBeVisible();
  // The frame cannot reach the page around it.
  expect(
    await frame?.evaluate(() => {
      try {
        return window.parent.document.title;
      } catch {
        return "out of reach";
      }
    }),
  ).toBe("out of reach");
  // Another origin: the same page by another name of this machine.
  const other = server.standins.replace("127.0.0.1", "localhost");
  await page.goto(`${other}/prices`);
  await page.waitForTimeout(600);
  await expect(button(page)).toHaveCount(0);
});

test("the line holds up nothing and moves nothing", async ({ page, server }) => {
  await page.addInitScript(() => {
    const seen = window as unknown as { shifts: number };
    seen.shifts = 0;
    new PerformanceObserver((list) => {
      for (const entry of list.getEntries()) seen.shifts += (entry as unknown as { value: number }).value;
    }).observe({ type: "layout-shift", buffered: true });
  });
  let go: () => void = () => undefined;
  const held = new Promise<void>((resolve) => {
    go = resolve;
  });
  await page.route("**/e/winterlode.js", async (route) => {
    await held;
    await route.continue();
  });
  await page.goto(`${server.standins}/depots`, { waitUntil: "domcontentloaded" });
  await expect(page.getByRole("heading", { name: "Depots" })).toBeVisible();
  expect(await page.evaluate(() => performance.getEntriesByName("first-contentful-paint").length)).toBe(1);
  go();
  await expect(page.locator("[data-lumbo=depots] iframe")).toBeVisible();
  await expect(button(page)).toBeVisible();
  expect(await page.evaluate(() => (window as unknown as { shifts: number }).shifts)).toBe(0);
});

test("blocked storage lasts as long as the page, and Lumbo out of reach shows nothing", async ({ page, server }) => {
  await page.addInitScript(() => {
    Object.defineProperty(window, "localStorage", {
      get: () => {
        throw new DOMException("blocked", "SecurityError");
      },
    });
  });
  await page.route("**/site.js", (route) => route.fulfill({ contentType: "text/javascript", body: "" }));
  await page.goto(`${server.standins}/prices`);
  await expect(button(page)).toBeVisible();
  await page.evaluate(() => (window as unknown as { lumbo: { consent: (yes: boolean) => void } }).lumbo.consent(true));
  await button(page).click();
  await dialogue(page).locator("main .primary").click();
  await expect(dialogue(page).getByRole("textbox").first()).toBeVisible();
  await page.route("**/visit", (route) => route.abort());
  await page.goto(`${server.standins}/prices/frozen`);
  await page.waitForTimeout(600);
  await expect(button(page)).toHaveCount(0);
});

test("an author writes a placement, tries an address, releases it, takes it off air and puts it back", async ({ page, server }) => {
  await signIn(page, "edda");
  await page.goto("/dialogues");
  await page.getByRole("link", { name: "Storage enquiry", exact: true }).click();
  await page.getByRole("link", { name: "Placement", exact: true }).click();
  const main = page.getByRole("main", { name: "Placement" });
  await expect(main.getByRole("button", { name: "Prices pages" })).toBeVisible();
  await accessible(page, "the Placement stage");
  await page.getByLabel("Address of a page").fill("https://winterlode.example/prices/haulage");
  await expect(page.getByText("the page is excluded by /prices/haulage")).toBeVisible();
  await page.getByLabel("Address of a page").fill("not a page");
  await expect(page.getByText(/This is not the address of a page/)).toBeVisible();
  await page.getByLabel("Address of a page").fill("https://winterlode.example/news");

  await page.getByRole("button", { name: "+ placement" }).click();
  await page.getByLabel("Name of the placement").first().fill("News");
  await page.getByRole("button", { name: "Add", exact: true }).click();
  await expect(main.getByText("not released yet")).toBeVisible();
  await main.getByRole("button", { name: /^Where/ }).click();
  await main.getByLabel("Pages", { exact: true }).fill("/twice\n/news/**");
  await main.getByLabel("Never on").focus();
  await expect(main.getByText(/\/twice, \/news\/\*\*/).first()).toBeVisible();
  await main.getByRole("button", { name: /^Look/ }).click();
  await main.getByLabel("Colour").fill("blue");
  await main.getByLabel("Colour").press("Enter");
  await expect(main.getByText("“blue” is not a colour.")).toBeVisible();
  await main.getByLabel("Colour").fill("#ffd500");
  await main.getByLabel("Colour").press("Enter");
  await expect(main.getByText("“blue” is not a colour.")).toHaveCount(0);
  // A picture of a pixel.
  const pixel = "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNkYPhfDwAChwGA60e6kgAAAABJRU5ErkJggg==";
  await main.getByLabel("Picture").setInputFiles({ name: "who.png", mimeType: "image/png", buffer: Buffer.from(pixel, "base64") });
  await expect(main.getByRole("img", { name: "Who is talking" })).toBeVisible();
  // It stands last: what shows everywhere goes before it, until it is moved up.
  await expect(page.getByText(/News.*fits too, and stands below/)).toBeVisible();
  for (let place = 0; place < 3; place += 1) await main.getByRole("button", { name: "Up", exact: true }).click();
  await expect(page.getByText(/News: the page fits/)).toBeVisible();
  await main.getByLabel("Note of the release").fill("For the news");
  await main.getByRole("button", { name: "Release", exact: true }).click();
  await expect(main.getByText(/1 · .*Edda.*: For the news/)).toBeVisible();

  const visitor = await page.context().newPage();
  await visitor.goto(`${server.standins}/twice`);
  const shown = visitor.getByRole("button", { name: "Winterlode" });
  await expect(shown).toBeVisible();
  await main.getByRole("button", { name: "Off air" }).click();
  await expect(main.getByText("off air", { exact: true })).toBeVisible();
  await visitor.waitForTimeout(2_200);
  await visitor.reload();
  await expect(button(visitor)).toBeVisible();
  await main.getByRole("button", { name: "Take out" }).click();
  await expect(main.getByRole("button", { name: "News", exact: true })).toHaveCount(0);
  await main.getByRole("button", { name: "Put it back" }).click();
  await expect(main.getByRole("button", { name: "News", exact: true })).toBeVisible();
});
