import { Link } from "@tanstack/react-router";
import { useEffect } from "react";
import { type Declared, useComingPayments, useStanding } from "@/api/hearth";
import { useStatus } from "@/api/hooks";
import { useMakePending } from "@/api/payers";
import { useSignals } from "@/api/signals";
import { useWatched, type Watched } from "@/api/watch";
import { day, number, shortDay } from "@/format/format";
import { useView } from "@/state/view";
import { ErrorNote } from "@/ui/ErrorNote";
import { Fig, PayerContext } from "@/ui/Fig";
import { ReachBar } from "@/ui/ReachBar";
import { ReviewLink } from "@/ui/ReviewLink";
import { STATE_WORDS, STATES, StateMark } from "@/ui/StateMark";
import { CalendarLinks } from "./CalendarLinks";
import { Morning } from "./Morning";
import { Signals } from "./Signals";
import { ThisWeek } from "./ThisWeek";

const NEAREST = 5;
const PAID = 14;

/** A morning's page: what needs me today, who is near, what is due. */
export function HearthPage() {
  const [view] = useView();
  const status = useStatus(view.as_of);
  const watched = useWatched(view.as_of);
  useEffect(() => {
    document.title = "Hearth · Hearth Yield";
  }, []);
  const error = watched.error;
  return (
    <div className="px-4 pt-4 pb-6 lg:px-6">
      <div className="flex flex-wrap items-baseline gap-x-6">
        <h1 className="text-[30px]">Hearth</h1>
        <p className="text-[15px] text-muted">
          Is my income safe, is it ahead of prices, what needs me today?
        </p>
      </div>
      {error && <ErrorNote error={error} />}
      {status.data?.payers === 0 ? (
        <Begin />
      ) : (
        <>
          <Morning />
          <Signals asking today={status.data?.today ?? ""} />
          <ThisWeek />
          <div className="mt-4 max-w-[80ch] font-serif text-[20px] leading-snug">
            <Needs rows={watched.data} />
            <Standing />
          </div>
          <Signals today={status.data?.today ?? ""} />
          <div className="mt-6 gap-10 xl:grid xl:grid-cols-[minmax(0,1fr)_minmax(0,1fr)]">
            <Near rows={watched.data ?? []} />
            <Coming />
          </div>
        </>
      )}
    </div>
  );
}

/** With nothing yet: how to begin, in three steps. */
function Begin() {
  return (
    <ol className="mt-6 max-w-prose list-decimal pl-6 text-[16px] [&>li]:mt-2">
      <li>
        <Link to="/sources" search={{ tab: "import" }} className="link underline">
          Import a spreadsheet
        </Link>{" "}
        of a payer you know: its statements, dividends and prices as you have them.
      </li>
      <li>
        Set{" "}
        <Link to="/house-rules" className="link underline">
          your limits
        </Link>
        : what a payout, a debt, an interest cover may be before you worry.
      </li>
      <li>Read its review, and write down what you decide and expect.</li>
      <li className="list-none text-muted">
        To look around first, start the program with the made-up world: <code>make demo</code>.
      </li>
    </ol>
  );
}

const names = (rows: Watched[]) =>
  rows.map((r, i) => (
    <span key={`${r.exchange}/${r.symbol}`}>
      {i > 0 && (i === rows.length - 1 ? " and " : ", ")}
      <ReviewLink payer={r} className="link underline">
        {r.name}
      </ReviewLink>
    </span>
  ));

/** What else asks for the person, each sentence with a way to its grounds: of a payer of whom
 * something new is told already, nothing. */
