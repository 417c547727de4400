/** Charts of days: the keyboard and the pointer read the same days, and choose the same spans. */
import { fireEvent } from "@testing-library/react";
import { beforeAll, expect, test, vi } from "vitest";
import type { Schemas } from "@/api/client";
import { answerOf, begin } from "@/testing/api";
import { mount } from "@/testing/page";
import { DistanceYears } from "./DistanceYears";
import { PriceChart } from "./PriceChart";
import { aimStep, RangeRuler } from "./RangeRuler";

const WIDTH = 900;
const nothing = () => {};
beforeAll(() => begin("demo"));

const all = (box: Element, selector: string) => [...box.querySelectorAll(selector)];
const place = (box: Element) => box.querySelector("[role=application]") as HTMLElement;
const texts = (box: Element) =>
  all(box, "text").map((t) => (t.textContent ?? "").replace(/\s/g, " "));

const days = ["2024-01-05", "2024-01-12", "2024-01-19", "2024-01-26", "2024-02-02"];
const values = [40, 42, 44, 43, 50];
const course = (name: string, of = values) => ({ name, days, values: of });

const prices = (more: Partial<React.ComponentProps<typeof PriceChart>> = {}) => (
  <PriceChart
    courses={[course("own")]}
    averages={[]}
    paid={[]}
    slumps={[]}
    lines={[]}
    log={false}
    unit="TLL"
    width={WIDTH}
    onSpan={nothing}
    onMoveLine={nothing}
    {...more}
  />
);
const read = (box: Element) =>
  (place(box).getAttribute("aria-label") ?? "").split("choose a span. ")[1]?.replace(/\s/g, " ");

test("a price is read day by day, and no further than its ends", async () => {
  const { box, user } = await mount(prices());
  await user.tab();
  expect(document.activeElement).toBe(place(box));
  expect(read(box)).toContain("2 February 2024");
  await user.keyboard("{ArrowLeft}");
  expect(read(box)).toContain("26 January 2024");
  expect(read(box)).toContain("43.00");
  await user.keyboard("{Home}{ArrowLeft}");
  expect(read(box)).toContain("5 January 2024");
  await user.keyboard("{End}{ArrowRight}{PageUp}");
  expect(read(box)).toContain("2 February 2024");
});

test("Shift with the arrows and Enter chooses a span; Escape lets it go", async () => {
  const onSpan = vi.fn();
  const { box, user } = await mount(prices({ onSpan }));
  place(box).focus();
  await user.keyboard("{End}{Shift>}{ArrowLeft}{ArrowLeft}{/Shift}{Enter}");
  expect(onSpan).toHaveBeenCalledExactlyOnceWith("2024-01-19", "2024-02-02");
  await user.keyboard("{End}{Shift>}{ArrowLeft}{/Shift}{Escape}{Enter}");
  expect(onSpan).toHaveBeenCalledOnce();
});

/** Where a day stands on the chart, as its line says once it is read. */
const markedAt = (box: Element) =>
  Number(box.querySelector("line[stroke='var(--action)']")?.getAttribute("x1"));

test("a drag chooses what the keys would, a click chooses nothing, and leaving forgets", async () => {
  const onSpan = vi.fn();
  const { box, user } = await mount(prices({ onSpan }));
  const svg = box.querySelector("svg") as SVGSVGElement;
  place(box).focus();
  await user.keyboard("{Home}{ArrowRight}");
  const second = markedAt(box);
  await user.keyboard("{ArrowRight}{ArrowRight}");
  const fourth = markedAt(box);
  place(box).blur();
  fireEvent.pointerDown(svg, { clientX: fourth, button: 0 });
  fireEvent.pointerMove(svg, { clientX: second });
  fireEvent.pointerUp(svg, { clientX: second });
  expect(onSpan).toHaveBeenCalledExactlyOnceWith("2024-01-12", "2024-01-26");
  fireEvent.pointerDown(svg, { clientX: second, button: 0 });
  fireEvent.pointerUp(svg, { clientX: second });
  fireEvent.pointerDown(svg, { clientX: second, button: 2 });
  fireEvent.pointerUp(svg, { clientX: fourth });
  expect(onSpan).toHaveBeenCalledOnce();
  fireEvent.pointerMove(svg, { clientX: fourth });
  expect(read(box)).toContain("26 January 2024");
  fireEvent.pointerLeave(svg);
  expect(read(box)).toBe("");
});

