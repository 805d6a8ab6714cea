/** The rep's day: from the list to the call to the next lead, by keyboard only, and what two reps do at once. */
import type { Page } from "@playwright/test";

import { accessible, expect, filesLead, signIn, test } from "../fixtures";

test.use({ own: "calls" });

const pane = (page: Page) => page.getByRole("complementary", { name: "Lead" });
const nameOf = (page: Page) => pane(page).getByRole("heading", { level: 1 }).innerText();

test("a rep works ten leads by keyboard: one key to dial, one for the call, one for the next lead", async ({ page }) => {
  await signIn(page, "priya");
  const everything = page.getByRole("button", { name: /^Everything/ });
  await everything.click();
  // Enter is the list's again, not the button's.
  await everything.blur();
  await expect(pane(page).getByRole("heading", { level: 1 })).toBeVisible();
  // What a telephone does with a number is not the page's: here it is only counted.
  await page.evaluate(() =>
    document.addEventListener("click", (event) => {
      if (!(event.target instanceof Element) || !event.target.closest("[data-dial]")) return;
      event.preventDefault();
      document.body.dataset["dialled"] = String(Number(document.body.dataset["dialled"] ?? 0) + 1);
    }),
  );
  let keys = 0;
  const press = async (key: string) => {
    keys += 1;
    await page.keyboard.press(key);
  };
  const outcomes = [
    ["2", "Called: no reply"],
    ["3", "Called: left a message"],
    ["1", "Called: spoke with them"],
  ] as const;
  const seen = new Set<string>();
  let dialled = 0;
  for (let lead = 0; lead < 10; lead += 1) {
    const name = await nameOf(page);
    seen.add(name);
    const call = pane(page).getByRole("link", { name: /^Call \+/ });
    if (await call.count()) {
      await expect(call).toHaveAttribute("href", /^tel:\+/);
      await press("c");
      dialled += 1;
    }
    const hungUp = keys;
    const [key, words] = outcomes[lead % outcomes.length] ?? outcomes[0];
    await press(key);
    await expect(pane(page).getByText(words).first()).toBeVisible();
    await expect(pane(page).getByText("Kept.")).toBeVisible();
    await press("Enter");
    await expect(pane(page).getByRole("heading", { level: 1 })).not.toHaveText(name);
    expect(keys - hungUp, "keys from hanging up to the next lead").toBeLessThanOrEqual(3);
  }
  expect(seen.size).toBe(10);
  await expect(page.locator("body")).toHaveAttribute("data-dialled", String(dialled));
  expect(keys).toBeLessThanOrEqual(30);
  await accessible(page, "the call list");
});

test("leads are found by any field, get columns of one's choice, and the list is kept", async ({ page }) => {
  await signIn(page, "priya");
  await page.getByRole("button", { name: /^Everything/ }).click();
  const list = page.getByRole("main").getByRole("row");
  await page.getByRole("button", { name: "Filter", exact: true }).click();
  const looks = page.getByRole("group", { name: "Filters, columns and order" });
  const by = async (field: string, how: string, value?: string) => {
    await looks.getByLabel("Filter by").selectOption({ label: field });
    await looks.getByLabel("How").selectOption({ label: how });
    const box = looks.getByLabel("Value");
    if (value !== undefined) {
      if (await box.evaluate((element) => element instanceof HTMLSelectElement)) await box.selectOption({ label: value });
      else await box.fill(value);
    }
    await looks.getByRole("button", { name: "Add" }).click();
  };
  await by("Pallets", "at least", "500");
  await expect(looks.getByText("Pallets at least 500")).toBeVisible();
  await by("Status", "is", "Won");
  await by("Status", "is", "Lost");
  await expect(looks.getByText("Status is Won or Lost")).toBeVisible();
  await looks.getByLabel("Add a column").selectOption({ label: "Pallets" });
  await looks.getByLabel("Order").selectOption({ label: "by Pallets" });
  await expect(page.getByRole("columnheader", { name: "Pallets" })).toBeVisible();
  const pallets = async () => {
    const cells = await list.locator("td:nth-child(3)").allInnerTexts();
    return cells.map((cell) => Number(cell.replaceAll(/[^0-9]/g, "")));
  };
  await expect.poll(async () => (await pallets()).length).toBeGreaterThan(1);
  const falling = await pallets();
  expect(falling.every((count) => count >= 500)).toBe(true);
  expect(falling).toEqual([...falling].sort((one, other) => other - one));
  await looks.getByRole("button", { name: "highest or newest first" }).click();
  await expect.poll(async () => (await pallets())[0]).toBe(Math.min(...falling));
  await accessible(page, "leads by any field");
  // Kept under a name, it comes back as it was.
  await page.getByRole("button", { name: "Keep this list" }).click();
  await page.getByLabel("Name of the list").fill("Large and closed");
  await page.keyboard.press("Enter");
  await page.reload();
  await page.getByRole("button", { name: "Large and closed", exact: true }).click();
  await expect(page.getByRole("columnheader", { name: "Pallets" })).toBeVisible();
  await expect.poll(async () => (await pallets())[0]).toBe(Math.min(...falling));
  await expect(page.getByRole("link", { name: "CSV" })).toHaveAttribute("href", /look=/);
  // What nothing fits is said so, and each filter goes again.
  await page.getByRole("button", { name: "Filter (2)" }).click();
  await by("Filed", "from", "2999-01-01");
  await expect(page.getByText("No lead fits all of these filters.")).toBeVisible();
  await looks.getByRole("button", { name: "Take out: Filed from 2999-01-01" }).click();
  await expect.poll(async () => (await pallets())[0]).toBe(Math.min(...falling));
});

