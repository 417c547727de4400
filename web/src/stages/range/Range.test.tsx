import { screen } from "@testing-library/react";
import { expect, test } from "vitest";
import { asked } from "@/testing/api";
import {
  dialog,
  field,
  find,
  findAll,
  gone,
  marked,
  open,
  part,
  row,
  says,
  saysNot,
  until,
} from "@/testing/page";

const RANGE = "/review/ELV/TRS?stage=range";
const range = part("range");
const aim = marked("aim");
const told = marked("put-in");
const rail = () => screen.queryByRole("complementary", { name: "Findings" });

test("a price typed at the ruler sets the aim, and one that is none is refused in words", async () => {
  const at = await open(RANGE);
  await at.user.clear(await field("Price, TLL", range));
  await at.user.type(await field("Price, TLL", range), "50{Enter}");
  await says("At 3.96", aim);
  for (const [typed, words] of [
    ["abc", "“abc” is not a number"],
    ["1,234", "can be read as 1234"],
  ] as const) {
    await at.user.clear(await field("Price, TLL", range));
    await at.user.type(await field("Price, TLL", range), `${typed}{Enter}`);
    await says(words, range);
  }
});

test("another window is another mean", async () => {
  const at = await open(RANGE);
  await says("its 5-year mean", rail);
  await at.click("button", "10 years", range);
  await says("its 10-year mean", rail);
  await says("of 520 weeks", aim);
});

test("a window of one's own is typed and kept", async () => {
  const at = await open(RANGE);
  await at.click("button", "between two days", range);
  await at.fill("Window from", "2016-01-01", range);
  await at.fill("Window to", "2019-12-31", range);
  await at.asks("window=2016-01-01..2019-12-31");
  await says("its mean of 1 January 2016 to 31 December 2019", rail);
  at.reload();
  await until(async () =>
    expect(((await field("Window from", range)) as HTMLInputElement).value).toBe("2016-01-01"),
  );
});

test("a moved aim asks one small question and nothing else", async () => {
  const at = await open(RANGE, "demo", true);
  await says(/At \d\.\d\d/, aim);
  const first = /At \d\.\d\d/.exec(aim()?.textContent ?? "")?.[0] as string;
  await find("button", "Record the decision");
  await says("Not decided yet.");
  await at.quiet();
  await at.focus("slider", "Target yield", range);
  const before = asked.length;
  await at.press("{ArrowUp}");
  await saysNot(first, aim);
  await until(() => expect(asked.length).toBeGreaterThan(before));
  expect(asked.slice(before).map((a) => a.split("?")[0])).toEqual(["GET /api/payers/ELV/TRS/aim"]);
});

test("a multiple is aimed at by keyboard, by its mean or its median", async () => {
  const at = await open(RANGE);
  await at.click("button", "earnings", range);
  await says(/Price to earnings is .* its 5-year median/, marked("range-finding"));
  await at.focus("slider", "Target price to earnings", range);
  await at.press("{ArrowDown>10/}");
  await says(/At 1\d\.\d+× you would pay/, aim);
  await at.asks("quantity=earnings");
  await says("Justified by growth and required return", range);
  await at.click("button", "mean", range);
  await says("its 5-year mean", marked("range-finding"));
  const again = at.reload();
  await says("its 5-year mean", marked("range-finding"));
  await again.click("button", "yield", range);
  await find("slider", "Target yield", range);
});

test.each([
  ["LRT", "AFFO"],
  ["WPP", "distributable cash"],
  ["PLG", "book value"],
])("%s is read by %s", async (symbol, first) => {
  const at = await open(`/review/ELV/${symbol}?stage=range`);
  await at.click("button", first, range);
  await says(/its 5-year/, marked("range-finding"));
});

test("a loss has no multiple, and that is said", async () => {
  await open("/review/ELV/CRF?stage=range&quantity=earnings&as_of=2020-12-31");
  await says("Earnings per share is not positive", range);
});

test("a figure of a multiple opens its working", async () => {
  await open(`${RANGE}&quantity=earnings&open=ELV/TRS/range.shown.fair_price`);
  await says("median price to earnings × earnings per share", dialog);
});

test("a step to buy in by is kept, aimed at again, and deleted", async () => {
  const at = await open(`${RANGE}&aim=0.04`);
  await says("you would pay", aim);
  await at.fill(/^Put in at this aim/, "2500", range);
  await at.click("button", "Keep as a step", range);
  await row(/yield of 4.00/, range);
  await says("2,500.00", range);
  const again = at.go(RANGE);
  const [kept] = await findAll("button", /yield of 4.00/, range);
  await again.user.click(kept as HTMLElement);
  await again.asks("aim=0.04");
  await again.click("button", /^Delete the step/, range);
  await gone("row", /yield of 4.00/, range);
});

