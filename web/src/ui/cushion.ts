import type { Test } from "@/api/client";
import { percent, show, withDates, withUnits } from "@/format/format";

/** As much of a test as its cushion needs to be drawn and told. */
export interface Cushioned {
  state: Test["state"];
  direction: Test["direction"];
  falls: string | null;
  cushion: { value?: number | null; breach?: string | null; reason?: string | null };
  beyond?: string | null;
  measure?: { reason?: string | null; spared?: string | null };
}

/** What the cushion says, naming what can fall. */
export function cushionWords(test: Cushioned): string {
  if (test.state === "unknown") return withDates(test.measure?.reason ?? "unknown");
  if (test.measure?.spared) return test.measure.spared;
  if (test.direction === "pass") return test.state === "within" ? "passes" : "falls short";
  const room = test.cushion.value ?? null;
  if (room === null) return test.cushion.breach ?? test.cushion.reason ?? "crossed";
  if (room < 0) return withUnits(test.beyond ?? "outside its limit");
  return `${test.falls ?? "it"} can fall ${percent(room, 0)}`;
}

export function limitWords(test: Test): string {
  const sign = test.direction === "cap" ? "≤" : test.strict ? ">" : "≥";
  if (test.limit === 0) return `${sign} 0`;
  return `${sign} ${show(test.limit, test.measure.unit, { digits: test.measure.unit === "fraction" ? 0 : undefined })}`;
}
