/** The one place where a number becomes text. Finance is computed by the API; here it is only shown. */
import type { components } from "@/api/schema";

export type Unit = components["schemas"]["FigureOut"]["unit"];

const MINUS = "\u2212";
const THIN = "\u202f";
export const locale = typeof navigator === "undefined" ? "en-GB" : navigator.language;
const decimals = new Map<number, Intl.NumberFormat>();

export function number(value: number, digits = 0): string {
  let format = decimals.get(digits);
  if (!format) {
    format = new Intl.NumberFormat(locale, {
      minimumFractionDigits: digits,
      maximumFractionDigits: digits,
    });
    decimals.set(digits, format);
  }
  const text = format.format(Math.abs(value));
  const zero = !/[1-9]/.test(text);
  return value < 0 && !zero ? MINUS + text : text;
}

export function percent(value: number, digits = 1): string {
  return `${number(value * 100, digits)}${THIN}%`;
}

/** A difference shows its direction even when it is up. */
export function signed(text: string, value: number): string {
  return value > 0 && /[1-9]/.test(text) ? `+${text}` : text;
}

/** A number as typed, or why it cannot be read. Both decimal signs are understood; what could be
 * read in two ways is refused rather than guessed. text: to the last digit, with a point. */
export function readNumber(typed: string): { value: number; text: string } | { error: string } {
  const text = typed
    .trim()
    .replace(/\u2212/g, "-")
    .replace(/[\s\u00a0\u202f']/g, "");
  if (/^[-+]?[1-9]\d{0,2},\d{3}$/.test(text)) {
    const [plain, decimal] = [text.replace(",", ""), text.replace(",", ".")];
    return {
      error: `“${typed}” can be read as ${plain} or as ${decimal}; write it without the comma`,
    };
  }
  const sign = Math.max(text.lastIndexOf(","), text.lastIndexOf("."));
  const both = text.includes(",") && text.includes(".");
  const whole = both ? text.slice(0, sign).replace(/[,.]/g, "") : text.slice(0, Math.max(sign, 0));
  const exact = sign < 0 ? text : `${whole}.${text.slice(sign + 1)}`;
  const value = Number(exact);
  if (!/\d/.test(text) || !Number.isFinite(value)) return { error: `“${typed}” is not a number` };
  return { value, text: exact };
}

export const isPercent = (unit: Unit) => unit === "fraction" || unit === "yield";

export interface Shown {
  digits?: number;
  sign?: boolean;
  size?: boolean;
  /** In a sentence: whole percent from ten on. */
  spoken?: boolean;
  /** The number alone, where the column's header names the unit. */
  bare?: boolean;
}

const DIGITS: Record<Unit, number> = {
  fraction: 1,
  yield: 2,
  multiple: 1,
  money: 1,
  per_share: 2,
  shares: 1,
  years: 0,
  weeks: 0,
  count: 0,
  index: 1,
};

/** Shares are whole, or told to a hundredth. */
export const shareDigits = (shares: number | null) =>
  shares === null || Number.isInteger(shares) ? 0 : 2;

/** Ratios as percent, money and shares in millions, years and weeks with their noun. */
export function show(raw: number, unit: Unit, how: Shown = {}): string {
  const value = how.size ? Math.abs(raw) : raw;
  const whole = how.spoken && unit === "fraction" && Math.abs(value) >= 0.0995;
  const digits = how.digits ?? (whole ? 0 : DIGITS[unit]);
  const text = plain(value, unit, digits, how.bare ?? false);
  return how.sign ? signed(text, value) : text;
}

function plain(value: number, unit: Unit, digits: number, bare: boolean): string {
  switch (unit) {
    case "fraction":
    case "yield":
      return bare ? number(value * 100, digits) : percent(value, digits);
    case "multiple":
      return `${number(value, digits)}×`;
    case "money":
    case "shares":
      return bare ? number(value / 1e6, digits) : `${number(value / 1e6, digits)} m`;
    case "years":
      return bare ? number(value) : `${number(value)} ${value === 1 ? "year" : "years"}`;
    case "weeks":
      return bare ? number(value) : `${number(value)} ${value === 1 ? "week" : "weeks"}`;
    default:
      return number(value, digits);
  }
}

const dayFormat = new Intl.DateTimeFormat(locale, {
  day: "numeric",
  month: "long",
  year: "numeric",
  timeZone: "UTC",
});
const shortFormat = new Intl.DateTimeFormat(locale, {
  day: "numeric",
  month: "short",
  timeZone: "UTC",
});
const monthYearFormat = new Intl.DateTimeFormat(locale, {
  month: "short",
  year: "numeric",
  timeZone: "UTC",
});
const monthFormat = new Intl.DateTimeFormat(locale, {
  month: "short",
  year: "2-digit",
  timeZone: "UTC",
});

const nameFormat = new Intl.DateTimeFormat(locale, { month: "long", timeZone: "UTC" });

const toDate = (iso: string) => new Date(`${iso.slice(0, 10)}T00:00:00Z`);

export const day = (iso: string) => dayFormat.format(toDate(iso));
export const shortDay = (iso: string) => shortFormat.format(toDate(iso));
export const monthYear = (iso: string) => monthYearFormat.format(toDate(iso));
export const monthName = (iso: string) => nameFormat.format(toDate(iso));
export const month = (iso: string) => monthFormat.format(toDate(iso));

/** A day so many days after another. */
export function dayAfter(iso: string, days: number): string {
  const day = toDate(iso);
  day.setUTCDate(day.getUTCDate() + days);
  return day.toISOString().slice(0, 10);
}

export function daysBetween(from: string, to: string): number {
  return Math.round((toDate(to).getTime() - toDate(from).getTime()) / 86_400_000);
}

/** "2026-06-29" in a sentence the API wrote becomes a date in the person's locale. */
export function withDates(text: string): string {
  return text.replace(/\b\d{4}-\d{2}-\d{2}\b/g, (iso) => day(iso));
}

/** A number of a text is not parted from its sign at the end of a line. */
export const withUnits = (text: string) => text.replaceAll(" %", `${THIN}%`);

export const lowerFirst = (text: string) => text.charAt(0).toLowerCase() + text.slice(1);
export const upperFirst = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);

export const kindName = (kind: string) =>
  kind === "other" ? "fund, bond or other" : kind.replace("_", " ");
