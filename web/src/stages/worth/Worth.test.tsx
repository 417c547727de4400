import { screen } from "@testing-library/react";
import { expect, test } from "vitest";
import {
  dialog,
  field,
  find,
  gone,
  marked,
  open,
  part,
  row,
  says,
  saysNot,
  until,
} from "@/testing/page";

const TRS = "/review/ELV/TRS?stage=worth";
const worth = part("worth");
const path = marked("path");
type Page = Awaited<ReturnType<typeof open>>;
/** Opens a question to its models. */
const ask = (at: Page, question: string) => at.click("button", new RegExp(`^${question}`), worth);

test("an input out of bounds is named and kept, and the model says when it cannot stand", async () => {
  const at = await open(TRS);
  await ask(at, "Its dividends");
  await at.fill("Dividend growth", "80", worth);
  await says("between −50 % and 50 %; nothing changed", worth);
  expect(((await field("Dividend growth", worth)) as HTMLInputElement).value).toBe("80");
  expect(at.url()).not.toContain("growth");
  await says(/Two stages[\d.]+ to [\d.]+/, () =>
    screen.queryByRole("row", { name: /^Two stages/ }),
  );
  await at.fill("Dividend growth", "1,234", worth);
  await says("can be read as 1234 or as 1.234", worth);
  await at.fill("Dividend growth", "7,5", worth);
  await at.asks("growth:0.075");
  expect(((await field("Dividend growth", worth)) as HTMLInputElement).value).toBe("7,5");
  const constant = () => screen.queryByRole("row", { name: /^Constant growth/ });
  await at.click("checkbox", /./, constant);
  await at.fill("Dividend growth", "8", worth);
  await says("is not two points under the required return", constant);
  await at.fill("Dividend growth", "3", worth);
  await says("40.79", constant); // 1.98 × 1.03 ÷ 0.05
});

test("arrows move an input by its step", async () => {
  const at = await open(`${TRS}&inputs=growth:0.03`);
  (await field("Dividend growth", worth)).focus();
  await at.press("{ArrowUp}");
  await at.asks("growth:0.031");
  await at.click("button", "reset", worth);
  await until(() => expect(at.url()).not.toContain("growth"));
});

test("a model is switched off and on again, and the address keeps it", async () => {
  const at = await open(TRS);
  await ask(at, "Its own past");
  await at.click("checkbox", /Yield reversion/, worth);
  await says("switched off by you", worth);
  await at.asks("off=yield_reversion");
  const again = at.reload();
  const box = (await find("checkbox", /Yield reversion/, worth)) as HTMLInputElement;
  expect(box.checked).toBe(false);
  await again.click("checkbox", /Yield reversion/, worth);
  await until(() => expect(again.url()).not.toContain("off="));
});

test("the weeks of before a cut do not count", async () => {
  await open("/review/ELV/GWK?stage=worth");
  await says("since the dividend was cut or resumed on 20 May 2026", worth);
});

test("a model that does not suit says why and may be switched on", async () => {
  const grows = await open(TRS);
  await ask(grows, "Its dividends");
  await says("more than 4 % is not taken to go on for ever", worth);
  await grows.click("checkbox", /Constant growth/, worth);
  await says("switched on by you", worth);
  expect(grows.url()).toContain("on=constant_growth");
});

test("a model set aside keeps its reason, and a weight moves the combined value", async () => {
  const at = await open(TRS);
  await ask(at, "Its dividends");
  const fading = () => screen.queryByRole("row", { name: /^Fading growth/ });
  await at.click("checkbox", /./, fading);
  await says("switched off by you", fading);
  await at.user.type(await field("Why it is set aside", worth), "the fade is a guess{Enter}");
  await says("switched off by you: the fade is a guess", fading);
  const again = at.reload();
  await says("the fade is a guess", fading);
  const combined = () => /Worth [0-9.]+ TLL a share/.exec(document.body.textContent ?? "")?.[0];
  await until(() => expect(combined()).toBeTruthy());
  const before = combined();
  await ask(again, "Its own past");
  const yields = () => screen.queryByRole("row", { name: /^Yield reversion/ });
  await again.click("button", /Details/, yields);
  await again.fill("Weight of Yield reversion", "5", worth);
  await again.asks("weights=");
  await until(() => expect(combined()).not.toBe(before));
});

test("an exit yield of nil is a sentence at the input and the rest lives", async () => {
  const at = await open(`${TRS}&worth=return&path_measure=yield`);
  await says("a year: income", path);
  await at.fill("Exit yield", "0", worth);
  await says("Exit yield: between", worth);
  await says("a year: income", path);
});

test("growth over the return is said and the rest lives", async () => {
  const at = await open(`${TRS}&inputs=growth:0.09,later_growth:0.08&on=constant_growth`);
  await says("is not two points under the required return", () =>
    screen.queryByRole("row", { name: /^Constant growth/ }),
  );
  await row(/^Two stages/, worth);
  await at.click("button", "What moves it", worth);
  await says("For today’s price to be fair", worth);
});

test("what moves it is ranked, two inputs make a grid, and a cell opens its working", async () => {
  const at = await open(`${TRS}&worth=trials`);
  await says("For today’s price to be fair", worth);
  await says("The chance that it exceeds the price is", worth);
  const grid = () => screen.queryByRole("table", { name: /across, .* down/ });
  await until(() => expect(grid()?.querySelectorAll("tr")).toHaveLength(8));
  await at.choose("Across", "Mean yield", worth);
  await at.asks("across=mean_yield");
  await says("Mean yield →", grid);
  const before = grid()?.textContent ?? "";
  await at.fill("Required return", "9.5", worth);
  await until(() => expect(grid()?.textContent).not.toBe(before));
  const corner = grid()?.querySelectorAll("tr")[1]?.querySelector("button");
  const value = corner?.textContent ?? "";
  await at.user.click(corner as HTMLElement);
  await says("Σ weight × answer ÷ Σ weights", dialog);
  const precise = Number(/Close([\d.]+)/.exec(dialog()?.textContent ?? "")?.[1]);
  expect(Math.abs(precise - Number(value))).toBeLessThan(0.02);
});

