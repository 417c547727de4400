import { useEffect, useState } from "react";
import type { Review, Schemas } from "@/api/client";
import { type PayerKey, useStrain } from "@/api/hooks";
import { readInputs, withInput } from "@/api/question";
import { ChartFrame } from "@/charts/ChartFrame";
import { StrainMap } from "@/charts/StrainMap";
import { number, percent, upperFirst } from "@/format/format";
import { useRefused } from "@/state/refused";
import { questionOf, useView } from "@/state/view";
import { ErrorNote } from "@/ui/ErrorNote";
import { Fig } from "@/ui/Fig";
import { InputFields } from "@/ui/InputFields";
import { Sentence } from "@/ui/Sentence";
import { KeptStrains } from "./KeptStrains";
import { StrainedTests } from "./StrainedTests";
import { mapInWords } from "./told";

type Strain = Schemas["StrainOut"];
const MONTHS = [
  "January",
  "February",
  "March",
  "April",
  "May",
  "June",
  "July",
  "August",
  "September",
  "October",
  "November",
  "December",
];
const BASES: Record<string, string> = { segment: "Segments", region: "Regions", tenant: "Tenants" };

/** What a worse year would do to every test that it reaches, and what falls before one gives. */
export function StrainView({ payer }: { review: Review; payer: PayerKey }) {
  const [view, change] = useView();
  const asked = questionOf(view, ["strain"]);
  const found = useStrain(payer, asked);
  const refused = useRefused(found.error, view, ["strain_part"], () =>
    change({ strain_part: undefined }, { replace: true }),
  );
  const data = found.data;
  if (data === undefined) {
    return found.error ? (
      <ErrorNote error={found.error} />
    ) : (
      <div className="h-[420px]" aria-busy="true" />
    );
  }
  if ("reason" in data) {
    return <p className="my-6 max-w-prose text-muted">{upperFirst(data.reason)}.</p>;
  }
  return (
    <>
      {refused && <ErrorNote error={refused.error} kept="It was left out of the address." />}
      <div className="max-w-[80ch] text-[16px]" aria-live="polite">
        {data.said.map((sentence, i) => (
          <p key={i} className="mb-1">
            <Sentence parts={sentence} />
          </p>
        ))}
      </div>
      <Fields strain={data} error={found.error} />
      <StrainedTests tests={data.tests} />
      <Parts strain={data} />
      {data.tests.length > 0 && <TwoWays strain={data} />}
      <KeptStrains payer={payer} />
    </>
  );
}

/** What falls, by how much, for how long. */
function Fields({ strain, error }: { strain: Strain; error: unknown }) {
  const [view, change] = useView();
  const set = (text: string | undefined) => change({ strain: text }, { replace: true });
  const named = strain.fields.find((f) => f.asked_as === "month");
  const month = named?.id ?? "";
  const first = readInputs(view.strain)[month] ?? named?.figure.value ?? 0;
  return (
    <InputFields
      fields={strain.fields.filter((f) => f !== named)}
      text={view.strain}
      onText={set}
      error={error}
      columns="lg:grid-cols-4"
      before={
        <>
          <div className="py-1.5">
            <label htmlFor="strain-part" className="block text-[15px] leading-tight">
              What falls
            </label>
            <select
              id="strain-part"
              className="field mt-1 max-w-full"
              value={strain.part}
              onChange={(e) =>
                change({ strain_part: e.target.value === "all" ? undefined : e.target.value })
              }
            >
              <PartOptions parts={strain.parts} />
            </select>
          </div>
          <div className="py-1.5">
            <label htmlFor="strain-month" className="block text-[15px] leading-tight">
              From
            </label>
            <select
              id="strain-month"
              className="field mt-1 max-w-full"
              value={first}
              onChange={(e) =>
                set(withInput(view.strain, month, Number(e.target.value) || undefined))
              }
            >
              <option value={0}>no month: spread evenly</option>
              {MONTHS.map((name, i) => (
                <option key={name} value={i + 1}>
                  {name}, by season
                </option>
              ))}
            </select>
          </div>
        </>
      }
    />
  );
}

