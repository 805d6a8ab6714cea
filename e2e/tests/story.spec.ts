/** One story: an author changes a dialogue and releases it, a prospect answers it, a rep gets the lead. */
import { expect, openOutline, row, saved, say, sees, seesNot, signIn, test } from "../fixtures";

test.describe.configure({ mode: "serial" });

test.use({ own: "story" });

test("the author edits the outline in place, undoes and redoes, rehearses and releases", async ({ page }) => {
  await signIn(page, "edda");
  await openOutline(page);
  await expect(page.getByText("As release 1")).toBeVisible();

  await test.step("edits a Tell and an Ask where they stand", async () => {
    await (await row(page, "A few questions about what you need")).click();
    await page.getByLabel("Line 1", { exact: true }).fill("Thanks. A few questions about what must stay cold.");
    await page.getByRole("button", { name: "Done" }).click();
    await sees(page, "Thanks. A few questions about what must stay cold.");
    await (await row(page, "How cold does it have to be?")).click();
    await page.getByRole("textbox", { name: "Asks", exact: true }).fill("How cold must it be?");
    await page.getByRole("button", { name: "Done" }).click();
    await saved(page);
    await expect(page.getByText("2 changes since release 1")).toBeVisible();
  });

  await test.step("adds an Ask with a new field, options and arms", async () => {
    await (await row(page, "When would the first pallets arrive?")).click();
    await page.getByRole("button", { name: "Add a turn below" }).click();
    await page.getByRole("toolbar", { name: "Add below" }).getByRole("button", { name: "Ask", exact: true }).click();
    await page.getByRole("textbox", { name: "Asks", exact: true }).fill("Which depot suits you?");
    await page.getByRole("button", { name: "New field" }).click();
    await page.getByLabel("Name of the new field").fill("Depot");
    await page.getByRole("button", { name: "Make it" }).click();
    await expect(page.getByLabel("Option 1", { exact: true })).toBeVisible();
    await page.getByLabel("Option 1", { exact: true }).fill("Aldermoor");
    await page.getByLabel("Option 2", { exact: true }).fill("Saltwick");
    await page.getByLabel("Other words for option 2").fill("the coast, harbour");
    await page.getByLabel("May be skipped as").fill("No preference");
    await page.getByRole("button", { name: "Add an arm" }).click();
    await expect(page.getByLabel("Taken when")).toBeVisible();
    await sees(page, "keeps Depot, one of several");
    await (await row(page, "Aldermoor")).focus();
    await saved(page);
  });

  await test.step("nests a turn in the arm and sends the arm to another section", async () => {
    await page.getByRole("button", { name: "Add a turn in this arm" }).click();
    await page.getByRole("toolbar", { name: "Add below" }).getByRole("button", { name: "Tell", exact: true }).click();
    await page.getByLabel("Line 1", { exact: true }).fill("Aldermoor has room this month.");
    await page.getByRole("button", { name: "Done" }).click();
    await sees(page, "Aldermoor has room this month.");
    const arm = page.locator("[data-row^='arm:']").filter({ hasText: /^Aldermoor/ });
    await arm.locator("[data-open]").click();
    await page.getByRole("combobox", { name: "Then", exact: true }).selectOption({ label: "4 Who to call" });
    await expect(arm).toContainText("→ 4 Who to call");
    await page.getByRole("button", { name: "Done" }).click();
    await saved(page);
  });

  await test.step("takes out, undoes, redoes, and moves by keyboard", async () => {
    await (await row(page, "For pallets")).click();
    await page.getByRole("button", { name: "Take out" }).last().click();
    await seesNot(page, "handling included");
    await page.keyboard.press("Control+z");
    await sees(page, "handling included");
    await page.keyboard.press("Control+Shift+z");
    await seesNot(page, "handling included");
    await page.keyboard.press("Control+z");
    const words = () => page.locator("[data-row^='turn:']").allInnerTexts();
    await sees(page, "handling included");
    await saved(page);
    // The turn above it: places in the page shift with what is scrolled into it.
    const above = async () => {
      const list = await words();
      return list[list.findIndex((text) => text.includes("handling included")) - 1];
    };
    const before = await above();
    await (await row(page, "handling included")).focus();
    await page.keyboard.press("Alt+ArrowDown");
    await expect.poll(above).not.toBe(before);
    await page.keyboard.press("Control+z");
    await expect.poll(above).toBe(before);
    await saved(page);
  });

  await test.step("rehearses by tapping and typing, and sees the reasons", async () => {
    const dock = page.getByRole("complementary", { name: "Dock" });
    await dock.getByRole("button", { name: "Cold storage" }).click();
    await expect(dock.getByText("Interest Cold storage")).toBeVisible();
    const box = dock.getByLabel("Answer as a prospect would");
    for (const [words, note] of [
      ["minus 18", "Temperature Frozen; +15 points, now 15"],
      ["some, yes", "Blast freezing Yes; +12 points, now 27"],
      ["heaps", "Not kept: could not be read. Try 1 of 3"],
      ["120", "Pallets 120; +10 points, now 37"],
      ["asap", "Start Within 8 weeks; +25 points, now 62"],
      ["Aldermoor", "Arm: Aldermoor"],
    ] as const) {
      await box.fill(words);
      await box.press("Enter");
      await expect(dock.getByText(note)).toBeVisible();
    }
    await expect(dock.getByText("Aldermoor has room this month.")).toBeVisible();
    await expect(dock.getByText("→ 4 Who to call")).toBeVisible();
  });

  await test.step("releases with a note", async () => {
    await page.getByRole("button", { name: "Release…" }).click();
    await page.getByLabel("What changed").fill("Asks for the depot.");
    await page.getByRole("dialog").getByRole("button", { name: "Release", exact: true }).click();
    await expect(page.getByText("Release 2 is on air")).toBeVisible();
    await page.getByRole("button", { name: "Close" }).click();
    await expect(page.getByText("As release 2")).toBeVisible();
    await page.getByRole("link", { name: "Releases" }).click();
    await expect(page.getByRole("row", { name: /2 on air Asks for the depot/ })).toBeVisible();
  });
});

