/** What charts draw is what they were given: in proportion, each special case marked, nothing hidden. */
import { fireEvent } from "@testing-library/react";
import { beforeAll, expect, test, vi } from "vitest";
import type { Figure, Schemas } from "@/api/client";
import { answerOf, begin } from "@/testing/api";
import { mount } from "@/testing/page";
import { BalanceYears } from "./BalanceYears";
import { BreadthLine } from "./BreadthLine";
import { CoverYears } from "./CoverYears";
import { Distribution } from "./Distribution";
import { DividendYears } from "./DividendYears";
import { MissCurve } from "./MissCurve";
import { MoveBars } from "./MoveBars";
import { PathYears } from "./PathYears";
import { PeerStrip } from "./PeerStrip";
import { StrainMap } from "./StrainMap";
import { ValueAxis, ValueBar } from "./ValueAxis";
import { YearLines } from "./YearLines";

const WIDTH = 900;
const nothing = () => {};
const at = (payer: string, rest: string) => `/api/payers/${payer}/${rest}`;

beforeAll(() => begin("demo"));

const all = (box: Element, selector: string) => [...box.querySelectorAll(selector)];
const size = (mark: Element | undefined, name: string) => Number(mark?.getAttribute(name));
const texts = (box: Element) => all(box, "text").map((t) => t.textContent ?? "");
const figure = (value: number | null, more: Partial<Figure> = {}): Figure => ({
  key: "k",
  label: "a figure",
  unit: "per_share",
  value,
  notes: [],
  cautions: [],
  ...more,
});

/** All of some numbers are in one ratio to all of others. */
function inProportion(drawn: number[], given: number[]) {
  const by = Math.max(...drawn) / Math.max(...given);
  expect(by).toBeGreaterThan(0);
  drawn.forEach((d, i) => {
    expect(d).toBeCloseTo((given[i] ?? 0) * by, 6);
  });
}

type Record = Schemas["RecordSeries"];
const dividends = (record: Record, open = nothing as (y: Schemas["YearOut"]) => void) => (
  <DividendYears
    years={record.years}
    paces={[]}
    bases={[]}
    chosen={[]}
    onBase={nothing}
    slumps={[]}
    real={false}
    width={WIDTH}
    open={open}
  />
);

test("a year of dividends is as high as what was paid in it, and opens", async () => {
  const record = await answerOf<Record>(at("ELV/TRS", "record"));
  const opened = vi.fn();
  const { box, user } = await mount(dividends(record, opened));
  const columns = all(box, "g.cursor-pointer");
  expect(columns).toHaveLength(record.years.length);
  const solid = columns.map((c) => size(all(c, "rect")[1], "height"));
  const paid = record.years.map((y) => (y.total.value ?? 0) - (y.pending?.value ?? 0));
  inProportion(solid, paid);
  await user.click(columns[4] as Element);
  expect(opened).toHaveBeenCalledExactlyOnceWith(record.years[4]);
});

test("a year that runs is hatched, one that is over is not", async () => {
  const record = await answerOf<Record>(at("ELV/TRS", "record"));
  const { box } = await mount(dividends(record));
  const fills = all(box, "g.cursor-pointer").map((c) => all(c, "rect")[1]?.getAttribute("fill"));
  record.years.forEach((y, i) => {
    expect(fills[i] === "url(#to-come)").toBe(!y.complete);
  });
  expect(fills).toContain("url(#to-come)");
});

test.each(["ELV/TRS", "ELV/QLN", "ELV/BRNH", "ELV/NWO"])(
  "what happened in a year of %s is said above it, and only there",
  async (payer) => {
    const record = await answerOf<Record>(at(payer, "record"));
    const { box } = await mount(dividends(record));
    const said: { [outcome: string]: string } = {
      cut: "cut",
      suspended: "none",
      resumed: "resumed",
    };
    const expected = record.years.flatMap((y) =>
      y.total.value === null ? ["?"] : (said[y.outcome] ?? []),
    );
    const words = new Set([...Object.values(said), "?"]);
    expect(texts(box).filter((t) => words.has(t))).toEqual(expected);
  },
);