test("what the keyboard read stays when the pointer leaves", async () => {
  const { box, user } = await mount(prices());
  place(box).focus();
  await user.keyboard("{Home}");
  fireEvent.pointerLeave(box.querySelector("svg") as SVGSVGElement);
  expect(read(box)).toContain("5 January 2024");
});

test("of two courses both are told on a day, and each is drawn", async () => {
  const market = course("the market", [100, 101, 99, 98, 97]);
  const { box, user } = await mount(prices({ courses: [course("own"), market] }));
  expect(all(box, "path")).toHaveLength(2);
  place(box).focus();
  await user.keyboard("{End}");
  expect(read(box)).toContain("the market");
  expect(read(box)).toContain("97");
});

test("a chart of one day, or of none, is nothing", async () => {
  const none = { name: "own", days: [], values: [] };
  const one = { name: "own", days: ["2024-01-05"], values: [40] };
  const { box, give } = await mount(prices({ courses: [none] }));
  expect(all(box, "svg")).toHaveLength(0);
  give(prices({ courses: [one] }));
  expect(all(box, "svg")).toHaveLength(0);
  give(prices({ courses: [] }));
  expect(all(box, "svg")).toHaveLength(0);
});

test.each([true, false])("every height of a price lies within the chart, log %s", async (log) => {
  const wild = [0.02, 900, 4, 12, 0.5];
  const { box } = await mount(prices({ courses: [course("own", wild)], log }));
  const path = box.querySelector("path[stroke='var(--ink)']")?.getAttribute("d") ?? "";
  const points = path
    .slice(1)
    .split(/[ML]/)
    .map((p) => p.split(",").map(Number));
  expect(points).toHaveLength(wild.length);
  for (const [x = -1, y = -1] of points) {
    expect(x).toBeGreaterThanOrEqual(0);
    expect(x).toBeLessThanOrEqual(WIDTH);
    expect(y).toBeGreaterThanOrEqual(0);
    expect(y).toBeLessThanOrEqual(300);
  }
  // Dearer is higher up.
  const order = (by: number[]) => [...by.keys()].sort((a, b) => (by[a] ?? 0) - (by[b] ?? 0));
  expect(order(points.map((p) => -(p[1] ?? 0)))).toEqual(order(wild));
});

test("a payment is a tick on its day, a special one longer, and none outside the days", async () => {
  const paid = [
    { ex_date: "2024-01-12", kind: "regular", amount: 0.5 },
    { ex_date: "2024-01-19", kind: "special", amount: 2 },
    { ex_date: "2023-12-29", kind: "regular", amount: 0.5 },
  ] as unknown as Schemas["WentExOut"][];
  const { box } = await mount(prices({ paid }));
  const ticks = all(box, "line[stroke='var(--stone)']")
    .map((l) => Number(l.getAttribute("y1")) - Number(l.getAttribute("y2")))
    .filter((length) => length > 0);
  expect(ticks).toEqual([5, 10]);
});

const distance = (): Schemas["DistanceSeries"] => ({
  days,
  values: [-0.2, null, 0.1, 0.3, 0.05],
  gaps: [],
  measure: "earnings per share",
  name: "price to earnings",
  usual: "5-year median",
  now: { key: "n", label: "", unit: "fraction", value: 0.05, notes: [], cautions: [] },
  typical: { key: "t", label: "", unit: "multiple", value: 15, notes: [], cautions: [] },
  put_in: 0,
  span: null,
  years: [2022, 2023, 2024, 2025].map((year) => ({
    year,
    ends: `${year}-12-31`,
    estimated: year > 2023,
    growth: {
      key: `g${year}`,
      label: "",
      unit: "fraction" as const,
      value: year === 2022 ? null : (year - 2023.5) / 10,
      notes: [],
      cautions: [],
    },
  })),
});

test("the distance of a week is told with its side and with the growth of its year", async () => {
  const { box, user } = await mount(
    <DistanceYears distance={distance()} slumps={[]} width={WIDTH} onSpan={nothing} />,
  );
  place(box).focus();
  await user.keyboard("{Home}");
  const told = () =>
    box.querySelector("[data-testid=distance-read]")?.textContent?.replace(/\s/g, " ");
  expect(told()).toBe(
    "5 January 2024: 20 % under what the 5-year median price to earnings would pay; in the year to 31 December 2024 earnings per share is expected to change by +5.0 %",
  );
  await user.keyboard("{ArrowRight}");
  expect(told()).toBe("12 January 2024: not known");
  await user.keyboard("{ArrowRight}");
  expect(told()).toContain("10 % over what the");
});

