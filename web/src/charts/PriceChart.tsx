import { bisectLeft, extent } from "d3-array";
import { scaleLinear, scaleLog, scaleUtc } from "d3-scale";
import { line } from "d3-shape";
import { useRef } from "react";
import type { Schemas } from "@/api/client";
import { day, number } from "@/format/format";
import { type Days, logTicks, priceOn, time } from "./courses";
import { Grid, Slumps, TimeTicks } from "./parts";
import { useDays } from "./useDays";

export interface Course extends Days {
  name: string;
}

interface Props {
  /** The first is the payer's own; its days are those that are read. */
  courses: Course[];
  averages: Course[];
  paid: Schemas["WentExOut"][];
  slumps: Schemas["SlumpOut"][];
  lines: Schemas["PriceLineOut"][];
  log: boolean;
  /** What the values are in. */
  unit: string;
  width: number;
  /** A span was chosen on the chart. */
  onSpan: (first: string, last: string) => void;
  onMoveLine: (line: Schemas["PriceLineOut"]) => void;
}

const HEIGHT = 300;
const PAD = { left: 52, right: 14, top: 16, bottom: 24 };
const DASHES = [undefined, "7 3", "2 3", "9 3 2 3", "4 4", "1 4", "12 4"];

/** Prices over time. Pointer and arrow keys read any day; dragging, or Shift with the arrows and
 * Enter, chooses a span. */
export function PriceChart(props: Props) {
  const { courses, averages, paid, slumps, lines, log, unit, width } = props;
  const own = courses[0];
  const box = useRef<SVGSVGElement>(null);
  const days = own?.days ?? [];
  const [first, last] = [days[0] ?? "", days.at(-1) ?? ""];
  const all = [...courses, ...averages].flatMap((c) => c.values.filter((v) => v !== null));
  const held = lines.flatMap((l) => [priceOn(l, first), priceOn(l, last)]);
  const [low = 1, high = 2] = extent(
    [...all, ...held.filter((v) => v > 0)].filter((v) => v > 0 || !log),
  );
  const x = scaleUtc()
    .domain([time(first || "2000-01-01"), time(last || "2000-01-02")])
    .range([PAD.left, width - PAD.right]);
  const y = (log ? scaleLog() : scaleLinear())
    .domain(log ? [low * 0.96, high * 1.04] : [Math.max(0, low - (high - low) * 0.05), high * 1.02])
    .range([HEIGHT - PAD.bottom, PAD.top]);
  const ticks = log ? logTicks(low, high) : y.ticks(5);
  const path = (c: Course) =>
    line<[string, number | null]>()
      .defined(([, v]) => v !== null)
      .x(([d]) => x(time(d)))
      .y(([, v]) => y(v ?? 0))(c.days.map((d, i) => [d, c.values[i] ?? null])) ?? "";
  const slot = (iso: string) =>
    iso > last ? x(time(last)) : iso < first ? PAD.left : x(time(iso));
  const { at, anchor, keys, pointer } = useDays(days, x, box, props.onSpan);
  if (!own || days.length < 2) return null;
  const marked = at === null ? null : own.days[at];
  const told = marked ? readout(marked, courses, paid, unit) : "";
  const short = time(last).getTime() - time(first).getTime() < 3 * 365 * 86_400_000;
  return (
    <div className="relative">
      <div
        role="application"
        tabIndex={0}
        aria-label={`Prices from ${day(first)} to ${day(last)}; arrow keys read a day, Shift with them and Enter choose a span. ${told}`}
        className="rounded-sm"
        {...keys}
      >
        <svg
          ref={box}
          width={width}
          height={HEIGHT}
          aria-hidden="true"
          className="cursor-crosshair touch-pan-y select-none"
          {...pointer}
        >
          <Slumps
            slumps={slumps.filter((s) => (s.ends ?? "9999") >= first)}
            x={slot}
            top={PAD.top}
            bottom={HEIGHT - PAD.bottom}
            text={width > 560}
          />
          <Grid
            ticks={ticks}
            y={y}
            left={PAD.left}
            right={width - PAD.right}
            text={(v) => number(v, v < 10 ? 2 : v < 100 ? 1 : 0)}
          />
          <TimeTicks
            ticks={x.ticks(width > 560 ? 7 : 4)}
            x={x}
            y={HEIGHT - 6}
            right={width - 40}
            short={short}
          />
          {anchor !== null && at !== null && (
            <rect
              x={Math.min(x(time(own.days[anchor] ?? first)), x(time(own.days[at] ?? first)))}
              y={PAD.top}
              width={Math.abs(x(time(own.days[at] ?? first)) - x(time(own.days[anchor] ?? first)))}
              height={HEIGHT - PAD.top - PAD.bottom}
              fill="var(--action)"
              opacity="0.14"
            />
          )}
          {averages.map((c, i) => (
            <path
              key={c.name}
              d={path(c)}
              fill="none"
              stroke="var(--stone)"
              strokeWidth="1.3"
              strokeDasharray={DASHES[i]}
            />
          ))}
          {courses.toReversed().map((c) => {
            const i = courses.indexOf(c);
            return (
              <path
                key={c.name}
                d={path(c)}
                fill="none"
                stroke={i === 0 ? "var(--ink)" : i === 1 ? "var(--stone)" : "var(--muted)"}
                strokeWidth={i === 0 ? 1.7 : 1.4}
                strokeDasharray={DASHES[i]}
              />
            );
          })}
          {paid
            .filter((p) => p.ex_date >= first && p.ex_date <= last)
            .map((p) => (
              <line
                key={`${p.ex_date}-${p.kind}`}
                x1={x(time(p.ex_date))}
                x2={x(time(p.ex_date))}
                y1={HEIGHT - PAD.bottom}
                y2={HEIGHT - PAD.bottom - (p.kind === "regular" ? 5 : 10)}
                stroke="var(--stone)"
              />
            ))}
          {lines.map((l) => (
            <line
              key={l.id}
              x1={x(time(first))}
              x2={x(time(last))}
              y1={y(Math.max(priceOn(l, first), low * 0.5))}
              y2={y(Math.max(priceOn(l, last), low * 0.5))}
              stroke="var(--action)"
              strokeWidth="1.5"
            />
          ))}
          {marked && (
            <g>
              <line
                x1={x(time(marked))}
                x2={x(time(marked))}
                y1={PAD.top}
                y2={HEIGHT - PAD.bottom}
                stroke="var(--action)"
              />
              <circle
                cx={x(time(marked))}
                cy={y(own.values[at ?? 0] ?? low)}
                r="4"
                fill="var(--action)"
              />
            </g>
          )}
        </svg>
      </div>
      {lines.map((l) => (
        <LineHandle
          key={l.id}
          line={l}
          top={y(Math.max(priceOn(l, last), low * 0.5))}
          priceAt={(clientY) => {
            const top = box.current?.getBoundingClientRect().top ?? 0;
            return Number(y.invert(clientY - top));
          }}
          onMove={props.onMoveLine}
        />
      ))}
      <p className="min-h-[22px] text-[14px]" aria-live="polite" data-testid="price-read">
        {told}
      </p>
    </div>
  );
}
PriceChart.height = HEIGHT + 24;

