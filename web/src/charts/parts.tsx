/** What the charts share: a quiet grid, labels, slump columns and the hatch of what is to come. */
import { scaleBand } from "d3-scale";
import type { ReactNode } from "react";
import type { Schemas } from "@/api/client";
import { month, percent } from "@/format/format";

export const LABEL = 12;
/** Ink for bars, solid so that grid lines do not shine through. */
export const BAR = "color-mix(in srgb, var(--ink) 80%, var(--paper))";

export function Hatch({ id, ink, ground }: { id: string; ink: string; ground: string }) {
  return (
    <pattern
      id={id}
      width="5"
      height="5"
      patternUnits="userSpaceOnUse"
      patternTransform="rotate(45)"
    >
      <rect width="5" height="5" fill={ground} />
      <line x1="0" x2="0" y1="0" y2="5" stroke={ink} strokeWidth="2.4" />
    </pattern>
  );
}

interface GridProps {
  ticks: number[];
  y: (value: number) => number;
  left: number;
  right: number;
  text: (value: number) => string;
}

/** Horizontal lines with their value at the left; zero is drawn stronger. */
export function Grid({ ticks, y, left, right, text }: GridProps) {
  return (
    <g>
      {ticks.map((tick) => (
        <g key={tick}>
          <line
            x1={left}
            x2={right}
            y1={y(tick)}
            y2={y(tick)}
            stroke={tick === 0 ? "var(--stone)" : "var(--line)"}
          />
          <text x={left - 6} y={y(tick) + 4} textAnchor="end" fontSize={LABEL} fill="var(--muted)">
            {text(tick)}
          </text>
        </g>
      ))}
    </g>
  );
}

/** Shares along the foot of a chart. */
export function XTicks(props: { ticks: number[]; x: (value: number) => number; y: number }) {
  return props.ticks.map((tick) => (
    <text
      key={tick}
      x={props.x(tick)}
      y={props.y}
      textAnchor="middle"
      fontSize={LABEL}
      fill="var(--muted)"
    >
      {percent(tick, 0)}
    </text>
  ));
}

interface TimeProps {
  ticks: Date[];
  x: (at: Date) => number;
  y: number;
  /** Beyond it a label ends at its tick. */
  right: number;
  /** A span so short that months are named. */
  short: boolean;
}

/** Days along the foot of a chart. */
export function TimeTicks({ ticks, x, y, right, short }: TimeProps) {
  return ticks.map((tick) => (
    <text
      key={tick.getTime()}
      x={x(tick)}
      y={y}
      textAnchor={x(tick) > right ? "end" : "middle"}
      fontSize={LABEL}
      fill="var(--muted)"
    >
      {short ? month(tick.toISOString()) : tick.getUTCFullYear()}
    </text>
  ));
}

interface SlumpProps {
  slumps: Schemas["SlumpOut"][];
  x: (day: string) => number | null;
  top: number;
  bottom: number;
  text?: boolean;
}

/** A slump whose end is not known yet reaches to the edge. */
const STILL_ON = "9999-12-31";

/** Past downturns as faint columns behind the marks. */
export function Slumps({ slumps, x, top, bottom, text = true }: SlumpProps) {
  return (
    <g>
      {slumps.map((slump) => {
        const [from, to] = [x(slump.begins), x(slump.ends ?? STILL_ON)];
        if (from === null || to === null || to <= from) return null;
        return (
          <g key={slump.name}>
            <rect x={from} y={top} width={to - from} height={bottom - top} fill="var(--sunk)" />
            {text && (
              <text
                x={(from + to) / 2}
                y={top + 11}
                textAnchor="middle"
                fontSize={LABEL}
                fill="var(--muted)"
              >
                {slump.name.replace(/^The /, "")}
              </text>
            )}
          </g>
        );
      })}
    </g>
  );
}

const LEAST_SLOTS = 8;

/** Slots for years, from left to right; a short history keeps its bars narrow, with room on the left
 * for what is not known. */
export function yearSlots(names: string[], left: number, right: number) {
  const blanks = Array.from({ length: Math.max(0, LEAST_SLOTS - names.length) }, (_, i) => `–${i}`);
  return scaleBand<string>()
    .domain([...blanks, ...names])
    .range([left, right])
    .paddingInner(0.4)
    .paddingOuter(0.15);
}

/** Whether a year is named where slots are too narrow for all: every second one, the newest among
 * them. */
export const isNamed = (wide: number, i: number, of: number) =>
  wide >= 30 || i % 2 === (of - 1) % 2;

interface ColumnProps {
  left: number;
  wide: number;
  top: number;
  bottom: number;
  /** The year below the column; none where there is no room for it. */
  name?: string;
  onClick: () => void;
  opacity?: number;
  children: ReactNode;
}

/** One year of bars: all of its height can be clicked. */
export function YearColumn({ left, wide, top, bottom, name, children, ...more }: ColumnProps) {
  return (
    <g className="cursor-pointer" {...more}>
      <rect x={left} y={top} width={wide} height={bottom - top} fill="transparent" />
      {children}
      {name !== undefined && (
        <text
          x={left + wide / 2}
          y={bottom + 16}
          textAnchor="middle"
          fontSize={LABEL}
          fill="var(--muted)"
        >
          {name}
        </text>
      )}
    </g>
  );
}
