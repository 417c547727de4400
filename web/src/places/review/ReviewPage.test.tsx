import { screen, within } from "@testing-library/react";
import { expect, test } from "vitest";
import type { Review } from "@/api/client";
import { answerOf, asked } from "@/testing/api";
import {
  dialog,
  field,
  find,
  findAll,
  gone,
  open,
  part,
  region,
  says,
  saysNot,
  until,
} from "@/testing/page";

const TRS = "/review/ELV/TRS";
const rail = () => screen.queryByRole("complementary", { name: "Findings" });

test("a past day has its band and no form to decide by", async () => {
  const at = await open(`${TRS}?as_of=2019-05-03&stage=decision`);
  await says("Raised 22 years running");
  await says("You are viewing 3 May 2019");
  expect(screen.queryByRole("button", { name: "Record the decision" })).toBeNull();
  await at.click("button", "Back to today");
  await says("Raised 29 years running");
  await saysNot("You are viewing");
  expect(at.url()).not.toContain("as_of");
});

test("every chart has a table and says itself in words", async () => {
  const { user } = await open(TRS);
  await until(() => expect(document.querySelectorAll("figure")).toHaveLength(4));
  for (const figure of document.querySelectorAll("figure")) {
    const chart = within(figure as HTMLElement);
    expect(figure.querySelector("p.sr-only")?.textContent?.length).toBeGreaterThan(60);
    await user.click(chart.getByRole("button", { name: "table" }));
    expect((await chart.findAllByRole("row")).length).toBeGreaterThan(10);
  }
});

test("a chart shown as a table stays one", async () => {
  const at = await open(`${TRS}?stage=cover`);
  await at.click("button", "table", part("cover"));
  await find("table", "Cover by year", part("cover"));
  await at.reload();
  await find("table", "Cover by year", part("cover"));
});

test("what is not there says so", async () => {
  await open("/review/ELV/NOBODY");
  await says("No payer NOBODY on ELV is held");
});

test("n and p read on in the order of the list one came from", async () => {
  const at = await open("/review/ELV/WPP?sort=yield&descending=true", "demo");
  await find("heading", "Whinmoor Pipeline Partners");
  await until(() => expect(asked.some((a) => a.includes("/keys"))).toBe(true));
  const keys = await answerOf<{ symbol: string }[]>("/api/payers/keys?sort=yield&descending=true");
  const next = keys[keys.findIndex((k) => k.symbol === "WPP") + 1]?.symbol;
  await at.press("n");
  await until(() => expect(at.url()).toContain(`/review/ELV/${next}?`));
  await gone("heading", "Whinmoor Pipeline Partners");
  await at.press("p");
  await find("heading", "Whinmoor Pipeline Partners");
});

test("every test opens from what gives first", async () => {
  const at = await open("/review/ELV/SKW", "demo");
  const first = (await screen.findAllByText("First to give")).map((e) => e.closest("div"));
  await at.user.click(within(first[0] as HTMLElement).getAllByRole("button")[0] as HTMLElement);
  const rows = within(await screen.findByRole("dialog")).getAllByRole("row");
  expect(rows).toHaveLength(16);
  expect(rows[1]?.textContent).toContain("Free cash flow payout");
});

test("the place in the review is in the address, and the rail leads to each", async () => {
  const at = await open(TRS);
  await at.click("button", "Worth", rail);
  await until(() => expect(at.url()).toContain("stage=worth"));
});

test("a finding is disagreed with, and the decision keeps it", async () => {
  const at = await open(`${TRS}?stage=cover`);
  await at.click("button", "Disagree with what Cover found", rail);
  await at.fill("Why you disagree", "a year of building, not a bad year", rail);
  await at.click("button", "Save", rail);
  await says("You disagree: a year of building, not a bad year", rail);
  const again = at.reload();
  await says("You disagree: a year of building", rail);
  await again.click("button", "Edit", rail);
  await again.click("button", "Delete", rail);
  await saysNot("You disagree", rail);
});

