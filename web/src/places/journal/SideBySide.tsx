import { useState } from "react";
import type { Schemas } from "@/api/client";
import { useDecisions } from "@/api/hooks";
import { day, show, upperFirst } from "@/format/format";
import { useView } from "@/state/view";
import { ErrorNote } from "@/ui/ErrorNote";
import { Fig, PayerContext } from "@/ui/Fig";

type Change = Schemas["ChangeOut"];

/** The reviews of one payer, a column for each decision and one for today: what its figures were.
 * Those that moved come first; the others stand behind a button. */
export function SideBySide({ payer }: { payer: { exchange: string; symbol: string } }) {
  const [view] = useView();
  const [all, showAll] = useState(false);
  const decisions = useDecisions(payer, view.as_of);
  if (decisions.error) return <ErrorNote error={decisions.error} />;
  const made = [...(decisions.data ?? [])].reverse();
  const newest = made[made.length - 1];
  if (!newest) return null;
  const rows = new Map<string, Change>();
  for (const d of made) for (const c of d.changes) rows.set(c.key, c);
  const held = made.map((d) => new Map(d.changes.map((c) => [c.key, c])));
  const moved = [...rows.values()].filter((c) => held.some((h) => h.get(c.key)?.moved));
  const shown = all ? [...rows.values()] : moved;
  return (
    <section aria-label="Its reviews side by side" className="mt-4">
      <div className="flex flex-wrap items-baseline gap-x-5">
        <h2 className="text-[21px]">Its reviews side by side</h2>
        <button
          type="button"
          className="link text-[15px] print:hidden"
          aria-pressed={all}
          onClick={() => showAll(!all)}
        >
          {all ? "Only what moved" : `All ${rows.size} figures`}
        </button>
      </div>
      {shown.length === 0 && (
        <p className="mt-1 text-[15px] text-muted">Nothing it rests on has moved.</p>
      )}
      {shown.length > 0 && (
        <section
          aria-label="Figures by day"
          tabIndex={0}
          className="relative mt-1 max-w-[900px] overflow-x-auto"
        >
          <table className="rows w-full text-[14px]">
            <caption className="sr-only">What each figure was on the day of each decision</caption>
            <thead>
              <tr>
                <th scope="col" className="sticky left-0 bg-paper text-left!">
                  Figure
                </th>
                {made.map((d) => (
                  <th key={d.id} scope="col" className="pl-4!">
                    {day(d.as_of)}
                    <span className="block text-muted">{d.verdict}</span>
                  </th>
                ))}
                <th scope="col" className="pl-4!">
                  Now
                </th>
              </tr>
            </thead>
            <tbody>
              {shown.map((c) => (
                <tr key={c.key}>
                  <th
                    scope="row"
                    className="sticky left-0 bg-paper text-left! font-normal! text-ink"
                  >
                    {upperFirst(c.label)}
                  </th>
                  {held.map((h, i) => {
                    const then = h.get(c.key);
                    return (
                      <td key={made[i]?.id} className="pl-4!">
                        {then?.then == null ? (
                          <span className="text-muted" title={upperFirst(then?.then_reason ?? "")}>
                            unknown
                          </span>
                        ) : (
                          show(then.then, then.unit)
                        )}
                      </td>
                    );
                  })}
                  <td className="pl-4! font-semibold">
                    <PayerContext value={payer}>
                      {c.now ? <Fig figure={c.now} /> : "–"}
                    </PayerContext>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </section>
      )}
    </section>
  );
}
