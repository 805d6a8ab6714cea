/** Authoring: by keyboard alone, by pasting, by two at once, and each part of the workbench by itself. */
import type { Page } from "@playwright/test";

import { expect, openOutline, row, saved, sees, seesNot, signIn, test } from "../fixtures";

/** Makes a blank dialogue by keyboard and stands in its outline. */
async function blank(page: Page, title: string): Promise<void> {
  await page.goto("/new-dialogue");
  await expect(page.getByLabel("Title")).toBeFocused();
  await page.keyboard.type(title);
  await page.keyboard.press("Enter");
  await expect(page.getByRole("main", { name: "Outline" })).toBeVisible();
}

/** Picks a row by words in it, without a mouse: find-or-do leads to every row. */
async function goTo(page: Page, words: string): Promise<void> {
  await page.keyboard.press("Control+k");
  await expect(page.getByPlaceholder("Find a dialogue, row or field, or do something")).toBeFocused();
  await page.keyboard.type(words);
  await page.keyboard.press("Enter");
  const found = page.locator("[data-row]").filter({ hasText: words }).first();
  await expect(found.locator("[data-open]")).toBeFocused();
}

test("the whole haulage enquiry is written with the keyboard alone, and rehearsed", async ({ page }) => {
  test.setTimeout(120_000);
  await signIn(page, "edda");
  await blank(page, "Haulage enquiry");
  const type = async (text: string) => {
    await expect(page.getByLabel("What to add")).toBeFocused();
    await page.keyboard.type(text);
    await page.keyboard.press("Enter");
  };
  await page.keyboard.press("j");
  await page.keyboard.press("a");

  await test.step("lines and questions, one after another", async () => {
    await type("Thanks for asking. A few questions about the run.");
    await sees(page, "A few questions about the run.");
    await type("What should we move? Pallets / Parcels / A full lorry [Goods]");
    await type("How cold must it be? Frozen / Chilled / Not chilled [Cold]");
    await type("How many pallets a trip? [Trip size, whole number]");
    await type("How many trips a week? [Trips, whole number]");
    await type("Where does it start? [Collected at, text]");
    await type("Which company is it for?");
    await type("What is your name?");
    await type("Which e-mail address can we write to?");
    await type("File lead");
    await type("Close as A lead: Thank you. We call you today.");
    await sees(page, "We call you today.");
    await page.keyboard.press("Escape");
    await saved(page);
  });

  await test.step("an arm that leads to a section of its own", async () => {
    await goTo(page, "Thank you. We call you today.");
    await page.keyboard.press("s");
    await expect(page.getByLabel("Title", { exact: true })).toBeFocused();
    await page.keyboard.type("Not for us");
    await page.keyboard.press("Enter");
    await sees(page, "Not for us");
    await page.keyboard.press("a");
    await type("Close as Not a fit: We only move cold goods, sorry.");
    await page.keyboard.press("Escape");
    await sees(page, "We only move cold goods, sorry.");
    await goTo(page, "How cold must it be?");
    for (let at = 0; at < 3; at += 1) await page.keyboard.press("j");
    await page.keyboard.press("Enter");
    await page.getByRole("combobox", { name: "Then", exact: true }).focus();
    await page.keyboard.type("2 Not for us");
    await expect(page.locator("[data-row^='arm:']").filter({ hasText: "Not chilled" })).toContainText("→ 2 Not for us");
    await page.keyboard.press("Escape");
  });

  await test.step("a fork on a typed condition, moved to its place", async () => {
    await goTo(page, "Which company is it for?");
    await page.keyboard.press("a");
    await type("If Trips at least 10");
    await sees(page, "Trips at least 10");
    await type("That is a weekly run; a planner will look at it.");
    await page.keyboard.press("Escape");
    await sees(page, "a planner will look at it.");
    // The line stands below the fork: up, it goes into the arm above.
    await page.keyboard.press("Alt+ArrowRight");
    await expect(page.locator("[data-row^='turn:']").filter({ hasText: "a planner will look at it." })).toHaveCount(1);
    await saved(page);
  });

  await test.step("a formula with a chip that shows it", async () => {
    await goTo(page, "How many trips a week?");
    await page.keyboard.press("a");
    await type("weekly_price = MONEY(trip_size * trips * 4.5)");
    await sees(page, "weekly_price = MONEY");
    await type("That would be about {weekly_price|a few hundred pounds} a week.");
    await page.keyboard.press("Escape");
    await sees(page, "weekly price, or “a few hundred pounds”");
    await saved(page);
  });

  await test.step("undo and redo", async () => {
    await page.keyboard.press("Control+z");
    await seesNot(page, "weekly price, or “a few hundred pounds”");
    await page.keyboard.press("Control+Shift+z");
    await sees(page, "weekly price, or “a few hundred pounds”");
  });

  await test.step("rehearsed to the end, with reasons", async () => {
    await page.keyboard.press("r");
    const box = page.getByLabel("Answer as a prospect would");
    for (const words of ["pallets", "frozen", "20", "12", "Saltwick", "Kettle Lane Bakehouse", "Osei Bramah", "osei@kettlelane.example"]) {
      await expect(box).toBeFocused();
      await page.keyboard.type(words);
      await page.keyboard.press("Enter");
      await expect(page.getByRole("button", { name: words, exact: true })).toBeVisible();
    }
    const dock = page.getByRole("complementary", { name: "Dock" });
    await expect(dock.getByText("That would be about £1,080.00 a week.")).toBeVisible();
    await expect(dock.getByText("That is a weekly run; a planner will look at it.")).toBeVisible();
    await expect(dock.getByText("Thank you. We call you today.")).toBeVisible();
    await expect(dock.getByText("Ended: A lead")).toBeVisible();
  });
});