test("over the years a week and a span are read by key", async () => {
  const at = await open(`${RANGE}&range=years&quantity=earnings`);
  await says("would pay today", marked("distance-finding"));
  await at.focus("application", /^Distance of the price/, range);
  await at.press("{ArrowLeft}");
  await says("what the median", marked("distance-read"));
  await at.press("{Shift>}{PageDown>8/}{/Shift}{Enter}");
  await at.asks("span=");
  await says("a year came from", told);
  await at.click("button", "table", range);
  await find("table", "Distance by week", range);
});

test("a span of the price is chosen and what it brought is read", async () => {
  const at = await open(`${RANGE}&range=price`);
  await says("10,000 put in on 5 January 1996", told);
  await at.click("button", "10 years", range);
  await says("dividends put back in; in the market, likewise, it was", told);
  await says(/a year came from .* growth of declared rate/, told);
  await find("columnheader", "chosen span", range);
  await at.fill("from", "2019-02-04", range);
  await at.fill("to", "2020-03-31", range);
  await says("on 27 March 2020", told);
  const again = at.reload();
  await says("on 27 March 2020", told);
  await again.click("button", "all", range);
  await says("5 January 1996", told);
});

test("a day of the price is read, and a span chosen, by keyboard", async () => {
  const at = await open(`${RANGE}&range=price`);
  await at.focus("application", /^Prices from/, range);
  await says(/^30 June 2026: Tallow & Reed Soapworks \d\d\.\d\d TLL/, marked("price-read"));
  await at.press("{ArrowLeft}");
  await says("29 June 2026", marked("price-read"));
  await at.press("{Shift>}{PageDown>4/}{/Shift}{Enter}");
  await at.asks(/span=20.*2026-06-29/);
});

test("a level is drawn, moved by key, named, found after a reload, and taken away", async () => {
  const at = await open(`${RANGE}&range=price`);
  await at.click("button", "a level", range);
  const level = await find("slider", "level", range);
  const drawn = level.getAttribute("aria-valuetext");
  level.focus();
  await at.press("{ArrowDown}");
  await until(() => expect(level.getAttribute("aria-valuetext")).not.toBe(drawn));
  const moved = level.getAttribute("aria-valuetext");
  expect(Number(moved)).toBeLessThan(Number(drawn));
  const name = await field("Name of level", range);
  await at.user.clear(name);
  await at.user.type(name, "first buy{Enter}");
  const price = await field("Price at", range);
  await at.user.clear(price);
  await at.user.type(price, "sixty{Enter}");
  await says("“sixty” is not a number", range);
  expect(price).toHaveProperty("value", "sixty");
  await find("slider", "first buy", range);
  const again = at.reload();
  const kept = await find("slider", "first buy", range);
  expect(kept.getAttribute("aria-valuetext")).toBe(moved);
  await again.click("button", "Take away first buy", range);
  await gone("slider", "first buy", range);
});

test("a level that is moved as one leaves is kept all the same", async () => {
  const at = await open(`${RANGE}&range=price`);
  await at.click("button", "a level", range);
  const level = await find("slider", "level", range);
  const drawn = level.getAttribute("aria-valuetext");
  level.focus();
  await at.press("{ArrowDown}");
  await until(() => expect(level.getAttribute("aria-valuetext")).not.toBe(drawn));
  const moved = level.getAttribute("aria-valuetext");
  at.reload();
  const kept = async () => (await find("slider", "level", range)).getAttribute("aria-valuetext");
  await until(async () => expect(await kept()).toBe(moved));
});

test("the price stands beside the market and other payers, picked by name or symbol", async () => {
  const at = await open(`${RANGE}&range=price`);
  await at.click("button", "against the market", range);
  await says("Sundrey market, all payers alike", range);
  await at.fill("Beside another payer", "elv/gwk", range);
  await at.click("button", "Draw it", range);
  await says("Greywake Kilns", range);
  await at.fill("Beside another payer", "elv/none", range);
  await at.click("button", "Draw it", range);
  await find("alert", undefined, range);
  await at.click("button", "ELV/NONE × take away", range);
  await gone("alert", /./, range);
});

test.each(["NWO", "QLN", "RVGF"])("%s, new, never paying or gone, has a course", async (symbol) => {
  await open(`/review/ELV/${symbol}?stage=range&range=price`);
  await says("put in on", told);
});