test("a call is taken back by one key, and a note goes with the call", async ({ page }) => {
  await signIn(page, "joss");
  const status = pane(page).getByText("Not called yet");
  await expect(status).toBeVisible();
  await page.keyboard.press("1");
  await expect(pane(page).getByText("Spoken to")).toBeVisible();
  await page.keyboard.press("z");
  await expect(status).toBeVisible();
  await expect(pane(page).getByText("Called: spoke with them")).toHaveCount(0);
  await page.keyboard.press("m");
  await page.keyboard.type("gate code is with the porter");
  await page.keyboard.press("Escape");
  await page.keyboard.press("2");
  await expect(pane(page).getByText("Called: no reply. gate code is with the porter")).toBeVisible();
  await expect(pane(page).getByLabel("Note")).toHaveValue("");
  // Enter in the box keeps a note by itself.
  await pane(page).getByLabel("Note").fill("ring after four");
  await page.keyboard.press("Enter");
  await expect(pane(page).getByText("ring after four")).toBeVisible();
  // The next step can be put on another moment.
  await pane(page).getByRole("button", { name: "Tomorrow" }).click();
  await expect(pane(page).getByText(/Call again.*tomorrow 09:00/)).toBeVisible();
});

test("a lead is tagged by keyboard, found by its tag, and the list is taken out as a file", async ({ page }) => {
  await signIn(page, "joss");
  const name = await nameOf(page);
  await page.keyboard.press("g");
  await page.keyboard.type("Trade fair");
  await page.keyboard.press("Enter");
  const tags = pane(page).getByRole("group", { name: "Tags" });
  await expect(tags.getByText("Trade fair")).toBeVisible();
  await page.keyboard.type("a, b");
  await page.keyboard.press("Enter");
  await expect(pane(page).getByRole("alert")).toContainText("A tag has 1 to 30 characters, and no comma.");
  await page.keyboard.press("Escape");
  await page.getByLabel("Search leads").fill("#trade");
  const list = page.getByRole("main").getByRole("row");
  await expect(list).toHaveCount(2);
  await expect(list.nth(1)).toContainText(name);
  await expect(list.nth(1)).toContainText("#Trade fair");
  const link = page.getByRole("link", { name: "CSV" });
  await expect(link).toHaveAttribute("href", /search=%23trade/);
  const download = page.waitForEvent("download");
  await link.click();
  const stream = await (await download).createReadStream();
  const text = Buffer.concat(await stream.toArray()).toString("utf8").split("\r\n");
  expect(text[0]).toBe("Name,Company,Phone,Wants,Score,Band,Status,Next,Next at (UTC),Tries,Owner,Queue,Tags,Filed at (UTC),Link");
  expect(text.slice(1).filter(Boolean)).toHaveLength(1);
  expect(text[1]).toContain("Trade fair");
  await accessible(page, "leads found by their tag");
  await tags.getByRole("button", { name: "Take off the tag Trade fair" }).click();
  await expect(page.getByText("No lead with “#trade”.")).toBeVisible();
});

