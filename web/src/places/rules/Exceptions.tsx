import { type ReactNode, useId, useState } from "react";
import { useNames } from "@/api/hooks";
import type { Exemption, Rules, RulesHeld } from "@/api/rules";
import { isPercent, readNumber } from "@/format/format";
import { limitWords } from "./draft";

interface Props {
  held: RulesHeld;
  rules: Rules;
  onChange: (rules: Rules) => void;
}

/** Limits of their own: for a sector, or for one payer. */
export function Exceptions({ held, rules, onChange }: Props) {
  const told = (x: Exemption) => {
    const test = held.tests.find((t) => t.id === x.measure);
    const value = limitWords(x.limit.value, test?.unit ?? "count");
    return { name: test?.name ?? x.measure, value };
  };
  return (
    <section aria-labelledby="exceptions" className="mt-8">
      <h2 id="exceptions" className="text-[21px]">
        Exceptions
      </h2>
      <p className="max-w-[70ch] text-[14px] text-muted">
        A limit of its own for a sector or a single payer, in place of its kind’s. A payer’s comes
        before its sector’s; every test that uses one says so.
      </p>
      {rules.exemptions.length > 0 && (
        <ul className="mt-2 text-[15px]">
          {rules.exemptions.map((x, i) => {
            const { name, value } = told(x);
            return (
              <li
                key={`${x.scope}${x.name}${x.measure}`}
                className="flex flex-wrap gap-x-3 border-line border-b py-1.5"
              >
                <b className="font-semibold">{x.name}</b>
                <span>
                  {name} {value}, {x.limit.required ? "required" : "advisory"}
                </span>
                <button
                  type="button"
                  className="link ml-auto text-[14px]"
                  aria-label={`Delete the exception of ${x.name}, ${name}`}
                  onClick={() =>
                    onChange({ ...rules, exemptions: rules.exemptions.filter((_, n) => n !== i) })
                  }
                >
                  Delete
                </button>
              </li>
            );
          })}
        </ul>
      )}
      <Add
        held={held}
        onAdd={(made) =>
          onChange({
            ...rules,
            exemptions: [
              ...rules.exemptions.filter(
                (x) =>
                  !(x.scope === made.scope && x.name === made.name && x.measure === made.measure),
              ),
              made,
            ],
          })
        }
      />
    </section>
  );
}

/** What most exceptions are of: the first test that decides a state. */
const firstOf = (held: RulesHeld) =>
  held.tests.find((t) => Object.values(t.limits).some((l) => l.required))?.id ?? "";

function Add({ held, onAdd }: { held: RulesHeld; onAdd: (made: Exemption) => void }) {
  const list = useId();
  const [scope, setScope] = useState<Exemption["scope"]>("sector");
  const [name, setName] = useState("");
  const [measure, setMeasure] = useState(firstOf(held));
  const [value, setValue] = useState("");
  const [problem, setProblem] = useState<string>();
  const names = useNames(name, scope === "payer" && name.length > 0).data ?? [];
  const test = held.tests.find((t) => t.id === measure);
  const add = () => {
    const read = readNumber(value);
    if (!name.trim()) return setProblem(`Choose a ${scope} first.`);
    if ("error" in read) return setProblem(`${read.error}; nothing was added.`);
    const scale = test && isPercent(test.unit) ? 100 : 1;
    onAdd({
      scope,
      name: name.trim(),
      measure,
      limit: { value: read.value / scale, required: true },
    });
    setProblem(undefined);
    setValue("");
  };
  return (
    <form
      className="mt-2 flex flex-wrap items-end gap-3 text-[14px]"
      onSubmit={(e) => {
        e.preventDefault();
        add();
      }}
    >
      <Labelled name="For">
        {(id) => (
          <select
            id={id}
            className="field"
            value={scope}
            onChange={(e) => {
              setScope(e.target.value as Exemption["scope"]);
              setName("");
            }}
          >
            <option value="sector">a sector</option>
            <option value="payer">a payer</option>
          </select>
        )}
      </Labelled>
      {scope === "sector" ? (
        <Labelled name="Sector">
          {(id) => (
            <select
              id={id}
              className="field"
              value={name}
              onChange={(e) => setName(e.target.value)}
            >
              <option value="">choose</option>
              {held.sectors.map((s) => (
                <option key={s}>{s}</option>
              ))}
            </select>
          )}
        </Labelled>
      ) : (
        <Labelled name="Payer">
          {(id) => (
            <>
              {" "}
              <input
                id={id}
                className="field w-[180px]"
                list={list}
                value={name}
                placeholder="name or symbol"
                onChange={(e) => setName(e.target.value)}
              />
              <datalist id={list}>
                {names.map((n) => (
                  <option key={`${n.exchange}/${n.symbol}`} value={`${n.exchange}/${n.symbol}`}>
                    {n.name}
                  </option>
                ))}
              </datalist>
            </>
          )}
        </Labelled>
      )}
      <Labelled name="Test">
        {(id) => (
          <select
            id={id}
            className="field max-w-[240px]"
            value={measure}
            onChange={(e) => setMeasure(e.target.value)}
          >
            {held.tests.map((t) => (
              <option key={t.id} value={t.id}>
                {t.name}
              </option>
            ))}
          </select>
        )}
      </Labelled>
      <Labelled name={test && isPercent(test.unit) ? "Limit, %" : "Limit"}>
        {(id) => (
          <input
            id={id}
            className="field w-[84px] text-right"
            inputMode="decimal"
            value={value}
            onChange={(e) => setValue(e.target.value)}
          />
        )}
      </Labelled>
      <button type="submit" className="button">
        Add exception
      </button>
      {problem && (
        <p role="alert" className="w-full text-[13px] text-outside">
          {problem}
        </p>
      )}
    </form>
  );
}

function Labelled(props: { name: string; children: (id: string) => ReactNode }) {
  const id = useId();
  return (
    <div>
      <label htmlFor={id} className="block text-muted">
        {props.name}
      </label>
      {props.children(id)}
    </div>
  );
}
