import { bin, max } from "d3-array";
import { scaleLinear, scaleUtc } from "d3-scale";
import { line } from "d3-shape";
import { Slider } from "radix-ui";
import { useRef } from "react";
import type { Schemas } from "@/api/client";
import { day, isPercent, number, show } from "@/format/format";
import { time } from "./courses";
import { Grid, LABEL, Slumps, TimeTicks } from "./parts";
import { useDays } from "./useDays";

type Range = Schemas["RangeSeries"];
export const RULER_HEIGHT = 276;
/** Weeks without a value leave a gap in the line. */
const GAP = 22 * 86_400_000;
const PAD = { left: 34, right: 52, top: 10, bottom: 24 };
/** How far one press of an arrow key moves the aim. */
export const aimStep = (range: Range) => (isPercent(range.unit) ? 0.0005 : 0.05);

interface Props {
  range: Range;
  currency: string;
  slumps: Schemas["SlumpOut"][];
  aim: number | undefined;
  said: string;
  width: number;
  onAim: (target: number) => void;
  /** A part of the history was dragged over: the window. */
  onSpan: (first: string, last: string) => void;
}

/** The history as a line; on the same axis the distribution of the weeks, the same heights as prices, and a
 * handle to aim with. */
export function RangeRuler({ range, currency, slumps, aim, said, width, onAim, onSpan }: Props) {
  const box = useRef<SVGSVGElement>(null);
  const scale = range.price_scale;
  const told = (value: number) => show(value, range.unit, { digits: 2 });
  const [low, high] = [scale[0]?.value ?? 0, scale[scale.length - 1]?.value ?? 1];
  const y = scaleLinear()
    .domain([low, high])
    .range([RULER_HEIGHT - PAD.bottom, PAD.top]);
  const split = width > 560 ? Math.round(width * 0.6) : Math.round(width * 0.5);
  const days = range.weeks.days.map((d) => new Date(`${d}T00:00:00Z`));
  const first = days[0] ?? new Date(0);
  const last = days[days.length - 1] ?? new Date(0);
  const x = scaleUtc()
    .domain([first, last])
    .range([PAD.left, split - 12]);
  const { at, anchor, pointer } = useDays(range.weeks.days, x, box, onSpan);
  const read = at === null ? undefined : range.weeks.days[at];
  const short = last.getTime() - first.getTime() < 4 * 365 * 86_400_000;
  const points = range.weeks.values.map((v, i) => [x(days[i] ?? first), y(v)] as [number, number]);
  const stretches = points.reduce<[number, number][][]>((found, point, i) => {
    const gap = (days[i]?.getTime() ?? 0) - (days[i - 1]?.getTime() ?? 0) > GAP;
    if (i === 0 || gap) found.push([]);
    found.at(-1)?.push(point);
    return found;
  }, []);
  const bins = bin().domain([low, high]).thresholds(22)(range.weeks.values);
  const longest = max(bins, (b) => b.length) || 1;
  const right = width - PAD.right;
  const long = scaleLinear()
    .domain([0, longest])
    .range([0, right - split - 100]);
  const held = (name: string) => range.figures[name]?.value ?? null;
  const [now, usual] = [held("now"), held("typical")];
  const [q1 = null, q3 = null] = range.band.map((f) => f.value);
  const slot = (iso: string) => {
    const at = new Date(`${iso}T00:00:00Z`);
    if (at < first) return iso < (range.weeks.days[0] ?? "") ? PAD.left : null;
    return x(at > last ? last : at);
  };
  const inWindow = slumps.filter((s) => (s.ends ?? "9999") >= (range.weeks.days[0] ?? "9999"));
  return (
    <div className="relative" style={{ width, height: RULER_HEIGHT }}>
      <svg
        ref={box}
        width={width}
        height={RULER_HEIGHT}
        aria-hidden="true"
        className="touch-pan-y select-none"
        {...pointer}
      >
        <Slumps
          slumps={inWindow}
          x={slot}
          top={PAD.top}
          bottom={RULER_HEIGHT - PAD.bottom}
          text={width > 560}
        />
        {q1 !== null && q3 !== null && (
          <rect
            x={PAD.left}
            y={y(q3)}
            width={split - 12 - PAD.left}
            height={y(q1) - y(q3)}
            fill="var(--sand)"
            opacity="0.38"
          />
        )}
        <Grid
          ticks={y.ticks(6)}
          y={y}
          left={PAD.left}
          right={split - 12}
          text={(v) => show(v, range.unit, { digits: 1, bare: true })}
        />
        {anchor !== null && read && (
          <rect
            x={Math.min(x(time(range.weeks.days[anchor] ?? read)), x(time(read)))}
            y={PAD.top}
            width={Math.abs(x(time(read)) - x(time(range.weeks.days[anchor] ?? read)))}
            height={RULER_HEIGHT - PAD.top - PAD.bottom}
            fill="var(--action)"
            opacity="0.14"
          />
        )}
        {stretches.map((stretch) => (
          <path
            key={stretch[0]?.[0]}
            d={line()(stretch) ?? ""}
            fill="none"
            stroke="var(--ink)"
            strokeWidth="1.5"
          />
        ))}
        {usual !== null && (
          <line
            x1={PAD.left}
            x2={right}
            y1={y(usual)}
            y2={y(usual)}
            stroke="var(--ink)"
            strokeDasharray="5 4"
          />
        )}
        {read && (
          <g>
            <line
              x1={x(time(read))}
              x2={x(time(read))}
              y1={PAD.top}
              y2={RULER_HEIGHT - PAD.bottom}
              stroke="var(--action)"
              opacity="0.5"
            />
            <text
              x={Math.min(x(time(read)) + 5, split - 150)}
              y={RULER_HEIGHT - PAD.bottom - 6}
              fontSize={LABEL}
              fill="var(--action)"
              className="halo"
            >
              {day(read)}: {told(range.weeks.values[at ?? 0] ?? 0)}
            </text>
          </g>
        )}
        <TimeTicks
          ticks={x.ticks(width > 560 ? 6 : 3)}
          x={x}
          y={RULER_HEIGHT - 6}
          right={split - 34}
          short={short}
        />
        {bins.map((b) => (
          <rect
            key={b.x0}
            x={split}
            y={y(b.x1 ?? 0) + 0.75}
            width={long(b.length)}
            height={Math.max(0, y(b.x0 ?? 0) - y(b.x1 ?? 0) - 1.5)}
            fill="var(--sand)"
            stroke={b.length ? "var(--stone)" : "none"}
          />
        ))}
        <text x={split} y={RULER_HEIGHT - 6} fontSize={LABEL} fill="var(--muted)">
          weeks at each {isPercent(range.unit) ? range.name : "multiple"}
        </text>
        <line
          x1={right}
          x2={right}
          y1={PAD.top}
          y2={RULER_HEIGHT - PAD.bottom}
          stroke="var(--stone)"
        />
        {scale.map((mark) => (
          <g key={mark.value}>
            <line
              x1={right - 4}
              x2={right + 4}
              y1={y(mark.value)}
              y2={y(mark.value)}
              stroke="var(--stone)"
            />
            <text x={right + 8} y={y(mark.value) + 4} fontSize={LABEL} fill="var(--muted)">
              {number(mark.price, 2)}
            </text>
          </g>
        ))}
        <text x={width} y={RULER_HEIGHT - 6} textAnchor="end" fontSize={LABEL} fill="var(--muted)">
          price, {currency}
        </text>
        {usual !== null && (
          <text
            x={right - 118}
            y={y(usual) + (now !== null && now >= usual ? 14 : -5)}
            textAnchor="end"
            fontSize={LABEL}
            fill="var(--ink)"
            className="halo"
          >
            {range.usual} {told(usual)}
          </text>
        )}
        {now !== null && (
          <g>
            <line
              x1={split - 12}
              x2={right}
              y1={y(now)}
              y2={y(now)}
              stroke="var(--action)"
              strokeWidth="1.5"
            />
            <circle cx={split - 12} cy={y(now)} r="5" fill="var(--action)" />
            <text
              x={right - 118}
              y={y(now) + (usual === null || now >= usual ? -5 : 14)}
              textAnchor="end"
              fontSize={LABEL}
              fill="var(--action)"
              className="halo"
            >
              now {told(now)}
            </text>
          </g>
        )}
      </svg>
      <Slider.Root
        orientation="vertical"
        min={low}
        max={high}
        step={aimStep(range)}
        value={[Math.min(high, Math.max(low, aim ?? now ?? low))]}
        onValueChange={([to]) => to !== undefined && onAim(Number(to.toFixed(5)))}
        className="absolute touch-none cursor-ns-resize"
        style={{
          left: split,
          width: right - split,
          top: PAD.top,
          height: RULER_HEIGHT - PAD.top - PAD.bottom,
        }}
      >
        <Slider.Thumb
          aria-label={`Target ${range.name}`}
          aria-valuetext={said}
          className="group block h-0 w-0 outline-none"
        >
          <span
            className="absolute right-0 block h-[2px] -translate-y-1/2 bg-ink"
            style={{ width: right - split, left: 0 }}
          />
          <span
            className="absolute flex h-[26px] -translate-y-1/2 items-center whitespace-nowrap rounded-full bg-action px-2.5 text-[13px] text-paper group-focus-visible:outline-2 group-focus-visible:outline-offset-2 group-focus-visible:outline-action"
            style={{ left: Math.max(0, right - split - 112) }}
          >
            ⇕ {aim === undefined ? "aim" : `aim ${told(aim)}`}
          </span>
        </Slider.Thumb>
      </Slider.Root>
    </div>
  );
}
