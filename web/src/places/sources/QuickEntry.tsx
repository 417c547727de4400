import { useMemo } from "react";
import { type PayerKey, useStatus } from "@/api/hooks";
import { type Column, type Facts, useFacts } from "@/api/sources";
import { HandGrid } from "@/ui/grid/HandGrid";

interface Props {
  payer: PayerKey;
  what: Quick;
  onKept: (words: string) => void;
  onClose: () => void;
}

/** The usual acts, with what is known already filled in. */
export const QUICK = [
  { id: "quarter", name: "A new quarter", table: "statements" },
  { id: "dividend", name: "A new dividend", table: "dividends" },
  { id: "price", name: "Today’s price", table: "prices" },
] as const;
export type Quick = (typeof QUICK)[number]["id"];

/** Columns a quick dividend or price asks for. */
const ASKED: Record<string, string[]> = {
  dividends: ["ex_date", "amount", "pay_date", "currency"],
  prices: ["day", "close"],
};

export function QuickEntry({ payer, what, onKept, onClose }: Props) {
  const quick = QUICK.find((q) => q.id === what) ?? QUICK[0];
  const facts = useFacts(payer, quick.table, 4, what === "quarter" ? "quarter" : undefined);
  const years = useFacts(payer, "statements", 1, "year");
  const today = useStatus(undefined).data?.today;
  const data = facts.data;
  const waits = (what === "quarter" && !years.data) || (what === "price" && !today);
  const form = useMemo(
    () => (data && !waits ? formOf(what, data, years.data, today) : null),
    [waits, what, data, years.data, today],
  );
  if (!form) return null;
  return (
    <HandGrid
      key={what}
      title={quick.name}
      payer={payer}
      given={form.given}
      table={quick.table}
      columns={form.columns}
      reference={form.reference}
      onKept={onKept}
      onClose={onClose}
    />
  );
}

/** The columns of the form and what is known of them: the next quarter after the newest, with the
 * lines the last one had; a dividend in the payer's currency; the day. */
function formOf(what: Quick, data: Facts, years?: Facts, today = "") {
  const newest = data.rows[0];
  if (what === "quarter") {
    const like = newest ?? years?.rows[0];
    const used = data.columns.filter(
      (c) => HEAD.includes(c.name) || like?.cells[c.name] != null || (!like && c.required),
    );
    const given = {
      currency: data.currency,
      span: "quarter",
      period_end: newest ? quarterAfter(String(newest.key.period_end)) : "",
    };
    const reference = like && {
      name: `${like.key.span} to ${like.key.period_end}`,
      values: Object.fromEntries(used.map((c) => [c.name, shownIn(c, like.cells[c.name])])),
    };
    return { columns: used, given: given as Record<string, string>, reference };
  }
  const columns = data.columns.filter((c) =>
    ASKED[what === "price" ? "prices" : "dividends"]?.includes(c.name),
  );
  const given: Record<string, string> =
    what === "price"
      ? { day: today }
      : { currency: String(newest?.cells.currency ?? data.currency) };
  return { columns, given, reference: undefined };
}

/** A stored value as the grid counts it: money and shares in millions. */
function shownIn(column: Column, value: unknown): string {
  if (typeof value !== "number") return "";
  return String(+(column.scaled ? value / 1e6 : value).toFixed(4));
}

const HEAD = ["period_end", "span", "published_on", "currency"];

/** The last day of the quarter that follows a day. */
function quarterAfter(day: string): string {
  const [year = 0, month = 0] = day.split("-").map(Number);
  return new Date(Date.UTC(year, month + 3, 0)).toISOString().slice(0, 10);
}
