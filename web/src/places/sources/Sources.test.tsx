import { fireEvent, screen, within } from "@testing-library/react";
import { expect, test } from "vitest";
import { asked, begin, hold, lose } from "@/testing/api";
import {
  field,
  find,
  findAll,
  gone,
  isDisabled,
  open,
  part,
  region,
  says,
  saysNot,
  until,
  visit,
} from "@/testing/page";

const value = async (label: string | RegExp) => ((await field(label)) as HTMLInputElement).value;

/** A file is chosen, as by the button of the drop zone. */
async function drop(name: string, text: string) {
  const file = new File([text], name, { type: "text/csv", lastModified: 1_780_000_000_000 });
  const zone = await screen.findByLabelText(/^Drop files here/);
  Object.defineProperty(zone, "files", { configurable: true, value: [file] });
  fireEvent.change(zone);
}

const CLOSES = "exchange,symbol,day,close\nELV,TRS,2026-06-28,65\n";

test("a dropped file is previewed, cancelled, imported and undone", async () => {
  const at = await open("/sources?tab=import");
  await drop("prices.csv", CLOSES);
  await find("row", "prices 1 0 0");
  await at.click("button", "Cancel");
  await gone("button", "Import now");
  await drop("prices.csv", CLOSES);
  await at.click("button", "Import now");
  await says("prices.csv is in, as source no. 2.");
  await at.click("button", "Undo the import of prices.csv");
  await says(/undone/);
});

test("a value that would be replaced is shown beside the new one", async () => {
  await open("/sources?tab=import");
  await drop("prices.csv", "exchange,symbol,day,close\nELV,TRS,2026-06-30,62.5\n");
  await says("One value that is held would be replaced");
  await find("row", /ELV\/TRS: close 30 June 2026 \d\d\.\d\d → 62\.5/);
});

test("a table that is not known again is asked, and read by what is said", async () => {
  const at = await open("/sources?tab=import");
  await drop("TRS.csv", "When,What it cost\n2026-06-28,62.5\n");
  await says("What is this table?");
  await at.click("button", "closes, a row a day");
  await says("Choose below which heading is its close and its day.");
  await at.choose("When is taken for", "day");
  await says("Choose below which heading is its close.");
  await at.choose("What it cost is taken for", "close");
  await find("row", "prices 1 0 0");
});

test("a file with faults says where and what, and cannot be imported", async () => {
  await open("/sources?tab=import");
  await drop(
    "prices.csv",
    "exchange,symbol,day,close\nELV,TRS,28/06/2026,65\nELV,NOPE,2026-06-28,x\n",
  );
  await says(/\d errors?/);
  await says("a date as YYYY-MM-DD");
  expect(screen.queryByRole("button", { name: "Import now" })).toBeNull();
});

test("a program that ends during an import is told", async () => {
  const at = await open("/sources?tab=import");
  await drop("prices.csv", CLOSES);
  await find("button", "Import now");
  lose(/^GET \/api\/jobs/);
  await at.click("button", "Import now");
  await says("does not answer");
  lose();
});

test("a sheet as people have it is asked for what it does not say, and its profile kept", async () => {
  const at = await open("/sources?tab=import");
  await drop("TRS.csv", "TRS,FY2024,FY2025\nNet sales,900,950\nNet income,110,120\n");
  const understood = region("What was understood");
  await says("2 periods across", understood);
  await at.click("button", "millions", understood);
  await at.fill("Name of the import profile", "mine");
  await at.click("button", "Accept all");
  await at.click("button", "Import now");
  await at.click("button", "Rename mine");
  await at.fill("New name of mine", "my sheets");
  await at.click("button", "Rename");
  await says("my sheets");
  await at.click("button", "Delete my sheets");
  await says("“my sheets” is deleted.");
  await at.click("button", "Undo");
  await find("button", "Delete my sheets");
});