const forty = `Thanks for coming by.
What is it about? A quote / A question / A complaint [About]
How soon do you need it? [How soon]
    This week
        We may have a lorry free.
    This month
    Later -> Later on
How many pallets? [Pallets]
If pallets at least 100
    That is a large load.
    -> Large loads
Otherwise
    That fits a shared lorry.
Do you have a loading dock?
    Yes
    No
        Is there a forklift?
Do you need it to be chilled?
estimate = MONEY(pallets * 3.2)
It would be about {estimate|a small sum}.

# Who to call
Which company are you with?
What is your name?
Which e-mail address can we write to?
Which phone number can we call?
File lead
Close as A lead: Thank you. We come back to you.

# Large loads
A planner looks at loads like yours.
Which days suit you? [Days]
Who decides with you? [Decider]
How many loads a year? [Loads, whole number]
-> Who to call

# Later on
No hurry, then.
When may we ask again? [Ask again]
May we write to you about it?
    Yes
    No
Close as Just looking: Until then.
`;

test("an outline of forty lines is pasted and is turns, arms, fields and sections", async ({ page }) => {
  expect(forty.split("\n").filter((line) => line.trim()).length).toBeGreaterThanOrEqual(40);
  await signIn(page, "edda");
  await blank(page, "Pasted");
  await page.keyboard.press("j");
  await page.evaluate((text) => {
    const data = new DataTransfer();
    data.setData("text/plain", text);
    document.activeElement?.dispatchEvent(new ClipboardEvent("paste", { clipboardData: data, bubbles: true, cancelable: true }));
  }, forty);
  await sees(page, "May we write to you about it?");
  await saved(page);
  const nav = page.getByRole("navigation", { name: "Sections" });
  for (const title of ["Start", "Who to call", "Large loads", "Later on"]) await expect(nav.getByRole("button", { name: title })).toBeVisible();
  await sees(page, "Pallets at least 100");
  await sees(page, "→ 4 Later on");
  await sees(page, "Is there a forklift?");
  await expect(page.getByText("27 turns", { exact: true })).toBeVisible();
  await test.step("and one undo takes all of it out again", async () => {
    await page.keyboard.press("Control+z");
    await expect(page.getByText("1 turn", { exact: true })).toBeVisible();
    await expect(nav.getByRole("button", { name: "Large loads" })).toHaveCount(0);
  });
});

