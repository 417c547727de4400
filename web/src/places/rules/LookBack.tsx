import { Link } from "@tanstack/react-router";
import { useEffect, useState } from "react";
import type { Schemas, State } from "@/api/client";
import { useJob } from "@/api/hooks";
import { type Rules, type RulesHeld, useLookBack, useStartLookBack, useVerdict } from "@/api/rules";
import { day, number, percent, upperFirst } from "@/format/format";
import { useView } from "@/state/view";
import { ErrorNote } from "@/ui/ErrorNote";
import { JobProgress } from "@/ui/JobProgress";
import { STATE_WORDS, StateMark } from "@/ui/StateMark";
import { Curve } from "./Curve";

type Verdict = Schemas["VerdictOut"];
const SHOWN = 12;

interface Props {
  held: RulesHeld;
  standing: Rules;
  draft: Rules | null;
}

/** The limits tried at every past year end: would they have warned me? */
export function LookBack({ held, standing, draft }: Props) {
  const [view] = useView();
  const status = useLookBack(view.as_of);
  const start = useStartLookBack(view.as_of);
  const running = status.data?.job?.state === "running" ? status.data.job.id : null;
  const job = useJob(running);
  const ended = job.data !== undefined && job.data.state !== "running";
  const { refetch } = status;
  useEffect(() => {
    if (ended) void refetch();
  }, [ended, refetch]);
  const ready = status.data?.ready ?? false;
  const again = status.data?.job?.state === "cancelled" || status.data?.job?.state === "failed";
  return (
    <section aria-labelledby="looking-back" className="mt-8">
      <h2 id="looking-back" className="text-[21px]">
        Looking back
      </h2>
      <p className="max-w-[76ch] text-[14px] text-muted">
        Would they have warned you? At every past year end each payer is judged by these limits with
        only what was known then; what followed is read from today.
      </p>
      {start.error && <ErrorNote error={start.error} />}
      {running && <JobProgress job={job.data} error={job.error} />}
      {!ready && !running && status.data && (
        <button
          type="button"
          className="button mt-2"
          disabled={start.isPending}
          onClick={() => start.mutate()}
        >
          {again ? "Look back again" : "Look back"}
        </button>
      )}
      {ready && status.data && (
        <Found held={held} standing={standing} draft={draft} yearEnds={status.data.year_ends} />
      )}
      {ready && (status.data?.left_out.length ?? 0) > 0 && (
        <p className="mt-3 max-w-[76ch] text-[13px] text-muted">
          Left out: {status.data?.left_out.map((p) => `${p.name} (${p.reason})`).join("; ")}
        </p>
      )}
    </section>
  );
}

function Found({ held, standing, draft, yearEnds }: Props & { yearEnds: number }) {
  const [view] = useView();
  const now = useVerdict(standing, true, view.as_of);
  const then = useVerdict(draft ?? standing, draft !== null, view.as_of);
  if (now.error) return <ErrorNote error={now.error} />;
  if (!now.data) return <div className="h-[300px]" aria-busy="true" />;
  const other = draft !== null ? then.data : undefined;
  return (
    <>
      <Told verdict={now.data} yearEnds={yearEnds} />
      <Counts now={now.data} then={other} />
      <Curve held={held} rules={draft ?? standing} />
      <Cuts verdict={other ?? now.data} />
      <Alarms verdict={other ?? now.data} />
    </>
  );
}

function Told({ verdict, yearEnds }: { verdict: Verdict; yearEnds: number }) {
  if (verdict.cuts === 0) {
    return (
      <p className="mt-2 text-[16px]">
        No cut is on record at the {number(yearEnds)} year ends looked at.
      </p>
    );
  }
  return (
    <p className="mt-2 max-w-[76ch] text-[16px]" data-testid="looked-back">
      Of {number(verdict.cuts)} cuts, your limits were close or outside at the year end before in{" "}
      <b className="font-semibold">{number(verdict.flagged)}</b>, and a year earlier already in{" "}
      {number(verdict.flagged_early)}. {number(verdict.missed)} came from payers within your limits.
    </p>
  );
}

const of = ({ part, whole, share }: Schemas["CountOut"]) =>
  `${number(part)} of ${number(whole)}${share === null ? "" : ` (${percent(share, 0)})`}`;

