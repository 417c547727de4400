import { useEffect } from "react";
import type { Schemas, State } from "@/api/client";
import { useJob } from "@/api/hooks";
import { useStrainEveryPayer, useStrainedPayers } from "@/api/strains";
import { number } from "@/format/format";
import { useView } from "@/state/view";
import { ErrorNote } from "@/ui/ErrorNote";
import { InputFields } from "@/ui/InputFields";
import { JobProgress } from "@/ui/JobProgress";
import { ReviewLink } from "@/ui/ReviewLink";
import { STATE_WORDS, StateMark } from "@/ui/StateMark";

type Row = Schemas["StrainedPayerOut"];
/** One strain on every payer: who would still stand within limits, and who would still be covered? */
export function StrainedPage() {
  const [view, change] = useView();
  const asked = { as_of: view.as_of, strain: view.strain, strain_part: "all" };
  const found = useStrainedPayers(asked);
  const start = useStrainEveryPayer(asked);
  const running = found.data?.job?.state === "running" ? found.data.job.id : null;
  const job = useJob(running);
  const stopped = found.data?.job?.state === "cancelled" || found.data?.job?.state === "failed";
  const { mutate } = start;
  const begin = found.data !== undefined && !found.data.ready && !found.data.job;
  useEffect(() => {
    document.title = "Under a strain · Hearth Yield";
  }, []);
  useEffect(() => {
    if (begin) mutate();
  }, [begin, mutate]);
  return (
    <div className="px-4 py-4 lg:px-6">
      <h1 className="text-[26px]">Under a strain</h1>
      <p className="text-[15px] text-muted">
        Who would still stand within limits, and whose cash would still cover the dividend?
      </p>
      {found.data && (
        <div className="max-w-[760px]">
          <InputFields
            fields={found.data.fields}
            text={view.strain}
            onText={(strain) => change({ strain }, { replace: true })}
            error={found.error}
            columns="sm:grid-cols-3"
          />
        </div>
      )}
      {(found.error || start.error) && <ErrorNote error={found.error ?? start.error} />}
      {running && <JobProgress job={job.data} error={job.error} />}
      {stopped && (
        <button type="button" className="button mt-3" onClick={() => mutate()}>
          Apply to all payers again
        </button>
      )}
      {found.data?.ready && <Found rows={found.data.rows} words={found.data.words} />}
      {!found.data?.ready && !stopped && <div className="h-[420px]" aria-busy="true" />}
    </div>
  );
}

const RANK: (State | null)[] = ["outside", "unknown", "close", "within", "paying_nothing", null];
const rank = (r: Row) =>
  (r.covered === false ? 0 : 10) + (r.before === r.after ? 5 : 0) + RANK.indexOf(r.after);

function Found({ rows, words }: { rows: Row[]; words: string }) {
  const paying = rows.filter((r) => r.covered !== null);
  const covered = paying.filter((r) => r.covered);
  const sorted = [...rows].sort((a, b) => rank(a) - rank(b) || a.name.localeCompare(b.name));
  const moved = rows.filter((r) => r.before !== r.after && r.after !== null);
  return (
    <>
      <p className="mt-3 max-w-[80ch] text-[16px]" data-testid="strained">
        With {words}, {number(covered.length)} of {number(paying.length)} payers still cover their
        dividend; {number(moved.length)} change state.
      </p>
      <div className="relative mt-2 overflow-x-auto">
        <table className="rows w-full max-w-[1000px] text-[15px]">
          <caption className="sr-only">Payers under the strain</caption>
          <thead>
            <tr>
              <th scope="col">Payer</th>
              <th scope="col" className="text-left!">
                Now
              </th>
              <th scope="col" className="text-left!">
                Then
              </th>
              <th scope="col">Payout then, %</th>
              <th scope="col">First gives at, %</th>
              <th scope="col" className="text-left!">
                First to give
              </th>
            </tr>
          </thead>
          <tbody>
            {sorted.map((r) => (
              <Line key={`${r.exchange}/${r.symbol}`} row={r} />
            ))}
          </tbody>
        </table>
      </div>
    </>
  );
}

function Line({ row }: { row: Row }) {
  const [view] = useView();
  return (
    <tr>
      <td>
        <ReviewLink
          payer={row}
          search={{ as_of: view.as_of, strain: view.strain, cover: "strain", stage: "cover" }}
        >
          {row.name}
        </ReviewLink>
        {row.reason && <span className="text-[13px] text-muted"> · {row.reason}</span>}
      </td>
      <td className="text-left!">
        <Stands state={row.before} />
      </td>
      <td className="text-left!">
        <Stands state={row.after} />
      </td>
      <td className={row.covered === false ? "font-semibold text-outside" : ""}>
        {row.payout !== null ? number(row.payout * 100, 0) : (row.breach ?? "–")}
      </td>
      <td>{row.gives_at !== null ? number(row.gives_at * 100, 1) : "–"}</td>
      <td className="text-left! text-muted">{row.first ?? "–"}</td>
    </tr>
  );
}

function Stands({ state }: { state: State | null }) {
  if (!state) return <span className="text-muted">–</span>;
  return (
    <span className="inline-flex items-center gap-2 whitespace-nowrap">
      <StateMark state={state} label={false} /> {STATE_WORDS[state]}
    </span>
  );
}