test("what an address asks in vain is told and left out", async () => {
  const at = await open("/review/ELV/AMLH?stage=worth&inputs=growth:0.9&aim=0", "demo", true);
  await says(
    "Growth must lie between -50 % and 50 %; it was left out of the address",
    part("worth"),
  );
  await says("A target yield must be above 0", part("range"));
  expect(at.url()).toMatch(/AMLH\?stage=worth$/);
  await at.fill("Dividend growth", "3", part("worth"));
  await gone("alert", /left out of the address/, part("worth"));
  await until(() => expect(at.url()).toContain("growth:0.03"));
});

test("a figure opens its working down to its facts, and takes an edit with a reason", async () => {
  const at = await open(`${TRS}?stage=cover`);
  const payout = /^free cash flow payout, fiscal 2025/;
  const [first] = await findAll("button", payout, part("cover"));
  const before = first?.textContent;
  await at.user.click(first as HTMLElement);
  for (const step of ["free cash flow", "operating cash flow"]) {
    await at.click("button", step, dialog);
  }
  await at.click("button", "Edit with a reason", dialog);
  await at.fill(/The value to use instead/, "200", dialog);
  expect(((await find("button", "Save", dialog)) as HTMLButtonElement).disabled).toBe(true);
  await at.fill("Why", "Refund of harbour dues left out", dialog);
  await at.click("button", "Save", dialog);
  await says("You edited this figure", dialog);
  await at.press("{Escape}");
  await until(() => expect(dialog()).toBeNull());
  await until(async () => {
    const [now] = await findAll("button", payout, part("cover"));
    expect(now?.textContent).not.toBe(before);
    within(now as HTMLElement).getByLabelText("rests on a figure you edited");
  });

  const edits = at.go("/sources?tab=edits");
  await says("200.000 m");
  await edits.click("button", /Back to the original/);
  await find("button", /Edit again/);
  edits.go(`${TRS}?stage=cover`);
  await until(async () =>
    expect((await findAll("button", payout, part("cover")))[0]?.textContent).toBe(before),
  );
});

test("a working says what it cannot open", async () => {
  await open(`${TRS}?open=ELV/TRS/cover.no_such_figure`);
  await says("This review has no such figure", dialog);
});

test("the head says who it is, what it pays and what would give first", async () => {
  await open(TRS);
  await find("heading", "Tallow & Reed Soapworks");
  for (const words of ["TRS · Household goods", "rated A+", "1.98 a year, quarterly"])
    await says(words);
  const { head } = await answerOf<Review>("/api/payers/ELV/TRS/review");
  const shown = (name: string) => head.find((h) => h.name === name)?.figure.value as number;
  await says(`Price${shown("Price").toFixed(2)}`);
  await says(`Yield${(100 * shown("Yield")).toFixed(2)} %`);
});

test("a payer that is delisted has no state and says since when", async () => {
  await open("/review/ELV/RVGF");
  await says("delisted on 16 September 2022");
  expect(region("Findings")()).toBeNull();
  await saysNot(/within limits|close to a limit|outside a limit/, rail);
});

test("single keys act where nothing is typed, and can be switched off", async () => {
  const at = await open(TRS);
  await find("heading", "Tallow & Reed Soapworks");
  await at.press("?");
  await at.click("switch", "Single keys act", dialog);
  await at.click("button", "Close", dialog);
  await at.press("c");
  expect(at.url()).toContain("/review/ELV/TRS");
  await at.click("button", "Keys");
  await at.click("switch", "Single keys act", dialog);
  await at.click("button", "Close", dialog);
  (await field("In your own words")).focus();
  await at.press("c");
  expect(at.url()).toContain("/review/ELV/TRS");
  (document.activeElement as HTMLElement).blur();
  await at.press("c");
  await until(() => expect(at.url()).toContain("/compare?compared=ELV/TRS"));
});