test("a prospect on a phone, by keyboard alone, gives bad answers and good ones and becomes a lead", async ({ page, server }) => {
  await page.setViewportSize({ width: 360, height: 740 });
  await page.goto("/p/storage-enquiry");
  await expect(page.getByRole("heading", { name: /Hello from Winterlode/ })).toBeVisible();
  await page.keyboard.press("Tab");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("button", { name: "Cold storage" })).toBeFocused();
  await page.keyboard.press("Enter");
  await expect(page.getByText("How cold must it be?")).toBeVisible();

  await test.step("options go by keyboard, and a typed answer works as well", async () => {
    await expect(page.getByRole("button", { name: /^Frozen/ })).toBeFocused();
    await page.keyboard.press("Enter");
    await expect(page.getByText("Does any of it need blast freezing first?")).toBeVisible();
    await say(page, "yes please");
  });

  await test.step("a bad answer gets the message for it, and a reload resumes", async () => {
    await say(page, "heaps");
    await expect(page.getByText("Just a number is fine, for example 120.")).toBeVisible();
    await page.reload();
    await expect(page.getByText("Just a number is fine, for example 120.")).toBeVisible();
    await expect(page.getByText("heaps")).toBeVisible();
    await say(page, "sixty");
    await expect(page.getByText("For 60 pallets we would expect about £246.00 a week, handling included.")).toBeVisible();
  });

  await test.step("the server dies with -9 between two answers and nothing is lost", async () => {
    const events = () => Number(server.ask("select events from conversations order by started_at desc limit 1"));
    const before = events();
    await server.end("SIGKILL");
    await page.getByLabel("Type your answer").fill("next month");
    await page.keyboard.press("Enter");
    await expect(page.getByRole("alert")).toHaveText("No connection. Your answer is kept; we will try again.");
    await server.run();
    await expect(page.getByText("Which depot suits you?")).toBeVisible({ timeout: 15_000 });
    expect(events()).toBeGreaterThan(before);
    await expect(page.locator(".you").filter({ hasText: "next month" })).toHaveCount(1);
  });

  await test.step("a double click answers once", async () => {
    await page.getByRole("button", { name: "Saltwick" }).dblclick();
    await expect(page.getByText("What is your part in the decision?")).toBeVisible();
    await expect(page.locator(".you").filter({ hasText: "Saltwick" })).toHaveCount(1);
  });

  await test.step("names and addresses are asked for again until they are right", async () => {
    await say(page, "the owner");
    await say(page, "Osei");
    await expect(page.getByText("Thanks, Osei. And your last name, please?")).toBeVisible();
    await say(page, "Bramah");
    await say(page, "Kettle Lane Bakehouse");
    await say(page, "osei@gmail.com");
    await expect(page.getByText("gmail.com is a personal mail service. Please give your address at the company.")).toBeVisible();
    await say(page, "it’s osei.b@kettlelane.example");
    await say(page, "12345");
    await expect(page.getByText("12345 doesn’t look like a number that can be called.", { exact: false })).toBeVisible();
    await say(page, "020 7946 0099");
    await expect(page.getByText("Thank you, Osei. Somebody from the depot calls you today.")).toBeVisible();
    await expect(page.getByText("This conversation has ended.")).toBeVisible();
  });
});

