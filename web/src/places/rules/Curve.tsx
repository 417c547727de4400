import { useState } from "react";
import { type KindName, type Rules, type RulesHeld, useCurve } from "@/api/rules";
import { ChartFrame } from "@/charts/ChartFrame";
import { MissCurve } from "@/charts/MissCurve";
import { percent } from "@/format/format";
import { useView } from "@/state/view";
import { limitOf, limitWords } from "./draft";

/** Misses against false alarms as one limit moves. */
export function Curve({ held, rules }: { held: RulesHeld; rules: Rules }) {
  const [view] = useView();
  const [measure, setMeasure] = useState(
    () => held.tests.find((t) => t.limits.company?.required)?.id ?? held.tests[0]?.id ?? "",
  );
  const test = held.tests.find((t) => t.id === measure);
  const kinds = held.kinds.filter((k) => test?.limits[k.id]);
  const [wanted, setKind] = useState<KindName>("company");
  const kind = kinds.find((k) => k.id === wanted) ?? kinds[0];
  const found = useCurve(rules, measure, kind?.id ?? "company", Boolean(kind), view.as_of);
  const plain = kind && test?.limits[kind.id];
  if (!test || !kind || !plain) return null;
  const now = limitOf(rules, plain, kind.id, measure).value;
  const told = (limit: number) => limitWords(limit, test.unit);
  return (
    <div className="mt-5 max-w-[760px]">
      <div className="flex flex-wrap gap-4 text-[14px]">
        <label>
          As one limit moves{" "}
          <select
            className="field ml-1"
            value={measure}
            onChange={(e) => setMeasure(e.target.value)}
          >
            {held.tests.map((t) => (
              <option key={t.id} value={t.id}>
                {t.name}
              </option>
            ))}
          </select>
        </label>
        <label>
          for{" "}
          <select
            className="field ml-1"
            value={kind.id}
            onChange={(e) => setKind(e.target.value as KindName)}
          >
            {kinds.map((k) => (
              <option key={k.id} value={k.id}>
                {k.name}
              </option>
            ))}
          </select>
        </label>
      </div>
      {found.data && (
        <ChartFrame
          name="misses"
          title="Cuts missed (upwards), against false alarms; ringed: the limit as it stands, required"
          summary={`${test.name}, ${kind.name}: ${found.data
            .map(
              (p) =>
                `at ${told(p.limit)} ${percent(p.missed, 0)} missed, ${percent(p.false_alarms, 0)} false alarms`,
            )
            .join("; ")}.`}
          height={MissCurve.height}
          draw={(width) => (
            <MissCurve points={found.data ?? []} now={now} told={told} width={width} />
          )}
          table={
            <table className="rows w-full text-[14px]">
              <caption className="sr-only">Cuts missed and false alarms by limit</caption>
              <thead>
                <tr>
                  <th scope="col">Limit</th>
                  <th scope="col">Cuts missed</th>
                  <th scope="col">False alarms</th>
                </tr>
              </thead>
              <tbody>
                {found.data.map((p) => (
                  <tr key={p.limit} className={p.limit === now ? "font-semibold" : ""}>
                    <td>{told(p.limit)}</td>
                    <td>{percent(p.missed, 0)}</td>
                    <td>{percent(p.false_alarms, 0)}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          }
        />
      )}
    </div>
  );
}