test("what keeping pace asks is a line for each year one may ask since", async () => {
  const record = await answerOf<Record>(at("ELV/TRS", "record?base_years=2001,2016"));
  const paces = (record as unknown as { paces: Schemas["PaceOut"][] }).paces;
  const { box } = await mount(
    <DividendYears
      years={record.years}
      paces={paces}
      bases={record.years.map((y) => y.year)}
      chosen={paces.map((p) => p.base_year)}
      onBase={nothing}
      slumps={[]}
      real={false}
      width={WIDTH}
      open={nothing}
    />,
  );
  expect(all(box, "path[stroke='var(--action)']")).toHaveLength(paces.length);
  const named = all(box, "[role=slider]").map((s) => s.textContent);
  expect(named).toEqual(["⇔ 2001", "⇔ 2016"]);
});

type Cover = { bases: { basis: string; years: Schemas["CoverPeriodOut"][] }[] };
const COVERED = ["ELV/TRS", "ELV/QLN", "ELV/BRNH"];

test.each(COVERED)(
  "cover of %s is drawn over where more was paid than there was",
  async (payer) => {
    const { bases } = await answerOf<Cover>(at(payer, "cover"));
    for (const { years } of bases) {
      const periods = years.map((p) => ({ name: `${p.year}`, period: p, trailing: false }));
      const { box, give } = await mount(
        <CoverYears periods={periods} slumps={[]} total width={WIDTH} open={nothing} />,
      );
      const more = years.filter(
        (p) => p.per_share.value !== null && (p.dividends.value ?? 0) > (p.driver.value ?? 0),
      );
      expect(all(box, "rect[fill='url(#over)']")).toHaveLength(more.length);
      give(<CoverYears periods={periods} slumps={[]} total={false} width={WIDTH} open={nothing} />);
      for (const bar of all(box, "rect")) {
        expect(size(bar, "height")).toBeGreaterThanOrEqual(0);
        expect(size(bar, "width")).toBeGreaterThanOrEqual(0);
      }
    }
  },
);

test("a year left out is paler, and the newest year is always named", async () => {
  const { bases } = await answerOf<Cover>(at("ELV/TRS", "cover"));
  const years = (bases[0]?.years ?? []).map((p, i) => (i === 2 ? { ...p, excluded: "a fire" } : p));
  const periods = years.map((p) => ({ name: `${p.year}`, period: p, trailing: false }));
  for (const width of [WIDTH, 300]) {
    const { box } = await mount(
      <CoverYears periods={periods} slumps={[]} total={false} width={width} open={nothing} />,
    );
    expect(all(box, "g[opacity]").map((g) => size(g, "opacity"))).toEqual([0.5]);
    expect(texts(box)).toContain(periods.at(-1)?.name);
  }
});

test("what is owed stands before what is owned, on one scale", async () => {
  const { years } = await answerOf<{ years: Schemas["BalanceYearOut"][] }>(
    at("ELV/TRS", "footing/balance"),
  );
  const opened = vi.fn();
  const { box, user } = await mount(<BalanceYears years={years} width={WIDTH} open={opened} />);
  const columns = all(box, "g.cursor-pointer");
  const heights = columns.flatMap((c) => {
    const bars = all(c, "rect");
    return [size(bars[1], "height"), size(bars[2], "height")];
  });
  inProportion(
    heights,
    years.flatMap((y) => [y.assets.value ?? 0, y.liabilities.value ?? 0]),
  );
  await user.click(columns[0] as Element);
  expect(opened).toHaveBeenCalledExactlyOnceWith(years[0]);
});

const drawn: Schemas["ChanceSeries"] = {
  counts: [1, 6, 9, 4],
  edges: [20, 30, 40, 50, 60],
  draws: 20,
  low: 25,
  high: 55,
  price: 44,
};

test("a spread is as high as the draws, with its middle shaded and the price named", async () => {
  const { box, give } = await mount(<Distribution drawn={drawn} width={WIDTH} />);
  const [shade, ...bars] = all(box, "rect");
  inProportion(
    bars.map((b) => size(b, "height")),
    drawn.counts,
  );
  const first = size(bars[0], "x");
  const perUnit = (size(bars[3], "x") - first) / 30;
  expect(size(shade, "x")).toBeCloseTo(first + 5 * perUnit);
  expect(size(shade, "width")).toBeCloseTo(30 * perUnit);
  expect(texts(box)).toContain("price 44.00");
  // A price far from all that was drawn would leave no room for them.
  give(<Distribution drawn={{ ...drawn, price: 4000 }} width={WIDTH} />);
  expect(texts(box).join()).not.toContain("price");
  give(<Distribution drawn={{ ...drawn, low: null, high: null }} width={WIDTH} />);
  expect(all(box, "rect")).toHaveLength(4);
});

