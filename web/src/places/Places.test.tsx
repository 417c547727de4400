/** Hearth, Watch, Journal, Compare, House rules and the glossary, each as a person meets it. */
import { screen } from "@testing-library/react";
import { expect, test } from "vitest";
import { client } from "@/api/client";
import {
  dialog,
  field,
  find,
  gone,
  open,
  part,
  region,
  says,
  saysNot,
  until,
} from "@/testing/page";

/** Decided before the page is opened. */
async function decided(symbol: string, more: object = {}) {
  const path = { exchange: "ELV", symbol };
  const body = { verdict: "wait", words: "Not yet.", as_of: "2026-06-30", ...more };
  const at = "/api/payers/{exchange}/{symbol}/decisions";
  const made = await client.POST(at, { params: { path }, body: body as never });
  expect(made.response.status).toBe(201);
}

test("the hearth says that nothing needs one, or who has come within reach", async () => {
  const at = await open("/", "demo");
  const needs = region("Needs you");
  await says(/came of the .* due on/, needs);
  await says("1 payment is missing, 1 came short.");
  await says(/Of 59 payers/);
  await says(/yield more than their own five-year mean/);
  await says("TLL", () => screen.queryByRole("row", { name: /Greywake Kilns/ }));
  await decided("TRS", { verdict: "buy", buy_below: "900" });
  const again = at.reload();
  await says(/Closed at .* at or under your buy-below price/, needs);
  await again.click("link", "Tallow & Reed Soapworks", needs);
  await find("heading", "Tallow & Reed Soapworks");
});

test("the hearth of a past day knows only that day", async () => {
  await open("/?as_of=2016-06-30");
  await says("You are viewing 30 June 2016");
  await until(() => expect(screen.getAllByRole("row", { name: /Jul/ }).length).toBeGreaterThan(0));
});

test("an address of a day to come is told once and shows the way back", async () => {
  const at = await open("/?as_of=2030-01-01", "demo");
  await says("1 January 2030 is still to come");
  expect(screen.getAllByRole("alert")).toHaveLength(1);
  await at.click("button", "Go to today");
  await says(/Of 59 payers/);
  expect(screen.queryByRole("alert")).toBeNull();
});

test("an empty hearth says how to begin", async () => {
  const at = await open("/", "empty");
  await find("link", "your limits");
  await at.click("link", "Import a spreadsheet");
  await says("Drop files here");
});

test("watch says what it is for, then how far each price is from what is waited for", async () => {
  const at = await open("/watch");
  await says("Nothing is waited for yet.");
  await decided("CRF", { verdict: "hold", trim_above: "990" });
  await decided("TRS", { buy_below: "900" });
  const again = at.reload();
  await says("Tallow & Reed Soapworks is within reach.");
  const trim = () => screen.queryByRole("row", { name: /trim above 990.00/ });
  await again.click("button", /^distance to the trim-above price/, trim);
  await says("1 − price ÷ trim-above price", dialog);
  await says("990.0000 TLL", dialog);
});

test("a payer is watched with a note in a group, and no more", async () => {
  const at = await open("/watch");
  await at.fill("Watch another", "amberl");
  await at.click("button", "Amberlough Mustard");
  await at.click("button", "Note: Amberlough Mustard");
  await at.fill("Note on Amberlough Mustard", "Wait for autumn.");
  await at.fill("Group", "Staples");
  await at.click("button", "Save");
  await says("Wait for autumn.");
  await at.fill("Watch another", "tallow");
  await at.click("button", "Tallow & Reed Soapworks");
  await find("heading", "Staples");
  await at.click("button", "Watch no more: Tallow & Reed Soapworks");
  await gone("heading", "Staples");
});

test("the journal holds a decision, takes a note on looking back, and filters", async () => {
  const at = await open("/journal");
  await says("No decision is recorded yet.");
  await decided("TRS", { words: "The price has run ahead.", next_look: "2026-12-01" });
  const again = at.reload();
  const entry = () => screen.queryByRole("article", { name: /Tallow & Reed Soapworks/ });
  await says("The price has run ahead.", entry);
  await says("Next look: 1 December 2026.", entry);
  await again.click("button", /^Note on looking back/, entry);
  await again.fill("What you see, looking back", "I was too cautious.", entry);
  await again.click("button", "Save the note", entry);
  await says("I was too cautious.", entry);
  await again.choose("Outcome", "off");
  await says("None is like that.");
  await again.asks("outcome=off");
});

const table = region("Measures compared");

test("compared payers are weighed, and it is said what would change the winner", async () => {
  const at = await open("/compare?compared=ELV/TRS,ELV/AMLH,ELV/CRF");
  await find("columnheader", /Corrie Ferries/, table);
  await at.fill("Weight of Yield", "4");
  await says("Amberlough Mustard comes first with");
  await says(/(Raising|Lowering) the weight of .* level/);
  const again = at.reload();
  await until(async () =>
    expect(((await field("Weight of Yield")) as HTMLInputElement).value).toBe("4"),
  );
  await again.click("button", /^Yield: more is better/);
  await find("button", /^Yield: less is better/);
  await again.choose("Add a measure", "return_on_equity");
  await find("row", /^Return on equity/, table);
  await again.click("button", "Take out Corrie Ferries");
  await gone("columnheader", /Corrie/, table);
});

