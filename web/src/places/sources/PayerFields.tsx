import { useEffect, useRef } from "react";
import { kindName } from "@/format/format";

/** What is owned and not reviewed: no fiscal year is asked of it. */
const OTHER = "other";
const KINDS = ["company", "property_trust", "partnership", "financial", OTHER];
const FIELDS = [
  { id: "name", label: "Name", most: 120 },
  { id: "symbol", label: "Symbol", most: 20 },
  { id: "exchange", label: "Exchange", most: 20 },
  { id: "country", label: "Country", most: 60 },
  { id: "currency", label: "Currency, three letters", most: 3 },
  { id: "isin", label: "ISIN (if known)", most: 12 },
] as const;
const OPTIONAL = ["isin"];

type Held = Record<string, string>;

/** Whether all that a payer needs is there. */
export const whole = (held: Held) =>
  FIELDS.every((f) => held[f.id]?.trim() || OPTIONAL.includes(f.id)) &&
  held.currency?.trim().length === 3;

/** As the API takes it: what is not asked of it is left out. */
export const plainPayer = (held: Held): Held => {
  const plain = Object.fromEntries(Object.entries(held).map(([k, v]) => [k, v.trim()]));
  const { isin = "", fiscal_year_end_month: month = "", ...rest } = plain;
  return {
    ...rest,
    currency: (plain.currency ?? "").toUpperCase(),
    ...(isin && { isin: isin.toUpperCase() }),
    ...(plain.kind !== OTHER && { fiscal_year_end_month: month }),
  };
};

/** What every payer needs; the first that is empty has the focus. */
export function PayerFields({
  held,
  onSet,
}: {
  held: Held;
  onSet: (id: string, value: string) => void;
}) {
  const group = useRef<HTMLDivElement>(null);
  useEffect(() => {
    const fields = [...(group.current?.querySelectorAll("input") ?? [])];
    (fields.find((f) => !f.value) ?? fields[0])?.focus();
  }, []);
  return (
    <div ref={group} className="flex flex-wrap items-end gap-3">
      {FIELDS.map((f) => (
        <label key={f.id} className="text-[13px] text-muted">
          {f.label}
          <input
            className={`field block text-ink ${f.id === "name" ? "w-[220px]" : "w-[130px]"}`}
            maxLength={f.most}
            value={held[f.id] ?? ""}
            onChange={(e) => onSet(f.id, e.target.value)}
          />
        </label>
      ))}
      <label className="text-[13px] text-muted">
        Kind
        <select
          className="field block text-ink"
          value={held.kind}
          onChange={(e) => onSet("kind", e.target.value)}
        >
          {KINDS.map((k) => (
            <option key={k} value={k}>
              {kindName(k)}
            </option>
          ))}
        </select>
      </label>
      {held.kind !== OTHER && (
        <label className="text-[13px] text-muted">
          Fiscal years end in month
          <input
            className="field block w-[80px] text-ink"
            inputMode="numeric"
            maxLength={2}
            value={held.fiscal_year_end_month ?? ""}
            onChange={(e) => onSet("fiscal_year_end_month", e.target.value)}
          />
        </label>
      )}
    </div>
  );
}
