/** Small marks, grids and slots that all charts share. */
import { scaleLinear, scaleUtc } from "d3-scale";
import { beforeAll, expect, test } from "vitest";
import type { Schemas } from "@/api/client";
import { AgeMark } from "@/places/sources/AgeMark";
import { Quarters } from "@/stages/range/Quarters";
import { answerOf, begin } from "@/testing/api";
import { find, gone, mount } from "@/testing/page";
import { ReachBar } from "@/ui/ReachBar";
import { BaseYears } from "./BaseYears";
import { DeviationMark, YearBars } from "./Marks";
import { Grid, isNamed, Slumps, TimeTicks, XTicks, yearSlots } from "./parts";

beforeAll(() => begin("demo"));

const all = (box: Element, selector: string) => [...box.querySelectorAll(selector)];
const size = (mark: Element | undefined, name: string) => Number(mark?.getAttribute(name));
const texts = (box: Element) => all(box, "text").map((t) => t.textContent ?? "");

test("a deviation lies on its side of the line, and no further than the mark is wide", async () => {
  for (const [value, from, to] of [
    [0.25, 26, 38.5],
    [-0.25, 13.5, 26],
    [3, 26, 51],
    [-3, 1, 26],
    [0, 26, 26],
  ] as const) {
    const { box } = await mount(<DeviationMark value={value} />);
    const bar = all(box, "rect")[0];
    expect([size(bar, "x"), size(bar, "x") + size(bar, "width")]).toEqual([from, to]);
  }
});

test("a year that is unknown leaves its place empty, one that paid little is still seen", async () => {
  const { box, give } = await mount(<YearBars values={[10, null, 0.001, 5]} />);
  const bars = all(box, "rect");
  expect(bars.map((b) => size(b, "x"))).toEqual([48, 60, 66]);
  expect(bars.map((b) => size(b, "height"))).toEqual([16, 1, 8]);
  for (const nothing of [[], [null, null], [0, 0]]) {
    give(<YearBars values={nothing} />);
    expect(all(box, "svg")).toHaveLength(0);
  }
});

test("what is reached lies left of its post, what is far is cut off with a sign", async () => {
  const bar = async (distance: number | null) => {
    const { box } = await mount(<ReachBar distance={distance} />);
    const drawn = all(box, "rect")[0];
    return drawn ? [size(drawn, "x"), size(drawn, "width"), texts(box).join("")] : null;
  };
  const near = await bar(0.25);
  expect(near).toEqual([40, 73, ""]);
  expect(await bar(2)).toEqual([40, 146, "…"]);
  expect(await bar(-0.075)).toEqual([22, 18, ""]);
  expect(await bar(-0.9)).toEqual([4, 36, "…"]);
  expect(await bar(null)).toBeNull();
});

test("an age is as full as the facts are fresh", async () => {
  const fullness = async (age: "fresh" | "ageing" | "old" | "none") => {
    const { box } = await mount(<AgeMark age={age} />);
    const [outline, fill] = all(box, "rect");
    expect(outline?.hasAttribute("stroke-dasharray")).toBe(age === "none");
    return size(fill, "height");
  };
  const [fresh, ageing, old, none] = [
    await fullness("fresh"),
    await fullness("ageing"),
    await fullness("old"),
    await fullness("none"),
  ];
  expect(fresh).toBe(11);
  expect(fresh > ageing && ageing > old && old > none).toBe(true);
  expect(none).toBe(0);
});

test("nil is the stronger line of a grid", async () => {
  const y = scaleLinear().domain([-1, 1]).range([100, 0]);
  const { box } = await mount(
    <svg>
      <title>a grid</title>
      <Grid ticks={[-1, 0, 1]} y={y} left={40} right={200} text={String} />
    </svg>,
  );
  expect(all(box, "line").map((l) => l.getAttribute("stroke"))).toEqual([
    "var(--line)",
    "var(--stone)",
    "var(--line)",
  ]);
  expect(texts(box)).toEqual(["-1", "0", "1"]);
});

