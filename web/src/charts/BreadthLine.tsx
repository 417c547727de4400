import { scaleLinear, scaleUtc } from "d3-scale";
import { line } from "d3-shape";
import { useRef } from "react";
import type { Schemas } from "@/api/client";
import { day, number, percent } from "@/format/format";
import { time } from "./courses";
import { Grid, TimeTicks } from "./parts";
import { useDays } from "./useDays";

type Breadth = Schemas["BreadthOut"];
export const BREADTH_HEIGHT = 260;
const PAD = { left: 48, right: 16, top: 12, bottom: 48 };

/** The share of payers that yielded more than they usually do, quarter by quarter. */
export function BreadthLine({ breadth, width }: { breadth: Breadth; width: number }) {
  const box = useRef<SVGSVGElement>(null);
  const held = breadth.days.flatMap((d, i) => {
    const known = breadth.known[i] ?? 0;
    return known > 0 ? [{ day: d, above: breadth.above[i] ?? 0, known }] : [];
  });
  const days = held.map((h) => h.day);
  const [first = "2000-01-01", last = "2000-01-02"] = [days[0], days.at(-1)];
  const x = scaleUtc()
    .domain([time(first), time(last)])
    .range([PAD.left, width - PAD.right]);
  const { at, keys, pointer } = useDays(days, x, box, () => {});
  const y = scaleLinear()
    .domain([0, 1])
    .range([BREADTH_HEIGHT - PAD.bottom, PAD.top]);
  const path = line<(typeof held)[number]>()
    .x((h) => x(time(h.day)))
    .y((h) => y(h.above / h.known));
  const read = at === null ? undefined : held[at];
  const told = read
    ? `${day(read.day)}: ${number(read.above)} of ${number(read.known)} payers, ${percent(read.above / read.known, 0)}`
    : "";
  return (
    <div>
      <div
        role="application"
        tabIndex={0}
        aria-label={`Share of payers from ${day(first)} to ${day(last)}; arrow keys read a quarter. ${told}`}
        className="rounded-sm"
        {...keys}
      >
        <svg
          ref={box}
          width={width}
          height={BREADTH_HEIGHT - 24}
          aria-hidden="true"
          className="touch-pan-y select-none"
          {...pointer}
        >
          <Grid
            ticks={[0, 0.25, 0.5, 0.75, 1]}
            y={y}
            left={PAD.left}
            right={width - PAD.right}
            text={(v) => percent(v, 0)}
          />
          <path d={path(held) ?? ""} fill="none" stroke="var(--ink)" strokeWidth="1.7" />
          <TimeTicks
            ticks={x.ticks(width > 560 ? 8 : 4)}
            x={x}
            y={BREADTH_HEIGHT - 30}
            right={width - 30}
            short={false}
          />
          {read && (
            <g>
              <line
                x1={x(time(read.day))}
                x2={x(time(read.day))}
                y1={PAD.top}
                y2={BREADTH_HEIGHT - PAD.bottom}
                stroke="var(--action)"
              />
              <circle
                cx={x(time(read.day))}
                cy={y(read.above / read.known)}
                r="4"
                fill="var(--action)"
              />
            </g>
          )}
        </svg>
      </div>
      <p className="min-h-[22px] text-[14px]" aria-live="polite">
        {told}
      </p>
    </div>
  );
}
