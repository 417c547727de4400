import { max } from "d3-array";
import { scaleBand, scaleLinear } from "d3-scale";
import type { Schemas } from "@/api/client";
import { month, number } from "@/format/format";
import { BAR, Grid, Hatch, LABEL } from "./parts";

type Month = Schemas["IncomeMonthOut"];
const PAD = { left: 46, right: 4, top: 20, bottom: 34 };

interface Props {
  months: Month[];
  width: number;
  height: number;
  /** Amounts are not shown. */
  hidden: boolean;
  /** Without an axis, and with the first amounts alone. */
  small?: boolean;
}

/** What comes month by month: declared solid, expected hatched, and at the left of each what came a
 * year before. */
export function IncomeMonths({ months, width, height, hidden, small = false }: Props) {
  const left0 = small ? 2 : PAD.left;
  const foot = small ? 18 : PAD.bottom;
  const x = scaleBand<string>()
    .domain(months.map((m) => m.month))
    .range([left0, width - PAD.right])
    .paddingInner(0.24)
    .paddingOuter(0.08);
  const y = scaleLinear()
    .domain([0, max(months, (m) => Math.max(m.total, m.came)) || 1])
    .nice(4)
    .range([height - foot, PAD.top]);
  const wide = x.bandwidth();
  const before = Math.min(6, wide * 0.2);
  const named = wide >= 26;
  const told = (i: number) => (small ? i < 3 : named) && !hidden;
  return (
    <svg width={width} height={height} aria-hidden="true">
      <defs>
        <Hatch id="expected-income" ink="var(--stone)" ground="var(--paper)" />
      </defs>
      <Grid
        ticks={small ? [0] : y.ticks(4)}
        y={y}
        left={left0}
        right={width - PAD.right}
        text={(v) => (hidden || small ? "" : number(v, 0))}
      />
      {months.map((m, i) => {
        const left = x(m.month) ?? 0;
        const sure = m.gone_ex + m.declared;
        const [bar, thick] = [left + before + 2, wide - before - 2];
        const first = i === 0 || m.month.endsWith("-01");
        return (
          <g key={m.month}>
            <rect
              x={left}
              y={y(m.came)}
              width={before}
              height={y(0) - y(m.came)}
              fill="var(--stone)"
            />
            <rect x={bar} y={y(sure)} width={thick} height={y(0) - y(sure)} fill={BAR} />
            {m.expected > 0 && (
              <rect
                x={bar}
                y={y(m.total)}
                width={thick}
                height={y(sure) - y(m.total)}
                fill="url(#expected-income)"
                stroke="var(--stone)"
              />
            )}
            {told(i) && m.total > 0 && (
              <text
                x={bar + thick / 2}
                y={y(m.total) - 5}
                textAnchor="middle"
                fontSize={LABEL}
                fontWeight={600}
                fill="var(--ink)"
                className="halo"
              >
                {number(m.total, 0)}
              </text>
            )}
            <text
              x={left + wide / 2}
              y={height - foot + 15}
              textAnchor="middle"
              fontSize={LABEL}
              fill="var(--muted)"
            >
              {named || i % 2 === 0 ? month(`${m.month}-01`).split(" ")[0] : ""}
            </text>
            {first && !small && (
              <text
                x={left + wide / 2}
                y={height - PAD.bottom + 29}
                textAnchor="middle"
                fontSize={LABEL}
                fill="var(--muted)"
              >
                {m.month.slice(0, 4)}
              </text>
            )}
          </g>
        );
      })}
    </svg>
  );
}
