import { useEffect, useState } from "react";
import { readInputs, readReasons, withInput, withReason } from "@/api/question";
import { number, upperFirst } from "@/format/format";
import { useView } from "@/state/view";
import { Fig } from "@/ui/Fig";
import { NumberField } from "@/ui/NumberField";
import type { Model } from "./Models";

/** How a model comes to its values: its cases, what they weigh, where the middle comes from. */
export function ModelDetails({ model }: { model: Model }) {
  return (
    <div className="ml-7 pb-3 text-[13px]">
      <p className="text-[14px] text-muted">{model.question}</p>
      <div className="grid gap-x-8 gap-y-2 md:grid-cols-2 xl:grid-cols-3">
        <div>
          <Cases model={model} />
          {model.on && <Weight model={model} />}
          {!model.on && model.lead && <Reason model={model} />}
        </div>
        {model.parts.length > 0 && <Parts model={model} />}
        {model.years.length > 0 && <Years model={model} />}
      </div>
    </div>
  );
}

function Cases({ model }: { model: Model }) {
  return (
    <table className="rows mt-1 w-full">
      <caption className="sr-only">{model.name}: its cases</caption>
      <tbody>
        {(["low", "middle", "high"] as const).map((id) => (
          <tr key={id}>
            <th scope="row">{id}</th>
            <td>
              <Fig figure={model[id]} />
            </td>
          </tr>
        ))}
        <tr>
          <th scope="row">by its chances</th>
          <td>
            <Fig figure={model.weighted} />
          </td>
        </tr>
      </tbody>
    </table>
  );
}

function Weight({ model }: { model: Model }) {
  const [view, change] = useView();
  const typed = readInputs(view.weights)[model.id];
  return (
    <NumberField
      label={`Weight of ${model.name}`}
      note="among the models of its question"
      value={model.weight}
      digits={1}
      step={0.5}
      bounds={{ low: 0.01, high: 100 }}
      changed={typed !== undefined}
      onChange={(value) =>
        change(
          { weights: withInput(view.weights, model.id, value === 1 ? undefined : value) },
          { replace: true },
        )
      }
    />
  );
}

/** Why it was set aside; kept with the inputs. */
function Reason({ model }: { model: Model }) {
  const [view, change] = useView();
  const held = readReasons(view.reasons)[model.id] ?? "";
  const [text, setText] = useState(held);
  useEffect(() => setText(held), [held]);
  return (
    <label className="mt-1 block">
      Why it is set aside
      <input
        type="text"
        className="field mt-0.5 block w-full"
        maxLength={200}
        value={text}
        onChange={(e) => setText(e.target.value)}
        onBlur={() =>
          text !== held &&
          change({ reasons: withReason(view.reasons, model.id, text) }, { replace: true })
        }
        onKeyDown={(e) => e.key === "Enter" && e.currentTarget.blur()}
      />
    </label>
  );
}

/** Where the middle value comes from, a bar a part. */
function Parts({ model }: { model: Model }) {
  const most = Math.max(...model.parts.map((p) => Math.abs(p.worth)), 1e-9);
  const whole = model.middle.value ?? 0;
  return (
    <table className="rows w-full self-start">
      <caption className="text-left text-muted">Where it comes from</caption>
      <tbody>
        {model.parts.map((p) => (
          <tr key={p.name}>
            <th scope="row" className="whitespace-nowrap pr-2">
              {p.name}
            </th>
            <td aria-hidden="true" className="w-full">
              <span
                className="block h-2.5 rounded-sm"
                style={{
                  width: `${(Math.abs(p.worth) / most) * 100}%`,
                  background: p.worth < 0 ? "var(--paper)" : "var(--stone)",
                  border: "1px solid var(--stone)",
                }}
              />
            </td>
            <td>{number(p.worth, 2)}</td>
            <td className="whitespace-nowrap">
              {whole ? `${number((p.worth / whole) * 100)} %` : ""}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Years({ model }: { model: Model }) {
  return (
    <section
      aria-label={`${model.name}, year by year`}
      tabIndex={0}
      className="max-h-[230px] overflow-auto"
    >
      <table className="rows w-full">
        <caption className="text-left text-muted">Year by year</caption>
        <thead>
          <tr>
            <th scope="col">Year</th>
            <th scope="col">Growth, %</th>
            <th scope="col">{upperFirst(model.amount)}</th>
            <th scope="col">Worth today</th>
          </tr>
        </thead>
        <tbody>
          {model.years.map((y) => (
            <tr key={y.year}>
              <td>{y.year}</td>
              <td>{number(y.growth * 100, 1)}</td>
              <td>{number(y.amount, 2)}</td>
              <td>{number(y.worth, 2)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
