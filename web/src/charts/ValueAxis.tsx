import { scaleLinear } from "d3-scale";
import { number } from "@/format/format";
import { LABEL } from "./parts";

export interface Mark {
  name: string;
  value: number;
  tone: string;
  dashed?: boolean;
  /** All below it is shaded. */
  band?: boolean;
}

interface AxisProps {
  marks: Mark[];
  domain: [number, number];
  width: number;
}

const scaleOf = (domain: [number, number], width: number) =>
  scaleLinear()
    .domain(domain)
    .range([10, width - 10]);

/** The price axis with its marks' names; labels that would meet stand on lines of their own. */
export function ValueAxis({ marks, domain, width }: AxisProps) {
  const x = scaleOf(domain, width);
  const sorted = [...marks].sort((a, b) => a.value - b.value);
  const ends = marks.map(() => Number.NEGATIVE_INFINITY);
  const placed = sorted.map((mark) => {
    const text = `${mark.name} ${number(mark.value, 2)}`;
    const half = text.length * 3.1;
    const centre = Math.min(Math.max(x(mark.value), half), width - half);
    const row = Math.max(
      0,
      ends.findIndex((end) => centre - half > end + 6),
    );
    ends[row] = centre + half;
    return { mark, text, centre, row };
  });
  const ticks = x.ticks(Math.max(3, Math.round(width / 80)));
  const step = (ticks[1] ?? 1) - (ticks[0] ?? 0);
  const digits = step >= 1 ? 0 : step >= 0.1 ? 1 : 2;
  const rows = Math.max(1, ...placed.map((p) => p.row + 1));
  return (
    <svg width={width} height={rows * 16 + 18} aria-hidden="true" className="block">
      {placed.map(({ mark, text, centre, row }) => (
        <text
          key={mark.name}
          x={centre}
          y={rows * 16 - row * 16 - 4}
          textAnchor="middle"
          fontSize={LABEL}
          fill={mark.tone}
        >
          {text}
        </text>
      ))}
      {ticks.map((tick) => (
        <text
          key={tick}
          x={x(tick)}
          y={rows * 16 + 12}
          textAnchor="middle"
          fontSize={LABEL}
          fill="var(--muted)"
        >
          {number(tick, digits)}
        </text>
      ))}
    </svg>
  );
}

interface BarProps extends AxisProps {
  low: number | null;
  middle: number | null;
  high: number | null;
  faint: boolean;
}

/** A value from low to high, its middle marked, on the shared axis; fills the cell it stands in, so
 * that the marks run through from row to row. */
export function ValueBar({ marks, domain, width, low, middle, high, faint }: BarProps) {
  const x = scaleOf(domain, width);
  return (
    <svg width={width} aria-hidden="true" className="absolute inset-y-0 left-0 h-full">
      {marks
        .filter((m) => m.band)
        .map((m) => (
          <rect
            key={m.name}
            x="0"
            y="0"
            width={Math.max(0, x(m.value))}
            height="100%"
            fill="var(--sunk)"
            opacity="0.8"
          />
        ))}
      {marks.map((mark) => (
        <line
          key={mark.name}
          x1={x(mark.value)}
          x2={x(mark.value)}
          y1="0"
          y2="100%"
          stroke={mark.tone}
          strokeWidth="1.4"
          strokeDasharray={mark.dashed ? "4 3" : undefined}
        />
      ))}
      <svg y="50%" overflow="visible" aria-hidden="true">
        {low !== null && high !== null && (
          <rect
            x={x(low)}
            y="-5"
            width={Math.max(2, x(high) - x(low))}
            height="10"
            rx="2"
            fill="var(--sand)"
            stroke="var(--stone)"
            opacity={faint ? 0.5 : 1}
          />
        )}
        {middle !== null && (
          <rect
            x={x(middle) - 2}
            y="-9"
            width="4"
            height="18"
            fill={faint ? "var(--stone)" : "var(--ink)"}
          />
        )}
      </svg>
    </svg>
  );
}
