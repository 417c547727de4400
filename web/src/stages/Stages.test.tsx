import { screen, within } from "@testing-library/react";
import { expect, test } from "vitest";
import type { Schemas } from "@/api/client";
import { answerOf } from "@/testing/api";
import {
  dialog,
  faults,
  field,
  find,
  findAll,
  gone,
  open,
  part,
  says,
  saysNot,
  until,
} from "@/testing/page";

const TRS = "/review/ELV/TRS";
const record = part("record");
const cover = part("cover");
const footing = part("footing");

test("any year may be picked to keep pace since", async () => {
  const at = await open(`${TRS}?stage=record`);
  await at.choose("Second year, chosen from a list", "2009", record);
  await says("Needed to keep pace since 2009", record);
  await at.asks("base_years=1996");
  await at.focus("slider", "First year to keep pace since", record);
  for (const year of [1997, 1998, 1999]) {
    await at.press("{ArrowRight}");
    await at.asks(`base_years=${year}`);
  }
  await says("Needed to keep pace since 1999", record);
  at.reload();
  await says("Needed to keep pace since 1999", record);
  await says("Needed to keep pace since 2009", record);
});

test("real terms come on request", async () => {
  const at = await open(`${TRS}?stage=record`);
  await find("button", "in today’s money", record);
  await saysNot("line: in today’s money", record);
  await at.click("button", "in today’s money", record);
  await says("line: in today’s money", record);
  await at.asks("real=true");
});

test("what the dividend did in each slump opens its working", async () => {
  const at = await open(`${TRS}?stage=record&record=slumps`);
  const slump = () => screen.queryByRole("row", { name: /The herring slump/ });
  await says("raised", slump);
  await at.click("button", /^declared rate over/, slump);
  await says("Declared rate when it ended", dialog);
});

test("every payment is listed with its days and what happened", async () => {
  const at = await open("/review/ELV/GWK?stage=record");
  await at.click("button", "Every payment", record);
  const table = await find("table", "Every payment, the newest first", record);
  const newest = within(table).getAllByRole("row")[1] as HTMLElement;
  expect(newest.textContent).toContain("Cut");
  expect(newest.textContent).toContain("20 May 2026");
  await at.user.click(within(newest).getByRole("button"));
  await says("Regular dividend, ex", dialog);
  at.reload();
  await find("table", "Every payment, the newest first", record);
});

test("a slump and a suspension can be read without seeing", async () => {
  await open("/review/ELV/CRF?stage=record");
  await says("2020 0.00, suspended", record);
  await says("2021 0.22, resumed", record);
});

test("another basis draws another cover", async () => {
  const at = await open("/review/ELV/MRB?stage=cover");
  const chart = () => document.querySelector("#cover figure");
  await says(/2025 1\d\d/, chart);
  await at.click("button", "earnings", cover);
  await says(/2025 [45]\d/, chart);
  await at.asks("basis=earnings");
});

test("cover shows every payout, both lines, and where cash went", async () => {
  const at = await open("/review/ELV/MRB?stage=cover");
  await at.click("button", "Every payout", cover);
  const matrix = () => screen.queryByRole("table", { name: "Payout on every basis, percent" });
  await says(/Free cash flow.*1\d\d/, matrix);
  await at.click("button", "Cash against dividend", cover);
  await says("The dividend is above free cash flow per share already", cover);
  await at.click("button", "Uses of cash", cover);
  const uses = () => screen.queryByRole("table", { name: /^Uses of cash/ });
  await says("Everything else", uses);
  const again = at.reload();
  const [first] = await findAll("button", /^everything else/, uses);
  await again.user.click(first as HTMLElement);
  await says("debt repaid − kept as cash", dialog);
});

test("a freak year is named, excluded with its reason, and counted again", async () => {
  const at = await open("/review/ELV/FND?stage=cover&basis=earnings");
  await at.click("button", "table", cover);
  await says(/fiscal 2021.*freak year/i, cover);
  await at.click("button", "Exclude it with a reason", cover);
  await at.fill("Why fiscal 2021 should not count", "Warehouses sold", cover);
  await at.click("button", "Exclude", cover);
  await says("Fiscal 2021 is excluded on earnings: Warehouses sold.", cover);
  await at.click("button", "Include again", cover);
  await says("Fiscal 2021 is a freak year", cover);
});

