import { extent } from "d3-array";
import { scaleLinear, scalePoint } from "d3-scale";
import { line } from "d3-shape";
import { Grid, LABEL } from "./parts";

const HEIGHT = 210;
const PAD = { left: 44, right: 150, top: 14, bottom: 22 };
/** Lines are told apart by how they are drawn, and named at their end. */
const STROKES = [
  { stroke: "var(--ink)", strokeWidth: 2.4 },
  { stroke: "var(--ink)", strokeWidth: 1.6, strokeDasharray: "6 3" },
  { stroke: "var(--stone)", strokeWidth: 2.4 },
  { stroke: "var(--stone)", strokeWidth: 1.8, strokeDasharray: "2 3" },
];

export interface LineOfYears {
  name: string;
  values: (number | null)[];
}

interface Props {
  years: number[];
  lines: LineOfYears[];
  width: number;
  text: (value: number) => string;
}

/** Several measures over the years on one scale. */
export function YearLines({ years, lines, width, text }: Props) {
  const right = width < 500 ? 110 : PAD.right;
  const x = scalePoint<number>()
    .domain(years)
    .range([PAD.left, width - right])
    .padding(0.2);
  const known = lines.flatMap((l) => l.values.filter((v): v is number => v !== null));
  const [low = 0, high = 1] = extent(known);
  const y = scaleLinear()
    .domain(low === high ? [low - 1, high + 1] : [low, high])
    .nice(4)
    .range([HEIGHT - PAD.bottom, PAD.top]);
  const path = line<[number, number]>();
  const ends = spread(
    lines.flatMap((l, n) => {
      const last = l.values.findLastIndex((v) => v !== null);
      const value = l.values[last];
      return value == null ? [] : [{ n, name: l.name, value, at: y(value) }];
    }),
  );
  const step = Math.ceil(years.length / Math.max(2, Math.floor((width - right - PAD.left) / 44)));
  return (
    <svg width={width} height={HEIGHT} aria-hidden="true">
      <Grid ticks={y.ticks(4)} y={y} left={PAD.left} right={width - right} text={text} />
      {years.map(
        (year, i) =>
          (years.length - 1 - i) % step === 0 && (
            <text
              key={year}
              x={x(year)}
              y={HEIGHT - 6}
              textAnchor="middle"
              fontSize={LABEL}
              fill="var(--muted)"
            >
              {year}
            </text>
          ),
      )}
      {lines.map((l, n) => (
        <g key={l.name}>
          {runs(l.values).map((run) => (
            <path
              key={run[0]}
              d={path(run.map((i) => [x(years[i] as number) ?? 0, y(l.values[i] as number)])) ?? ""}
              fill="none"
              {...STROKES[n % STROKES.length]}
            />
          ))}
        </g>
      ))}
      {ends.map((end) => (
        <g key={end.name}>
          <line
            x1={width - right + 6}
            x2={width - right + 24}
            y1={end.at}
            y2={end.at}
            {...STROKES[end.n % STROKES.length]}
          />
          <text x={width - right + 29} y={end.at + 4} fontSize={LABEL} fill="var(--ink)">
            {end.name} {text(end.value)}
          </text>
        </g>
      ))}
    </svg>
  );
}
YearLines.height = HEIGHT;

/** Stretches of known values: a missing year leaves its gap. */
function runs(values: (number | null)[]): number[][] {
  const found: number[][] = [];
  values.forEach((value, i) => {
    if (value === null) return;
    const last = found.at(-1);
    if (last?.at(-1) === i - 1) last.push(i);
    else found.push([i]);
  });
  return found;
}

/** Names at the ends of the lines, moved apart so that none lies on another. */
function spread<T extends { at: number }>(ends: T[]): T[] {
  const sorted = [...ends].sort((a, b) => a.at - b.at);
  const most = HEIGHT - PAD.bottom;
  sorted.forEach((end, i) => {
    const before = sorted[i - 1];
    if (before && end.at - before.at < LABEL + 3) end.at = before.at + LABEL + 3;
  });
  const over = (sorted.at(-1)?.at ?? 0) - most;
  return over > 0 ? sorted.map((end) => ({ ...end, at: end.at - over })) : sorted;
}
