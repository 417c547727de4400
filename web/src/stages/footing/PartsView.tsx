import type { Review, Schemas } from "@/api/client";
import { type PayerKey, useParts } from "@/api/hooks";
import { number } from "@/format/format";
import { useView } from "@/state/view";
import { Fig } from "@/ui/Fig";
import { Found } from "./Found";

export function PartsView({ payer }: { review: Review; payer: PayerKey }) {
  const [view] = useView();
  const found = useParts(payer, { as_of: view.as_of });
  return (
    <Found found={found}>
      {({ splits }) => (
        <>
          {splits.map((split) => (
            <Split key={split.basis} split={split} />
          ))}
          {splits.length === 0 && (
            <p className="my-6 max-w-prose text-muted">
              Import exposures under Sources to see what revenue or rent rests on.
            </p>
          )}
        </>
      )}
    </Found>
  );
}

/** Shares over the years, the newest drawn as a bar. */
function Split({ split }: { split: Schemas["SplitOut"] }) {
  const most = Math.max(...split.parts.map((p) => p.newest.value ?? 0), 0.01);
  return (
    <div className="relative mb-4 overflow-x-auto">
      <table className="rows w-full text-[14px]">
        <caption className="sr-only">{split.name}: share by fiscal year, percent</caption>
        <thead>
          <tr>
            <th scope="col">{split.name}, share in %</th>
            {split.years.map((y) => (
              <th key={y} scope="col">
                {y}
              </th>
            ))}
            <th scope="col">Change, points</th>
            <th scope="col" className="w-[150px]">
              <span className="sr-only">Drawn</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {split.parts.map((part) => (
            <tr key={part.name}>
              <td>{part.name}</td>
              {split.years.map((y) => (
                <td key={y}>
                  {part.years[y] ? <Fig figure={part.years[y]} bare digits={0} /> : "–"}
                </td>
              ))}
              <td>
                <Fig figure={part.change} bare sign digits={0} unknown="–" />
              </td>
              <td>
                <span
                  aria-hidden="true"
                  className="block h-2.5 rounded-xs bg-stone"
                  style={{ width: `${((part.newest.value ?? 0) / most) * 100}%` }}
                />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-1 text-[13px] text-muted">
        As concentrated as{" "}
        {split.equal_parts.value !== null && <Fig figure={split.equal_parts} digits={1} />} equal
        parts, of {number(split.parts.length)} named.
      </p>
    </div>
  );
}