test("two authors collide: both versions are shown and one is picked, and other rows are kept", async ({ page, context }) => {
  await signIn(page, "edda");
  await openOutline(page);
  const other = await context.newPage();
  await openOutline(other);
  // Windows that see each other read the draft again by themselves; here each stays a revision behind.
  await context.route("**/presence", (route) => route.abort());
  const change = async (window: Page, from: string, to: string) => {
    await (await row(window, from)).click();
    await window.getByRole("textbox", { name: "Asks", exact: true }).fill(to);
    await window.getByRole("button", { name: "Done" }).click();
  };

  await test.step("different rows are both kept without a question", async () => {
    await change(page, "And the company?", "And your company?");
    await saved(page);
    await change(other, "Who should we ask for?", "Whom should we ask for?");
    await expect(other.getByText("Edda Quill changed other rows meanwhile; yours were kept as well.")).toBeVisible();
    await sees(other, "And your company?");
    await sees(other, "Whom should we ask for?");
    await saved(other);
  });

  await test.step("the same row asks which of the two", async () => {
    await page.reload();
    await change(page, "And your company?", "Which company is it?");
    await saved(page);
    await change(other, "And your company?", "What is the company called?");
    const dialog = other.getByRole("dialog");
    await expect(dialog.getByText("Edda Quill changed the same row")).toBeVisible();
    await expect(dialog.getByText("Ask “Which company is it?”")).toBeVisible();
    await expect(dialog.getByText("Ask “What is the company called?”")).toBeVisible();
    await dialog.getByLabel("Ask “What is the company called?”").check();
    await dialog.getByRole("button", { name: "Keep what I picked" }).click();
    await sees(other, "What is the company called?");
    await saved(other);
  });

  await test.step("and theirs may be picked, which drops mine", async () => {
    await change(page, "Which company is it?", "Company name?");
    const dialog = page.getByRole("dialog");
    await expect(dialog.getByText("Ask “What is the company called?”")).toBeVisible();
    await dialog.getByRole("button", { name: "Keep what I picked" }).click();
    await sees(page, "What is the company called?");
    await seesNot(page, "Company name?");
    await saved(page);
  });
});

test("rows are picked together, duplicated, cut, pasted into another dialogue, and made a section", async ({ page }) => {
  await signIn(page, "edda");
  await openOutline(page);
  await (await row(page, "Roughly how many pallets")).focus();
  await page.keyboard.press("Shift+ArrowDown");
  await expect(page.getByText("2 rows picked")).toBeVisible();
  // An arm goes with its turn, so one turn is copied.
  const clip = await page.evaluate(() => {
    const data = new DataTransfer();
    document.activeElement?.dispatchEvent(new ClipboardEvent("copy", { clipboardData: data, bubbles: true, cancelable: true }));
    return { ours: data.getData("application/x-lumbo-clip"), text: data.getData("text/plain") };
  });
  expect(clip.text).toMatch(/^Ask “Roughly how many pallets/);
  await page.keyboard.press("Control+d");
  await expect(page.locator("[data-row^='turn:']").filter({ hasText: "Roughly how many pallets" })).toHaveCount(2);
  await page.keyboard.press("Control+z");
  await expect(page.locator("[data-row^='turn:']").filter({ hasText: "Roughly how many pallets" })).toHaveCount(1);

  await test.step("pasted elsewhere, it brings its field and finds or makes its section", async () => {
    await blank(page, "Pasted into");
    await page.keyboard.press("j");
    await page.evaluate((text) => {
      const data = new DataTransfer();
      data.setData("application/x-lumbo-clip", text);
      document.activeElement?.dispatchEvent(new ClipboardEvent("paste", { clipboardData: data, bubbles: true, cancelable: true }));
    }, clip.ours);
    await sees(page, "keeps Pallets, whole number in pallets, 1 to 4,000");
    await expect(page.getByText("There was no section “Who to call”; an empty one was made.")).toBeVisible();
  });

  await test.step("turns become a section that is visited where they stood", async () => {
    await (await row(page, "keeps Pallets")).focus();
    await page.keyboard.press("Shift+S");
    await page.getByLabel("Title of the section").fill("Size of it");
    await page.keyboard.press("Enter");
    await expect(page.getByRole("navigation", { name: "Sections" }).getByRole("button", { name: "Size of it" })).toBeVisible();
    await sees(page, "and back");
  });
});

