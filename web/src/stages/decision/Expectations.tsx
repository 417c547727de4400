import { useState } from "react";
import type { Schemas } from "@/api/client";
import { type PayerKey, useOftenExpected } from "@/api/hooks";
import { type Measure, useCatalogue } from "@/api/payers";
import { isPercent, readNumber, upperFirst } from "@/format/format";
import { saidInWords } from "@/ui/JudgedList";
import { MeasureSelect } from "@/ui/MeasureSelect";

type Expected = Schemas["ExpectationIn"];
type Often = Schemas["OftenOut"];
type Way = Expected["way"];

interface Props {
  payer: PayerKey;
  today: string;
  currency: string;
  expected: Expected[];
  onChange: (expected: Expected[]) => void;
  error?: string;
}

/** Statements that can be checked later, built from the measures of the review. */
export function Expectations({ payer, today, currency, expected, onChange, error }: Props) {
  // Without what is offered, one types it oneself.
  const offered = useOftenExpected(payer, today);
  const often = offered.data ?? (offered.error ? [] : undefined);
  const measures = (useCatalogue(undefined).data?.measures ?? []).filter((m) => m.unit);
  const named = new Map(measures.map((m) => [m.id, m]));
  return (
    <fieldset className="mt-4">
      <legend className="text-[15px]">
        What you expect <span className="text-muted">(it is checked from then on)</span>
      </legend>
      <ul className="text-[15px]">
        {expected.map((e) => {
          const m = named.get(e.measure);
          return (
            <li key={JSON.stringify(e)} className="flex items-baseline gap-3 py-0.5">
              <span>
                {m
                  ? saidInWords({
                      ...e,
                      name: m.name,
                      currency,
                      unit: e.way === "growth" ? "fraction" : (m.unit ?? "count"),
                    })
                  : e.measure}
              </span>
              <button
                type="button"
                className="link"
                aria-label={`Take out: ${m?.name ?? e.measure}`}
                onClick={() => onChange(expected.filter((x) => x !== e))}
              >
                ×
              </button>
            </li>
          );
        })}
      </ul>
      {measures.length > 0 && often && (
        <Builder
          today={today}
          measures={measures}
          often={often}
          onAdd={(e) => onChange([...expected, e])}
        />
      )}
      {error && (
        <p role="alert" className="mt-1 text-[14px] text-outside">
          {upperFirst(error)}.
        </p>
      )}
    </fieldset>
  );
}

/** Its number as one would type it: each can be changed before it is added. */
function typed(often: Often, measures: Measure[]): string {
  const unit = measures.find((m) => m.id === often.measure)?.unit ?? "count";
  const percent = often.way === "growth" || isPercent(unit);
  return String(+(percent ? often.value * 100 : often.value).toFixed(4));
}

interface BuilderProps {
  today: string;
  measures: Measure[];
  often: Often[];
  onAdd: (expected: Expected) => void;
}

function Builder({ today, measures, often, onAdd }: BuilderProps) {
  const [first] = often;
  const [measure, setMeasure] = useState(first?.measure ?? measures[0]?.id ?? "");
  const [way, setWay] = useState<Way>(first?.way ?? "level");
  const [side, setSide] = useState<Expected["side"]>(first?.side ?? "at_least");
  const [value, setValue] = useState("");
  const [until, setUntil] = useState(`${Number(today.slice(0, 4)) + 3}-12-31`);
  const [problem, setProblem] = useState("");
  const chosen = measures.find((m) => m.id === measure);
  const ways: Way[] = chosen?.grows ? ["growth", "level", "throughout"] : ["level", "throughout"];
  const now = ways.includes(way) ? way : (ways[0] as Way);
  const percent = now === "growth" || (chosen?.unit != null && isPercent(chosen.unit));
  const add = () => {
    const read = readNumber(value.replace("%", ""));
    if ("error" in read) return setProblem(value.trim() ? read.error : "say by how much");
    if (!(until > today)) return setProblem("choose a day to come");
    setProblem("");
    setValue("");
    onAdd({ measure, way: now, side, value: percent ? read.value / 100 : read.value, until });
  };
  return (
    <div className="mt-1 flex flex-wrap items-center gap-2 rounded-md bg-sunk px-3 py-2 text-[15px]">
      <p className="flex w-full flex-wrap gap-x-3 text-[14px] text-muted">
        Often expected:
        {often.map((u) => (
          <button
            key={u.name}
            type="button"
            className="link"
            onClick={() => {
              setMeasure(u.measure);
              setWay(u.way);
              setSide(u.side);
              setValue(typed(u, measures));
            }}
          >
            {u.name}
          </button>
        ))}
      </p>
      <MeasureSelect
        measures={measures}
        value={measure}
        label="Measure expected"
        className="max-w-[210px]"
        onChoose={setMeasure}
      />
      <select
        className="field py-0.5"
        aria-label="In which way"
        value={now}
        onChange={(e) => setWay(e.target.value as Way)}
      >
        {ways.map((w) => (
          <option key={w} value={w}>
            {
              {
                growth: "grows a year",
                level: "is, by the day",
                throughout: "stays, until the day",
              }[w]
            }
          </option>
        ))}
      </select>
      <select
        className="field py-0.5"
        aria-label="At least or at most"
        value={side}
        onChange={(e) => setSide(e.target.value as Expected["side"])}
      >
        <option value="at_least">at least</option>
        <option value="at_most">at most</option>
      </select>
      <label>
        <input
          className="field w-[72px] py-0.5 text-right"
          inputMode="decimal"
          aria-label="How much"
          value={value}
          onChange={(e) => setValue(e.target.value)}
          onKeyDown={(e) => {
            if (e.key !== "Enter") return;
            e.preventDefault();
            add();
          }}
        />{" "}
        {percent ? "%" : ""}
      </label>
      <label>
        until{" "}
        <input
          type="date"
          className="field py-0.5"
          min={today}
          value={until}
          onChange={(e) => setUntil(e.target.value)}
        />
      </label>
      <button type="button" className="button py-0.5" onClick={add}>
        Add
      </button>
      {problem && (
        <span role="alert" className="text-[14px] text-outside">
          {upperFirst(problem)}.
        </span>
      )}
    </div>
  );
}