/** The limits in use, and beside them the ones being written. */
function Counts({ now, then }: { now: Verdict; then?: Verdict }) {
  return (
    <table className="rows mt-2 w-full max-w-[760px] text-[14px]">
      <caption className="sr-only">What the limits would have said</caption>
      <thead>
        <tr>
          <th scope="col">What followed</th>
          <th scope="col">Limits in use</th>
          {then && <th scope="col">As being written</th>}
        </tr>
      </thead>
      <tbody>
        {now.counts.map((count, i) => (
          <tr key={count.name}>
            <td>{count.name}</td>
            <td>{of(count)}</td>
            {then && <td className="font-semibold">{then.counts[i] && of(then.counts[i])}</td>}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** Every cut, those that were missed first; a state opens the review as of that day. */
function Cuts({ verdict }: { verdict: Verdict }) {
  const [all, setAll] = useState(false);
  const rows = [...verdict.rows].sort((a, b) => rank(a.state) - rank(b.state));
  const shown = all ? rows : rows.slice(0, SHOWN);
  if (rows.length === 0) return null;
  return (
    <div className="relative mt-5 overflow-x-auto">
      <table className="rows w-full max-w-[760px] text-[14px]">
        <caption className="mb-1 text-left text-[13px] text-muted">
          Cuts, those missed first; a state opens the review as of that day
        </caption>
        <thead>
          <tr>
            <th scope="col">Payer</th>
            <th scope="col">Cut on</th>
            <th scope="col">At the year end before</th>
            <th scope="col">A year earlier</th>
          </tr>
        </thead>
        <tbody>
          {shown.map((row) => (
            <tr key={`${row.exchange}/${row.symbol}/${row.cut_on}`}>
              <td>{row.name}</td>
              <td>{day(row.cut_on)}</td>
              <td>
                <StateOn row={row} on={row.before} state={row.state} />
              </td>
              <td>
                <StateOn row={row} on={row.earlier} state={row.earlier_state} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <More all={all} hidden={rows.length - shown.length} onAll={() => setAll(true)} />
    </div>
  );
}

const rank = (state: State | null) =>
  ["paying_nothing", "within", "unknown", "close", "outside"].indexOf(state ?? "unknown");

function StateOn(props: {
  row: { exchange: string; symbol: string; name: string };
  on: string | null;
  state: State | null;
}) {
  const { row, on, state } = props;
  if (!on || !state) return <span className="text-muted">–</span>;
  return (
    <Link
      to="/review/$exchange/$symbol"
      params={{ exchange: row.exchange, symbol: row.symbol }}
      search={{ as_of: on }}
      className="link inline-flex items-center gap-2"
      aria-label={`${row.name} on ${day(on)}: ${STATE_WORDS[state]}`}
    >
      <StateMark state={state} label={false} /> {STATE_WORDS[state]}
    </Link>
  );
}

/** Year ends that were close or outside and that no cut followed. */
function Alarms({ verdict }: { verdict: Verdict }) {
  const [all, setAll] = useState(false);
  const shown = all ? verdict.alarm_rows : verdict.alarm_rows.slice(0, SHOWN);
  if (verdict.alarm_rows.length === 0) return null;
  return (
    <details className="mt-4 text-[14px]">
      <summary className="link inline-block">
        {upperFirst(number(verdict.alarm_rows.length))} alarms without a cut within two years
      </summary>
      <ul className="mt-1 max-w-[760px]">
        {shown.map((row) => (
          <li
            key={`${row.exchange}/${row.symbol}/${row.day}`}
            className="flex flex-wrap justify-between gap-x-4 border-line border-b py-1"
          >
            <span>
              {row.name} <span className="text-muted">{day(row.day)}</span>
            </span>
            <StateOn row={row} on={row.day} state={row.state} />
          </li>
        ))}
      </ul>
      <More
        all={all}
        hidden={verdict.alarm_rows.length - shown.length}
        onAll={() => setAll(true)}
      />
    </details>
  );
}

function More(props: { all: boolean; hidden: number; onAll: () => void }) {
  if (props.all || props.hidden <= 0) return null;
  return (
    <button type="button" className="link mt-1 text-[14px]" onClick={props.onAll}>
      {number(props.hidden)} more
    </button>
  );
}