test("a row is dragged to another place", async ({ page }) => {
  await signIn(page, "edda");
  await openOutline(page);
  // By their ids: other tests change words of the same outline meanwhile.
  const rows = page.locator("[data-row^='turn:']");
  const place = async (id: string) => (await rows.evaluateAll((all) => all.map((one) => one.getAttribute("data-row")))).indexOf(`turn:${id}`);
  const turn = (id: string) => page.locator(`[data-row="turn:${id}"]`);
  await expect(turn("t_blast")).toBeVisible();
  await turn("t_load").locator("[data-open]").dragTo(turn("t_blast"), { targetPosition: { x: 300, y: 4 } });
  await expect.poll(async () => (await place("t_load")) - (await place("t_blast"))).toBe(-1);
  await expect(turn("t_load").locator("[data-open]")).toBeFocused();
  await page.keyboard.press("Control+z");
  await expect.poll(async () => (await place("t_temperature")) - (await place("t_load"))).toBe(1);
  await saved(page);
});

test("known values are put in as chips, changed beside the caret, and follow a renamed answer", async ({ page }) => {
  await signIn(page, "edda");
  await openOutline(page);
  await (await row(page, "A few questions about what")).click();
  const box = page.getByRole("textbox", { name: "Line 1", exact: true });
  await expect(box).toBeFocused();
  await page.keyboard.press("End");
  await page.keyboard.type(" All {temp");
  await expect(page.getByRole("option", { name: /Temperature/ })).toBeVisible();
  await page.keyboard.press("Enter");
  await expect(box.locator(".chip")).toHaveText("temperature");
  await page.keyboard.press("Alt+Enter");
  await page.getByLabel("While it is missing").fill("of it");
  await page.getByLabel("Frozen").fill("frozen goods");
  await page.getByLabel("Frozen").press("Enter");
  await expect(box.locator(".chip")).toHaveText("temperature as “frozen goods”, or “of it”");
  await page.keyboard.type(". :snow");
  await expect(page.getByRole("option", { name: /snow/ })).toBeVisible();
  await page.keyboard.press("Enter");
  await expect(box).toContainText("❄️");
  await page.keyboard.press("Escape");
  await sees(page, "temperature as “frozen goods”, or “of it”");
  await page.keyboard.press("Control+z");
  await seesNot(page, "frozen goods”");
  await saved(page);
});

test("conditions are typed or put together, and a formula shows its mistake and its value", async ({ page }) => {
  await signIn(page, "edda");
  await openOutline(page);
  await test.step("a condition", async () => {
    await (await row(page, "Under 5 pallets")).click();
    const type = page.getByLabel("Type the condition as a sentence");
    await type.fill("Pallets at least 7 and Colour is red");
    await type.press("Enter");
    await expect(page.getByText(/at “Colour is red”: expected the name of a field/)).toBeVisible();
    await type.fill("Pallets less than 7 and (Temperature is Frozen or Country is GB)");
    await type.press("Enter");
    await expect(page.locator("[data-row^='arm:']").filter({ hasText: "Under 5 pallets" })).toContainText("Pallets less than 7 and (Temperature is Frozen or Country is GB)");
    await page.getByRole("button", { name: "Take out part 2" }).first().click();
    await page.keyboard.press("Escape");
    await page.getByRole("button", { name: "Done" }).click({ timeout: 2_000 }).catch(() => undefined);
    await saved(page);
  });
  await test.step("a formula", async () => {
    await (await row(page, "weekly_estimate =")).click();
    const formula = page.getByRole("textbox", { name: "Formula" });
    await formula.fill("pallets * wrong");
    await expect(page.getByText("character 11: there is no field “wrong”", { exact: false })).toBeVisible();
    await expect(page.locator(".mistake")).toHaveText("w");
    await formula.fill("MONEY(pallets * 4)");
    await expect(page.getByText("gives money; in the rehearsal now: missing: Pallets not answered yet")).toBeVisible();
    await page.getByRole("button", { name: "Done" }).click();
    await sees(page, "weekly_estimate = MONEY(pallets * 4)");
    for (let at = 0; at < 2; at += 1) await page.keyboard.press("Control+z");
  });
});

