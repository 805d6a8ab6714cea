/** Leads that came another way: one by hand, a file with bad rows, and taking it all out again. */
import { accessible, expect, signIn, test } from "../fixtures";

test.use({ own: "entering" });

const fair = [
  "Name,Company,E-mail,Phone,Interest,Temperature,Pallets,Part,Stand",
  "Ada Ohm,Heron Foods,ada@heronfoods.example,020 7946 0101,storage,frozen,120,owner,B4",
  "Bram Oster,Oster & Zoon,bram@ostermeer.example,020 7946 0102,storage,chilled,many,manager,B4",
  'Ciara Moon,"Moon\nBakery",ciara@moonbakery.example,,storage,frozen,about 340,owner,B4',
  "Dov Levin,Levin Deli,not an address,020 7946 0104,storage,lukewarm,20,quotes,C1",
].join("\n");

test("a sales lead enters a file, sees which rows are bad, and undoes it as a whole", async ({ page }) => {
  await signIn(page, "priya");
  await page.getByRole("link", { name: "Enter leads" }).click();
  await page.getByLabel("Dialogue").selectOption({ label: "Storage enquiry" });
  await page.getByRole("tab", { name: "Leads from a file" }).click();
  await page.setInputFiles("input[type=file]", { name: "empty.csv", mimeType: "text/csv", buffer: Buffer.from("") });
  await expect(page.getByRole("alert")).toContainText("The first line names the columns");
  await page.setInputFiles("input[type=file]", { name: "fair.csv", mimeType: "text/csv", buffer: Buffer.from(fair) });
  await expect(page.getByLabel("E-mail holds")).toHaveValue("email");
  await page.getByLabel("Part holds").selectOption({ label: "Role" });
  await page.getByRole("button", { name: "Try all 4 rows" }).click();
  await expect(page.getByText("2 would be filed")).toBeVisible();
  await expect(page.getByText("line 3")).toBeVisible();
  await expect(page.getByText(/^line 6/)).toBeVisible();
  await accessible(page, "rows that were tried");
  await page.getByLabel("Where from").fill("Cold chain fair in Leeds");
  await page.getByLabel("May be contacted").fill("Asked for a call at our stand");
  await page.getByLabel("Goes to").selectOption({ label: "Tobias Rell" });
  await page.getByRole("button", { name: "File 2 leads" }).click();
  await expect(page.getByText("2 leads filed. You can undo all of it below.")).toBeVisible();

  await page.getByRole("link", { name: "Call list" }).click();
  await page.getByRole("button", { name: /Everything/ }).click();
  await page.getByLabel("Search leads").fill("Ada Ohm");
  await page.getByText("Ada Ohm").first().click();
  await expect(page.getByText(/Entered from fair.csv. From: Cold chain fair in Leeds/)).toBeVisible();
  await expect(page.getByText("Priya Nand entered it for Tobias Rell")).toBeVisible();

  await page.getByRole("link", { name: "Enter leads" }).click();
  await page.getByRole("button", { name: "Undo fair.csv" }).click();
  await expect(page.getByText("2 leads taken out again.")).toBeVisible();
  await page.getByRole("link", { name: "Contacts" }).click();
  await page.getByRole("searchbox").fill("Ohm");
  await expect(page.getByText("Ada Ohm")).toBeHidden();
});

test("a rep enters a lead by hand, with a sentence for what cannot be read", async ({ page }) => {
  await signIn(page, "maren");
  await page.getByRole("link", { name: "Enter leads" }).click();
  await page.getByLabel("Dialogue").selectOption({ label: "Storage enquiry" });
  await expect(page.getByRole("tab")).toHaveCount(0);
  await page.getByLabel("Temperature").selectOption({ label: "Frozen" });
  await page.getByLabel("Pallets").fill("many");
  await page.getByLabel("Name").fill("Elif Aydin");
  await page.getByLabel("Email").fill("elif@aydinices.example");
  await page.getByLabel("Where from").fill("She called us");
  await page.getByLabel("May be contacted").fill("She asked for a price");
  await page.getByLabel("Goes to").selectOption({ label: "Maren Holt" });
  await page.getByRole("button", { name: "File the lead" }).click();
  await expect(page.getByRole("alert")).toContainText("Pallets “many”: the dialogue would answer");
  await page.getByLabel("Pallets").fill("about 800");
  await accessible(page, "a lead by hand");
  await page.getByRole("button", { name: "File the lead" }).click();
  await expect(page).toHaveURL(/\/leads\//);
  await expect(page.getByRole("heading", { name: /Elif Aydin/ })).toBeVisible();
  await expect(page.getByText(/Entered by hand. From: She called us/)).toBeVisible();
});

test("a file of companies is tried, taken in with its bad row named, and undone", async ({ page, server }) => {
  await signIn(page, "priya");
  await page.getByRole("link", { name: "Enter leads" }).click();
  await page.getByRole("tab", { name: "Companies from a file" }).click();
  const csv = "Website,Name,What it is to us,Account owner\nwww.quincelarder.example,Quince Larder,customer,Maren Holt\ngmail.com,Nobody,,\nsorrel.example,Sorrel Ltd,friend,\n";
  const upload = (name: string, text: string) =>
    page.getByLabel(/A CSV file/).setInputFiles({ name, mimeType: "text/csv", buffer: Buffer.from(text) });
  await upload("customers.csv", csv);
  await expect(page.getByLabel("Website holds")).toHaveValue("domain");
  await expect(page.getByLabel("What it is to us holds")).toHaveValue("standing");
  await expect(page.getByLabel("Account owner holds")).toHaveValue("owner");
  await page.getByRole("button", { name: "Try all 3 rows" }).click();
  const tried = page.getByRole("region", { name: "What the rows would become" });
  await expect(tried.getByText("line 3 “gmail.com” is no domain of a firm’s own")).toBeVisible();
  await expect(tried.getByText(/line 4 .*write customer, partner/)).toBeVisible();
  await expect(tried.getByText("Maren Holt looks after it, before: nobody")).toBeVisible();
  await accessible(page, "a file of companies");
  await page.getByLabel("Where from").fill("Our customers of November");
  await page.getByLabel("May be contacted").fill("They buy from us");
  await page.getByRole("button", { name: /^Take in 1 company/ }).click();
  await expect(page.getByText("1 company made, 0 changed.")).toBeVisible();
  const kept = () => server.ask("select standing || ' ' || (owner_id is not null) from companies where domain = 'quincelarder.example'");
  expect(await kept()).toBe("customer true");
  await page.getByRole("button", { name: "Undo customers.csv" }).click();
  await expect(page.getByText(/1 company taken out again/)).toBeVisible();
  expect(await kept()).toBe("");

  await page.getByRole("tab", { name: "Contacts from a file" }).click();
  await upload("visitors.csv", "E-mail,Name\npia@quincelarder.example,Pia Lindqvist\n");
  await page.getByRole("button", { name: "Try the row" }).click();
  await expect(tried.getByText("Company: quincelarder.example")).toBeVisible();
});
