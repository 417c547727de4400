import { useEffect } from "react";
import { type Compared, type Comparison, useCompareSets, useComparison } from "@/api/compare";
import { number, percent } from "@/format/format";
import { keepCompared, MOST_COMPARED, readCompared, writeCompared } from "@/state/compared";
import { useView } from "@/state/view";
import { AddPayer } from "@/ui/AddPayer";
import { ErrorNote } from "@/ui/ErrorNote";
import { Axes } from "./Axes";
import { LinesTable } from "./LinesTable";
import { readLines, writeLines } from "./lines";
import { Sets } from "./Sets";

/** Which of these few, and how firmly? */
export function ComparePage() {
  const [view, change] = useView();
  const payers = readCompared(view.compared);
  const sets = useCompareSets();
  const text = view.lines ?? sets.data?.[0]?.lines ?? "";
  const found = useComparison(payers, text, view.as_of);
  const put = (next: string[]) => change({ compared: writeCompared(next) || undefined });
  useEffect(() => {
    document.title = "Compare · Hearth Yield";
  }, []);
  const held = view.compared ?? "";
  useEffect(() => {
    if (held) keepCompared(readCompared(held));
  }, [held]);
  const lines = readLines(text);
  const setLines = (next: typeof lines, how?: { replace?: boolean }) =>
    change({ lines: writeLines(next) }, how);
  return (
    <div className="px-4 pt-4 pb-6 lg:px-6">
      <div className="flex flex-wrap items-baseline gap-x-6">
        <h1 className="text-[30px]">Compare</h1>
        <p className="text-[15px] text-muted">Which of these few, and how firmly?</p>
      </div>
      <div className="mt-2 flex flex-wrap items-center gap-x-6 gap-y-2">
        {payers.length < MOST_COMPARED && (
          <AddPayer taken={payers} onAdd={(key) => put([...payers, key])} />
        )}
        <Sets payers={payers} text={text} />
      </div>
      {found.error && <ErrorNote error={found.error} />}
      {payers.length === 0 && <Nothing />}
      {payers.length > 0 && found.data && (
        <>
          <Verdict found={found.data} />
          <LinesTable
            found={found.data}
            lines={lines}
            onLines={setLines}
            onRemove={(key) => put(payers.filter((p) => p !== key))}
          />
          <Axes found={found.data} />
        </>
      )}
    </div>
  );
}

function Nothing() {
  return (
    <p className="mt-6 max-w-prose text-muted">
      Two to six payers stand side by side here, measure by measure, with the reasons for their
      ranking and how firmly it holds. Add one above, mark some under Payers, or press c in a
      review.
    </p>
  );
}

/** The answer in a sentence or two: who leads, how firmly, and what would change it. */
function Verdict({ found }: { found: Comparison }) {
  const { payers } = found;
  const leaders = payers.filter((p) => p.rank === 1);
  const total = found.lines.reduce((sum, x) => sum + x.weight, 0);
  const nearest = found.lines.find((x) => x.id === found.nearest);
  const first = leaders[0];
  if (!first || payers.length < 2) return null;
  const points = (p: Compared) => number(p.points, Number.isInteger(p.points) ? 0 : 2);
  return (
    <div className="mt-3 max-w-[90ch] font-serif text-[19px] leading-snug" aria-live="polite">
      <p>
        {leaders.length > 1 ? (
          <>
            {names(leaders)} share the first place with {points(first)} of {number(total, 0)}{" "}
            points.
          </>
        ) : (
          <>
            {first.name} comes first with {points(first)} of {points({ ...first, points: total })}{" "}
            points.
          </>
        )}{" "}
        {first.firmness !== null && leaders.length === 1 && (
          <>
            With other weights it would still come first {percent(first.firmness, 0)} of the time.
          </>
        )}
      </p>
      {nearest?.switch_weight != null && (
        <p className="font-sans text-[15px] text-muted">
          {nearest.switch_weight > nearest.weight ? "Raising" : "Lowering"} the weight of “
          {nearest.name}” from {number(nearest.weight, 2)} to {number(nearest.switch_weight, 2)}{" "}
          brings {names(nearest.switch_to.flatMap((i) => payers[i] ?? []))} level.
        </p>
      )}
      {found.converted.length > 0 && (
        <p className="font-sans text-[15px] text-muted">
          Amounts in {found.converted.join(", ")} are compared in {found.currency}, at the rate
          known on the day.
        </p>
      )}
    </div>
  );
}

const names = (payers: Compared[]) =>
  payers.length < 2
    ? (payers[0]?.name ?? "")
    : `${payers
        .slice(0, -1)
        .map((p) => p.name)
        .join(", ")} and ${payers.at(-1)?.name}`;
