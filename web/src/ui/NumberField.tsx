import { useEffect, useId, useState } from "react";
import { number, readNumber } from "@/format/format";

interface Props {
  label: string;
  note?: React.ReactNode;
  /** The value in the API's terms (0.05 for 5 %). */
  value: number | null;
  percent?: boolean;
  /** What the number counts, in place of %. */
  suffix?: string;
  digits?: number;
  step: number;
  /** What it must lie between, in the API's terms. */
  bounds?: { low: number; high: number };
  changed?: boolean;
  /** In a grid: its label is for those who cannot see the heads of the row and the column. */
  compact?: boolean;
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
    setTyped((now) => (now !== null && sameNumber(now, shown) ? now : null));
  }, [shown]);
  const text = typed ?? shown;
  const wrong = typed === null || typed.trim() === "" ? undefined : fault(typed, props, scale);
  const error = wrong ?? props.error;
  const commit = (raw: string) => {
    setTyped(raw);
    if (raw.trim() === "") return props.onChange(undefined);
    const read = readNumber(raw);
    if ("value" in read && !fault(raw, props, scale)) props.onChange(read.value / scale);
  };
  const step = (by: number) => {
    const read = readNumber(text);
    if ("value" in read) commit((read.value + by * props.step).toFixed(Math.max(digits, 2)));
  };
  return (
    <div data-printed className={props.compact ? "" : "py-1.5"}>
      <label htmlFor={id} className={props.compact ? "sr-only" : "block text-[15px] leading-tight"}>
        {props.label}
      </label>
      <div
        className={`flex flex-wrap items-center gap-x-2 ${props.compact ? "justify-end" : "mt-1"}`}
      >
        <input
          id={id}
          type="text"
          inputMode="decimal"
          autoComplete="off"
          value={text}
          aria-invalid={error ? true : undefined}
          aria-describedby={error ? `${id}-error` : undefined}
          className={`field text-right font-semibold ${props.compact ? "w-[68px]" : "w-[84px]"}`}
          onChange={(e) => commit(e.target.value)}
          onKeyDown={(e) => {
            const by = { ArrowUp: 1, ArrowDown: -1 }[e.key];
            if (!by) return;
            e.preventDefault();
            step(by);
          }}
        />
        {(props.percent || props.suffix) && (
          <span className="text-muted">{props.suffix || "%"}</span>
        )}
        {(props.changed || wrong) && (
          <button
            type="button"
            className="link text-[13px]"
            onClick={() => {
              commit("");
              setTyped(null);
            }}
          >
            reset
          </button>
        )}
      </div>
      {props.note && <p className="text-[13px] text-muted">{props.note}</p>}
      {error && (
        <p id={`${id}-error`} role="alert" className="mt-1 text-[13px] text-outside">
          {error}
        </p>
      )}
    </div>
  );
}

function sameNumber(typed: string, shown: string): boolean {
  const read = readNumber(typed);
  return "value" in read && read.value === Number(shown);
}

/** Why what was typed cannot be used; the value before then stays. */
function fault(typed: string, props: Props, scale: number): string | undefined {
  const read = readNumber(typed);
  if ("error" in read) return `${read.error}; nothing changed`;
  const { bounds, label } = props;
  const value = read.value / scale;
  if (!bounds || (value >= bounds.low && value <= bounds.high)) return undefined;
  const unit = props.percent ? " %" : "";
  const told = (v: number) => `${number(v * scale, decimalsOf(v * scale))}${unit}`;
  return `${label}: between ${told(bounds.low)} and ${told(bounds.high)}; nothing changed`;
}

const decimalsOf = (value: number) => (Number.isInteger(+value.toFixed(6)) ? 0 : 2);