function Needs({ rows }: { rows: Watched[] | undefined }) {
  const [view] = useView();
  const signals = useSignals(view.as_of, true).data?.signals;
  if (!rows || !signals) return <p className="min-h-[28px]" aria-busy="true" />;
  const asks = signals.filter((s) => s.asks);
  const told = new Set(asks.map((s) => `${s.exchange}/${s.symbol}`));
  const others = rows.filter((r) => !told.has(`${r.exchange}/${r.symbol}`));
  const reached = others.filter((r) => r.reaches.some((x) => x.reached));
  const slipping = others.filter((r) => r.slipping.length > 0);
  const due = others.filter((r) => r.look_due);
  if (reached.length + slipping.length + due.length === 0) {
    return (
      <p>
        {asks.length === 0 && "Nothing needs you today."}{" "}
        {rows.length === 0 && (
          <span className="font-sans text-[15px] text-muted">
            No decision is recorded yet; what you wait for and expect stands here once there is one.
          </span>
        )}
      </p>
    );
  }
  return (
    <>
      {reached.length > 0 && (
        <p>
          {names(reached)} {reached.length === 1 ? "has" : "have"} come within reach.
        </p>
      )}
      {slipping.length > 0 && <p>An expectation is off track: {names(slipping)}.</p>}
      {due.length > 0 && <p>A look is due: {names(due)}.</p>}
    </>
  );
}

/** How the payers stand against the limits and their own past, in two sentences. */
function Standing() {
  const [view] = useView();
  const { as_of } = view;
  const whole = useStanding(as_of, true).data;
  useMakePending(whole?.pending ?? 0, as_of);
  const made = whole !== undefined && whole.held > 0 && whole.pending === 0;
  if (!whole) return <p className="min-h-[56px]" aria-busy="true" />;
  const states = STATES.filter((s) => whole.states[s]);
  return (
    <>
      <p className="mt-2">
        {states.length === 0
          ? `${number(whole.held)} payers are held; they are being measured.`
          : `Of ${number(whole.held)} payers, `}
        {states.map((s, i) => (
          <span key={s}>
            {i > 0 && (i === states.length - 1 ? " and " : ", ")}
            <StateMark state={s} label={false} /> {number(whole.states[s] ?? 0)} {STATE_WORDS[s]}
          </span>
        ))}
        {states.length > 0 &&
          `${whole.unjudged > 0 ? `; ${number(whole.unjudged)} not judged` : ""}${whole.pending > 0 ? " so far." : "."}`}{" "}
        <Link to="/payers" search={{ as_of, sort: "state" }} className="link font-sans text-[15px]">
          Show them
        </Link>
      </p>
      {states.length > 0 && (
        <p className="mt-2">
          {number(whole.above)} yield more than their own five-year mean
          {whole.pending > 0 && ", of those measured so far"}.{" "}
          <Link
            to="/payers"
            search={{ as_of, where: whole.where, cols: "range" }}
            className="link font-sans text-[15px]"
          >
            Show them
          </Link>
          {" · "}
          <Link to="/payers/breadth" search={{ as_of }} className="link font-sans text-[15px]">
            Over the years
          </Link>
        </p>
      )}
      {made && <YearAgo />}
      <DataAge />
    </>
  );
}

/** The same a year before; made in the background, once what is of today is there. */
function YearAgo() {
  const [view] = useView();
  const today = useStatus(view.as_of).data?.today;
  const on = view.as_of ?? today ?? "";
  const then = `${Number(on.slice(0, 4)) - 1}${on.slice(4) === "-02-29" ? "-02-28" : on.slice(4)}`;
  const whole = useStanding(then, on !== "").data;
  useMakePending(whole?.pending ?? 0, then);
  if (!whole || whole.held === 0 || whole.pending > 0) return null;
  return (
    <p className="mt-2 font-sans text-[15px] text-muted">
      A year ago {number(whole.states.outside ?? 0)} of {number(whole.held)} were outside a limit
      and {number(whole.above)} yielded more than their mean.{" "}
      <Link to="/payers" search={{ as_of: then, sort: "state" }} className="link underline">
        Show that day
      </Link>
    </p>
  );
}

/** How old the newest facts are. */
function DataAge() {
  const [view] = useView();
  const status = useStatus(view.as_of).data;
  if (!status?.newest_price) return null;
  return (
    <p className="mt-1 font-sans text-[15px] text-muted">
      The newest price is of {day(status.newest_price)}.{" "}
      <Link to="/sources" search={{ tab: "held" }} className="link underline">
        How old the data of each payer is
      </Link>
    </p>
  );
}

