import { scaleLinear } from "d3-scale";
import type { Schemas } from "@/api/client";
import { number, show } from "@/format/format";
import { BAR, LABEL } from "./parts";

type Move = Schemas["MoveOut"];
const ROW = 40;
const FOOT = 22;
const PAD = 46;
export const movesHeight = (rows: number) => rows * ROW + FOOT;

/** A bar an input, from the value at its low to that at its high, around the value as it stands. */
export function MoveBars(props: { moves: Move[]; combined: number; width: number }) {
  const { moves, combined, width } = props;
  const values = moves.flatMap((m) => [m.low.value, m.high.value]).filter((v) => v !== null);
  const [low, high] = [Math.min(combined, ...values), Math.max(combined, ...values)];
  const x = scaleLinear()
    .domain([low, high > low ? high : low + 1])
    .range([PAD, width - PAD]);
  return (
    <svg width={width} height={movesHeight(moves.length)} aria-hidden="true">
      <line
        x1={x(combined)}
        x2={x(combined)}
        y1={16}
        y2={moves.length * ROW}
        stroke="var(--action)"
        strokeWidth="1.4"
      />
      {moves.map((m, i) => {
        const ends = [m.low, m.high].map((f) => (f.value === null ? width - PAD : x(f.value)));
        const [from, to] = [Math.min(...ends), Math.max(...ends)];
        const y = i * ROW;
        const told = (f: Move["low"]) => (f.value === null ? "no limit" : number(f.value, 2));
        const rising = (ends[0] ?? 0) <= (ends[1] ?? 0);
        return (
          <g key={m.id}>
            <text x={0} y={y + 12} fontSize={LABEL} fill="var(--ink)" className="halo">
              {m.name}, {show(m.low_input.value ?? 0, m.low_input.unit, { digits: 2 })} to{" "}
              {show(m.high_input.value ?? 0, m.high_input.unit, { digits: 2 })}
            </text>
            <rect
              x={from}
              y={y + 18}
              width={Math.max(2, to - from)}
              height={12}
              rx={2}
              fill={BAR}
            />
            <text x={from - 4} y={y + 28} textAnchor="end" fontSize={LABEL} fill="var(--muted)">
              {told(rising ? m.low : m.high)}
            </text>
            <text x={to + 4} y={y + 28} fontSize={LABEL} fill="var(--muted)">
              {told(rising ? m.high : m.low)}
            </text>
          </g>
        );
      })}
      <text
        x={x(combined)}
        y={moves.length * ROW + 14}
        textAnchor="middle"
        fontSize={LABEL}
        fill="var(--action)"
      >
        combined {number(combined, 2)}
      </text>
    </svg>
  );
}