test("what was answered of files is taken up when they are dropped again, after a reload too", async () => {
  const at = await open("/sources?tab=import");
  await drop("TRS.csv", "When,What it cost\n2026-06-28,62.5\n");
  await at.click("button", "closes, a row a day");
  await at.choose("When is taken for", "day");
  await at.choose("What it cost is taken for", "close");
  await find("row", "prices 1 0 0");
  const again = at.reload();
  await drop("TRS.csv", "When,What it cost\n2026-06-28,62.5\n");
  await says("What you answered of these files before is taken up.");
  await find("row", "prices 1 0 0");
  await again.click("button", "Begin anew");
  await says("What is this table?");
  await saysNot("What you answered of these files before is taken up.");
});

test("a wrong cell is named with its rule, and what is left empty is told", async () => {
  const at = await open("/sources/ELV/TRS?tab=dividends");
  await at.click("button", /^Edit: dividends 2026-03-09/);
  await at.fill("Amount, 1", "");
  await says("Amount, column 1: empty; expected a number above 0");
  await until(async () => expect(isDisabled(await find("button", "Keep it"))).toBe(true));
  await at.fill("Amount, 1", "0.4958");
  await at.fill("Pay date, 1", "");
  await says("0 added, 1 changed");
  await at.click("button", "Keep it");
  await says("Kept, as source no. 2.");
  await saysNot("2026-03-23", () => screen.queryByRole("row", { name: /2026-03-09/ }));
});

test("what is typed outlives a reload, and goes once it is kept", async () => {
  const at = await open("/sources/ELV/TRS?tab=splits");
  await at.click("button", "Enter by hand");
  await at.fill("New shares, 1", "3");
  const again = at.reload();
  await again.click("button", "Enter by hand");
  await until(async () => expect(await value("New shares, 1")).toBe("3"));
  await again.fill("Effective on, 1", "2026-06-01");
  await again.fill("Old shares, 1", "1");
  await again.click("button", "Keep it");
  await says("Kept, as source no. 2.");
  await again.click("button", "Enter by hand");
  expect(await value("New shares, 1")).toBe("");
});

test("today’s price waits for the day it is the price of", async () => {
  await begin("demo");
  const release = hold(/^GET \/api\/status/);
  const at = visit("/sources/ELV/BRNH?tab=splits");
  await at.click("button", "A new dividend");
  await until(async () => expect(document.activeElement).toBe(await field("Ex date, 1")));
  await at.click("button", "Today’s price");
  await until(() => expect(asked.join()).toContain("/facts/prices"));
  await at.press("{Shift}");
  release();
  await until(async () => expect(document.activeElement).toBe(await field("Close, 1")));
  expect(await value("Day, 1")).toBe("2026-06-30");
});

test("a point of a series is looked up and corrected", async () => {
  const at = await open("/sources?tab=shared");
  await find("heading", "Slumps");
  await at.click("button", "Sundrey Isles price index");
  await at.asks("code=SUNDREY-PRICES");
  await at.click("button", /Edit: series 2026-05-01/);
  await at.fill("Value, 1", "250");
  await at.click("button", "Keep it");
  await says("250", () => screen.queryByRole("row", { name: /^2026-05-01/ }));
});

test("the matrix tells where a kind of fact comes from, and leads to it", async () => {
  const at = await open("/sources?q=amberlough");
  await at.focus("link", /Amberlough Mustard, Prices/);
  await says(/Prices: up to date; .*the Sundrey Isles/);
  await at.click("link", /Amberlough Mustard, Fiscal years/);
  await at.asks("period=year");
  await at.choose(/^Show/, "quarter");
  await until(() => {
    expect(screen.getAllByRole("columnheader", { name: /^quarter to/ }).length).toBeGreaterThan(0);
    expect(screen.queryByRole("columnheader", { name: /^year to/ })).toBeNull();
  });
});

test("the matrix shows gaps and leads to them", async () => {
  const at = await open("/sources?q=tansy", "demo");
  await at.click("link", /Quarters: .*missing: 30 September 2018/);
  await at.asks(/\/sources\/ELV\/TNSY\?tab=statements/);
});

test("a slump of one's own is typed, checked, and drawn in the review", async () => {
  const at = await open("/sources?tab=import");
  await at.click("button", "a slump");
  await at.fill("Slump, 1", "The fog");
  await at.fill("Begins, 1", "2015-03-02");
  await at.fill("Ends, 1", "2015-01-05");
  await says("expected on or after begins");
  await at.fill("Ends, 1", "2015-11-30");
  await at.click("button", "Keep it");
  await says("Kept, as source no. 2.");
  at.go("/review/ELV/TRS");
  await says(/fog/, part("record"));
});