test("after three tries the way out is taken, at desktop size", async ({ page }) => {
  await page.goto("/p/storage-enquiry");
  await page.getByRole("button", { name: "Get a price" }).click();
  await say(page, "cold storage");
  await say(page, "chilled");
  for (const words of ["lots", "plenty", "loads"]) await say(page, words);
  await expect(page.getByText("What is your part in the decision?")).toBeVisible();
});

test("the rep sees the lead in the order to call, with reasons, and says what became of it", async ({ page, server }) => {
  const owner = server.ask("select p.name from leads l join people p on p.id = l.owner_id join contacts c on c.id = l.contact_id where c.email = 'osei.b@kettlelane.example'");
  await signIn(page, owner.split(" ")[0]?.toLowerCase() ?? "");
  const hot = page.getByRole("row", { name: /Hot/ });
  await expect(hot.first()).toBeVisible();
  // Hot before warm, whoever came first.
  const bands = await page.locator("tbody tr td:nth-child(5)").allInnerTexts();
  const ranks = bands.map((text) => ["Nurture", "Warm", "Hot"].findIndex((band) => text.includes(band)));
  expect(ranks).toEqual([...ranks].sort((one, other) => other - one));
  await page.getByRole("row", { name: /Osei Bramah Kettle Lane Bakehouse 60 pallets, cold storage, frozen, within 8 weeks/ }).last().click();
  const lead = page.getByRole("complementary", { name: "Lead" });
  await expect(lead.getByText("Why they qualify: 87, Hot from 70")).toBeVisible();
  await expect(lead.getByText("Temperature is Frozen")).toBeVisible();
  await expect(lead.getByText("osei.b@kettlelane.example").first()).toBeVisible();
  await expect(lead.getByText("Senior queue:", { exact: false })).toBeVisible();
  await expect(lead.getByText("heaps")).toBeVisible();
  await lead.getByRole("button", { name: "No reply" }).click();
  await expect(lead.getByText("Not called yet")).toHaveCount(0);
  await lead.getByRole("button", { name: "Lost…" }).click();
  await lead.getByLabel("Why").fill("Went with another depot");
  await lead.getByLabel("Why").press("Enter");
  await expect(lead.getByText("Because: Went with another depot")).toBeVisible();
  await expect(lead.getByText(`Lost: Went with another depot, ${owner}`)).toBeVisible();
});

test("an author reads leads and cannot say what became of them", async ({ page }) => {
  await signIn(page, "edda");
  await page.getByRole("link", { name: "Leads" }).click();
  await expect(page.getByText("Only reps and sales leads say what became of a lead.")).toBeVisible();
  await expect(page.getByRole("button", { name: "Won" })).toHaveCount(0);
});
