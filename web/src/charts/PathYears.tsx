import { scaleLinear } from "d3-scale";
import { useId } from "react";
import type { Schemas } from "@/api/client";
import { number } from "@/format/format";
import { Grid, Hatch, LABEL } from "./parts";

type Path = Schemas["PathSeries"];
export const PATH_HEIGHT = 240;
const PAD = { left: 40, right: 92, top: 14, bottom: 22 };

/** The price from today to each of its exits, dashed as it is not known, and what is paid on the way
 * as hatched bars. */
export function PathYears({ path, width }: { path: Path; width: number }) {
  const hatch = useId();
  const start = path.price.value ?? 0;
  const years = path.years.length;
  const ends = (["low", "middle", "high"] as const).flatMap((id) => {
    const value = path.sold_at[id]?.value;
    return value == null ? [] : [{ id, value }];
  });
  const prices = [start, ...path.years.map((y) => y.price)];
  const most = Math.max(...prices, ...ends.map((e) => e.value));
  const x = scaleLinear()
    .domain([0, years])
    .range([PAD.left + 8, width - PAD.right]);
  const y = scaleLinear()
    .domain([0, most * 1.05])
    .range([PATH_HEIGHT - PAD.bottom, PAD.top]);
  const line = prices.map((p, i) => `${i ? "L" : "M"}${x(i)},${y(p)}`).join("");
  const wide = Math.min(26, (x(1) - x(0)) * 0.5);
  const every = Math.ceil(years / Math.max(4, Math.floor((width - 140) / 40)));
  const labels = spaced(ends.map((e) => y(e.value)));
  return (
    <svg width={width} height={PATH_HEIGHT} aria-hidden="true">
      <defs>
        <Hatch id={hatch} ink="var(--stone)" ground="var(--paper)" />
      </defs>
      <Grid
        ticks={y.ticks(5)}
        y={y}
        left={PAD.left}
        right={width - PAD.right}
        text={(t) => number(t, most < 10 ? 1 : 0)}
      />
      {path.years.map((held) => (
        <rect
          key={held.year}
          x={x(held.year) - wide / 2}
          y={y(held.dividend)}
          width={wide}
          height={Math.max(1, y(0) - y(held.dividend))}
          fill={`url(#${hatch})`}
          stroke="var(--stone)"
        />
      ))}
      <path d={line} fill="none" stroke="var(--ink)" strokeWidth="2" strokeDasharray="6 4" />
      {ends
        .filter((e) => e.id !== "middle")
        .map((e) => (
          <line
            key={e.id}
            x1={x(years - 1)}
            y1={y(prices.at(-2) ?? start)}
            x2={x(years)}
            y2={y(e.value)}
            stroke="var(--stone)"
            strokeDasharray="3 3"
          />
        ))}
      <circle cx={x(0)} cy={y(start)} r="4" fill="var(--action)" />
      <text x={x(0) + 6} y={y(start) - 8} fontSize={LABEL} fill="var(--action)" className="halo">
        today {number(start, 2)}
      </text>
      {ends.map((e, i) => (
        <g key={e.id}>
          <circle cx={x(years)} cy={y(e.value)} r="3.5" fill="var(--ink)" />
          <text x={x(years) + 8} y={(labels[i] ?? 0) + 4} fontSize={LABEL} fill="var(--ink)">
            {e.id} {number(e.value, 2)}
          </text>
        </g>
      ))}
      {path.years
        .filter((held) => held.year % every === 0 || held.year === years)
        .map((held) => (
          <text
            key={held.year}
            x={x(held.year)}
            y={PATH_HEIGHT - 6}
            textAnchor="middle"
            fontSize={LABEL}
            fill="var(--muted)"
          >
            {held.year === 1 ? "year 1" : held.year}
          </text>
        ))}
    </svg>
  );
}

const APART = 14;

/** Heights of labels, low value first, moved up until none lies on another. */
function spaced(heights: number[]): number[] {
  return heights.reduce<number[]>((placed, height) => {
    const before = placed.at(-1);
    placed.push(before === undefined ? height : Math.min(height, before - APART));
    return placed;
  }, []);
}
