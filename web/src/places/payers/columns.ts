/** Which columns the table shows: a set for each stage, and the person's own. */
import type { Measure } from "@/api/payers";
import { isPercent } from "@/format/format";

/** Columns that are marks: what a row always carries, whatever columns are asked for. */
export const DIVIDENDS = "dividends";
export const FIRST = "first";

export const SETS: Record<string, { name: string; columns: string[] }> = {
  overview: {
    name: "Overview",
    columns: [
      "kind",
      "yield",
      "deviation",
      DIVIDENDS,
      "raises",
      "payout",
      FIRST,
      "price_against_buy_below",
    ],
  },
  record: {
    name: "Record",
    columns: [
      "declared_rate",
      DIVIDENDS,
      "raises",
      "no_reduction",
      "latest_raise",
      "growth_1",
      "growth_5",
      "growth_10",
      "real_growth_10",
      "years_ahead",
    ],
  },
  cover: {
    name: "Cover",
    columns: [
      "payout",
      "payout_paid",
      "payout_cycle",
      "payout_worst",
      "earnings_payout",
      "free_cash_flow_payout",
      "per_share_trend",
      FIRST,
    ],
  },
  range: {
    name: "Range",
    columns: [
      "price",
      "yield",
      "mean_yield",
      "deviation",
      "percentile",
      "share_of_weeks",
      "fair_price",
      "premium",
    ],
  },
  worth: {
    name: "Worth",
    columns: [
      "price",
      "blend",
      "buy_below",
      "price_against_buy_below",
      "growth_used",
      "implied_growth",
      "spread",
    ],
  },
};

/** The columns a view asks for: a named set, or ids of the person's own choice. */
export function columnsOf(cols: string | undefined): string[] {
  const set = SETS[cols ?? "overview"];
  return set ? set.columns : (cols ?? "").split(",").filter(Boolean);
}

/** Columns the API is asked for. */
export const asked = (columns: string[]) =>
  columns.filter((c) => c !== DIVIDENDS && c !== FIRST).join(",");

/** A column's name with its unit; a difference also says what its minus means. */
export function headerOf(column: string, measure: Measure | undefined, currency?: string): string {
  if (column === DIVIDENDS) return "Dividend, 12 years";
  if (column === FIRST) return "First to give";
  if (!measure) return column;
  const { under } = measure;
  const side = under ? ` (−\u00a0=\u00a0${under})` : "";
  return `${measure.name.replace(/-(below|year)/, "\u2011$1")}${unitOf(measure, currency)}${side}`;
}

function unitOf({ unit }: Measure, currency?: string): string {
  if (unit === null) return "";
  if (isPercent(unit)) return ", %";
  if (unit === "money") return currency ? `, ${currency} m` : ", m";
  if (unit === "per_share") return currency ? `, ${currency}` : "";
  return unit === "years" || unit === "weeks" ? `, ${unit}` : "";
}

/** Whether its cells are amounts of money, which a row may have in another currency. */
export const isMoney = (measure: Measure | undefined) =>
  measure?.unit === "money" || measure?.unit === "per_share";

/** What a column is sorted by; the sparkline has no order. */
export const sortOf = (column: string) =>
  column === FIRST ? "state" : column === DIVIDENDS ? null : column;

export const isText = (column: string, measure: Measure | undefined) =>
  column === FIRST || measure?.unit === null;