test("find and replace shows every place before it changes any", async ({ page }) => {
  await signIn(page, "edda");
  await openOutline(page);
  await page.keyboard.press("Control+f");
  await page.getByLabel("Find", { exact: true }).fill("depot");
  await page.getByLabel("Replace with").fill("warehouse");
  const status = page.getByRole("status").filter({ hasText: "places" });
  await expect(status).toHaveText(/^(\d+) of \1 places$/);
  await page.getByLabel(/^Replace in/).first().uncheck();
  await page.getByRole("button", { name: "Replace", exact: true }).click();
  await expect(page.getByRole("dialog")).toHaveCount(0);
  await saved(page);
  await page.keyboard.press("Control+f");
  await page.getByLabel("Find", { exact: true }).fill("depot");
  await expect(page.getByText("1 of 1 places")).toBeVisible();
  await page.keyboard.press("Escape");
  await page.keyboard.press("Control+z");
  await saved(page);
});

test("a rehearsal begins at a turn, as a visitor, and an earlier answer is changed; the page shows the same", async ({ page }) => {
  await signIn(page, "edda");
  await openOutline(page);
  const dock = page.getByRole("complementary", { name: "Dock" });
  await (await row(page, "Roughly how many pallets")).focus();
  await page.keyboard.press("Shift+R");
  await dock.getByRole("button", { name: /from a turn further on/ }).click();
  await dock.getByLabel("Temperature").fill("frozen");
  await expect(dock.getByText("Taken as given: Temperature Frozen; +15 points, now 15")).toBeVisible();
  await dock.getByLabel("Country").fill("DE");
  await dock.getByRole("button", { name: "Done" }).click();
  await expect(dock.getByRole("button", { name: "from a turn further on, as a visitor with 1 thing known" })).toBeVisible();
  const box = dock.getByLabel("Answer as a prospect would");
  await box.fill("340");
  await box.press("Enter");
  await expect(dock.getByText("Pallets 340; +25 points, now 40")).toBeVisible();
  await dock.getByRole("button", { name: "340", exact: true }).click();
  await dock.getByLabel("Change this answer").fill("60");
  await dock.getByLabel("Change this answer").press("Enter");
  await expect(dock.getByText("Pallets 60; +10 points, now 25")).toBeVisible();
  await expect(page.locator("[data-row]").filter({ hasText: "▸ Ask" })).toHaveCount(1);
  await test.step("from a line to its row, and from the row back to its line", async () => {
    await dock.getByRole("button", { name: /^Roughly how many pallets/ }).click();
    await expect(await row(page, "Roughly how many pallets")).toBeFocused();
    await page.keyboard.press("l");
    await expect(dock.getByRole("button", { name: /^Roughly how many pallets/ })).toBeFocused();
  });

  await dock.getByRole("button", { name: "Show the page" }).click();
  const inside = page.frameLocator("iframe");
  await expect(inside.locator(".you")).toHaveText(/60/);
  await inside.getByLabel("Type your answer").fill("next month");
  await inside.getByLabel("Type your answer").press("Enter");
  await dock.getByRole("button", { name: "Show the notes" }).click();
  await expect(dock.getByRole("button", { name: "next month", exact: true })).toBeVisible();
  await dock.getByRole("button", { name: "Start again" }).click();
});