test("growth that is only expected is hatched, and a year without growth is not drawn", async () => {
  const { box } = await mount(
    <DistanceYears distance={distance()} slumps={[]} width={WIDTH} onSpan={nothing} />,
  );
  const fills = all(box, "svg > rect").map((r) => r.getAttribute("fill") ?? "");
  expect(fills.map((f) => f.startsWith("url("))).toEqual([false, true, true]);
});

type Range = Schemas["RangeSeries"];
const ruler = (range: Range, more: Partial<React.ComponentProps<typeof RangeRuler>> = {}) => (
  <RangeRuler
    range={range}
    currency="TLL"
    slumps={[]}
    aim={undefined}
    said="said"
    width={WIDTH}
    onAim={nothing}
    onSpan={nothing}
    {...more}
  />
);
const rangeOf = (payer: string) => answerOf<Range>(`/api/payers/${payer}/range`);

test("all weeks stand in the distribution, and the marks where they are told", async () => {
  const range = await rangeOf("ELV/TRS");
  const { box } = await mount(ruler(range));
  const bars = all(box, "rect[fill='var(--sand)'][stroke]").map((b) =>
    Number(b.getAttribute("width")),
  );
  const longest = Math.max(...bars);
  const [low, high] = [range.price_scale[0]?.value ?? 0, range.price_scale.at(-1)?.value ?? 0];
  expect(Math.min(...range.weeks.values)).toBeGreaterThanOrEqual(low);
  expect(Math.max(...range.weeks.values)).toBeLessThanOrEqual(high);
  // Weeks in whole numbers: every bar is a whole part of the sum that all weeks make.
  const perWeek = bars.reduce((a, b) => a + b, 0) / range.weeks.values.length;
  for (const bar of bars) expect(bar / perWeek).toBeCloseTo(Math.round(bar / perWeek), 6);
  expect(longest).toBeGreaterThan(0);
  const words = texts(box).join(" | ");
  expect(words).toContain(`now ${((range.figures.now?.value ?? 0) * 100).toFixed(2)} %`);
  expect(words).toContain("price, TLL");
});

test("the price beside each height of the ruler is the one that would pay it", async () => {
  const range = await rangeOf("ELV/TRS");
  const [first, last] = [range.price_scale[0], range.price_scale.at(-1)];
  const product = (mark: typeof first) => (mark?.value ?? 0) * (mark?.price ?? 0);
  expect(product(first)).toBeCloseTo(product(last), 6);
  expect(
    range.price_scale.every((m, i) => i === 0 || m.price < (range.price_scale[i - 1]?.price ?? 0)),
  ).toBe(true);
});

test("weeks that are missing leave a gap in the line", async () => {
  const range = await rangeOf("ELV/TRS");
  const { box, give } = await mount(ruler(range));
  const whole = all(box, "path").length;
  const keep = range.weeks.days.map((d) => !(d > "2024-03-01" && d < "2024-08-01"));
  const weeks = {
    days: range.weeks.days.filter((_, i) => keep[i]),
    values: range.weeks.values.filter((_, i) => keep[i]),
  };
  give(ruler({ ...range, weeks }));
  expect(all(box, "path")).toHaveLength(whole + 1);
});

test("the aim moves by its step, from the value of today", async () => {
  const range = await rangeOf("ELV/TRS");
  const onAim = vi.fn();
  const { box, user } = await mount(ruler(range, { onAim }));
  const thumb = box.querySelector("[role=slider]") as HTMLElement;
  expect(thumb.getAttribute("aria-valuetext")).toBe("said");
  thumb.focus();
  await user.keyboard("{ArrowUp}");
  const to = onAim.mock.lastCall?.[0];
  const from = range.figures.now?.value ?? 0;
  expect(to - from).toBeGreaterThan(0);
  expect(to - from).toBeLessThanOrEqual(aimStep(range));
  expect(texts(box).join()).not.toContain("aim ");
  expect(box.textContent).toContain("⇕ aim");
});