test("footing opens where something is amiss and shows the rest", async () => {
  const at = await open("/review/ELV/GWK?stage=footing");
  const balance = await find("button", /^Balance/, footing);
  expect(balance.getAttribute("aria-pressed")).toBe("true");
  expect(balance.textContent).toContain("something is amiss");
  await says(/Net debt to EBITDA [\d.]+×, [\d.]+× above your 3×/, footing);
  await says("nothing left to repay with", footing);
  await at.click("button", "Business", footing);
  await at.asks("footing=business");
  await find("table", /Margins and returns/, footing);
  await at.click("button", /^Lines/, footing);
  const lines = () => screen.queryByRole("table", { name: /Growth of every line/ });
  await says(/Revenue.*against/, lines);
  await at.click("button", /^revenue, growth a year over 5 years/, lines);
  await says("(revenue, fiscal 2025 ÷ fiscal 2020)^(1 ÷ 5) − 1", dialog);
  await at.press("{Escape}");
  await at.click("button", /^Newest quarter/, footing);
  await says("Net margin", () => screen.queryByRole("table", { name: /what moved most first/ }));
  const again = at.reload();
  await find("table", /what moved most first/, footing);
  await again.click("button", /^Parts/, footing);
  await find("table", /^Segments: share/, footing);
});

test.each([
  ["PLG", "Capital ratio"],
  ["LRT", "debt to EBITDA"],
  ["KSTM", "More cash than debt"],
  ["RVGF", "Unknown: delisted on 16 September 2022"],
  ["IVBR", "no interest to pay"],
])("footing of %s says %s", async (symbol, words) => {
  await open(`/review/ELV/${symbol}?stage=footing&footing=balance`, "demo");
  await says(words, footing);
});

test("the place among the sector is told and the strip moves along the payers", async () => {
  const at = await open(`${TRS}?stage=footing&footing=peers`, "demo");
  const debt = () =>
    screen.queryByRole("row", { name: /Less debt to EBITDA than .* of its 13 peers/ });
  const strip = await find("slider", undefined, debt);
  expect(strip.getAttribute("aria-valuetext")).toMatch(/^this payer, [\d.]+×/);
  strip.focus();
  await at.press("{ArrowRight}");
  const named = () => strip.getAttribute("aria-valuetext") ?? "";
  await until(() => expect(named()).not.toMatch(/^this payer/));
  const other = named().split(",")[0] as string;
  await at.press("{Enter}");
  await find("heading", other);
  expect(at.url()).toContain("footing=peers");
});

test("a slump is told against the market", async () => {
  const at = await open("/review/ELV/GWK?stage=footing&footing=slumps");
  await says(/In the herring slump its price fell \d+/, footing);
  await at.click("button", /^market from peak to trough/, () =>
    screen.queryByRole("row", { name: /^The herring slump/ }),
  );
  await says("Trough ÷ the highest before it − 1", dialog);
});

const STRAIN = `${TRS}?stage=cover&cover=strain`;

test("the map of a strain moves by arrows and says where it stands", async () => {
  const at = await open(`${STRAIN}&strain=fall:0.02`);
  const map = await find("application", /Map of a fall of revenue/, cover);
  await says("the tests that hold today still hold", map);
  map.focus();
  await at.press("{ArrowRight}");
  await at.asks("0.03");
  await until(async () =>
    expect(((await field("Falls by", cover)) as HTMLInputElement).value).toBe("3.0"),
  );
  const { map: drawn } = await answerOf<Schemas["StrainOut"]>(
    "/api/payers/ELV/TRS/strain?strain=fall:0.04",
  );
  const [gives, uncovered] = [drawn.gives[0], drawn.uncovered[0]].map((fall) =>
    Math.ceil(100 * (fall ?? 1)),
  ) as [number, number];
  expect(gives).toBeLessThan(uncovered);
  await at.press(`{ArrowRight>${gives - 3}/}`);
  await says(`${drawn.first} has given; the dividend is covered`, map);
  await at.press(`{ArrowRight>${uncovered - gives}/}`);
  await says("cash does not cover the dividend", map);
  await at.press("{ArrowUp>4/}");
  await says("margin down 2.0 points", map);
});