test("what is said any time, phrases, tables and the pace are kept", async ({ page }) => {
  await signIn(page, "edda");
  await blank(page, "Any time");
  const nav = page.getByRole("navigation", { name: "Sections" });
  await nav.getByRole("button", { name: "Side-talk" }).click();
  await page.getByRole("button", { name: "Add side-talk" }).click();
  await page.getByLabel("They say").fill("why do you ask\nwhat for");
  await nav.getByRole("button", { name: "Offers" }).click();
  await page.getByRole("button", { name: "Add an offer" }).click();
  await nav.getByRole("button", { name: "Phrases" }).click();
  await page.getByLabel("Find a phrase").fill("need an answer");
  await page.getByPlaceholder("as it is").fill("Please answer this one.");
  await nav.getByRole("button", { name: "Tables" }).click();
  await page.getByRole("button", { name: "Add a table" }).click();
  await page.getByLabel("product, row 1").evaluate((cell: HTMLElement) => {
    const data = new DataTransfer();
    data.setData("text/plain", "frozen\t4.10\thttps://a.example\nchilled\t3.35\thttps://b.example");
    cell.dispatchEvent(new ClipboardEvent("paste", { clipboardData: data, bubbles: true, cancelable: true }));
  });
  await expect(page.getByLabel("price, row 2")).toHaveValue("3.35");
  await nav.getByRole("button", { name: "Pace and limits" }).click();
  await page.getByLabel("Silence").fill("45");
  await page.getByLabel("Idle limit, minutes").fill("20");
  await page.getByLabel("Lines appear").selectOption({ label: "with a pause that fits their length" });
  await saved(page);
  await page.reload();
  await nav.getByRole("button", { name: "Side-talk" }).click();
  await expect(page.getByLabel("They say")).toHaveValue("why do you ask\nwhat for");
  await nav.getByRole("button", { name: "Tables" }).click();
  await expect(page.getByLabel("price, row 2")).toHaveValue("3.35");
  await nav.getByRole("button", { name: "Phrases" }).click();
  await page.getByLabel("Find a phrase").fill("need an answer");
  await expect(page.getByPlaceholder("as it is")).toHaveValue("Please answer this one.");
  await nav.getByRole("button", { name: "Pace and limits" }).click();
  await expect(page.getByLabel("Lines appear")).toHaveValue("by_length");
  await expect(page.getByLabel("Silence")).toHaveValue("45");
  await expect(page.getByLabel("Idle limit, minutes")).toHaveValue("20");
});

test("a picture is put in, described, released and seen by a prospect", async ({ page }) => {
  await signIn(page, "edda");
  await page.goto("/new-dialogue");
  await page.getByLabel("Title").fill("With a picture");
  await page.getByText("Team training").click();
  await page.getByRole("button", { name: "Make it" }).click();
  await expect(page.getByRole("main", { name: "Outline" })).toBeVisible();
  await page.keyboard.press("j");
  await page.keyboard.press("a");
  await page.getByRole("toolbar", { name: "Add below" }).getByRole("button", { name: "Tell", exact: true }).click();
  const png = Buffer.from("iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==", "base64");
  await page.getByLabel("Picture or document", { exact: true }).setInputFiles({ name: "hall.png", mimeType: "image/png", buffer: png });
  await page.getByLabel("What the picture shows, for those who cannot see it").fill("Our training hall");
  await page.getByRole("button", { name: "Done" }).click();
  await sees(page, "Our training hall");
  await saved(page);
  await page.getByRole("button", { name: "Release…" }).click();
  await page.getByLabel("What changed").fill("A picture of the hall.");
  await page.getByRole("dialog").getByRole("button", { name: "Release", exact: true }).click();
  await page.getByRole("link", { name: "Open the prospect’s page" }).evaluate((link: HTMLAnchorElement) => link.removeAttribute("target"));
  await page.getByRole("link", { name: "Open the prospect’s page" }).click();
  await page.getByRole("button", { name: "Find a course" }).click();
  const picture = page.getByRole("img", { name: "Our training hall" });
  await expect(picture).toBeVisible();
  expect(await picture.evaluate((image: HTMLImageElement) => image.naturalWidth)).toBe(1);
});

test("a dialogue begins from a brief; the ledger and the releases say what there is", async ({ page }) => {
  await signIn(page, "edda");
  await page.goto("/new-dialogue");
  await page.getByLabel("Title").fill("From a brief");
  await page.getByText("From a brief", { exact: true }).click();
  for (const field of ["Email", "Pallets", "Temperature"]) await page.getByRole("checkbox", { name: new RegExp(`^${field} `) }).check();
  await page.getByLabel("Who takes it").selectOption({ label: "Saltwick queue" });
  await page.getByRole("button", { name: "Make it" }).click();
  await sees(page, "Temperature: which of these fits?");
  // Somebody may decline what a lead must carry; the check says so.
  await expect(page.getByText("1 to look at")).toBeVisible();
  await page.getByRole("link", { name: "Brief" }).click();
  await expect(
    page.getByRole("row", { name: /Pallets whole number, needed Ask “Pallets: roughly how many\?” every way a lead may lack it/ }),
  ).toBeVisible();

  await openOutline(page);
  await (await row(page, "Our smallest bay holds")).click();
  await page.getByLabel("Line 1", { exact: true }).fill("Our smallest bay holds five pallets.");
  await page.getByRole("button", { name: "Done" }).click();
  await saved(page);
  await page.getByRole("link", { name: "Releases" }).click();
  await page.getByRole("button", { name: "Compare" }).last().click();
  await expect(page.getByText("Our smallest bay holds five pallets.")).toBeVisible();
  await page.getByRole("button", { name: "Take off air" }).click();
  await expect(page.getByText("Off air: prospects see that there is nothing to talk about.", { exact: false })).toBeVisible();
  await page.getByRole("button", { name: "Put on air" }).first().click();
  await expect(page.getByText(/release \d+ is on air/)).toBeVisible();
});

