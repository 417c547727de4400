import { scaleLinear } from "d3-scale";
import { number, signed } from "@/format/format";
import { BAR, LABEL } from "./parts";

export interface Step {
  name: string;
  /** By how much the income changed; null marks where it stands. */
  by: number | null;
  /** What it comes to after it. */
  to: number;
}

interface Props {
  steps: Step[];
  width: number;
  hidden: boolean;
}

const ROW = 25;
const NAMES = 96;
const AMOUNTS = 66;
export const heightOf = (steps: Step[]) => steps.length * ROW + 6;

/** From what it was to what it is, step by step: each bar begins where the one before ended. */
export function IncomeSteps({ steps, width, hidden }: Props) {
  const ends = steps.flatMap((s) => [s.to, s.by === null ? s.to : s.to - s.by]);
  const [low, high] = [Math.min(...ends), Math.max(...ends)];
  const x = scaleLinear()
    .domain([low, high === low ? low + 1 : high])
    .range([NAMES, Math.max(NAMES + 40, width - AMOUNTS)]);
  return (
    <svg width={width} height={heightOf(steps)} aria-hidden="true">
      {steps.map((s, i) => {
        const y = i * ROW + 4;
        const from = s.by === null ? s.to : s.to - s.by;
        const [left, right] = [x(Math.min(from, s.to)), x(Math.max(from, s.to))];
        return (
          <g key={s.name}>
            <text
              x={0}
              y={y + 12}
              fontSize={13}
              fontWeight={s.by === null ? 600 : 400}
              fill="var(--ink)"
            >
              {s.name}
            </text>
            {s.by === null ? (
              <rect x={x(s.to) - 1.5} y={y} width={3} height={16} fill="var(--ink)" />
            ) : (
              <rect
                x={left}
                y={y + 3}
                width={Math.max(1, right - left)}
                height={10}
                fill={s.by > 0 ? BAR : "var(--paper)"}
                stroke={s.by > 0 ? "none" : "var(--stone)"}
              />
            )}
            {i + 1 < steps.length && (
              <line x1={x(s.to)} x2={x(s.to)} y1={y + 13} y2={y + ROW + 3} stroke="var(--stone)" />
            )}
            <text
              x={width}
              y={y + 12}
              textAnchor="end"
              fontSize={LABEL + 1}
              fontWeight={s.by === null ? 600 : 400}
              fill="var(--ink)"
            >
              {hidden ? "" : s.by === null ? number(s.to, 0) : signed(number(s.by, 0), s.by)}
            </text>
          </g>
        );
      })}
    </svg>
  );
}
