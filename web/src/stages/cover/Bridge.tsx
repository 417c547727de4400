import type { ReactNode } from "react";
import type { Figure, Schemas } from "@/api/client";
import { type PayerKey, useBridge } from "@/api/hooks";
import { upperFirst } from "@/format/format";
import { useView } from "@/state/view";
import { ErrorNote } from "@/ui/ErrorNote";
import { Fig } from "@/ui/Fig";

type Series = Schemas["BridgeSeries"];
type Step = Series["steps"][number];

/** From what was earned to what pays the dividend, step by step; every total is exact. */
export function Bridge(props: { payer: PayerKey; total: boolean; controls: ReactNode }) {
  const { payer, total, controls } = props;
  const [view] = useView();
  const found = useBridge(payer, { as_of: view.as_of });
  if (found.error) return <ErrorNote error={found.error} />;
  if (!found.data) return <div className="h-[240px]" aria-busy="true" />;
  const { steps, bridges } = found.data;
  const of = (b: Series["bridges"][number]) => (total ? b.total : b.per_share);
  const ratios = bridges.some((b) => b.capital_ratio);
  return (
    <div className="relative my-1 overflow-x-auto">
      <p className="flex justify-between gap-x-4 text-[13px] text-muted">
        <span>From what was earned to what is left of it</span>
        {controls}
      </p>
      <table className="rows w-full text-[14px]">
        <caption className="sr-only">
          From what was earned to what is left, {total ? "in millions" : "per share"}
        </caption>
        <thead>
          <tr>
            <th scope="col">{total ? "In total, m" : "Per share"}</th>
            {bridges.map((b) => (
              <th key={b.id} scope="col">
                {b.id === "trailing" ? "12 m" : b.label.replace("fiscal ", "")}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {steps
            .filter((step) => counts(step, bridges))
            .map((step) => (
              <tr key={step.id}>
                <td className={step.what === "total" ? "font-semibold" : "whitespace-nowrap"}>
                  {stepName(step)}
                </td>
                {bridges.map((b) => (
                  <td key={b.id}>
                    {of(b)[step.id] && (
                      <Fig
                        figure={of(b)[step.id] as Figure}
                        bare
                        unknown="–"
                        className={step.what === "total" ? "font-semibold" : ""}
                      />
                    )}
                  </td>
                ))}
              </tr>
            ))}
          {ratios && (
            <tr>
              <td>Capital ratio, %</td>
              {bridges.map((b) => (
                <td key={b.id}>
                  {b.capital_ratio && <Fig figure={b.capital_ratio} bare digits={1} unknown="–" />}
                </td>
              ))}
            </tr>
          )}
        </tbody>
      </table>
    </div>
  );
}

/** A step that is nil in every period, to the unit, says nothing. */
const counts = (step: Step, bridges: Series["bridges"]) =>
  step.what === "start" ||
  step.what === "total" ||
  bridges.some(
    (b) => b.total[step.id]?.value == null || Math.abs(b.total[step.id]?.value ?? 0) >= 1,
  );

function stepName(step: Step): string {
  if (step.what === "step") return `${step.sign > 0 ? "+" : "−"} ${step.name}`;
  if (step.what === "rest") return `+ ${step.name}`;
  return step.what === "total" ? `= ${upperFirst(step.name)}` : upperFirst(step.name);
}