test("low and high are typed with their chances", async () => {
  const at = await open(TRS);
  await at.click("button", "Low and high cases, their chances, more margins", worth);
  await at.fill("Dividend growth, low", "1", worth);
  await at.asks("growth.low");
  await at.fill("Chance of the low case", "50", worth);
  await says("the combined value is", worth);
});

test("two cases are kept, stand side by side, are taken up and deleted", async () => {
  const at = await open(`${TRS}&worth=cases&inputs=growth:0.03`);
  await at.fill("Keep what is shown now as", "careful", worth);
  await at.click("button", "Keep", worth);
  await find("button", "careful", worth);
  await at.fill("Dividend growth", "7", worth);
  await at.asks("growth:0.07");
  await at.fill("Keep what is shown now as", "hopeful", worth);
  await at.click("button", "Keep", worth);
  await find("button", "hopeful", worth);
  const grows = () => screen.queryByRole("row", { name: /^Dividend growth/ });
  await says("3.00", grows);
  await says("7.00", grows);
  const again = at.reload();
  await again.click("button", "careful", worth);
  await again.asks("growth:0.03");
  await again.click("button", "Delete hopeful", worth);
  await gone("button", "hopeful", worth);
});

test("peers are left out one by one and their multiple counts in when taken over", async () => {
  const at = await open("/review/ELV/ORCF?stage=worth&worth=peers", "demo");
  const median = () => screen.queryByRole("row", { name: /^Median of those left in/ });
  await until(() => expect(median()).not.toBeNull());
  const before = median()?.textContent;
  await at.click("checkbox", /^Kiln Lane/, worth);
  await until(() => expect(median()?.textContent).not.toBe(before));
  await at.click("button", /Take over \(price to AFFO\)/, worth);
  await at.asks("peers_affo");
  await at.click("button", "What it is worth", worth);
  await says("switched on by you", () =>
    screen.queryByRole("row", { name: /^Its peers’ price to AFFO/ }),
  );
});

test("the return path follows what it is told to", async () => {
  const at = await open(`${TRS}&worth=return`);
  await says("a year: income", path);
  const first = path()?.textContent;
  await at.fill("Sold after", "10", worth);
  await says("sold after 10 years", path);
  expect(path()?.textContent).not.toBe(first);
  await at.click("button", "revenue, margin and shares", worth);
  await says("change of the share count", path);
  at.reload();
  await says("sold after 10 years", path);
});

test("every model's details say where its value comes from", async () => {
  const at = await open(TRS);
  await ask(at, "Its dividends");
  const two = () => screen.queryByRole("row", { name: /^Two stages/ });
  await at.click("button", /Details/, two);
  await says("Where it comes from", worth);
  await find("region", /year by year/, worth);
  await at.click("button", /Close/, two);
  await saysNot("Where it comes from", worth);
});

test("a second opinion is opened, moved and counted in, and the rest say why not", async () => {
  const at = await open(TRS);
  await at.click("button", /its cash, \d/, worth);
  const cash = () => screen.queryByRole("row", { name: /^Cash flow, sold at a multiple/ });
  await at.click("button", /Details/, cash);
  await at.fill("Exit price to free cash flow", "20", worth);
  await at.asks("cash_multiple");
  await at.click("checkbox", /./, cash);
  await at.asks("on=cash_to_multiple");
  await says("switched on by you", cash);
  at.reload();
  await says("switched on by you", cash);
  await at.user.click(await screen.findByText(/more models, and why they do not suit/));
  await says("only a property trust reports AFFO", worth);
});

test("a trust is valued on AFFO and on its net assets", async () => {
  const at = await open("/review/ELV/LRT?stage=worth");
  await ask(at, "Its cash");
  await at.click("button", /others,/, worth);
  await row(/AFFO, sold at a multiple/, worth);
  await row(/Net asset value from income/, worth);
});

test("too young a payer says what to type, and is valued once it is typed", async () => {
  const at = await open("/review/ELV/NWO?stage=worth");
  await says("0 full years of dividends on record; 3 are needed; type your own", worth);
  await says("Type how fast its dividend may grow.");
  await at.fill("Dividend growth", "3", worth);
  await says("Its dividends alone");
});

test("three questions, their weights, and what they come to together", async () => {
  const at = await open(TRS);
  await says(
    /Worth [\d.]+ TLL a share; today’s price of [\d.]+ TLL is [\d.]+ % (over|under) it/,
    worth,
  );
  await says(/grows [\d.]+ % a year for 5 years, then 4.0 %; you assume [\d.]+ %/, worth);
  const dividends = () => screen.queryByRole("row", { name: /^Its dividends 2 models/ });
  await says(/pays out [\d.]+ %; your limit is 60 %\d\d %[\d.]+/, dividends);
  await says("100 %", () => screen.queryByRole("row", { name: /^Combined/ }));
  expect(screen.queryByRole("row", { name: /^Two stages/ })).toBeNull();
  await ask(at, "Its cash");
  await at.fill("Weight of its cash", "2", worth);
  await at.asks("weights=cash:2");
  await says("weight set by you", worth);
  const again = at.reload();
  await row(/^Cash flow to equity/, worth);
  await again.click("button", "as the method has it", worth);
  await until(() => expect(again.url()).not.toContain("weights"));
  await says("what its dividends leave of that half", worth);
});