test("of limits the one in use is ringed and named, and the ends where there is room", async () => {
  const points = [0.4, 0.5, 0.6, 0.7, 0.8].map((limit, i) => ({
    limit,
    missed: 0.1 * i,
    false_alarms: 0.5 - 0.1 * i,
  }));
  const told = (limit: number) => `limit ${limit}`;
  const { box, give } = await mount(
    <MissCurve points={points} now={0.6} told={told} width={WIDTH} />,
  );
  const named = () => texts(box).filter((t) => t.startsWith("limit"));
  expect(all(box, "circle[r='8']")).toHaveLength(1);
  expect(all(box, "circle[r='3']")).toHaveLength(points.length);
  expect(named()).toEqual(["limit 0.4", "limit 0.8", "limit 0.6"]);
  give(<MissCurve points={points} now={0.4} told={told} width={WIDTH} />);
  expect(named()).toEqual(["limit 0.8", "limit 0.4"]);
  give(<MissCurve points={points} now={0.65} told={told} width={WIDTH} />);
  expect(all(box, "circle[r='8']")).toHaveLength(0);
});

test("an input's bar ends at its two values, and has no end where there is no limit", async () => {
  const move = (id: string, low: number | null, high: number | null) => ({
    id,
    name: id,
    low: figure(low),
    high: figure(high),
    low_input: figure(0.02, { unit: "fraction" }),
    high_input: figure(0.04, { unit: "fraction" }),
  });
  const { box } = await mount(
    <MoveBars
      moves={[move("growth", 40, 60), move("rate", 70, 30), move("later", 45, null)]}
      combined={50}
      width={WIDTH}
    />,
  );
  const [growth, rate, later] = all(box, "rect").map((r) => [
    size(r, "x"),
    size(r, "x") + size(r, "width"),
  ]) as [number[], number[], number[]];
  const perUnit = ((growth[1] ?? 0) - (growth[0] ?? 0)) / 20;
  expect(((rate[1] ?? 0) - (rate[0] ?? 0)) / 40).toBeCloseTo(perUnit);
  expect(growth[0]).toBeCloseTo((rate[0] ?? 0) + 10 * perUnit);
  expect(later[1]).toBeCloseTo(rate[1] ?? 0);
  const told = texts(box).join(" | ");
  expect(told).toContain("30.00 | 70.00");
  expect(told).toContain("45.00 | no limit");
  expect(told).toContain("combined 50.00");
});

test("a path starts at the price and ends where it is sold, its labels apart", async () => {
  const path = await answerOf<Schemas["PathSeries"]>(at("ELV/TRS", "worth/path"));
  const { box } = await mount(<PathYears path={path} width={WIDTH} />);
  const bars = all(box, "rect[stroke='var(--stone)']");
  inProportion(
    bars.map((b) => size(b, "height")),
    path.years.map((y) => y.dividend),
  );
  const ends = all(box, "circle[r='3.5']").map((c) => size(c, "cy"));
  expect(ends).toEqual([...ends].sort((a, b) => b - a));
  const labels = all(box, "text")
    .filter((t) => /^(low|middle|high) /.test(t.textContent ?? ""))
    .map((t) => size(t, "y"));
  expect(labels).toHaveLength(3);
  expect(
    Math.min((labels[0] ?? 0) - (labels[1] ?? 0), (labels[1] ?? 0) - (labels[2] ?? 0)),
  ).toBeGreaterThanOrEqual(14);
});

const dot = (symbol: string, value: number, mine = false) => ({
  exchange: "ELV",
  symbol,
  name: `Payer ${symbol}`,
  value,
  mine,
});
const strip: Schemas["Strip"] = {
  id: "payout",
  name: "Payout",
  unit: "fraction",
  ahead: 1,
  beyond: [],
  dots: [dot("A", 0.3), dot("B", 0.5, true), dot("C", 0.9)],
  median: 0.5,
  peers: 2,
  words: "",
};