test("a note and the payer itself by hand carry their pencil", async () => {
  const at = await open("/sources/ELV/TRS?tab=payers");
  await at.click("button", /^Edit: payers/);
  expect(((await field("Symbol, 1")) as HTMLInputElement).readOnly).toBe(true);
  await at.fill("Rhythm, 1", "4");
  await at.click("button", "Keep it");
  await says("Kept, as source no. 2.");
  at.go("/review/ELV/TRS");
  await until(() =>
    expect(screen.getAllByLabelText("rests on a figure entered by hand").length).toBeGreaterThan(0),
  );
});

test("what stands in the address is what is shown again", async () => {
  const at = await open("/sources/ELV/SLTM");
  await at.choose(/^Show/, "year");
  await at.asks("period=year");
  const again = at.reload();
  await until(() =>
    expect(screen.getAllByRole("columnheader", { name: /version of/ })).toHaveLength(2),
  );
  await again.click("button", "Dividends");
  await until(() => expect(again.url()).not.toContain("span="));
  again.history.back();
  await until(() =>
    expect(screen.getAllByRole("columnheader", { name: /version of/ })).toHaveLength(2),
  );
});

test("all stored closes are within reach", async () => {
  const at = await open("/sources/ELV/TRS?tab=prices");
  const pages = () => screen.queryByRole("navigation", { name: "Pages" });
  await says("1 to 100 of 2,009", pages);
  await at.click("button", "Oldest", pages);
  await says("2,001 to 2,009 of 2,009", pages);
  await at.asks("page=21");
  at.reload();
  await says("2,001 to 2,009", pages);
});

test.each([
  ["shared", "None is held yet. A price index is what dividends are held against"],
  ["edits", "Nothing is edited or excluded."],
  ["held", "No payer is held yet"],
])("an empty %s says what belongs there", async (tab, words) => {
  await open(`/sources?tab=${tab}`, "empty");
  await says(words);
});

test("a first payer is typed by hand and reviewed", async () => {
  const at = await open("/sources?tab=import", "empty");
  await at.click("button", /^a payer/);
  for (const [name, cell] of [
    ["Name", "Newcomers & Sons"],
    ["Symbol", "NEW"],
    ["Exchange", "ELV"],
    ["Country", "Sundrey Isles"],
    ["Currency, three letters", "TLL"],
  ] as const)
    await at.fill(name, cell);
  await at.click("button", "Keep the payer alone");
  await says("Kept, as source no. 1.");
  const review = at.go("/review/ELV/NEW");
  await find("heading", "Newcomers & Sons");
  await says("No regular dividend on record");
  review.go("/payers");
  await find("link", /Newcomers & Sons/);
});

test("a close that is excluded stays, is marked where it counted, and counts again", async () => {
  const at = await open("/sources/ELV/GWK?tab=prices");
  await at.click("button", "Exclude: prices 2026-06-30");
  await at.user.type(await field("Why it should not count"), "A misread close");
  const [act] = (await findAll("button", "Exclude it")).slice(-1);
  await at.user.click(act as HTMLElement);
  await find("button", "Count again: prices 2026-06-30");
  const payers = at.go("/payers?q=greywake&cols=price,yield");
  const mine = () => screen.queryByRole("row", { name: /Greywake/ });
  await until(() =>
    expect(
      within(mine() as HTMLElement).getAllByLabelText("rests on a figure you edited"),
    ).toHaveLength(2),
  );
  const facts = payers.go("/sources/ELV/GWK?tab=prices");
  await facts.click("button", "Count again: prices 2026-06-30");
  await find("button", "Exclude: prices 2026-06-30");
});

test("what is no backup is refused in words", async () => {
  const at = await open("/sources?tab=export");
  const chosen = (await field(/^Restore a backup/)) as HTMLInputElement;
  const wrong = new File(['{"format": "shopping list"}'], "wrong.json");
  Object.defineProperty(chosen, "files", { configurable: true, value: [wrong] });
  fireEvent.change(chosen);
  await at.click("button", "Replace everything");
  await says("The file is no backup of Hearth Yield");
});

