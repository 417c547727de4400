import type { ReactNode } from "react";
import type { Schemas } from "@/api/client";
import { readInputs, withInput } from "@/api/question";
import { isPercent, show, upperFirst, withDates } from "@/format/format";
import { useRefused } from "@/state/refused";
import { ErrorNote } from "./ErrorNote";
import { NumberField } from "./NumberField";

interface Props {
  fields: Schemas["FieldOut"][];
  /** What was typed, as the address has it: "growth:0.05,required_return:0.09". */
  text: string | undefined;
  onText: (text: string | undefined) => void;
  error: unknown;
  columns: string;
  /** The low and high of those that have some may be typed too. */
  sides?: boolean;
  /** What stands before the fields. */
  before?: ReactNode;
  children?: ReactNode;
}

/** Assumptions that act at once, each with where its default comes from. */
export function InputFields({
  fields,
  text,
  onText,
  error,
  columns,
  sides,
  before,
  children,
}: Props) {
  const typed = readInputs(text);
  const move = (id: string, value: number | undefined) => onText(withInput(text, id, value));
  const refused = useRefused(
    error,
    typed,
    fields.map((f) => f.id),
    (id) => move(id, undefined),
  );
  return (
    <div className="mt-5 rounded-md bg-sunk px-4 pt-2 pb-3">
      <h3 className="text-[17px]">Assumptions</h3>
      <div className={`grid gap-x-6 sm:grid-cols-2 ${columns}`}>
        {before}
        {fields.map((field) => (
          <div key={field.id}>
            <NumberField
              label={field.label}
              note={noteOf(field)}
              bounds={{ low: field.low_bound, high: field.high_bound }}
              value={typed[field.id] ?? field.figure.value}
              percent={isPercent(field.unit)}
              suffix={field.suffix}
              digits={field.digits}
              step={isPercent(field.unit) ? field.step * 100 : field.step}
              changed={typed[field.id] !== undefined}
              error={
                refused?.name === field.id
                  ? `${upperFirst(refused.error.problem.detail)}; it was left out of the address`
                  : undefined
              }
              onChange={(value) =>
                move(field.id, value === undefined ? undefined : Number(value.toFixed(6)))
              }
            />
            {field.offers && field.offers.length > 0 && (
              <p className="text-[13px] text-muted">
                {field.offers.map((offer, i) => (
                  <span key={offer.name}>
                    {i > 0 && " · "}
                    <button
                      type="button"
                      className="link"
                      onClick={() => move(field.id, Number(offer.value.toFixed(6)))}
                    >
                      {offer.name} {show(offer.value, field.unit)}
                    </button>
                  </span>
                ))}
              </p>
            )}
            {field.advice && <p className="text-[13px] text-muted">{upperFirst(field.advice)}.</p>}
            {sides && <Sides field={field} typed={typed} onMove={move} />}
          </div>
        ))}
      </div>
      {children}
      {error != null && !refused && (
        <ErrorNote error={error} kept="The figures shown are the last that could be computed." />
      )}
    </div>
  );
}

/** Where its default comes from; one that is unknown says why, and what to do. One that is left open
 * says what stands in its place: there its reason is its origin. */
function noteOf({ figure, origin }: Schemas["FieldOut"]): string {
  if (figure.value !== null || figure.reason === origin) return origin;
  return `unknown: ${withDates(figure.reason ?? "")}; type your own`;
}

interface SidesProps {
  field: Schemas["FieldOut"];
  typed: Record<string, number>;
  onMove: (id: string, value: number | undefined) => void;
}

/** An input at its low and its high. */
function Sides({ field, typed, onMove }: SidesProps) {
  const ends = (["low", "high"] as const).flatMap((side) => {
    const value = field[side];
    return value == null ? [] : [{ side, id: `${field.id}.${side}`, value }];
  });
  return ends.map(({ side, id, value: held }) => (
    <div key={id} className="flex items-baseline justify-between gap-2 text-[13px] text-muted">
      <span aria-hidden="true">{side}</span>
      <NumberField
        compact
        label={`${field.label}, ${side}`}
        value={typed[id] ?? held}
        bounds={{ low: field.low_bound, high: field.high_bound }}
        percent={isPercent(field.unit)}
        digits={field.digits}
        step={isPercent(field.unit) ? field.step * 100 : field.step}
        changed={typed[id] !== undefined}
        onChange={(value) => onMove(id, value === undefined ? undefined : Number(value.toFixed(6)))}
      />
    </div>
  ));
}