test("a strain is kept, goes into the decision, and is deleted", async () => {
  const at = await open(`${STRAIN}&strain=fall:0.1,months:6`, "demo", true);
  await at.fill("Keep this strain as", "Half a bad year", cover);
  await at.click("button", "Keep", cover);
  await says("all revenue −10 % for 6 months", cover);
  const decision = part("decision");
  await says("Strains kept on it", decision);
  await says("Half a bad year", decision);
  await at.click("button", "Delete Half a bad year", cover);
  await gone("button", "Delete Half a bad year", cover);
  await saysNot("Half a bad year", decision);
});

test("every payer is put under one strain, and the worst leads to its review", async () => {
  const at = await open(`${STRAIN}&strain=fall:0.1`, "demo", true);
  await at.click("link", "Apply to all payers", cover);
  await find("heading", "Under a strain");
  await says("With all revenue −10 %");
  const mine = () => screen.queryByRole("row", { name: /Tallow & Reed Soapworks/ });
  await says("outside a limit", mine);
  await at.click("link", /Tallow/, mine);
  await until(async () =>
    expect(((await field("Falls by", cover)) as HTMLInputElement).value).toBe("10.0"),
  );
  await says("Tests under the strain", cover);
});

test("what analysts expect stands with its revisions, guidance and past", async () => {
  await open(`${TRS}?stage=cover&cover=matrix`);
  await says("Expected of fiscal 2026", cover);
  const table = () =>
    screen.queryByRole("table", { name: "Estimates, their revisions, guidance, and past years" });
  await says(/Dividend per share|Net income|Earnings per share/i, table);
  await says(/\d of \d/, table);
});

test("from earnings to what pays the dividend, per share and in total", async () => {
  const at = await open("/review/ELV/LRT?stage=cover&cover=bridge");
  await find("table", "From what was earned to what is left, per share", cover);
  await at.click("button", /in total/i, cover);
  await find("table", "From what was earned to what is left, in millions", cover);
  await at.asks("total=true");
});

test("a tenant is strained until a test gives", async () => {
  const at = await open("/review/ELV/LRT?stage=footing&footing=strain");
  await says(/AFFO payout gives first, when all revenue falls [\d.]+/, footing);
  await at.choose("What falls", "tenant/Households", footing);
  await at.asks("strain_part=tenant");
  await says(/when revenue from Households falls [\d.]+/, footing);
  const tests = () => screen.queryByRole("table", { name: /^Tests under the strain/ });
  await find("row", /^outside a limit.*AFFO payout/, tests);
  await at.fill("Falls by", "1", footing);
  await find("row", /^close to a limit.*AFFO payout/, tests);
  await at.asks("strain=fall:0.01");
  at.reload();
  await until(async () =>
    expect(((await field("What falls", footing)) as HTMLSelectElement).value).toBe(
      "tenant/Households",
    ),
  );
  const payouts = await findAll("button", /^AFFO payout at the declared rate/, tests);
  await at.user.click(payouts.at(-1) as HTMLElement);
  await says("Declared rate ÷ AFFO per share", dialog);
});

test.each([
  ["record", "TRS?stage=record&record=slumps", "The herring slump"],
  ["cover", "MRB?stage=cover&cover=lines", "above free cash flow"],
  ["cover", "MRB?stage=cover&cover=uses", "Everything else"],
  ["cover", "TRS?stage=cover&cover=strain&strain=fall:0.02", "Map of a fall"],
  ["footing", "GWK?stage=footing", "nothing left to repay with"],
  ["footing", "GWK?stage=footing&footing=business", "Margins and returns"],
  ["footing", "TRS?stage=footing&footing=peers", "peers"],
  ["range", "TRS?stage=range&quantity=earnings&aim=16", "you would pay"],
  ["range", "TRS?stage=range&range=years&quantity=earnings", "would pay today"],
  ["worth", "TRS?stage=worth&worth=trials", "For today’s price to be fair"],
  ["worth", "TRS?stage=worth&worth=return", "a year: income"],
  ["worth", "ORCF?stage=worth&worth=peers", "Median of those left in"],
])("axe finds nothing serious in %s, %s", async (id, address, words) => {
  await open(`/review/ELV/${address}`);
  await until(() => expect(part(id)()?.innerHTML).toContain(words));
  expect(await faults(part(id))).toEqual([]);
});
