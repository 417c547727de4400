import { screen } from "@testing-library/react";
import { expect, test } from "vitest";
import { find, findAll, gone, open, row, says, saysNot, until } from "@/testing/page";

const rows = () => [...document.querySelectorAll("tbody tr[data-place]")];

test("sorting and searching live in the address", async () => {
  const at = await open("/payers", "demo");
  const first = () => rows()[0]?.textContent;
  await until(() => expect(first()).toBeTruthy());
  const before = first();
  await at.click("button", /^First to give/);
  await until(() => expect(first()).not.toBe(before));
  await at.click("button", /^First to give/);
  await at.asks("descending=true");
  await at.user.type(await screen.findByPlaceholderText("name, kind or sector"), "materials");
  await until(() => expect(rows()).toHaveLength(6));
  await at.asks("q=materials");
  at.reload();
  await until(() => expect(rows()).toHaveLength(6));
});

test("conditions are joined in groups, by any of them or by all", async () => {
  const at = await open("/payers", "demo");
  await at.click("button", "Conditions");
  await at.click("button", "Add a condition");
  await at.fill("Value, %", "7");
  await at.click("button", /Add a group of/);
  const measures = await screen.findAllByLabelText("Measure");
  await at.user.selectOptions(measures[1] as HTMLElement, "raises");
  await at.fill("Value, years", "25");
  const found = () => screen.queryAllByText(/^\d+ of 59$/).map((e) => e.textContent)[0];
  await until(() => expect(at.url()).toContain('"value":25'));
  await at.quiet();
  const few = found();
  const joins = await screen.findAllByLabelText("How the conditions combine");
  await at.user.selectOptions(joins[0] as HTMLElement, "any");
  await until(() => expect(found()).not.toBe(few));
  await at.user.selectOptions(joins[0] as HTMLElement, "all");
  await until(() => expect(found()).toBe(few));
  at.reload();
  await says(/yield at least 7.*and \(raised at least 25 years/i);
});

test("sectors stand with their median and lead to their payers", async () => {
  const at = await open("/payers?cols=range", "demo");
  await at.choose("Show", "sector");
  const property = () => screen.queryByRole("row", { name: /Property/ });
  await says("8", property);
  await at.click("button", "Property", property);
  await until(() => expect(rows()).toHaveLength(8));
  await says("sector is Property");
});

test("a search by sector shows the whole sector too", async () => {
  const where = '{"join":"all","parts":[{"id":"yield","op":"at_least","value":0.04,"words":[]}]}';
  await open(`/payers?by=sector&where=${encodeURIComponent(where)}`, "demo");
  const property = () => screen.queryByRole("row", { name: /Property/ });
  await says(" of 8", property);
  await says("all: ", property);
});

test("columns of one's own are found by name, chosen and saved", async () => {
  const at = await open("/payers?cols=yield,raises");
  await until(() => expect(screen.getAllByRole("columnheader")).toHaveLength(3));
  await at.click("button", /^Own columns/);
  await at.fill("Find a column", "ffo worst");
  await find("checkbox", "AFFO payout, worst of ten");
  await gone("checkbox", "Yield");
  await at.fill("Find a column", "credit");
  await at.click("checkbox", "Credit rating");
  await find("columnheader", "Credit rating");
  await at.fill("Save these columns as", "Ratings");
  await at.click("button", "Save");
  await find("button", "Ratings…");
  await at.press("{Escape}");
  await at.click("button", "Record");
  await at.asks("cols=record");
  await find("columnheader", /^Latest raise/);
});

test("amounts say their currency: at the head where it is one, in the cell where it is not", async () => {
  const at = await open("/payers?cols=price&q=brackenholt", "demo");
  await find("columnheader", "Price, THK");
  at.go("/payers?cols=price&q=transport");
  await find("columnheader", "Price, TLL");
  await says("THK", () => screen.queryByRole("row", { name: /Brackenholt/ }));
  await saysNot("TLL", () => screen.queryByRole("row", { name: /Corrie/ }));
});

test("the delisted stand apart until asked for", async () => {
  const at = await open("/payers?q=ravensgate");
  await says("No payer meets this.");
  await at.click("checkbox", "with 1 delisted");
  await until(() => expect(rows()).toHaveLength(1));
  await at.asks("delisted=true");
});

test("a day is chosen at the top of the page, and one to come is refused in words", async () => {
  const at = await open("/payers", "demo");
  await at.click("button", /^As of/);
  await at.fill("View as of", "2030-01-01");
  await says("1 January 2030 is still to come");
  expect(at.url()).not.toContain("as_of");
  await at.click("button", "10 years back");
  await says("You are viewing 30 June 2016");
  await says("59 of 59");
  await saysNot("Updating measures");
});

test("marked payers are counted, stay marked and go to Compare together", async () => {
  const at = await open("/payers", "demo");
  for (const name of ["Adderstone Pumps", "Ashcombe Timber"]) {
    await at.click("checkbox", `Mark ${name}`);
  }
  await says("2 payers marked");
  const again = at.reload();
  await says("2 payers marked");
  await again.click("link", "Compare them");
  await find("heading", "Compare");
  await again.asks(/compared=RKM\/ADRP,ELV\/ASHC/);
});

test("all found are marked at once", async () => {
  const at = await open("/payers?q=property", "demo");
  await at.click("checkbox", "Mark all payers found");
  await says("8 payers marked");
  await at.click("button", "Unmark");
  await saysNot("marked");
});

test("a search is saved, used, removed and brought back", async () => {
  const at = await open("/payers?q=insurance", "demo");
  await at.click("button", "Saved searches");
  await at.fill("Save this search as", "Insurers");
  await at.press("{Enter}");
  const save = screen.queryByRole("button", { name: "Save" });
  if (save) await at.user.click(save);
  await find("button", "Insurers");
  const again = at.go("/payers");
  await says("59 of 59");
  await again.click("button", "Saved searches");
  await again.click("button", "Insurers");
  await again.asks("q=insurance");
  await again.click("button", "Saved searches");
  await again.click("button", "Remove Insurers");
  await again.click("button", "Bring it back");
  await find("button", "Insurers");
});

test("a cell opens its working and the first column leads to the review", async () => {
  const at = await open("/payers?q=tallow&cols=yield,payout");
  await at.click("button", /^Yield: \d/);
  await says("Declared rate ÷ price", () => screen.queryByRole("dialog"));
  await at.press("{Escape}");
  await at.click("link", /Tallow & Reed Soapworks/);
  await find("heading", "Tallow & Reed Soapworks");
});

test("an unknown measure says why on its cell", async () => {
  await open("/payers?q=quillon&cols=yield,payout");
  const cells = await findAll("button", /unknown|–|not/i, () =>
    screen.queryByRole("row", { name: /Quillon/ }),
  );
  expect(cells[0]?.title.length).toBeGreaterThan(10);
});

test("breadth is read over the years and leads to a payer", async () => {
  const at = await open("/payers/breadth", "demo");
  await says("yield more than their own mean");
  await at.focus("application", /^Share of payers/);
  await says(/of 5\d payers, /);
  const links = () => document.querySelectorAll("#main a[href*='/review/']");
  await until(() => expect(links().length).toBeGreaterThan(0));
  await at.user.click(links()[0] as HTMLElement);
  await at.asks(/\/review\/.*stage=range/);
});

test("an empty product leads to Sources", async () => {
  const at = await open("/payers", "empty");
  await says("No prices held");
  await at.click("link", "Import your first payer");
  await says("Nothing yet.");
});

test("the way to a measure is kept when the columns change", async () => {
  const at = await open("/payers?sort=yield&descending=true");
  await at.click("button", "Cover");
  await at.asks("cols=cover");
  expect(at.url()).toContain("sort=yield");
  at.history.back();
  await until(() => expect(at.url()).not.toContain("cols="));
  await row(/Whinmoor Pipeline/);
});
