import type { Limit, Tested } from "@/api/rules";
import { isPercent } from "@/format/format";
import { NumberField } from "@/ui/NumberField";
import { limitWords } from "./draft";

const MOST = 1000;

interface Props {
  test: Tested;
  /** Whose limit it is, for those who cannot see the column's head. */
  whose: string;
  limit: Limit;
  /** The house's own. */
  held: Limit;
  onChange: (limit: Limit) => void;
}

/** One limit of the ledger: its value, and whether it decides the state or only advises. */
export function LimitCell({ test, whose, limit, held, onChange }: Props) {
  const percent = isPercent(test.unit);
  const changed = limit.value !== held.value || limit.required !== held.required;
  return (
    <div className="flex flex-col items-end">
      <NumberField
        compact
        label={`${test.name}, ${whose}`}
        value={limit.value}
        percent={percent}
        digits={test.unit === "multiple" ? 1 : 0}
        step={percent ? 1 : test.unit === "years" ? 1 : 0.1}
        bounds={{ low: test.direction === "pass" ? -MOST : 0.000001, high: MOST }}
        onChange={(value) => onChange({ ...limit, value: value ?? held.value })}
      />
      <span className="flex gap-2 text-[13px]">
        {changed && (
          <button type="button" className="link" onClick={() => onChange(held)}>
            back to {limitWords(held.value, test.unit)}
          </button>
        )}
        <button
          type="button"
          className={`link ${limit.required ? "font-semibold" : "text-muted!"}`}
          aria-pressed={limit.required}
          onClick={() => onChange({ ...limit, required: !limit.required })}
        >
          {limit.required ? "required" : "advisory"}
          <span className="sr-only">
            : {test.name}, {whose}
          </span>
        </button>
      </span>
    </div>
  );
}