test("peers are gone along by key from our own place, and the one named opens", async () => {
  const opened = vi.fn();
  const { box, user } = await mount(<PeerStrip strip={strip} width={WIDTH} open={opened} />);
  const slider = box.querySelector("[role=slider]") as HTMLElement;
  const says = () => slider.getAttribute("aria-valuetext")?.replace(/\s/g, " ");
  expect(says()).toBe("this payer, 50.0 %");
  slider.focus();
  await user.keyboard("{ArrowRight}");
  expect(says()).toBe("Payer C, 90.0 %");
  await user.keyboard("{ArrowRight}{ArrowRight}");
  expect(says()).toBe("Payer C, 90.0 %");
  await user.keyboard("{Home}");
  expect(says()).toBe("Payer A, 30.0 %");
  await user.keyboard("{Enter}");
  expect(opened).toHaveBeenCalledExactlyOnceWith(strip.dots[0]);
  await user.tab();
  expect(says()).toBe("this payer, 50.0 %");
});

test("our own dot is drawn last, over those that share its place; a strip of none is nothing", async () => {
  const { box, give } = await mount(<PeerStrip strip={strip} width={WIDTH} open={nothing} />);
  const radii = all(box, "circle").map((c) => size(c, "r"));
  expect(radii).toEqual([4.5, 4.5, 7]);
  give(<PeerStrip strip={{ ...strip, dots: [] }} width={WIDTH} open={nothing} />);
  expect(all(box, "svg")).toHaveLength(0);
});

test("a year that is missing leaves a gap in its line", async () => {
  const years = [2019, 2020, 2021, 2022, 2023];
  const { box } = await mount(
    <YearLines
      years={years}
      lines={[
        { name: "whole", values: [1, 2, 3, 4, 5] },
        { name: "broken", values: [1, null, 3, 4, null] },
        { name: "none", values: [null, null, null, null, null] },
      ]}
      width={WIDTH}
      text={(v) => v.toFixed(1)}
    />,
  );
  expect(all(box, "path")).toHaveLength(3);
  const named = texts(box).filter((t) => /[a-z]/.test(t));
  expect(named.sort()).toEqual(["broken 4.0", "whole 5.0"]);
});

test("names at the ends of lines never lie on one another, nor under the foot", async () => {
  const lines = Array.from({ length: 9 }, (_, i) => ({ name: `l${i}`, values: [1, 1 + i / 1000] }));
  const { box } = await mount(
    <YearLines
      years={[2022, 2023]}
      lines={[...lines, { name: "far", values: [0, 9] }]}
      width={WIDTH}
      text={String}
    />,
  );
  const heights = all(box, "text")
    .filter((t) => /^(l\d|far) /.test(t.textContent ?? ""))
    .map((t) => size(t, "y"))
    .sort((a, b) => a - b);
  heights.slice(1).forEach((h, i) => {
    expect(h - (heights[i] ?? 0)).toBeGreaterThanOrEqual(15);
  });
  expect(heights.at(-1)).toBeLessThanOrEqual(YearLines.height);
});

const map: Schemas["StrainMap"] = {
  fall: "fall",
  margin: "margin",
  margins: [0, 0.05, 0.1],
  gives: [0.2, 0.1, 0],
  uncovered: [null, 0.4, 0.2],
  first: "payout",
  given: false,
  not_covered: false,
};

