import { max } from "d3-array";
import { scaleBand, scaleLinear } from "d3-scale";
import { line } from "d3-shape";
import type { Schemas } from "@/api/client";
import { number } from "@/format/format";
import { BaseYears } from "./BaseYears";
import { BAR, Grid, Hatch, LABEL, Slumps } from "./parts";

type Year = Schemas["YearOut"];
type Pace = Schemas["PaceOut"];
const HEIGHT = 196;
const LEAST_SLOTS = 8;
const PAD = { left: 40, right: 8, top: 22, bottom: 46 };

interface Props {
  years: Year[];
  paces: Pace[];
  /** Years that may be kept pace since. */
  bases: number[];
  /** Those that are. */
  chosen: number[];
  onBase: (place: number, year: number) => void;
  slumps: Schemas["SlumpOut"][];
  real: boolean;
  width: number;
  open: (year: Year) => void;
}

const total = (y: Year) => y.total.value ?? 0;
const expected = (y: Year) => y.expected?.value ?? 0;
const pending = (y: Year) => y.pending?.value ?? 0;
const marks: Record<string, string> = { cut: "cut", suspended: "none", resumed: "resumed" };

/** One bar a year; hatched: declared for this year so far. Lines: what keeping pace with prices since
 * two years asks; in real terms: what was paid in today’s money. */
export function DividendYears({
  years,
  paces,
  bases,
  chosen,
  onBase,
  slumps,
  real,
  width,
  open,
}: Props) {
  const last = years[years.length - 1]?.year ?? 0;
  const first = Math.min(years[0]?.year ?? 0, last - LEAST_SLOTS + 1);
  const names = Array.from({ length: last - first + 1 }, (_, i) => first + i);
  const x = scaleBand<number>()
    .domain(names)
    .range([PAD.left, width - PAD.right])
    .paddingInner(0.32)
    .paddingOuter(0.1);
  const needed = paces.flatMap((p) => p.path.map((s) => s.needed.value ?? 0));
  const paid =
    max(years, (y) => Math.max(total(y), expected(y), real ? (y.real?.value ?? 0) : 0)) ?? 0;
  const top = Math.max(paid, ...needed) || 1;
  const y = scaleLinear()
    .domain([0, top])
    .nice(4)
    .range([HEIGHT - PAD.bottom, PAD.top]);
  const every = Math.ceil(names.length / Math.max(1, (width - 60) / 44));
  const slot = (iso: string) => {
    const t = Number(iso.slice(0, 4)) + (Number(iso.slice(5, 7)) - 1) / 12;
    if (t < first) return null;
    return (
      PAD.left +
      ((Math.min(t, last + 1) - first) / (last + 1 - first)) * (width - PAD.left - PAD.right)
    );
  };
  const path = line<Year>()
    .defined((d) => d.real?.value != null)
    .x((d) => (x(d.year) ?? 0) + x.bandwidth() / 2)
    .y((d) => y(d.real?.value ?? 0));
  const middle = (year: number) => (x(year) ?? 0) + x.bandwidth() / 2;
  const pace = line<Pace["path"][number]>()
    .defined((s) => s.needed.value !== null && x(s.year) !== undefined)
    .x((s) => middle(s.year))
    .y((s) => y(s.needed.value ?? 0));
  return (
    <>
      <svg width={width} height={HEIGHT} aria-hidden="true">
        <defs>
          <Hatch id="to-come" ink="var(--stone)" ground="var(--paper)" />

          <Hatch id="expected" ink="var(--line)" ground="var(--paper)" />
        </defs>
        <Slumps slumps={slumps} x={slot} top={2} bottom={HEIGHT - PAD.bottom} text={width > 500} />
        <Grid
          ticks={y.ticks(4)}
          y={y}
          left={PAD.left}
          right={width - PAD.right}
          text={(v) => number(v, 2)}
        />
        {years.map((d) => {
          const left = x(d.year) ?? 0;
          const done = total(d) - pending(d);
          const wide = x.bandwidth();
          const named = (last - d.year) % every === 0;
          return (
            <g key={d.year} onClick={() => open(d)} className="cursor-pointer">
              <rect
                x={left}
                y={PAD.top}
                width={wide}
                height={HEIGHT - PAD.top - PAD.bottom}
                fill="transparent"
              />
              <rect
                x={left}
                y={y(done)}
                width={wide}
                height={y(0) - y(done)}
                fill={d.complete ? (real ? "var(--stone)" : BAR) : "url(#to-come)"}
                stroke={d.complete ? "none" : "var(--stone)"}
              />
              {pending(d) > 0 && (
                <rect
                  x={left}
                  y={y(total(d))}
                  width={wide}
                  height={y(done) - y(total(d))}
                  fill="none"
                  stroke="var(--stone)"
                  strokeDasharray="3 2"
                />
              )}
              {expected(d) > total(d) && (
                <rect
                  x={left}
                  y={y(expected(d))}
                  width={wide}
                  height={y(total(d)) - y(expected(d))}
                  fill="url(#expected)"
                  stroke="var(--stone)"
                  strokeDasharray="2 3"
                />
              )}
              {d.total.value === null && (
                <text
                  x={left + wide / 2}
                  y={y(0) - 5}
                  textAnchor="middle"
                  fontSize={LABEL}
                  fill="var(--muted)"
                >
                  ?
                </text>
              )}
              {d.total.value !== null && marks[d.outcome] && (
                <text
                  x={left + wide / 2}
                  y={y(total(d)) - 5}
                  textAnchor="middle"
                  fontSize={LABEL}
                  fill="var(--ink)"
                  className="halo"
                >
                  {marks[d.outcome]}
                </text>
              )}
              {named && (
                <text
                  x={left + wide / 2}
                  y={HEIGHT - PAD.bottom + 15}
                  textAnchor="middle"
                  fontSize={LABEL}
                  fill="var(--muted)"
                >
                  {d.year}
                </text>
              )}
            </g>
          );
        })}
        {real && <path d={path(years) ?? ""} fill="none" stroke="var(--action)" strokeWidth="2" />}
        {paces.map((p, i) => (
          <g key={p.base_year} fill="none">
            <path d={pace(p.path) ?? ""} stroke="var(--paper)" strokeWidth="4" />
            <path
              d={pace(p.path) ?? ""}
              stroke="var(--action)"
              strokeWidth="1.5"
              strokeDasharray={i === 0 ? undefined : "5 3"}
            />
          </g>
        ))}
      </svg>
      {bases.length > 1 && (
        <BaseYears
          chosen={chosen}
          bases={bases}
          onBase={onBase}
          left={middle(bases[0] ?? first)}
          right={middle(bases[bases.length - 1] ?? last)}
          top={HEIGHT - 12}
        />
      )}
    </>
  );
}
DividendYears.height = HEIGHT;
