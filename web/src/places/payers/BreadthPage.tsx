import { useEffect } from "react";
import type { Schemas } from "@/api/client";
import { useJob } from "@/api/hooks";
import { useBreadth } from "@/api/payers";
import { BREADTH_HEIGHT, BreadthLine } from "@/charts/BreadthLine";
import { ChartFrame } from "@/charts/ChartFrame";
import { day, number, percent } from "@/format/format";
import { useView } from "@/state/view";
import { ErrorNote } from "@/ui/ErrorNote";
import { JobProgress } from "@/ui/JobProgress";
import { ReviewLink } from "@/ui/ReviewLink";

type Breadth = Schemas["BreadthOut"];

/** Are prices low or high all round? How many payers yield more than they themselves usually do. */
export function BreadthPage() {
  const [view] = useView();
  const [found, again] = useBreadth(view.as_of);
  const task = found.data?.job;
  const running = task?.state === "running" ? task.id : null;
  const job = useJob(running);
  const stopped = task?.state === "cancelled" || task?.state === "failed";
  useEffect(() => {
    document.title = "Breadth · Hearth Yield";
  }, []);
  return (
    <div className="max-w-[1000px] px-4 py-4 lg:px-6">
      <h1 className="text-[26px]">Breadth</h1>
      <p className="mb-3 text-[15px] text-muted">
        How many payers yield more than their own mean of the five years before?
      </p>
      {found.error && <ErrorNote error={found.error} />}
      {running && <JobProgress job={job.data} error={job.error} />}
      {stopped && (
        <button type="button" className="button" onClick={again}>
          Read all payers again
        </button>
      )}
      {found.data?.ready && <Told breadth={found.data} />}
      {!found.data?.ready && !stopped && <div className="h-[420px]" aria-busy="true" />}
    </div>
  );
}

function Told({ breadth }: { breadth: Breadth }) {
  const [view] = useView();
  const [above, known] = [breadth.above.at(-1) ?? 0, breadth.known.at(-1) ?? 0];
  if (known === 0) {
    return (
      <p className="max-w-prose text-muted">
        No payer has a yield and a year of weeks before it. Import prices and dividends first.
      </p>
    );
  }
  const shares = (breadth.shares ?? []).filter((x) => x !== null);
  return (
    <>
      <p className="mb-2 text-[16px]" data-testid="breadth">
        <b className="font-semibold">
          {number(above)} of {number(known)} payers
        </b>{" "}
        yield more than their own mean, {percent(shares.at(-1) ?? 0, 0)}; over these years it was{" "}
        {percent(breadth.usual ?? 0, 0)} in the mean.
      </p>
      <ChartFrame
        name="breadth"
        title="Share of payers that yielded more than their own mean, at quarter ends, as known then"
        summary={`Between ${percent(Math.min(...shares), 0)} and ${percent(Math.max(...shares), 0)}.`}
        height={BREADTH_HEIGHT}
        draw={(width) => <BreadthLine breadth={breadth} width={width} />}
        table={
          <table className="rows w-full text-[14px]">
            <caption className="sr-only">Breadth by quarter</caption>
            <thead>
              <tr>
                <th scope="col">Day</th>
                <th scope="col">Above their mean</th>
                <th scope="col">Known</th>
                <th scope="col">Share, %</th>
              </tr>
            </thead>
            <tbody>
              {breadth.days
                .map((d, i) => ({ d, above: breadth.above[i] ?? 0, n: breadth.known[i] ?? 0 }))
                .toReversed()
                .map((q) => (
                  <tr key={q.d}>
                    <td>{day(q.d)}</td>
                    <td>{number(q.above)}</td>
                    <td>{number(q.n)}</td>
                    <td>{q.n ? number((q.above / q.n) * 100) : "–"}</td>
                  </tr>
                ))}
            </tbody>
          </table>
        }
      />
      <h2 className="mt-4 text-[17px]">Above their mean today</h2>
      <ul className="mt-1 columns-2 text-[14px] lg:columns-3">
        {breadth.names.map((n) => (
          <li key={`${n.exchange}/${n.symbol}`}>
            <ReviewLink
              payer={n}
              search={{ as_of: view.as_of, stage: "range" }}
              className="link inline-block py-0.5"
            >
              {n.name}
            </ReviewLink>
          </li>
        ))}
      </ul>
    </>
  );
}