test("a set of measures is chosen, and a comparison saved and taken up", async () => {
  const at = await open("/compare?compared=ELV/TRS,ELV/AMLH");
  await at.choose("Measures", "footing");
  await find("row", /^Net debt to EBITDA/, table);
  await at.click("button", "Save this comparison");
  await at.fill("Name of the comparison", "Two soaps");
  await at.click("button", "Save");
  await gone("button", "Save");
  const again = at.go("/compare");
  await again.choose("Measures", "Two soaps");
  await find("columnheader", /Amberlough/, table);
});

test("amounts of two currencies are compared in one, and that is said", async () => {
  const at = await open("/compare?compared=RKM/ADRP,ELV/ASHC", "demo");
  await find("columnheader", /Adderstone/, table);
  await saysNot(/are compared in/);
  await at.choose("Add a measure", "net_debt");
  await says(/are compared in/);
});

test("a sector is compared in one action, up to six of it", async () => {
  const at = await open("/payers?by=sector", "demo");
  await at.click("button", /^Compare 6 of Industry/i);
  await until(() =>
    expect(table()?.querySelectorAll("thead th, th[scope=col]").length).toBeGreaterThan(7),
  );
});

const effect = () => screen.queryByRole("complementary", { name: "What would change" });

test("a limit is moved, its effect read, saved with a reason, and put back", async () => {
  const at = await open("/house-rules", "demo");
  await says("59 payers are held against these rules", effect);
  await at.fill("Net debt to EBITDA, companies", "0.5");
  await says(/\d+ of 59 payers would change state/, effect);
  await find("link", "Tallow & Reed Soapworks", effect);
  const again = at.reload();
  const limit = async () =>
    ((await field("Net debt to EBITDA, companies")) as HTMLInputElement).value;
  await until(async () => expect(await limit()).toBe("0.5"));
  await again.fill(/^Why/, "Less debt", effect);
  await again.click("button", "Save", effect);
  await says("Less debt");
  const review = again.go("/review/ELV/TRS?stage=footing");
  await says(/above your|under your minimum/, part("footing"));
  const rules = review.go("/house-rules");
  await rules.click("button", "Restore the version “the house’s own”");
  await until(async () => expect(await limit()).toBe("3.0"));
});

test("a setting that moves no state shows what it does to prices", async () => {
  const at = await open("/house-rules");
  await at.fill("Margin of safety", "30");
  await says("No payer would change state.", effect);
  await says(/Buy-below would move for \d+ of \d+ payers, −12\.5/, effect);
  await at.click("button", "Drop the changes");
  await saysNot("Buy-below would move", effect);
});

test("an exception is refused in words, added and dropped", async () => {
  const at = await open("/house-rules");
  const form = () =>
    screen.queryByRole("button", { name: "Add exception" })?.closest("form") ?? null;
  await at.choose("For", "payer", form);
  await at.fill("Payer", "ELV/GWK", form);
  await at.choose("Test", "debt_to_ebitda", form);
  await at.fill("Limit", "x", form);
  await at.click("button", "Add exception", form);
  await says("nothing was added", form);
  await at.fill("Limit", "6", form);
  await at.click("button", "Add exception", form);
  const mine = () => screen.queryByText(/ELV\/GWK/)?.closest("li") ?? null;
  await says("6.0×, required", mine);
  await at.click("button", "Drop the changes");
  await until(() => expect(mine()).toBeNull());
});

test("what one wants to hear of is chosen, and the hearth then tells it", async () => {
  const at = await open("/house-rules", "twenty");
  const raised = (await field(/^Dividend raised/)) as HTMLSelectElement;
  expect(raised.value).toBe("followed");
  await at.choose(/^Dividend raised/, "all");
  await at.fill(/^Why/, "All raises", effect);
  await at.click("button", "Save", effect);
  await says("All raises");
  const home = at.go("/");
  const news = region("New since you looked");
  await says(/Declared .* up .* from/, news);
  await home.click("button", "All seen", news);
  await says("Nothing new.");
});

test("house rules on a past day are those of today, and that is said", async () => {
  await open("/house-rules?as_of=2012-06-29");
  await says("House rules are those of today");
});

test("the glossary says what words mean and leads to a measure", async () => {
  const at = await open("/glossary");
  await says("How far the cash or earnings underneath can fall", region("Words of our own"));
  const seek = await screen.findByPlaceholderText("Seek a word");
  await at.user.type(seek, "ex-date");
  await until(() => expect(region("Words of our own")()).toBeNull());
  await says(
    "The first day on which a buyer no longer gets the dividend",
    region("Words of the trade"),
  );
  await at.user.clear(seek);
  await at.user.type(seek, "net debt to ebitda");
  await at.click("link", "Net debt to EBITDA");
  await find("columnheader", /Net debt to EBITDA/);
});

test("there is nothing at an address that is none", async () => {
  await open("/nowhere");
  await says("There is nothing at this address");
});

test("what was decided elsewhere is in the journal when one goes there", async () => {
  const at = await open("/review/ELV/TRS?stage=decision");
  await find("button", "Record the decision");
  await decided("TRS", { words: "From elsewhere." });
  at.go("/journal");
  await says("From elsewhere.");
});