test("a task is made on a lead, ticked off on one's list, and taken back", async ({ page }) => {
  await signIn(page, "maren");
  const name = await nameOf(page);
  const tasks = pane(page).getByRole("region", { name: "Tasks" });
  await tasks.getByRole("button", { name: "Add a task" }).click();
  await page.getByLabel("What is to be done").press("Escape");
  await expect(page.getByLabel("What is to be done")).toHaveCount(0);
  await tasks.getByRole("button", { name: "Add a task" }).click();
  await page.getByLabel("What is to be done").fill("Send the plan of the cold store");
  await page.getByLabel("By when").fill("1999-01-04T09:00");
  await page.getByLabel("What is to be done").press("Enter");
  await expect(page.getByText("Pick a day within five years.")).toBeVisible();
  await page.getByLabel("By when").fill(`${new Date().getFullYear() + 1}-01-04T09:00`);
  await tasks.getByRole("button", { name: "Add it" }).click();
  await expect(tasks.getByText("Send the plan of the cold store")).toBeVisible();
  await accessible(page, "a lead with a task");

  await page.getByRole("navigation", { name: "Leads" }).getByRole("link", { name: /^Tasks/ }).click();
  const done = page.getByLabel("Done: Send the plan of the cold store");
  await done.check();
  await expect(page.getByText("0 to do")).toBeVisible();
  await done.uncheck();
  await expect(page.getByText("1 to do")).toBeVisible();
  await accessible(page, "one's tasks");
  await page.getByRole("link", { name: new RegExp(`^${name}`) }).click();
  await tasks.getByRole("checkbox").check();
  await expect(pane(page).getByText("Done: Send the plan of the cold store").first()).toBeVisible();
});

test("several leads are picked by keyboard, tagged at once, and passed on", async ({ page }) => {
  await signIn(page, "admin");
  await page.goto("/leads");
  await page.getByRole("button", { name: /Everything/ }).click();
  const rows = page.getByRole("main").getByRole("row");
  await expect(rows.nth(3)).toBeVisible();
  for (let n = 0; n < 3; n += 1) await page.keyboard.press("x");
  const bar = page.getByRole("region", { name: "Picked leads" });
  await expect(bar.getByText("3 picked")).toBeVisible();
  await bar.getByLabel("Tag them").fill("spring");
  await page.keyboard.press("Enter");
  await expect(bar.getByText("Done with 3 of 3.")).toBeVisible();
  await bar.getByRole("button", { name: "Let go" }).click();
  await expect(bar).toBeHidden();
  await page.getByLabel("Search leads").fill("#spring");
  await expect(rows).toHaveCount(4);
  // The search is kept as a list of one's own, taken out, and put back.
  await page.getByRole("button", { name: "Keep this list" }).click();
  await page.getByLabel("Name of the list").fill("Spring fairs");
  await page.keyboard.press("Enter");
  const own = page.getByRole("button", { name: "Spring fairs", exact: true });
  await expect(own).toHaveAttribute("aria-pressed", "true");
  await page.getByLabel("Search leads").fill("");
  await expect(rows.nth(5)).toBeVisible();
  await own.click();
  await expect(rows).toHaveCount(4);
  await page.getByRole("button", { name: "Take out the list Spring fairs" }).click();
  await page.getByRole("button", { name: "Put it back" }).click();
  await expect(own).toBeVisible();
  await page.getByRole("button", { name: "Pick several" }).click();
  for (const box of await page.getByRole("checkbox", { name: /^Pick / }).all()) await box.check();
  await bar.getByLabel("Pass them to").selectOption({ label: "Priya Nand" });
  await expect(bar.getByText(/Done with 3 of 3\./)).toBeVisible();
  for (const n of [1, 2, 3]) await expect(rows.nth(n)).toContainText("Priya Nand");
  await accessible(page, "several leads picked");
});

