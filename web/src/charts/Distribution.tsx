import { scaleLinear } from "d3-scale";
import type { Schemas } from "@/api/client";
import { number } from "@/format/format";
import { BAR, LABEL } from "./parts";

type Chance = Schemas["ChanceSeries"];
export const SPREAD_HEIGHT = 190;
const PAD = { left: 8, right: 8, top: 18, bottom: 22 };

/** How often each value was drawn; the price is a line, eight draws of ten are shaded. */
export function Distribution({ drawn, width }: { drawn: Chance; width: number }) {
  const { edges, counts, low, high, price } = drawn;
  const [first, last] = [edges[0] ?? 0, edges.at(-1) ?? 1];
  const span = last - first;
  const near = price != null && price > first - span && price < last + span;
  const domain = [near ? Math.min(first, price) : first, near ? Math.max(last, price) : last];
  const x = scaleLinear()
    .domain(domain)
    .range([PAD.left, width - PAD.right]);
  const y = scaleLinear()
    .domain([0, Math.max(...counts, 1)])
    .range([SPREAD_HEIGHT - PAD.bottom, PAD.top]);
  const floor = SPREAD_HEIGHT - PAD.bottom;
  const ticks = x.ticks(Math.max(3, Math.round(width / 90)));
  const digits = (ticks[1] ?? 1) - (ticks[0] ?? 0) >= 1 ? 0 : 1;
  return (
    <svg width={width} height={SPREAD_HEIGHT} aria-hidden="true">
      {low != null && high != null && (
        <rect
          x={x(low)}
          y={PAD.top}
          width={Math.max(1, x(high) - x(low))}
          height={floor - PAD.top}
          fill="var(--sand)"
          opacity="0.6"
        />
      )}
      {counts.map((n, i) => {
        const [from, to] = [x(edges[i] ?? 0), x(edges[i + 1] ?? 0)];
        return (
          <rect
            key={edges[i]}
            x={from}
            y={y(n)}
            width={Math.max(1, to - from - 1)}
            height={floor - y(n)}
            fill={BAR}
          />
        );
      })}
      <line x1={PAD.left} x2={width - PAD.right} y1={floor} y2={floor} stroke="var(--stone)" />
      {ticks.map((t) => (
        <text
          key={t}
          x={x(t)}
          y={SPREAD_HEIGHT - 6}
          textAnchor="middle"
          fontSize={LABEL}
          fill="var(--muted)"
        >
          {number(t, digits)}
        </text>
      ))}
      {near && (
        <g>
          <line
            x1={x(price)}
            x2={x(price)}
            y1={PAD.top - 4}
            y2={floor}
            stroke="var(--action)"
            strokeWidth="1.6"
          />
          <text
            x={Math.min(Math.max(x(price), 36), width - 36)}
            y={11}
            textAnchor="middle"
            fontSize={LABEL}
            fill="var(--action)"
          >
            price {number(price, 2)}
          </text>
        </g>
      )}
    </svg>
  );
}
