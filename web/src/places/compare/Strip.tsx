import { scaleLinear } from "d3-scale";
import type { CompareLine } from "@/api/compare";

/** Payers are told apart by letters, as their order may change. */
export const letterOf = (place: number) => String.fromCharCode(65 + place);

const WIDTH = 150;
const HEIGHT = 22;

/** How far the payers lie apart in one measure: a letter each, the best to the right. */
export function Strip({ line }: { line: CompareLine }) {
  const known = line.cells.flatMap((c, i) => (c.compared === null ? [] : [{ i, at: c.compared }]));
  const low = Math.min(...known.map((k) => k.at));
  const high = Math.max(...known.map((k) => k.at));
  const ends = line.better === "high" ? [low, high] : [high, low];
  const x = scaleLinear()
    .domain(ends)
    .range([10, WIDTH - 10]);
  if (known.length < 2) return null;
  const apart = spread(known.map((k) => ({ ...k, x: low === high ? WIDTH / 2 : x(k.at) })));
  return (
    <svg width={WIDTH} height={HEIGHT} aria-hidden="true" className="block">
      <line x1="4" x2={WIDTH - 4} y1="17" y2="17" stroke="var(--stone)" />
      {apart.map((k) => (
        <g key={k.i}>
          <circle
            cx={k.x}
            cy="17"
            r={line.cells[k.i]?.best ? 4 : 2.5}
            fill={line.cells[k.i]?.best ? "var(--ink)" : "var(--stone)"}
          />
          <text
            x={k.label}
            y="10"
            textAnchor="middle"
            fontSize="12"
            fontWeight={line.cells[k.i]?.best ? 700 : 400}
            fill="var(--ink)"
          >
            {letterOf(k.i)}
          </text>
        </g>
      ))}
    </svg>
  );
}

/** Letters that would stand on each other are moved apart, and back from the edge. */
function spread<T extends { x: number }>(marks: T[]): (T & { label: number })[] {
  const apart = [...marks].sort((a, b) => a.x - b.x).map((m) => ({ ...m, label: m.x }));
  apart.forEach((m, i) => {
    const before = apart[i - 1];
    if (before) m.label = Math.max(m.label, before.label + LETTER);
  });
  [...apart].reverse().forEach((m, i, all) => {
    const after = all[i - 1];
    m.label = Math.min(m.label, after ? after.label - LETTER : WIDTH - 6);
  });
  return apart;
}

const LETTER = 11;