test("a dividend by hand that jumps is asked about, and shows in the table of payers", async () => {
  const at = await open("/sources/ELV/AMLH?tab=dividends");
  await at.click("button", "Enter by hand");
  await until(async () => expect(await value("Currency, 1")).toBe("TLL"));
  await at.fill("Ex date, 1", "2026-09-10");
  await at.fill("Declared on, 1", "2026-06-29");
  await at.fill("Amount, 1", "2.00");
  await at.click("button", "Accept all");
  await at.click("button", "Keep it");
  await says("Kept, as source no. 2.");
  at.go("/payers?q=amberlough");
  await until(() =>
    expect(screen.getAllByLabelText("rests on a figure entered by hand").length).toBeGreaterThan(0),
  );
});

test("a dividend excluded with a reason is told in the review, and counts again", async () => {
  const at = await open("/sources/ELV/TRS?tab=dividends");
  const newest = await find("button", /^Exclude: dividends 2026-06-\d\d regular/);
  const day = /2026-06-\d\d/.exec(
    newest.getAttribute("aria-label") ?? newest.textContent ?? "",
  )?.[0];
  await at.user.click(newest);
  await at.user.type(await field("Why it should not count"), "It stood twice in the file");
  await at.click("button", "Exclude it");
  const mine = () => screen.queryByRole("row", { name: new RegExp(`^${day}`) });
  await find("button", /Count again/, mine);
  await gone("button", /^Edit/, mine);
  const review = at.go("/review/ELV/TRS");
  await says(/excluded by you .*: It stood twice/);
  await until(() => screen.getAllByLabelText("rests on a figure you edited"));
  await review.click("link", "Edits");
  const line = () => screen.queryByRole("row", { name: /Dividends, \d+ June 2026 regular/ });
  await says("excluded", line);
  await review.click("button", /Include again/, line);
  await find("button", /Exclude again/, line);
});

test("a held fact is corrected in place and the correction undone", async () => {
  const at = await open("/sources/ELV/SLTM?period=year");
  const edit = /^Edit: statements 2025-12-31 year/;
  await at.click("button", edit);
  const before = await value("Net income, 1");
  expect(((await field("Period end, 1")) as HTMLInputElement).readOnly).toBe(true);
  await says("0 added, 0 changed, 1 the same");
  expect(isDisabled(await find("button", "Keep it"))).toBe(true);
  await at.fill("Net income, 1", String(Number(before) + 1e6));
  await says("0 added, 1 changed");
  await at.click("button", "Keep it");
  await find("columnheader", /year to 2025-12-31.*rests on a figure entered by hand/);
  const sources = at.go("/sources?tab=import");
  await sources.click("button", "Undo the import of typed: statements of SLTM");
  await says(/undone/);
  const again = sources.go("/sources/ELV/SLTM?period=year");
  await again.click("button", edit);
  expect(await value("Net income, 1")).toBe(before);
});

test("a statement of what one owns asks for the account alone, and comes in once", async () => {
  const at = await open("/sources?tab=import");
  const text =
    "Account: 4711 (TLL),,,,,\n\nDate,Type,Symbol,Quantity,Price,Net amount\n" +
    "2026-01-05,Buy,TRS,50,32.11,1605.50\n2026-03-26,Dividend,TRS,,,31.00\n";
  await drop("mine.csv", text);
  await says("Which account is “4711”?");
  expect(await value("Name of a new account")).toBe("4711");
  await at.fill("Name of a new account", "Harbour");
  await at.click("button", "Make this account");
  await says("1 buy, 1 dividend, from 5 January 2026 to 26 March 2026.");
  await find("row", "entries 2 0 0");
  await at.click("button", "Import now");
  await says("mine.csv is in, as source no. 2.");
  await drop("again.csv", text);
  await says("Read by your profile “mine”.");
  await find("row", "entries 0 0 2");
  at.go("/holdings?tab=entries");
  await says(/50 of Tallow & Reed Soapworks|Tallow & Reed Soapworks/);
});
