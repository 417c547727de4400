import type { ReactNode } from "react";
import type { Schemas } from "@/api/client";
import { readInputs, withInput } from "@/api/question";
import { isPercent, upperFirst } from "@/format/format";
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
  /** What stands before the fields. */
  before?: ReactNode;
  children?: ReactNode;
}

/** Assumptions that act at once, each with where its default comes from. */
export function InputFields({ fields, text, onText, error, columns, before, children }: Props) {
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
          <NumberField
            key={field.id}
            label={field.label}
            note={field.figure.value === null ? "unknown; type your own" : field.origin}
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
        ))}
      </div>
      {children}
      {error != null && !refused && (
        <ErrorNote error={error} kept="The figures shown are the last that could be computed." />
      )}
    </div>
  );
}
