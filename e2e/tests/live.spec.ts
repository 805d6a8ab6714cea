/** What changes is seen as it happens, and what does not answer is said and tried again. */
import type { APIRequestContext } from "@playwright/test";

import { expect, openOutline, row, signIn, test } from "../fixtures";

/** A whole conversation, as a page would hold it; ends with a lead. */
async function becomeLead(request: APIRequestContext, name: string, company: string, email: string): Promise<void> {
  const started = await request.post("/api/p/storage-enquiry/conversations", { data: { id: "start" } });
  const { token } = (await started.json()) as { token: string };
  const replies = ["Blast freezing", "frozen", "yes", "250", "owner", name, company, email, "020 7946 0588"];
  for (const [at, text] of replies.entries()) {
    const answer = await request.post("/api/conversation/inputs", {
      headers: { authorization: `Bearer ${token}` },
      data: { id: `i${at}`, expects: at + 1, body: { kind: "reply", text } },
    });
    expect(answer.ok(), `${text}: ${await answer.text()}`).toBe(true);
  }
}

test("a lead that is filed stands on the list without loading it again, and what differs waits for a word", async ({ page, request }) => {
  await signIn(page, "priya");
  await page.goto("/leads");
  await page.getByRole("button", { name: /Everything/ }).click();
  await expect(page.getByRole("row", { name: /Ada Moreno/ })).toBeVisible();
  await becomeLead(request, "Una Field", "Fieldgate Foods", "una@fieldgate.example");
  await expect(page.getByRole("row", { name: /Una Field/ })).toBeVisible({ timeout: 8_000 });
  // Searched for at the server, however it is written.
  await page.getByRole("searchbox", { name: "Search leads" }).fill("FIELDGATE");
  await expect(page.locator("tbody tr")).toHaveCount(1);
  await page.getByRole("button", { name: "Una Field" }).click();
  // Somebody else types the same address: nothing on file changes, a person decides.
  await becomeLead(request, "Rex Marlow", "Fieldgate Foods", "una@fieldgate.example");
  const lead = page.getByRole("complementary", { name: "Lead" });
  const differs = lead.getByRole("region", { name: "Differs from what is on file" });
  await expect(differs.getByText("Name also given: Rex Marlow; on file: Una Field")).toBeVisible({ timeout: 8_000 });
  await differs.getByRole("button", { name: "Leave as it is" }).click();
  await expect(differs).toHaveCount(0);
  await expect(lead.getByText("Left the name on file as it is, not “Rex Marlow”", { exact: false })).toBeVisible();
});

test("an outcome asks for what it needs, and says what it was worth", async ({ page, request }) => {
  await becomeLead(request, "Ines Dahl", "Dahl Fisheries", "ines@dahlfisheries.example");
  await signIn(page, "priya");
  await page.goto("/leads");
  await page.getByRole("button", { name: /Everything/ }).click();
  await page.getByRole("button", { name: "Ines Dahl" }).click();
  const lead = page.getByRole("complementary", { name: "Lead" });
  await lead.getByRole("button", { name: "Won…" }).click();
  await lead.getByLabel("What is it worth?").fill("a lot");
  await lead.getByRole("button", { name: "Save" }).click();
  await expect(lead.getByRole("alert")).toHaveText("The amount is a number without a sign, such as 12500 or 12500.50.");
  await lead.getByLabel("What is it worth?").fill("12500");
  await lead.getByRole("button", { name: "Save" }).click();
  await expect(lead.getByText("Worth 12500 GBP")).toBeVisible();
  await lead.getByLabel("Another outcome").selectOption("later");
  await lead.getByLabel("When to call again").fill("2027-01-11");
  await lead.getByRole("button", { name: "Save" }).click();
  await expect(lead.getByText("Call again on Mon, 11 Jan 2027", { exact: true }).or(lead.getByText("Call again on Mon 11 Jan 2027", { exact: true }))).toBeVisible();
});

test("a comment of one author is seen by the other as it is made", async ({ page, browser, server }) => {
  await signIn(page, "edda");
  // The other dialogue: tests beside this one count the comments of the first.
  await openOutline(page, "Call back");
  const other = await browser.newContext({ baseURL: server.url });
  const second = await other.newPage();
  await signIn(second, "admin");
  await openOutline(second, "Call back");
  await (await row(second, "How soon should we call")).focus();
  await second.keyboard.press("m");
  await expect(second.getByLabel("Comment", { exact: true })).toBeFocused();
  await second.keyboard.type("Ask for a span here?");
  await second.keyboard.press("Enter");
  const mark = page.getByText("1 comment", { exact: true });
  await expect(mark).toBeVisible({ timeout: 8_000 });
  await second.getByRole("button", { name: "Resolve" }).first().click();
  await expect(mark).toHaveCount(0, { timeout: 8_000 });
  await other.close();
});

test("a page that cannot be reached says so, tries again by itself and goes on", async ({ page }) => {
  let refused = 0;
  await page.route("**/api/p/storage-enquiry", (route) => {
    refused += 1;
    if (refused > 2) return route.continue();
    return route.fulfill({ status: 503, contentType: "application/problem+json", body: '{"type": "urn:lumbo:problem:away", "detail": "away"}' });
  });
  await page.goto("/p/storage-enquiry");
  await expect(page.getByRole("status")).toHaveText("We cannot reach this page at the moment. It will try again by itself.");
  await expect(page.getByRole("button")).toBeVisible({ timeout: 20_000 });
  await page.getByRole("button").click();
  await expect(page.getByRole("button", { name: "Start again" })).toBeVisible();
});

test("who starts again leaves, and the conversation that was left opens no more", async ({ page, server }) => {
  await page.goto("/p/storage-enquiry");
  await page.getByRole("button").click();
  await page.getByRole("button", { name: "Start again" }).waitFor();
  const left = () => Number(server.ask("select count(*) from conversation_events where kind = 'left'"));
  const before = left();
  await page.getByRole("button", { name: "Start again" }).click();
  await expect.poll(left).toBe(before + 1);
  expect(Number(server.ask("select count(*) from conversations where token_hash is null"))).toBe(left());
});