test("the strain moves by keys within its bounds, and says what it does", async () => {
  const moved = vi.fn();
  const strained = (fall: number, margin: number, more: Partial<typeof map> = {}) => (
    <StrainMap
      map={{ ...map, ...more }}
      fall={fall}
      margin={margin}
      part="revenue"
      width={WIDTH}
      onMove={moved}
    />
  );
  const { box, user, give } = await mount(strained(0, 0.1));
  const place = box.querySelector("[role=application]") as HTMLElement;
  place.focus();
  await user.keyboard("{ArrowRight}{ArrowLeft}{ArrowUp}{ArrowDown}x");
  expect(moved.mock.calls).toEqual([
    [0.01, 0.1],
    [0, 0.1],
    [0, 0.1],
    [0, 0.095],
  ]);
  const said = () => box.querySelector("[aria-live]")?.textContent;
  expect(said()).toContain("the tests that hold today still hold");
  give(strained(0.15, 0.05, { given: true }));
  expect(said()).toContain("payout has given; the dividend is covered");
  give(strained(0.5, 0.05, { given: true, not_covered: true }));
  expect(said()).toContain("cash does not cover the dividend");
  give(strained(0.5, 0.05, { gives: [null, null, null], uncovered: [null, null, null] }));
  expect(all(box, "polygon")).toHaveLength(0);
});

test("a click on the map puts the strain there", async () => {
  const moved = vi.fn();
  const { box } = await mount(
    <StrainMap map={map} fall={0.1} margin={0} part="revenue" width={WIDTH} onMove={moved} />,
  );
  const svg = box.querySelector("svg") as SVGSVGElement;
  const mark = box.querySelector("circle") as Element;
  fireEvent.click(svg, { clientX: size(mark, "cx"), clientY: size(mark, "cy") });
  expect(moved).toHaveBeenCalledExactlyOnceWith(0.1, 0);
  fireEvent.click(svg, { clientX: 5000, clientY: -5000 });
  const [fall, margin] = moved.mock.lastCall ?? [];
  expect(fall).toBeLessThanOrEqual(1);
  expect(margin).toBe(0.1);
});

test("names on the axis of values never meet, however near their values are", async () => {
  const tone = "var(--ink)";
  const values = [50, 50.1, 50.2, 49.9, 12, 12.4, 88, 87.5, 50.05];
  const marks = values.map((value, i) => ({ name: `mark number ${i}`, value, tone }));
  for (const width of [WIDTH, 340]) {
    const { box } = await mount(<ValueAxis marks={marks} domain={[10, 90]} width={width} />);
    const named = all(box, "text").filter((t) => t.textContent?.startsWith("mark"));
    expect(named).toHaveLength(marks.length);
    const placed = named.map((t) => {
      const half = (t.textContent?.length ?? 0) * 3.1;
      return { row: size(t, "y"), from: size(t, "x") - half, to: size(t, "x") + half };
    });
    for (const one of placed) {
      expect(one.from).toBeGreaterThanOrEqual(-0.001);
      expect(one.to).toBeLessThanOrEqual(width + 0.001);
      for (const other of placed)
        if (one !== other && one.row === other.row)
          expect(one.to <= other.from || other.to <= one.from).toBe(true);
    }
  }
});

test("a model's bar lies from its low to its high, and what is unknown is not drawn", async () => {
  const given = { marks: [], domain: [0, 100] as [number, number], width: 1020, faint: false };
  const { box, give } = await mount(<ValueBar {...given} low={20} middle={50} high={80} />);
  const [bar, middle] = all(box, "rect");
  expect([size(bar, "x"), size(bar, "width"), size(middle, "x")]).toEqual([210, 600, 508]);
  give(<ValueBar {...given} low={null} middle={50} high={80} />);
  expect(all(box, "rect")).toHaveLength(1);
  give(<ValueBar {...given} low={null} middle={null} high={null} />);
  expect(all(box, "rect")).toHaveLength(0);
});

test("breadth leaves out days of which nothing is known, and is read by key", async () => {
  const breadth = {
    days: ["2024-03-29", "2024-06-28", "2024-09-30"],
    above: [0, 3, 1],
    known: [0, 4, 5],
    shares: [null, 0.75, 0.2],
    names: [],
    job: null,
    ready: true,
  };
  const { box, user } = await mount(<BreadthLine breadth={breadth} width={WIDTH} />);
  const place = box.querySelector("[role=application]") as HTMLElement;
  const said = () => box.querySelector("[aria-live]")?.textContent?.replace(/\s/g, " ");
  place.focus();
  await user.keyboard("{End}");
  expect(said()).toBe("30 September 2024: 1 of 5 payers, 20 %");
  await user.keyboard("{ArrowLeft}{ArrowLeft}{ArrowLeft}");
  expect(said()).toBe("28 June 2024: 3 of 4 payers, 75 %");
});
