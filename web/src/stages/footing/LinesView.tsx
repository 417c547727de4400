import type { Review, Schemas } from "@/api/client";
import { type PayerKey, useLines } from "@/api/hooks";
import { upperFirst } from "@/format/format";
import { useView } from "@/state/view";
import { Fig } from "@/ui/Fig";
import { Found } from "./Found";
import { MarkWord } from "./MarkWord";

const SPANS = ["latest", "median", "growth_3", "growth_5", "growth_10"] as const;
const HEADS = ["Latest", "Median of ten", "3 years", "5 years", "10 years"];

export function LinesView({ payer }: { review: Review; payer: PayerKey }) {
  const [view] = useView();
  const found = useLines(payer, { as_of: view.as_of });
  return <Found found={found}>{({ lines }) => <Table lines={lines} />}</Found>;
}

function Table({ lines }: { lines: Schemas["LineOut"][] }) {
  if (lines.length === 0) {
    return (
      <p className="my-6 max-w-prose text-muted">
        Lines are compared once two fiscal years that follow one another are held.
      </p>
    );
  }
  return (
    <div className="relative overflow-x-auto">
      <table className="rows w-full text-[14px] leading-tight">
        <caption className="sr-only">
          Growth of every line of the statements, percent a year
        </caption>
        <thead>
          <tr>
            <th scope="col">Growth a year, %</th>
            {HEADS.map((name) => (
              <th key={name} scope="col">
                {name}
              </th>
            ))}
            <th scope="col">vs revenue, points</th>
            <th scope="col">Speaks</th>
          </tr>
        </thead>
        <tbody>
          {lines.map((line) => (
            <tr key={line.id}>
              <td className="whitespace-nowrap">
                {upperFirst(line.name)}
                {line.freaks.length > 0 && (
                  <span className="ml-2 rounded-full border border-stone border-dashed px-1.5 text-[12px] text-muted">
                    freak: {line.freaks.map((f) => f.replace("fiscal ", "")).join(", ")}
                  </span>
                )}
              </td>
              {SPANS.map((id) => (
                <td key={id}>
                  <Fig figure={line[id]} bare sign digits={1} unknown="–" />
                </td>
              ))}
              <td>
                <Fig figure={line.against} bare sign digits={1} unknown="–" />
              </td>
              <td>
                <MarkWord mark={line.mark} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
