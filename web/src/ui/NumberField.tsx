import { useEffect, useId, useState } from "react";

interface Props {
  label: string;
  note?: React.ReactNode;
  /** The value in the API's terms (0.05 for 5 %). */
  value: number | null;
  percent?: boolean;
  digits?: number;
  step: number;
  changed?: boolean;
  error?: string;
  onChange: (value: number | undefined) => void;
}

/** A number that acts at once; what was typed stays, also when it cannot be used. */
export function NumberField(props: Props) {
  const id = useId();
  const scale = props.percent ? 100 : 1;
  const digits = props.digits ?? (props.percent ? 1 : 2);
  const shown = props.value === null ? "" : (props.value * scale).toFixed(digits);
  const [typed, setTyped] = useState<string | null>(null);
  useEffect(() => {
    setTyped((now) => (now !== null && Number(now) === Number(shown) ? now : null));
  }, [shown]);
  const text = typed ?? shown;
  const commit = (raw: string) => {
    setTyped(raw);
    const value = Number(raw.replace(",", ".").replace("\u2212", "-"));
    if (raw.trim() === "") props.onChange(undefined);
    else if (Number.isFinite(value)) props.onChange(value / scale);
  };
  return (
    <div className="py-1.5">
      <label htmlFor={id} className="block text-[15px] leading-tight">
        {props.label}
      </label>
      <div className="mt-1 flex items-center gap-2">
        <input
          id={id}
          type="number"
          inputMode="decimal"
          step={props.step}
          value={text}
          aria-invalid={props.error ? true : undefined}
          aria-describedby={props.error ? `${id}-error` : undefined}
          className="field w-[84px] text-right font-semibold"
          onChange={(e) => commit(e.target.value)}
        />
        {props.percent && <span className="text-muted">%</span>}
        {props.changed && (
          <button type="button" className="link text-[13px]" onClick={() => commit("")}>
            reset
          </button>
        )}
      </div>
      {props.note && <p className="text-[13px] text-muted">{props.note}</p>}
      {props.error && (
        <p id={`${id}-error`} className="mt-1 text-[13px] text-uncovered">
          {props.error}
        </p>
      )}
    </div>
  );
}
