import { useNavigate } from "@tanstack/react-router";
import { useState } from "react";
import { refusalOf, type Schemas } from "@/api/client";
import { firstKeys, firstMeasure, useGroups } from "@/api/payers";
import { number, show, upperFirst } from "@/format/format";
import { MOST_COMPARED, writeCompared } from "@/state/compared";
import { useView, type View } from "@/state/view";
import { ErrorNote } from "@/ui/ErrorNote";
import { asked, headerOf } from "./columns";
import { type Measures, wordOf } from "./conditions";

const wholeMedian = (group: Schemas["GroupOut"], column: string) =>
  group.whole.summaries[column]?.median ?? null;

/** Peer groups: of every group the median of each column, and the quartiles under it. */
export function Groups({ columns, catalogue }: { columns: string[]; catalogue: Measures }) {
  const [view, change] = useView();
  const by = view.by ?? "sector";
  // Amounts a share or in money say nothing of a group: units and currencies differ.
  const numbers = columns.filter((c) => {
    const unit = catalogue.get(c)?.unit;
    return unit && unit !== "per_share" && unit !== "money";
  });
  const groups = useGroups(view, asked(numbers, catalogue));
  const searched = Boolean(view.q || view.where?.parts?.length);
  const name = catalogue.get(by)?.name ?? by;
  const navigate = useNavigate();
  const [problem, setProblem] = useState<unknown>(null);
  const within = (word: string): View["where"] => ({
    join: "all",
    parts: [...(view.where ? [view.where] : []), { id: by, op: "is" as const, words: [word] }],
  });
  const only = (word: string) => change({ by: undefined, where: within(word) });
  const compare = (word: string) => {
    setProblem(null);
    const asked = { ...view, where: within(word), sort: firstMeasure(catalogue), descending: true };
    firstKeys(asked, MOST_COMPARED)
      .then((keys) =>
        navigate({
          to: "/compare",
          search: { as_of: view.as_of, compared: writeCompared(keys) },
        }),
      )
      .catch((e) => setProblem(refusalOf(e)));
  };
  return (
    <div className="relative mt-3 overflow-x-auto">
      {groups.error && <ErrorNote error={groups.error} />}
      {problem !== null && <ErrorNote error={problem as Error} />}
      <p className="text-[14px] text-muted">
        Median of each group, with its lower and upper quartile under it
        {searched && ", of the payers found; under that the median of all payers of the group"}.
      </p>
      <table className="rows mt-1 min-w-full text-[15px]">
        <caption className="sr-only">Payers by {name.toLowerCase()}: medians and quartiles</caption>
        <thead>
          <tr>
            <th scope="col" className="align-bottom">
              {name}
            </th>
            <th scope="col" className="align-bottom">
              Payers
            </th>
            {numbers.map((c) => (
              <th key={c} scope="col" className="pl-4! align-bottom leading-tight">
                {headerOf(c, catalogue.get(c))}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {groups.data?.map((group) => (
            <tr key={group.word ?? ""}>
              <td className="min-w-[150px]">
                {group.word === null ? (
                  <span className="text-muted">unknown</span>
                ) : (
                  <button
                    type="button"
                    className="link text-left"
                    onClick={() => only(group.word ?? "")}
                  >
                    {upperFirst(wordOf(group.word, catalogue.get(by)))}
                  </button>
                )}
                {group.word !== null && group.payers > 1 && (
                  <button
                    type="button"
                    className="link block text-left text-[13px]"
                    aria-label={`Compare ${Math.min(group.payers, MOST_COMPARED)} of ${wordOf(group.word, catalogue.get(by))}`}
                    title="Those that yield most"
                    onClick={() => compare(group.word ?? "")}
                  >
                    Compare {Math.min(group.payers, MOST_COMPARED)}
                  </button>
                )}
              </td>
              <td>
                {number(group.payers)}
                {searched && <span className="text-muted"> of {number(group.whole.payers)}</span>}
              </td>
              {numbers.map((c) => {
                const { n, lower, median, upper } = group.summaries[c] ?? { n: 0 };
                const measure = catalogue.get(c);
                const unit = measure?.unit ?? "count";
                const how = { bare: true, sign: measure?.signed };
                if (median === null || median === undefined) return <td key={c}>–</td>;
                return (
                  <td key={c} title={`${n} of ${group.payers} known`} className="leading-tight">
                    <span className="font-semibold">{show(median, unit, how)}</span>
                    {n > 1 && (
                      <span className="block whitespace-nowrap text-[13px] text-muted">
                        {show(lower ?? 0, unit, how)} to {show(upper ?? 0, unit, how)}
                      </span>
                    )}
                    {searched && wholeMedian(group, c) !== null && (
                      <span className="block whitespace-nowrap text-[13px] text-muted">
                        all: {show(wholeMedian(group, c) ?? 0, unit, how)}
                      </span>
                    )}
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