/** Who is nearest to what is waited for. */
function Near({ rows }: { rows: Watched[] }) {
  const [view] = useView();
  const near = rows.flatMap((r) => r.reaches.slice(0, 1).map((reach) => ({ row: r, reach })));
  return (
    <section aria-labelledby="near">
      <h2 id="near" className="text-[21px]">
        Nearest to reach
      </h2>
      {near.length === 0 ? (
        <p className="mt-1 max-w-prose text-[15px] text-muted">
          No price is waited for. A decision’s buy-below price, or an entry step under Range, makes
          one.
        </p>
      ) : (
        <ul className="mt-1">
          {near.slice(0, NEAREST).map(({ row, reach }) => (
            <li
              key={`${row.exchange}/${row.symbol}`}
              className="flex flex-wrap items-center gap-x-4 border-b border-line py-1.5 text-[15px]"
            >
              <span className="min-w-[180px] flex-1">
                <ReviewLink
                  payer={row}
                  className="inline-block min-h-6 font-semibold hover:underline"
                >
                  {row.name}
                </ReviewLink>
                <span className="block text-[13px] text-muted">
                  {reach.words} {number(reach.target, 2)} {row.currency}
                </span>
              </span>
              <ReachBar distance={reach.distance.value} />
              <span className={`w-[76px] text-right ${reach.reached ? "font-semibold" : ""}`}>
                {reach.reached ? (
                  "reached"
                ) : (
                  <PayerContext value={row}>
                    <Fig figure={reach.distance} asked={{ reach: reach.reach }} digits={1} />
                  </PayerContext>
                )}
              </span>
            </li>
          ))}
        </ul>
      )}
      <Link
        to="/watch"
        search={{ as_of: view.as_of }}
        className="link mt-1 inline-block text-[15px]"
      >
        All that is waited for
      </Link>
    </section>
  );
}

/** What goes ex and pays in the next six weeks, as far as it is declared. */
function Coming() {
  const [view] = useView();
  const coming = useComingPayments(view.as_of);
  const today = useStatus(view.as_of).data?.today ?? "";
  const from = view.as_of ?? today;
  const rows = coming.data ?? [];
  return (
    <section aria-labelledby="coming" className="mt-6 xl:mt-0">
      <h2 id="coming" className="text-[21px]">
        Declared for the next six weeks
      </h2>
      {coming.error && <ErrorNote error={coming.error} />}
      {coming.data && rows.length === 0 && (
        <p className="mt-1 text-[15px] text-muted">Nothing that is declared goes ex or pays.</p>
      )}
      {rows.length > 0 && (
        <div className="relative overflow-x-auto">
          <table className="rows mt-1 w-full text-[15px]">
            <caption className="sr-only">Declared dividends of the next six weeks</caption>
            <thead>
              <tr>
                <th scope="col" className="text-left!">
                  Payer
                </th>
                <th scope="col">A share</th>
                <th scope="col">Goes ex</th>
                <th scope="col">Pays</th>
              </tr>
            </thead>
            <tbody>
              {rows.slice(0, PAID).map((p) => (
                <Payment
                  key={`${p.exchange}/${p.symbol}/${p.ex_date}/${p.kind}`}
                  paid={p}
                  from={from}
                />
              ))}
            </tbody>
          </table>
        </div>
      )}
      {rows.length > PAID && (
        <p className="mt-1 text-[14px] text-muted">and {number(rows.length - PAID)} more</p>
      )}
      <CalendarLinks />
    </section>
  );
}

function Payment({ paid, from }: { paid: Declared; from: string }) {
  const gone = paid.ex_date < from;
  return (
    <tr>
      <th scope="row" className="text-left! text-[15px] text-ink">
        <ReviewLink payer={paid} className="hover:underline">
          {paid.name}
        </ReviewLink>
        {paid.kind !== "regular" && (
          <span className="text-muted"> {paid.kind.replaceAll("_", " ")}</span>
        )}
      </th>
      <td className="whitespace-nowrap">
        {number(paid.amount, 3)} {paid.currency}
      </td>
      <td className={`whitespace-nowrap ${gone ? "text-muted" : ""}`} title={day(paid.ex_date)}>
        {shortDay(paid.ex_date)}
      </td>
      <td className="whitespace-nowrap">{paid.pay_date ? shortDay(paid.pay_date) : "–"}</td>
    </tr>
  );
}
