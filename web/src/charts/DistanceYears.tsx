import { extent } from "d3-array";
import { scaleLinear, scaleUtc } from "d3-scale";
import { area, line } from "d3-shape";
import { useId, useRef } from "react";
import type { Schemas } from "@/api/client";
import { day, percent, signed } from "@/format/format";
import { time } from "./courses";
import { BAR, Grid, Hatch, LABEL, Slumps, TimeTicks } from "./parts";
import { useDays } from "./useDays";

type Distance = Schemas["DistanceSeries"];
export const DISTANCE_HEIGHT = 348;
const PAD = { left: 48, right: 14, top: 14 };
const UPPER = 216;
const LOWER = { top: 244, bottom: 302 };

interface Props {
  distance: Distance;
  slumps: Schemas["SlumpOut"][];
  width: number;
  onSpan: (first: string, last: string) => void;
}

/** How far the price stood above or below what the usual value would pay, around a zero line; beneath
 * it the yearly growth of the measure, hatched where it is only expected. */
export function DistanceYears({ distance, slumps, width, onSpan }: Props) {
  const hatch = useId();
  const box = useRef<SVGSVGElement>(null);
  const { days, values } = distance;
  const years = distance.years.filter((y) => y.growth.value !== null);
  const [first = "2000-01-01", newest = "2000-01-02"] = [days[0], days.at(-1)];
  const last = years.reduce((l, y) => (y.ends > l ? y.ends : l), newest);
  const x = scaleUtc()
    .domain([time(first), time(last)])
    .range([PAD.left, width - PAD.right]);
  const { at, anchor, keys, pointer } = useDays(days, x, box, onSpan);
  const [low = 0, high = 0] = extent(values.filter((v) => v !== null));
  const y = scaleLinear()
    .domain([Math.min(-0.05, low * 1.08), Math.max(0.05, high * 1.08)])
    .range([UPPER, PAD.top]);
  const grown = years.map((v) => v.growth.value ?? 0);
  const floor = scaleLinear()
    .domain([Math.max(-1, Math.min(0, ...grown)), Math.min(1, Math.max(0.02, ...grown))])
    .range([LOWER.bottom, LOWER.top])
    .clamp(true);
  const points = days.map((d, i) => [d, values[i] ?? null] as const);
  const held = (p: readonly [string, number | null]) => p[1] !== null;
  const wide = Math.max(3, (width - PAD.left - PAD.right) / Math.max(8, years.length) - 4);
  const slot = (iso: string) =>
    iso > last ? x(time(last)) : iso < first ? PAD.left : x(time(iso));
  const marked = at === null ? undefined : days[at];
  const told = marked ? readout(distance, marked, values[at ?? 0] ?? null) : "";
  return (
    <div>
      <div
        role="application"
        tabIndex={0}
        aria-label={`Distance of the price from ${day(first)} to ${day(newest)}; arrow keys read a week, Shift with them and Enter choose a span. ${told}`}
        className="rounded-sm"
        {...keys}
      >
        <svg
          ref={box}
          width={width}
          height={DISTANCE_HEIGHT - 24}
          aria-hidden="true"
          className="cursor-crosshair touch-pan-y select-none"
          {...pointer}
        >
          <defs>
            <Hatch id={hatch} ink="var(--stone)" ground="var(--paper)" />
          </defs>
          <Slumps
            slumps={slumps.filter((s) => (s.ends ?? "9999") >= first)}
            x={slot}
            top={PAD.top}
            bottom={UPPER}
            text={width > 560}
          />
          <Grid
            ticks={y.ticks(6)}
            y={y}
            left={PAD.left}
            right={width - PAD.right}
            text={(v) => signed(percent(v, 0), v)}
          />
          <path
            d={
              area<readonly [string, number | null]>()
                .defined(held)
                .x((p) => x(time(p[0])))
                .y0(y(0))
                .y1((p) => y(p[1] ?? 0))(points) ?? ""
            }
            fill="var(--sand)"
            opacity="0.55"
          />
          <path
            d={
              line<readonly [string, number | null]>()
                .defined(held)
                .x((p) => x(time(p[0])))
                .y((p) => y(p[1] ?? 0))(points) ?? ""
            }
            fill="none"
            stroke="var(--ink)"
            strokeWidth="1.5"
          />
          {distance.span?.begins && distance.span.ends && (
            <rect
              x={Math.max(PAD.left, x(time(distance.span.begins)))}
              y={PAD.top}
              width={
                x(time(distance.span.ends)) - Math.max(PAD.left, x(time(distance.span.begins)))
              }
              height={UPPER - PAD.top}
              fill="var(--action)"
              opacity="0.08"
            />
          )}
          {anchor !== null && marked && (
            <rect
              x={Math.min(x(time(days[anchor] ?? first)), x(time(marked)))}
              y={PAD.top}
              width={Math.abs(x(time(marked)) - x(time(days[anchor] ?? first)))}
              height={UPPER - PAD.top}
              fill="var(--action)"
              opacity="0.14"
            />
          )}
          <text x={PAD.left} y={LOWER.top - 8} fontSize={LABEL} fill="var(--muted)">
            {distance.measure}, change on the year before
          </text>
          <Grid
            ticks={floor.ticks(3)}
            y={floor}
            left={PAD.left}
            right={width - PAD.right}
            text={(v) => signed(percent(v, 0), v)}
          />
          {years.map((v, i) => {
            const [top, bottom] = [
              floor(Math.max(0, grown[i] ?? 0)),
              floor(Math.min(0, grown[i] ?? 0)),
            ];
            return (
              <rect
                key={v.year}
                x={Math.max(PAD.left, x(time(v.ends)) - wide)}
                y={top}
                width={Math.max(2, Math.min(wide, x(time(v.ends)) - PAD.left))}
                height={Math.max(1, bottom - top)}
                fill={v.estimated ? `url(#${hatch})` : BAR}
                stroke={v.estimated ? "var(--stone)" : "none"}
              />
            );
          })}
          <TimeTicks
            ticks={x.ticks(width > 560 ? 8 : 4)}
            x={x}
            y={LOWER.bottom + 18}
            right={width - 30}
            short={false}
          />
          {marked && (
            <g>
              <line
                x1={x(time(marked))}
                x2={x(time(marked))}
                y1={PAD.top}
                y2={LOWER.bottom}
                stroke="var(--action)"
              />
              <circle
                cx={x(time(marked))}
                cy={y(values[at ?? 0] ?? 0)}
                r="4"
                fill="var(--action)"
              />
            </g>
          )}
        </svg>
      </div>
      <p className="min-h-[22px] text-[14px]" aria-live="polite" data-testid="distance-read">
        {told}
      </p>
    </div>
  );
}

function readout(distance: Distance, on: string, value: number | null): string {
  if (value === null) return `${day(on)}: not known`;
  const year = distance.years.find((y) => y.ends >= on && y.growth.value !== null);
  const side = value < 0 ? "under" : "over";
  const grew = year
    ? `; in the year to ${day(year.ends)} ${distance.measure} ${year.estimated ? "is expected to change" : "changed"} by ${signed(percent(year.growth.value ?? 0), year.growth.value ?? 0)}`
    : "";
  return `${day(on)}: ${percent(Math.abs(value), 0)} ${side} what the ${distance.usual} ${distance.name} would pay${grew}`;
}
