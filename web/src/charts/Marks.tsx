/** Small marks that stand inside table cells. */

/** A deviation to either side of a fixed line. */
export function DeviationMark({ value, full = 0.5 }: { value: number; full?: number }) {
  const size = Math.min(Math.abs(value) / full, 1) * 25;
  return (
    <svg width="52" height="16" viewBox="0 0 52 16" aria-hidden="true">
      <rect
        x={value >= 0 ? 26 : 26 - size}
        y="5"
        width={size}
        height="6"
        fill={value >= 0 ? "var(--ink)" : "var(--sand)"}
        stroke={value >= 0 ? "none" : "var(--stone)"}
      />
      <line x1="26" x2="26" y1="1" y2="15" stroke="var(--stone)" strokeWidth="1.5" />
    </svg>
  );
}

/** Dividends of the last years as tiny bars; a year that is unknown leaves its place empty. */
export function YearBars({ values }: { values: (number | null)[] }) {
  const top = Math.max(...values.map((v) => v ?? 0), 0);
  if (!top) return null;
  return (
    <svg width="72" height="18" viewBox="0 0 72 18" aria-hidden="true">
      {values.map((value, i) => {
        if (value === null) return null;
        const height = Math.max((value / top) * 16, value > 0 ? 1 : 0);
        return (
          <rect
            key={i}
            x={(12 - values.length + i) * 6}
            y={17 - height}
            width="4.4"
            height={height}
            fill="var(--stone)"
          />
        );
      })}
    </svg>
  );
}
