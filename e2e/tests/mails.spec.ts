/** Mails from a lead, saved replies, what a contact permits, and tags on contacts. */
import type { Page } from "@playwright/test";

import { accessible, expect, filesLead, signIn, test } from "../fixtures";

test.use({ own: "mails" });

const pane = (page: Page) => page.getByRole("complementary", { name: "Lead" });

test("a rep saves a reply, writes with it by keyboard, takes one back, and the other arrives under their name", async ({ page, server }) => {
  await page.goto("/p/storage-enquiry");
  await filesLead(page, "quince");
  const id = await server.ask("select id from leads where email = 'pia@quince.example'");
  await signIn(page, "priya");
  await page.goto(`/leads/${id}`);
  await expect(pane(page).getByRole("heading", { level: 1 })).toHaveText(/Pia Lindqvist/);
  await page.keyboard.press("e");
  const mail = pane(page).getByRole("form", { name: "A mail to them" });
  await expect(mail.getByLabel("Subject", { exact: true })).toBeFocused();
  await page.keyboard.type("About your {pallets}");
  await page.keyboard.press("Tab");
  await page.keyboard.type("Hello,\n\nwe have room.");
  // What is written can be kept as a reply; its chips are written then.
  await pane(page).getByText("Saved replies", { exact: true }).click();
  await pane(page).getByRole("button", { name: "Save what is written as a reply…" }).click();
  const reply = pane(page).getByRole("form", { name: "A saved reply" });
  await reply.getByLabel("Name of the reply").fill("Room for them");
  await expect(reply.getByLabel("Subject of the reply")).toHaveValue("About your {{pallets}");
  await reply.getByLabel("Subject of the reply").fill("About your {no key");
  await reply.getByRole("button", { name: "Keep the reply" }).click();
  await expect(pane(page).getByRole("alert")).toContainText("is not complete");
  await reply.getByLabel("Subject of the reply").fill("About your {stock|goods}");
  await reply.getByLabel("Text of the reply").fill("Dear {name.given|all},\n\nwe have room for {company}, {gone}.\n\n{me}");
  await page.keyboard.press("Tab");
  await page.keyboard.press("Enter");
  await expect(reply).toBeHidden();
  await accessible(page, "a mail from a lead");

  await mail.getByLabel("Begin with a saved reply").selectOption({ label: "Room for them" });
  await expect(mail.getByLabel("What you write")).toHaveValue(/^Dear Pia,\n\nwe have room for quince, \.\n\nPriya Nand$/);
  await expect(mail.getByText("Not known of this lead, and left out: gone.")).toBeVisible();
  // Another lead and back: what was written is still there.
  await page.keyboard.press("Escape");
  await mail.getByLabel("What you write").fill("Dear Pia,\n\nwe have room for you.\n\nPriya");
  await mail.getByLabel("What you write").press("Control+Enter");
  await expect(mail).toBeHidden();
  const written = pane(page).getByRole("list", { name: "Mails to them" });
  await expect(written.getByText("leaves in a few seconds")).toBeVisible();
  await written.getByRole("button", { name: "Do not send it" }).click();
  await expect(written).toBeHidden();

  await page.getByRole("heading", { name: /Pia Lindqvist/ }).click();
  await page.keyboard.press("e");
  await mail.getByLabel("Subject", { exact: true }).fill("Room for you");
  await mail.getByLabel("What you write").fill("Dear Pia,\n\nwe have room.");
  await mail.getByRole("button", { name: "Send" }).click();
  await expect(written.getByText(/^sent /)).toBeVisible({ timeout: 30_000 });
  await expect(pane(page).getByText("Wrote “Room for you”")).toBeVisible();
  expect(await server.ask(`select status from leads where id = '${id}'`)).toBe("trying");

  // A reply that is taken out can be put back.
  await page.keyboard.press("e");
  await pane(page).getByText("Saved replies", { exact: true }).click();
  await pane(page).getByRole("button", { name: "Take out Room for them" }).click();
  await pane(page).getByRole("button", { name: "Put it back" }).click();
  await expect(pane(page).getByRole("button", { name: "Take out Room for them" })).toBeVisible();
});

test("what a contact permits is kept with its ground, withdrawn, and stops mails; tags find contacts", async ({ page, server }) => {
  await page.goto("/p/storage-enquiry");
  await filesLead(page, "sorrel");
  const contact = await server.ask("select contact_id from leads where email = 'pia@sorrel.example'");
  await signIn(page, "priya");
  await page.goto(`/contacts/${contact}`);
  await page.getByRole("button", { name: "They permitted something…" }).click();
  await page.getByLabel("For what").selectOption({ label: "for their enquiry" });
  await page.getByRole("button", { name: "Keep", exact: true }).click();
  // How they said so is asked for.
  await expect(page.getByLabel("How they said so")).toBeFocused();
  await page.getByLabel("How they said so").fill("On the phone");
  await page.keyboard.press("Enter");
  await expect(page.getByText(/On the phone, kept by Priya Nand/)).toBeVisible();
  await page.getByRole("button", { name: "Withdrawn: mail for their enquiry" }).click();
  await expect(page.getByText("no mail for their enquiry")).toBeVisible();
  await page.getByText("What they said before").click();
  await expect(page.getByText(/^mail for their enquiry, .*On the phone/)).toBeVisible();
  await page.getByLabel("Tag", { exact: true }).fill("Fair 2026");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("button", { name: "Take off the tag Fair 2026" })).toBeVisible();
  await accessible(page, "what a contact permits");
  await page.getByLabel("Search contacts").fill("#fair");
  await expect(page.getByRole("row", { name: /Pia Lindqvist/ })).toHaveCount(1);
  await expect(page.locator("tbody tr")).toHaveCount(1);

  const id = await server.ask("select id from leads where email = 'pia@sorrel.example'");
  await page.goto(`/leads/${id}`);
  await expect(pane(page).getByText("They withdrew their permission for mail.")).toBeVisible();
  await pane(page).getByRole("button", { name: "Write a mail…" }).click();
  await expect(pane(page).getByText("They withdrew their permission to be written to")).toBeVisible();
});

test("an author says what a yes to a consent permits", async ({ page, server }) => {
  await signIn(page, "edda");
  await page.goto("/settings/fields");
  await page.getByRole("button", { name: "New field" }).click();
  await page.getByLabel("Name", { exact: true }).fill("May send prices");
  await page.getByLabel("Holds").selectOption({ label: "consent" });
  await page.getByLabel("For what").selectOption({ label: "for marketing" });
  for (const way of ["calls", "text messages"]) await page.getByLabel(way, { exact: true }).uncheck();
  await accessible(page, "a consent in the field catalogue");
  await page.getByLabel("mail", { exact: true }).uncheck();
  await expect(page.getByText(/at least one way to reach somebody/)).toBeVisible();
  await page.getByLabel("mail", { exact: true }).check();
  await page.getByRole("button", { name: "Make it" }).click();
  const permits = () => server.ask("select definition -> 'permits' from fields where definition ->> 'label' = 'May send prices'");
  await expect.poll(permits).toBe('{"purpose": "marketing", "channels": ["mail"]}');
});