/** The whole line moves up or down: dragged, or by the arrow keys. */
function LineHandle(props: {
  line: Schemas["PriceLineOut"];
  top: number;
  priceAt: (clientY: number) => number;
  onMove: (line: Schemas["PriceLineOut"]) => void;
}) {
  const { line: l, top, onMove } = props;
  const shift = (by: number) => {
    const [a, b] = [l.first_price + by, l.last_price + by];
    if (a > 0 && b > 0) {
      onMove({ ...l, first_price: Number(a.toFixed(4)), last_price: Number(b.toFixed(4)) });
    }
  };
  const step = Number((l.last_price * 0.005).toPrecision(2));
  const keys: Record<string, number> = {
    ArrowUp: step,
    ArrowDown: -step,
    PageUp: 10 * step,
    PageDown: -10 * step,
  };
  return (
    <div
      role="slider"
      tabIndex={0}
      aria-label={l.name || "Line without a name"}
      aria-valuemin={0}
      aria-valuenow={l.last_price}
      aria-valuetext={number(l.last_price, 2)}
      aria-orientation="vertical"
      className="absolute left-[58px] cursor-ns-resize touch-none rounded-full bg-action px-2 text-[12px] text-paper leading-[20px]"
      style={{ top: top - 10 }}
      onKeyDown={(e) => {
        const by = keys[e.key];
        if (!by) return;
        e.preventDefault();
        e.stopPropagation();
        shift(by);
      }}
      onPointerDown={(e) => e.currentTarget.setPointerCapture(e.pointerId)}
      onPointerMove={(e) => {
        if (e.currentTarget.hasPointerCapture(e.pointerId)) {
          shift(props.priceAt(e.clientY) - l.last_price);
        }
      }}
    >
      {l.name || "line"} {number(l.last_price, 2)}
    </div>
  );
}

function readout(
  on: string,
  courses: Course[],
  paid: Schemas["WentExOut"][],
  unit: string,
): string {
  const said = courses.flatMap((c) => {
    const at = bisectLeft(c.days, on);
    const place = c.days[at] === on ? at : at - 1;
    const value = c.values[place];
    return value === undefined || value === null ? [] : [`${c.name} ${number(value, 2)}`];
  });
  const dividends = paid
    .filter((p) => p.ex_date === on)
    .map((p) => `, ${p.kind.replaceAll("_", " ")} dividend of ${number(p.amount, 4)}`);
  return `${day(on)}: ${said.join("; ")} ${unit}${dividends.join("")}`;
}
