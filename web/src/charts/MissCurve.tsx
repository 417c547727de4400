import { scaleLinear } from "d3-scale";
import type { Schemas } from "@/api/client";
import { percent } from "@/format/format";
import { Grid, LABEL, XTicks } from "./parts";

type Point = Schemas["CurvePointOut"];
const HEIGHT = 220;
const PAD = { left: 48, right: 24, top: 14, bottom: 40 };

interface Props {
  points: Point[];
  /** The limit in use. */
  now: number;
  told: (limit: number) => string;
  width: number;
}

/** Cuts missed against false alarms, a dot for each limit; the one in use is ringed and named. */
export function MissCurve({ points, now, told, width }: Props) {
  const x = scaleLinear()
    .domain([0, Math.max(0.05, ...points.map((p) => p.false_alarms))])
    .nice(5)
    .range([PAD.left, width - PAD.right]);
  const y = scaleLinear()
    .domain([0, Math.max(0.05, ...points.map((p) => p.missed))])
    .nice(4)
    .range([HEIGHT - PAD.bottom, PAD.top]);
  const ends = [points[0], points.at(-1)].filter((p): p is Point => p !== undefined);
  const mine = points.find((p) => p.limit === now);
  const clear = (p: Point) => !mine || Math.abs(x(p.false_alarms) - x(mine.false_alarms)) > 60;
  const named = [...ends.filter((p) => p.limit !== now && clear(p)), ...(mine ? [mine] : [])];
  return (
    <svg width={width} height={HEIGHT} aria-hidden="true">
      <Grid
        ticks={y.ticks(4)}
        y={y}
        left={PAD.left}
        right={width - PAD.right}
        text={(v) => percent(v, 0)}
      />
      <XTicks ticks={x.ticks(5)} x={x} y={HEIGHT - PAD.bottom + 16} />
      <text
        x={width - PAD.right}
        y={HEIGHT - 6}
        textAnchor="end"
        fontSize={LABEL}
        fill="var(--muted)"
      >
        year ends called close or outside for nothing →
      </text>
      <polyline
        points={points.map((p) => `${x(p.false_alarms)},${y(p.missed)}`).join(" ")}
        fill="none"
        stroke="var(--stone)"
        strokeWidth="1.5"
      />
      {points.map((p) => (
        <circle key={p.limit} cx={x(p.false_alarms)} cy={y(p.missed)} r={3} fill="var(--ink)" />
      ))}
      {named.map((p) => (
        <g key={p.limit}>
          {p.limit === now && (
            <circle
              cx={x(p.false_alarms)}
              cy={y(p.missed)}
              r={8}
              fill="none"
              stroke="var(--action)"
              strokeWidth="2"
            />
          )}
          <text
            x={x(p.false_alarms) + (x(p.false_alarms) > width - 90 ? -12 : 12)}
            y={y(p.missed) - 8}
            textAnchor={x(p.false_alarms) > width - 90 ? "end" : "start"}
            fontSize={LABEL}
            fill={p.limit === now ? "var(--action)" : "var(--muted)"}
            fontWeight={p.limit === now ? 600 : undefined}
          >
            {told(p.limit)}
          </text>
        </g>
      ))}
    </svg>
  );
}
MissCurve.height = HEIGHT;