function PartOptions({ parts }: { parts: Strain["parts"] }) {
  const bases = [...new Set(parts.flatMap((p) => p.basis ?? []))];
  return (
    <>
      {parts
        .filter((p) => p.basis === null)
        .map((p) => (
          <option key={p.id} value={p.id}>
            {p.name}
          </option>
        ))}
      {bases.map((basis) => (
        <optgroup key={basis} label={BASES[basis] ?? basis}>
          {parts
            .filter((p) => p.basis === basis)
            .map((p) => (
              <option key={p.id} value={p.id}>
                {p.name} ({p.share.value === null ? "unknown" : percent(p.share.value, 0)})
              </option>
            ))}
        </optgroup>
      ))}
    </>
  );
}

/** The fall of each part at which the first test gives, and at which the dividend is not covered. */
function Parts({ strain }: { strain: Strain }) {
  const [, change] = useView();
  return (
    <div className="relative mt-5 overflow-x-auto">
      <table className="rows w-full text-[15px]">
        <caption className="mb-1 text-left text-[17px]">
          How far each part of revenue can fall
        </caption>
        <thead>
          <tr>
            <th scope="col">Part</th>
            <th scope="col">Share, %</th>
            <th scope="col">First test gives at, %</th>
            <th scope="col">Not covered from, %</th>
          </tr>
        </thead>
        <tbody>
          {strain.parts.map((p) => (
            <tr key={p.id} className={p.id === strain.part ? "font-semibold" : ""}>
              <td>
                <button
                  type="button"
                  className="link text-left"
                  aria-pressed={p.id === strain.part}
                  onClick={() => change({ strain_part: p.id === "all" ? undefined : p.id })}
                >
                  {p.name}
                </button>
                {p.basis && <span className="text-[13px] text-muted"> {p.basis}</span>}
              </td>
              <td>
                <Fig figure={p.share} bare digits={0} />
              </td>
              <td>
                <Fig
                  figure={p.gives_at}
                  bare
                  digits={1}
                  unknown={p.gives_at.spared ? "holds" : "–"}
                />
              </td>
              <td>
                <Fig
                  figure={p.uncovered_at}
                  bare
                  digits={1}
                  unknown={p.uncovered_at.spared ? "covered" : "–"}
                />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

function TwoWays({ strain }: { strain: Strain }) {
  const [view, change] = useView();
  const typed = readInputs(view.strain);
  const { map } = strain;
  const at = (id: string) => typed[id] ?? strain.fields.find((f) => f.id === id)?.figure.value ?? 0;
  const there = () => ({ fall: at(map.fall), margin: at(map.margin) });
  const [point, setPoint] = useState(there);
  // biome-ignore lint/correctness/useExhaustiveDependencies: what is typed moves the point too
  useEffect(() => setPoint(there()), [view.strain]);
  const part = strain.parts.find((p) => p.id === strain.part);
  const name = !part || part.basis === null ? "all revenue" : part.name;
  const move = (fall: number, margin: number) => {
    setPoint({ fall, margin });
    const text = withInput(view.strain, map.fall, fall);
    change({ strain: withInput(text, map.margin, margin || undefined) }, { replace: true });
  };
  const told = (v: number | null | undefined) => (v == null ? "never" : percent(v, 1));
  return (
    <div className="mt-5">
      <ChartFrame
        name="strain"
        title={`Fall of ${name} against fall of the margin, points: first test gives (solid), dividend not covered (dashed)`}
        summary={mapInWords(map)}
        height={StrainMap.height}
        draw={(width) => <StrainMap map={map} {...point} part={name} width={width} onMove={move} />}
        table={
          <table className="rows w-full text-[14px]">
            <caption className="sr-only">Falls by fall of the margin</caption>
            <thead>
              <tr>
                <th scope="col">Margin down, points</th>
                <th scope="col">First test gives at</th>
                <th scope="col">Not covered from</th>
              </tr>
            </thead>
            <tbody>
              {map.margins.map((m, i) => (
                <tr key={m}>
                  <td>{number(m * 100, 1)}</td>
                  <td>{told(map.gives[i])}</td>
                  <td>{told(map.uncovered[i])}</td>
                </tr>
              ))}
            </tbody>
          </table>
        }
      />
    </div>
  );
}
