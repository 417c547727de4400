import { useEffect } from "react";
import { type Reach, useWatched, type Watched } from "@/api/watch";
import { day, number, shareDigits } from "@/format/format";
import { useView } from "@/state/view";
import { ErrorNote } from "@/ui/ErrorNote";
import { Fig, PayerContext } from "@/ui/Fig";
import { JudgedList } from "@/ui/JudgedList";
import { ReachBar } from "@/ui/ReachBar";
import { ReviewLink } from "@/ui/ReviewLink";
import { STATE_WORDS, StateMark } from "@/ui/StateMark";
import { Note, WatchMore } from "./Note";

/** Who has come within reach, whose expectations are slipping? */
export function WatchPage() {
  const [view] = useView();
  const watched = useWatched(view.as_of);
  useEffect(() => {
    document.title = "Watch · Hearth Yield";
  }, []);
  const rows = watched.data ?? [];
  const groups = [...new Set(rows.map((r) => r.group))].sort(
    (a, b) => Number(a === "") - Number(b === "") || a.localeCompare(b),
  );
  return (
    <div className="px-4 pt-4 pb-6 lg:px-6">
      <div className="flex flex-wrap items-baseline gap-x-6">
        <h1 className="text-[30px]">Watch</h1>
        <p className="text-[15px] text-muted">
          Who has come within reach, whose expectations are slipping?
        </p>
      </div>
      {watched.error && <ErrorNote error={watched.error} />}
      {watched.data && rows.length === 0 && (
        <p className="mt-6 max-w-prose text-muted">
          Nothing is waited for yet. A decision with a buy-below or trim-above price, and the entry
          steps under Range, stand here with how far the price still is from them; others are
          watched with a note.
        </p>
      )}
      {rows.length > 0 && (
        <>
          <Told rows={rows} />
          {groups.length > 1 ? (
            groups.map((group) => (
              <section key={group} aria-label={group || "In no group"}>
                <h2 className="mt-5 text-[21px]">{group || "In no group"}</h2>
                <Table rows={rows.filter((r) => r.group === group)} groups={groups} label={group} />
              </section>
            ))
          ) : (
            <Table rows={rows} groups={groups} label="" />
          )}
        </>
      )}
      <WatchMore taken={rows} />
    </div>
  );
}

/** The answer in a sentence. */
function Told({ rows }: { rows: Watched[] }) {
  const reached = rows.filter((r) => r.reaches.some((x) => x.reached));
  const slipping = rows.filter((r) => r.slipping.length > 0);
  const due = rows.filter((r) => r.look_due);
  const parts = [
    reached.length > 0
      ? `${names(reached)} ${reached.length === 1 ? "is" : "are"} within reach`
      : "Nobody is within reach",
    slipping.length > 0 && `an expectation of ${names(slipping)} is off track`,
    due.length > 0 && `a look at ${names(due)} is due`,
  ].filter(Boolean);
  return <p className="mt-3 font-serif text-[19px]">{parts.join("; ")}.</p>;
}

const AND = new Intl.ListFormat("en-GB");
const names = (rows: Watched[]) => AND.format(rows.map((r) => r.name));

interface TableProps {
  rows: Watched[];
  groups: string[];
  label: string;
}

function Table({ rows, groups, label }: TableProps) {
  return (
    <section
      aria-label={label ? `What is waited for: ${label}` : "What is waited for"}
      tabIndex={0}
      className="relative mt-3 overflow-x-auto"
    >
      <table className="rows w-full text-[15px]">
        <caption className="sr-only">What is waited for, the nearest first</caption>
        <thead>
          <tr>
            <th scope="col" className="text-left!">
              Payer
            </th>
            <th scope="col">Price</th>
            <th scope="col" className="pl-5! text-left!">
              Waited for
            </th>
            <th scope="col">Still to go</th>
            <th scope="col" className="pl-5! text-left!">
              Distance
            </th>
            <th scope="col">Met in a year</th>
            <th scope="col" className="pl-5! text-left!">
              Next
            </th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <Rows key={`${row.exchange}/${row.symbol}`} row={row} groups={groups} />
          ))}
        </tbody>
      </table>
    </section>
  );
}

