/** Which columns the table shows: a declared set, or the person's own. */
import type { Catalogue, Measure } from "@/api/payers";
import { isPercent } from "@/format/format";

const FIRST_SET = "overview";

/** The set of columns a view names; none where it names columns of its own. */
export const setOf = (cols: string | undefined, catalogue: Catalogue) =>
  catalogue.sets.find((s) => s.id === (cols ?? FIRST_SET));

/** The columns a view asks for: a declared set, or ids of the person's own choice. */
export function columnsOf(cols: string | undefined, catalogue: Catalogue): string[] {
  return setOf(cols, catalogue)?.columns ?? (cols ?? "").split(",").filter(Boolean);
}

/** Columns the API is asked for: all but the marks, which every row carries. */
export const asked = (columns: string[], measures: Map<string, Measure>) =>
  columns.filter((c) => !isMark(measures.get(c))).join(",");

/** Whether it is drawn from what every row carries. */
export const isMark = (measure: Measure | undefined) =>
  measure !== undefined && measure.unit === null && measure.choices === null;

/** A column's name with its unit; a difference also says what its minus means. */
export function headerOf(column: string, measure: Measure | undefined, currency?: string): string {
  if (!measure) return column;
  const { under } = measure;
  const side = under ? ` (−\u00a0=\u00a0${under})` : "";
  return `${measure.name.replace(/-(below|year)/, "\u2011$1")}${unitOf(measure, currency)}${side}`;
}

function unitOf({ unit, currency: atHome }: Measure, currency?: string): string {
  if (unit === null) return "";
  if (atHome) return `, ${atHome}`;
  if (isPercent(unit)) return ", %";
  if (unit === "money") return currency ? `, ${currency} m` : ", m";
  if (unit === "per_share") return currency ? `, ${currency}` : "";
  return unit === "years" || unit === "weeks" ? `, ${unit}` : "";
}

/** Whether its cells are amounts of money, which a row may have in another currency. */
export const isMoney = (measure: Measure | undefined) =>
  measure?.unit === "money" || measure?.unit === "per_share";

export const isText = (measure: Measure | undefined) =>
  measure?.unit === null && measure.drawn !== "dividends";
