import { useState } from "react";

const KINDS = [
  { value: "company", name: "company" },
  { value: "property_trust", name: "property trust" },
  { value: "partnership", name: "partnership" },
  { value: "financial", name: "financial" },
];
const FIELDS = [
  { id: "name", label: "Name", most: 120 },
  { id: "exchange", label: "Exchange", most: 20 },
  { id: "symbol", label: "Symbol", most: 20 },
  { id: "country", label: "Country", most: 60 },
  { id: "currency", label: "Currency, three letters", most: 3 },
] as const;

interface Props {
  name: string;
  onMade: (payer: Record<string, string>) => void;
  onClose: () => void;
}

/** A payer made on the spot, with what every payer needs. */
export function NewPayer({ name, onMade, onClose }: Props) {
  const [held, setHeld] = useState<Record<string, string>>({
    name,
    kind: "company",
    fiscal_year_end_month: "12",
  });
  const set = (id: string, value: string) => setHeld({ ...held, [id]: value });
  const whole = FIELDS.every((f) => held[f.id]?.trim()) && held.currency?.trim().length === 3;
  return (
    <form
      className="flex flex-wrap items-end gap-3"
      onSubmit={(e) => {
        e.preventDefault();
        if (!whole) return;
        const plain = Object.fromEntries(Object.entries(held).map(([k, v]) => [k, v.trim()]));
        onMade({ ...plain, currency: (plain.currency ?? "").toUpperCase() });
      }}
    >
      {FIELDS.map((f) => (
        <label key={f.id} className="text-[13px] text-muted">
          {f.label}
          <input
            className="field block w-[150px] text-ink"
            maxLength={f.most}
            value={held[f.id] ?? ""}
            onChange={(e) => set(f.id, e.target.value)}
          />
        </label>
      ))}
      <label className="text-[13px] text-muted">
        Kind
        <select
          className="field block text-ink"
          value={held.kind}
          onChange={(e) => set("kind", e.target.value)}
        >
          {KINDS.map((k) => (
            <option key={k.value} value={k.value}>
              {k.name}
            </option>
          ))}
        </select>
      </label>
      <label className="text-[13px] text-muted">
        Fiscal years end in month
        <input
          className="field block w-[80px] text-ink"
          inputMode="numeric"
          maxLength={2}
          value={held.fiscal_year_end_month ?? ""}
          onChange={(e) => set("fiscal_year_end_month", e.target.value)}
        />
      </label>
      <button type="submit" className="button primary" disabled={!whole}>
        Make it
      </button>
      <button type="button" className="button" onClick={onClose}>
        Cancel
      </button>
    </form>
  );
}