/** One payer: a line for each target, and what is slipping beneath. */
function Rows({ row, groups }: { row: Watched; groups: string[] }) {
  const lines = Math.max(1, row.reaches.length);
  return (
    <PayerContext value={row}>
      {Array.from({ length: lines }, (_, i) => {
        const reach = row.reaches[i];
        return (
          <tr key={reach ? `${reach.aim}${reach.target}` : "none"} className="align-top">
            {i === 0 && (
              <>
                <th scope="rowgroup" rowSpan={lines} className="text-left!">
                  <ReviewLink
                    payer={row}
                    className="inline-block min-h-6 font-semibold text-ink hover:underline"
                  >
                    {row.name}
                  </ReviewLink>
                  {row.state && (
                    <span className="ml-2">
                      <StateMark state={row.state} label={false} />
                      <span className="sr-only"> {STATE_WORDS[row.state]}</span>
                    </span>
                  )}
                  {row.verdict && (
                    <span className="block text-[13px] text-muted max-sm:hidden">
                      {row.verdict}, decided {day(row.decided_on ?? "")}
                    </span>
                  )}
                  {row.held && (
                    <span className="block text-[13px] text-muted max-sm:hidden">
                      you hold{" "}
                      <Fig figure={row.held.shares} digits={shareDigits(row.held.shares.value)} />
                      {row.held.share_of_value.value !== null && (
                        <>
                          , <Fig figure={row.held.share_of_value} digits={1} /> of value
                        </>
                      )}
                    </span>
                  )}
                  <JudgedList judged={row.slipping} />
                  <Note row={row} groups={groups} />
                </th>
                <td rowSpan={lines}>
                  <Fig figure={row.price} spoken />
                </td>
              </>
            )}
            {reach ? <Target reach={reach} row={row} /> : <NoTarget />}
            {i === 0 && (
              <td rowSpan={lines} className="pl-5! text-left! text-[14px]">
                <Next row={row} />
              </td>
            )}
          </tr>
        );
      })}
    </PayerContext>
  );
}

function NoTarget() {
  return (
    <td colSpan={4} className="pl-5! text-left! text-muted">
      no price is waited for
    </td>
  );
}

function Target({ reach, row }: { reach: Reach; row: Watched }) {
  const asked = { reach: reach.reach };
  return (
    <>
      <td className="whitespace-nowrap pl-5! text-left!">
        {reach.words} {number(reach.target, 2)} {row.currency}
        {reach.yield_there.value !== null && (
          <span className="block text-[13px] text-muted">
            yields <Fig figure={reach.yield_there} asked={asked} digits={2} /> there
          </span>
        )}
      </td>
      <td className={reach.reached ? "font-semibold" : ""}>
        {reach.reached ? "reached" : <Fig figure={reach.distance} asked={asked} digits={1} />}
      </td>
      <td className="pl-5!">
        <ReachBar distance={reach.distance.value} />
      </td>
      <td title={reach.last_met ? `last on ${day(reach.last_met)}` : undefined}>
        <Fig figure={reach.met} asked={asked} digits={0} />
      </td>
    </>
  );
}

function Next({ row }: { row: Watched }) {
  return (
    <>
      {row.next_ex_date && (
        <span className="block whitespace-nowrap">
          ex {row.projected && "about "}
          {day(row.next_ex_date)}
        </span>
      )}
      {row.next_look && (
        <span className={`block whitespace-nowrap ${row.look_due ? "font-semibold" : ""}`}>
          look {row.look_due ? "was due " : ""}
          {day(row.next_look)}
        </span>
      )}
    </>
  );
}