test("shares and days stand along the foot, months where the span is short", async () => {
  const x = scaleUtc()
    .domain([new Date("2024-01-01"), new Date("2025-01-01")])
    .range([0, 300]);
  const ticks = [new Date("2024-03-01"), new Date("2025-01-01")];
  const foot = (short: boolean) => (
    <svg>
      <title>a foot</title>
      <TimeTicks ticks={ticks} x={x} y={10} right={280} short={short} />
    </svg>
  );
  const { box, give } = await mount(foot(false));
  expect(texts(box)).toEqual(["2024", "2025"]);
  expect(all(box, "text").map((t) => t.getAttribute("text-anchor"))).toEqual(["middle", "end"]);
  give(foot(true));
  expect(texts(box)).toEqual(["Mar 24", "Jan 25"]);
  give(
    <svg>
      <title>shares</title>
      <XTicks ticks={[0, 0.5]} x={(v) => v * 100} y={10} />
    </svg>,
  );
  expect(texts(box).map((t) => t.replace(/\s/g, " "))).toEqual(["0 %", "50 %"]);
});

test("a slump that is still on reaches the edge, one before all days is not drawn", async () => {
  const slump = (name: string, begins: string, ends: string | null) =>
    ({ name, begins, ends }) as Schemas["SlumpOut"];
  const x = (day: string) =>
    day < "2010" ? null : day > "2026" ? 500 : Number(day.slice(2, 4)) * 10;
  const { box } = await mount(
    <svg>
      <title>slumps</title>
      <Slumps
        slumps={[
          slump("The old one", "2001-01-01", "2002-01-01"),
          slump("The short one", "2011-01-01", "2012-01-01"),
          slump("The new one", "2020-01-01", null),
        ]}
        x={x}
        top={0}
        bottom={50}
      />
    </svg>,
  );
  expect(texts(box)).toEqual(["short one", "new one"]);
  expect(all(box, "rect").map((r) => size(r, "width"))).toEqual([10, 300]);
});

test("a short history keeps its bars narrow, at the right", () => {
  const few = yearSlots(["2024", "2025"], 0, 800);
  const many = yearSlots(
    Array.from({ length: 8 }, (_, i) => `${2018 + i}`),
    0,
    800,
  );
  expect(few.bandwidth()).toBeCloseTo(many.bandwidth());
  expect(few("2025")).toBeCloseTo(many("2025") ?? 0);
});

test("of years too narrow for all names every second has one, the newest among them", () => {
  for (const of of [5, 6, 17]) {
    const named = Array.from({ length: of }, (_, i) => i).filter((i) => isNamed(12, i, of));
    expect(named.at(-1)).toBe(of - 1);
    expect(named).toHaveLength(Math.ceil(of / 2));
    expect(Array.from({ length: of }, (_, i) => isNamed(40, i, of))).not.toContain(false);
  }
});

test("a base year moves to the nearest year that can be one", async () => {
  const moved: [number, number][] = [];
  const { box, user } = await mount(
    <BaseYears
      chosen={[1997]}
      bases={[1997, 2001, 2009]}
      onBase={(place, year) => moved.push([place, year])}
      left={0}
      right={100}
      top={0}
    />,
  );
  (box.querySelector("[role=slider]") as HTMLElement).focus();
  await user.keyboard("{End}{ArrowRight}");
  expect(moved).toEqual([
    [0, 2009],
    [0, 1997],
  ]);
});

test("quarter ends stand in their column, the newest years first, the rest on request", async () => {
  const range = await answerOf<Schemas["RangeSeries"]>("/api/payers/ELV/TRS/range?window=10");
  const { box, user } = await mount(<Quarters range={range} />);
  const years = () => all(box, "tbody tr").map((r) => r.querySelector("td")?.textContent ?? "");
  const first = years();
  expect(first).toHaveLength(6);
  expect(first).toEqual([...first].sort().reverse());
  for (const row of all(box, "tbody tr")) {
    const [year, ...cells] = [...row.querySelectorAll("td")];
    const held = range.quarters.filter((q) => q.day.startsWith(year?.textContent ?? "?"));
    held.forEach((q) => {
      const at = Math.ceil(Number(q.day.slice(5, 7)) / 3) - 1;
      const shown = cells[at]?.textContent ?? "";
      if (q.value.value !== null) expect(Number(shown)).toBeCloseTo((q.value.value ?? 0) * 100, 2);
    });
  }
  await user.click(await find("button", /earlier years/));
  expect(years().length).toBeGreaterThan(6);
  await gone("button", /earlier years/);
});