test("comments are made and resolved, and another author is seen", async ({ page, browser, baseURL }) => {
  await signIn(page, "edda");
  await openOutline(page);
  await (await row(page, "How cold does it have to be?")).focus();
  await page.keyboard.press("m");
  await expect(page.getByLabel("Comment", { exact: true })).toBeFocused();
  await page.keyboard.type("Say it in degrees as well?");
  await page.keyboard.press("Enter");
  await expect(page.getByText("1 comment", { exact: true })).toBeVisible();
  const context = await browser.newContext({ baseURL });
  const other = await context.newPage();
  await signIn(other, "admin");
  await openOutline(other);
  await expect(other.getByText("Edda is here too")).toBeVisible({ timeout: 10_000 });
  await other.getByRole("tab", { name: /Comments 1/ }).click();
  await expect(other.getByText("Say it in degrees as well?").first()).toBeVisible();
  await other.getByRole("button", { name: "Resolve" }).first().click();
  await expect(other.getByText(/resolved by/)).toBeVisible();
  await context.close();
});

test("without a connection what was written stays, and is saved when it is back", async ({ page, context }) => {
  await signIn(page, "edda");
  await openOutline(page);
  await (await row(page, "A few questions about what")).click();
  await context.setOffline(true);
  await page.getByLabel("Line 1", { exact: true }).fill("Written without a connection.");
  await page.getByRole("button", { name: "Done" }).click();
  await expect(page.getByText("Not saved: no connection")).toBeVisible();
  await sees(page, "Written without a connection.");
  await context.setOffline(false);
  await saved(page);
  await page.reload();
  await sees(page, "Written without a connection.");
  await page.keyboard.press("Control+z");
});

test("rows fold, a section folds, and every shortcut is on the sheet", async ({ page }) => {
  await signIn(page, "edda");
  await openOutline(page);
  await (await row(page, "°C or below")).focus();
  await page.keyboard.press("f");
  await expect(page.getByRole("button", { name: "1 folded" })).toBeVisible();
  await expect(page.locator("[data-row]").filter({ hasText: "Does any of it need blast freezing" })).toHaveCount(0);
  await page.keyboard.press("Shift+F");
  await page.keyboard.press("Shift+F");
  await expect(page.locator("[data-row^='turn:']")).toHaveCount(0);
  await page.keyboard.press("Shift+F");
  await page.keyboard.press("?");
  const sheet = page.getByRole("dialog");
  for (const label of ["Make a section of the picked turns", "Insert a known value", "Next change since the release", "The call: spoke"]) {
    await expect(sheet.getByText(label)).toBeVisible();
  }
});

test("what the checks say follows an edit, and says so where it takes its time", async ({ page }) => {
  await signIn(page, "edda");
  await blank(page, "Checked late");
  const foot = page.locator("footer");
  await expect(foot.getByText("nothing found by the checks")).toBeVisible();
  let go: () => void = () => undefined;
  const held = new Promise<void>((resolve) => {
    go = resolve;
  });
  await page.route("**/draft/analysis", async (route) => {
    await held;
    await route.continue();
  });
  await page.keyboard.press("j");
  await page.keyboard.press("a");
  await page.keyboard.type("Which depot? Aldermoor / Saltwick [Depot]");
  await page.keyboard.press("Enter");
  await sees(page, "Which depot?");
  await expect(foot.getByText("2 turns", { exact: true })).toBeVisible();
  await expect(foot.getByText("checking your last change")).toBeVisible();
  go();
  await expect(foot.getByText("checking your last change")).toHaveCount(0);
  await expect(foot.getByText("1 questions", { exact: true })).toBeVisible();
});
