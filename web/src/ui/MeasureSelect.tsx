import type { Measure } from "@/api/payers";
import { upperFirst } from "@/format/format";

interface Props {
  measures: Measure[];
  value: string;
  label: string;
  className: string;
  /** What stands first, where nothing is chosen. */
  none?: string;
  onChoose: (id: string) => void;
}

/** One measure of many, in the order of the job. */
export function MeasureSelect({ measures, value, label, className, none, onChoose }: Props) {
  const stages = [...new Set(measures.map((m) => m.stage))];
  return (
    <select
      className={`field py-0.5 ${className}`}
      aria-label={label}
      value={value}
      onChange={(e) => onChoose(e.target.value)}
    >
      {none && <option value="">{none}</option>}
      {stages.map((stage) => (
        <optgroup key={stage} label={upperFirst(stage)}>
          {measures
            .filter((m) => m.stage === stage)
            .map((m) => (
              <option key={m.id} value={m.id}>
                {m.name}
              </option>
            ))}
        </optgroup>
      ))}
    </select>
  );
}