test("who sleeps where they are waits further down, and says until when", async ({ page, browser, server }) => {
  // A zone in which it is between one and five at night.
  const hour = (zone: string) => Number(new Date().toLocaleString("en-GB", { hour: "2-digit", timeZone: zone }));
  const asleep = ["Pacific/Auckland", "Asia/Tokyo", "Asia/Karachi", "Europe/Athens", "Atlantic/Azores", "America/Sao_Paulo", "America/New_York", "America/Los_Angeles", "Pacific/Honolulu"].find(
    (zone) => hour(zone) >= 1 && hour(zone) < 5,
  );
  if (!asleep) throw new Error("it is night somewhere");
  const away = await (await browser.newContext({ timezoneId: asleep, baseURL: server.url })).newPage();
  await away.goto("/p/storage-enquiry");
  await filesLead(away, "nightfoods", asleep);
  await signIn(page, "admin");
  await page.goto("/settings/workspace");
  await page.getByLabel("From").selectOption("08:00");
  await page.getByLabel("To", { exact: true }).selectOption("19:00");
  await page.getByRole("button", { name: "Save", exact: true }).first().click();
  await expect(page.getByText("Saved", { exact: true })).toBeVisible();
  await page.goto("/leads");
  await page.getByRole("button", { name: /Everything/ }).click();
  await page.getByLabel("Search leads").fill("nightfoods");
  const found = page.getByRole("main").getByRole("row").nth(1);
  await expect(found).toContainText(/0[1-5]:\d\d there/);
  await found.getByRole("button").click();
  await expect(pane(page).getByText(/It is 0[1-5]:\d\d where they are, outside calling hours\. They begin/)).toBeVisible();
  await accessible(page, "a lead that sleeps");
  await page.goto("/settings/workspace");
  await page.getByLabel("From").selectOption("00:00");
  await page.getByLabel("To", { exact: true }).selectOption("24:00");
  await page.getByRole("button", { name: "Save", exact: true }).first().click();
  await expect(page.getByText("Saved", { exact: true })).toBeVisible();
});

test("two reps take the same lead, and the second is told whose it is", async ({ page, browser, baseURL }) => {
  await signIn(page, "priya");
  await page.getByRole("button", { name: /Everything/ }).click();
  await page.getByRole("row", { name: /Pia Lindqvist/ }).first().click();
  await expect(pane(page).getByRole("heading", { name: "Pia Lindqvist" })).toBeVisible();
  const other = await (await browser.newContext(baseURL ? { baseURL } : {})).newPage();
  await signIn(other, "admin");
  // Told nothing of what the other does, as on a bad line.
  await other.route("**/api/live*", (route) => route.abort());
  await other.goto(new URL(page.url()).pathname);
  await expect(pane(other).getByRole("button", { name: "Take it" })).toBeVisible();
  await other.route("**/api/leads/*", (route) => (route.request().method() === "GET" ? route.abort() : route.continue()));
  await pane(page).getByRole("button", { name: "Take it" }).click();
  await expect(pane(page).getByText("Took it, Priya Nand")).toBeVisible();
  await pane(other).getByRole("button", { name: "Take it" }).click();
  await expect(pane(other).getByText(/somebody changed this lead meanwhile/i)).toBeVisible();
  await other.unrouteAll({ behavior: "ignoreErrors" });
  // Passed on with a word.
  await pane(page).getByRole("button", { name: "Pass on…" }).click();
  await pane(page).getByLabel("To whom").selectOption({ label: "Joss Calder" });
  await pane(page).getByLabel("What they should know").fill("knows the site");
  await pane(page).getByRole("button", { name: "Pass on", exact: true }).click();
  await expect(pane(page).getByText("Passed to Joss Calder. knows the site, Priya Nand")).toBeVisible();
});

test("a sales lead sees load and pace, pauses a rep and shares out what they have", async ({ page }) => {
  await signIn(page, "priya");
  await page.getByRole("link", { name: "Team" }).click();
  const row = page.getByRole("row", { name: /Tobias Rell/ });
  await expect(row).toBeVisible();
  await accessible(page, "the team");
  await row.getByRole("button", { name: "Pause" }).click();
  await expect(row.getByText("takes no new leads")).toBeVisible();
  await row.getByRole("button", { name: "Share out" }).click();
  await expect(page.getByText(/of Tobias Rell’s leads are being dealt anew/)).toBeVisible();
  await expect(row.getByRole("button", { name: "Share out" })).toHaveCount(0);
  await row.getByRole("button", { name: "Let go on" }).click();
  await expect(row.getByText("takes no new leads")).toHaveCount(0);
  // The weeks add up to what was filed.
  const weeks = page.getByRole("region", { name: "This week and those before" });
  await expect(weeks.getByRole("row")).toHaveCount(7);
});
