/** What courses of prices need that is no drawing: parts of them, rebasing, a line on a day, ticks. */
import type { Schemas } from "@/api/client";

export interface Days {
  days: string[];
  values: (number | null)[];
}

export const time = (iso: string) => new Date(`${iso}T00:00:00Z`);

/** The part between two days, both included. */
export function within({ days, values }: Days, first: string, last: string): Days {
  const from = days.findIndex((d) => d >= first);
  const to = days.findLastIndex((d) => d <= last) + 1;
  return from < 0
    ? { days: [], values: [] }
    : { days: days.slice(from, to), values: values.slice(from, to) };
}

/** Values that begin at 100. */
export function rebased(values: (number | null)[]): (number | null)[] {
  const base = values.find((v) => v !== null && v > 0) ?? 1;
  return values.map((v) => (v === null ? null : (100 * v) / base));
}

/** What a line stands at on a day. */
export function priceOn(l: Schemas["PriceLineOut"], on: string): number {
  const [a, b] = [time(l.first_day).getTime(), time(l.last_day).getTime()];
  const share = b === a ? 0 : (time(on).getTime() - a) / (b - a);
  return l.first_price + share * (l.last_price - l.first_price);
}

/** 1, 2 and 5 of every power of ten within reach; in between where that is too few. */
export function logTicks(low: number, high: number): number[] {
  const found: number[] = [];
  for (let power = Math.floor(Math.log10(low)); power <= Math.ceil(Math.log10(high)); power++) {
    for (const part of [1, 1.5, 2, 3, 5, 7]) {
      const tick = part * 10 ** power;
      if (tick >= low && tick <= high) found.push(tick);
    }
  }
  return found.length > 7 ? found.filter((_, i) => i % 2 === 0) : found;
}
