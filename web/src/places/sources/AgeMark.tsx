import type { Held } from "@/api/sources";

export const AGE = {
  fresh: "up to date",
  ageing: "ageing",
  old: "old",
  none: "none held",
} as const;

/** Fullness, not colour: as full as the facts are fresh. */
export function AgeMark({ age }: { age: Held["age"] }) {
  const share = { fresh: 1, ageing: 0.55, old: 0.2, none: 0 }[age];
  return (
    <svg width="14" height="14" viewBox="0 0 14 14" aria-hidden="true" className="shrink-0">
      <rect
        x="1.500"
        y="1.500"
        width="11"
        height="11"
        fill="none"
        stroke="var(--stone)"
        strokeDasharray={age === "none" ? "2 2" : undefined}
      />
      <rect x="1.500" y={12.5 - 11 * share} width="11" height={11 * share} fill="var(--stone)" />
    </svg>
  );
}
