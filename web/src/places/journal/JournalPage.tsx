import { Link } from "@tanstack/react-router";
import { useEffect } from "react";
import type { Figure } from "@/api/client";
import { type Journal, type JournalEntry, useJournal, useLookBack } from "@/api/journal";
import { day, number, percent, shareDigits, signed, upperFirst, withDates } from "@/format/format";
import { isWordsDraft, useDraft } from "@/state/drafts";
import { useView } from "@/state/view";
import { ErrorNote } from "@/ui/ErrorNote";
import { Fig, PayerContext } from "@/ui/Fig";
import { JudgedList } from "@/ui/JudgedList";
import { MemoLinks } from "@/ui/MemoLinks";
import { Overtaken } from "@/ui/Overtaken";
import { ReviewLink } from "@/ui/ReviewLink";
import { SearchField } from "@/ui/SearchField";
import { STATE_WORDS, StateMark } from "@/ui/StateMark";
import { SideBySide } from "./SideBySide";

const OUTCOMES: Record<string, { name: string; fits: (e: JournalEntry) => boolean }> = {
  off: {
    name: "something off track",
    fits: (e) => e.expectations.some((x) => x.track === "off" || x.track === "missed"),
  },
  on: {
    name: "all on track",
    fits: (e) =>
      e.expectations.length > 0 &&
      e.expectations.every((x) => x.track === "on" || x.track === "met"),
  },
  ahead: { name: "ahead of the market", fits: (e) => (e.since?.against_market.value ?? -1) > 0 },
  behind: { name: "behind the market", fits: (e) => (e.since?.against_market.value ?? 1) < 0 },
};

/** What did I decide, on what grounds, and how did it turn out? */
export function JournalPage() {
  const [view, change] = useView();
  const journal = useJournal(view.as_of);
  const { data } = journal;
  useEffect(() => {
    document.title = "Journal · Hearth Yield";
  }, []);
  const wanted = (view.q ?? "").toLowerCase();
  const outcome = OUTCOMES[view.outcome ?? ""];
  const entries = (data?.entries ?? []).filter(
    (e) =>
      (!wanted || `${e.name ?? ""} ${e.symbol}`.toLowerCase().includes(wanted)) &&
      (!view.verdict || e.verdict === view.verdict) &&
      (!outcome || outcome.fits(e)),
  );
  const [one, ...more] = new Map(
    entries.filter((e) => e.name !== null).map((e) => [`${e.exchange}/${e.symbol}`, e]),
  ).values();
  const alone = wanted && more.length === 0 ? one : undefined;
  return (
    <div className="px-4 pt-4 pb-6 lg:px-6">
      <div className="flex flex-wrap items-baseline gap-x-6">
        <h1 className="text-[30px]">Journal</h1>
        <p className="text-[15px] text-muted">
          What did I decide, on what grounds, and how did it turn out?
        </p>
      </div>
      {journal.error && <ErrorNote error={journal.error} />}
      {data && data.found === 0 && (
        <p className="mt-6 max-w-prose text-muted">
          No decision is recorded yet. One is made at the end of a review; from then on its
          expectations are checked here, and its return is held against the market.
        </p>
      )}
      {data && data.found > 0 && (
        <>
          <Own journal={data} />
          <div className="mt-4 flex flex-wrap items-center gap-x-5 gap-y-2 text-[15px] text-muted">
            <SearchField label="Only of" className="w-[180px]" placeholder="payer" />
            <label>
              Verdict{" "}
              <select
                className="field py-0.5"
                value={view.verdict ?? ""}
                onChange={(e) => change({ verdict: e.target.value || undefined })}
              >
                <option value="">any</option>
                {data.by_verdict.map((r) => (
                  <option key={r.verdict}>{r.verdict}</option>
                ))}
              </select>
            </label>
            <label>
              Outcome{" "}
              <select
                className="field py-0.5"
                value={view.outcome ?? ""}
                onChange={(e) => change({ outcome: e.target.value || undefined })}
              >
                <option value="">any</option>
                {Object.entries(OUTCOMES).map(([id, o]) => (
                  <option key={id} value={id}>
                    {o.name}
                  </option>
                ))}
              </select>
            </label>
            <span>
              {number(entries.length)} of {number(data.found)}
            </span>
          </div>
          {alone && <SideBySide payer={alone} />}
          {entries.map((e) => (
            <PayerContext key={e.id} value={e}>
              <Entry entry={e} traded={data.traded} />
            </PayerContext>
          ))}
          {entries.length === 0 && <p className="mt-4 text-muted">None is like that.</p>}
        </>
      )}
    </div>
  );
}

const share = (value: number | null) =>
  value === null ? "unknown" : signed(percent(value, 1), value);

/** The person's own record; honest about small samples. */
function Own({ journal }: { journal: Journal }) {
  const { held, judged, least } = journal;
  return (
    <section className="mt-3" aria-labelledby="own">
      <h2 id="own" className="sr-only">
        Your own record
      </h2>
      <p className="font-serif text-[19px]">
        {judged === 0
          ? "No expectation can be judged yet."
          : `${number(held)} of ${number(judged)} expectations have held so far.`}
        {judged > 0 && judged < least && (
          <span className="font-sans text-[15px] text-muted"> Too few to say much.</span>
        )}
      </p>
      <div className="relative overflow-x-auto">
        <table className="rows mt-2 w-full max-w-[640px] text-[15px]">
          <caption className="sr-only">Return by verdict</caption>
          <thead>
            <tr>
              <th scope="col" className="text-left!">
                Verdict
              </th>
              <th scope="col">Decisions</th>
              <th scope="col">Mean total return since</th>
              <th scope="col">Against the market</th>
            </tr>
          </thead>
          <tbody>
            {journal.by_verdict.map((r) => (
              <tr key={r.verdict}>
                <th scope="row" className="text-left!">
                  {upperFirst(r.verdict)}
                </th>
                <td>
                  {number(r.decisions)}
                  {r.decisions < least && <span className="text-muted"> (few)</span>}
                </td>
                <td>{share(r.mean_total)}</td>
                <td>{share(r.against_market)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  );
}

/** What was bought and sold after it, against the price it would buy below. */
function WhatFollowed({ entry, traded }: { entry: JournalEntry; traded: boolean }) {
  const { bought, sold, until, against_buy_below: against } = entry.followed;
  if (!bought && !sold) {
    const reached = entry.verdict === "buy" && entry.buy_below !== null && !entry.waiting;
    if (!traded || !reached) return null;
    return (
      <p className="mt-1 text-[14px]">
        You bought nothing after it{until && ` until you decided again on ${day(until)}`}.
      </p>
    );
  }
  return (
    <p className="mt-1 text-[14px]">
      {bought && (
        <>
          You bought <Shares of={bought.shares} /> at <Fig figure={bought.price} spoken />{" "}
          {span(bought)}
          {against && against.value !== null && (
            <>
              , <Fig figure={against} digits={1} size /> {against.value > 0 ? "above" : "under"}{" "}
              your buy-below price
            </>
          )}
          {sold ? "; " : "."}
        </>
      )}
      {sold && (
        <>
          {bought ? "you" : "You"} sold <Shares of={sold.shares} /> at{" "}
          <Fig figure={sold.price} spoken /> {span(sold)}.
        </>
      )}
    </p>
  );
}

const Shares = ({ of }: { of: Figure }) => <Fig figure={of} digits={shareDigits(of.value)} />;

const span = ({ first, last }: { first: string; last: string }) =>
  first === last ? `on ${day(first)}` : `from ${day(first)} to ${day(last)}`;

function Entry({ entry, traded }: { entry: JournalEntry; traded: boolean }) {
  const [view] = useView();
  const { since } = entry;
  return (
    <article
      className="mt-4 border-line border-t pt-3"
      aria-label={`${entry.name ?? entry.symbol}, ${day(entry.as_of)}`}
    >
      <p className="text-[15px]">
        <b className="font-semibold">{upperFirst(entry.verdict)}</b>{" "}
        {entry.name ? (
          <ReviewLink payer={entry} search={{ stage: "decision" }} className="link font-semibold">
            {entry.name}
          </ReviewLink>
        ) : (
          <span>{entry.symbol} (no longer stored)</span>
        )}
        {entry.buy_below !== null && (
          <>
            ; buy below {number(entry.buy_below, 2)} {entry.currency}
            {entry.waiting && ", which no close has reached: it counts as waiting"}
          </>
        )}{" "}
        <span className="text-muted">· {day(entry.as_of)}</span>
        {entry.state && (
          <span className="ml-2 text-muted">
            <StateMark state={entry.state} label={false} /> {STATE_WORDS[entry.state]}
            {entry.first_to_give && `, first to give ${entry.first_to_give}`}
          </span>
        )}
      </p>
      <p className="mt-1 max-w-prose whitespace-pre-wrap font-serif text-[16px]">{entry.words}</p>
      {since && (
        <p className="mt-1 text-[14px]">
          {since.total.value === null ? (
            `Since then: ${withDates(since.total.reason ?? "unknown")}.`
          ) : (
            <>
              Since then the price <Grown figure={since.price} span={since.span} />, with dividends{" "}
              <Grown figure={since.total} span={since.span} />; the market{" "}
              <Grown figure={since.market} span={since.span} />
              {offeredWords(since)}.
            </>
          )}{" "}
          {since.total.value !== null && (
            <ReviewLink
              payer={entry}
              className="link underline"
              search={{
                as_of: view.as_of,
                stage: "range",
                range: "price",
                span: since.span,
              }}
            >
              How it came
            </ReviewLink>
          )}
        </p>
      )}
      <WhatFollowed entry={entry} traded={traded} />
      <JudgedList judged={entry.expectations} />
      {entry.next_look && <p className="mt-1 text-[14px]">Next look: {day(entry.next_look)}.</p>}
      {entry.looked_back && (
        <p className="mt-1 max-w-prose whitespace-pre-wrap text-[14px]">{entry.looked_back}</p>
      )}
      <div className="mt-1 flex flex-wrap items-baseline gap-x-5 text-[14px]">
        <MemoLinks id={entry.id} made={entry.as_of} />
        {entry.name && (
          <Link
            to="/journal"
            search={(before) => ({ as_of: before.as_of, q: entry.name ?? undefined })}
            className="link print:hidden"
          >
            Its reviews side by side
          </Link>
        )}
        <LookingBack entry={entry} />
      </div>
    </article>
  );
}

const Grown = ({ figure, span }: { figure: Figure; span: string }) => (
  <Fig figure={figure} asked={{ span }} digits={1} sign />
);

/** The path that the price of then offered, beside what came. */
const offeredWords = (since: NonNullable<JournalEntry["since"]>) =>
  since.offered === null || since.offered_a_year === null
    ? ""
    : `; the price then offered ${percent(since.offered_a_year, 1)} a year, ${signed(percent(since.offered, 1), since.offered)} by now`;

/** A note on how it turned out: the one thing of a decision that can be added later. */
function LookingBack({ entry }: { entry: JournalEntry }) {
  const keep = useLookBack();
  const [draft, setDraft] = useDraft(
    `looked-back/${entry.exchange}/${entry.symbol}/${entry.id}`,
    isWordsDraft,
  );
  const standing = entry.looked_back;
  const save = (words: string, begun: string) =>
    keep.mutate({ id: entry.id, words, begun }, { onSuccess: () => setDraft(null) });
  const overtaken = draft !== null && draft.begun !== standing;
  if (draft === null) {
    return (
      <button
        type="button"
        className="link print:hidden"
        aria-label={`${entry.looked_back ? "Edit the note" : "Note on looking back"}: ${entry.name ?? entry.symbol}, ${day(entry.as_of)}`}
        onClick={() => setDraft({ begun: standing, words: standing })}
      >
        {entry.looked_back ? "Edit the note" : "Note on looking back"}
      </button>
    );
  }
  return (
    <form
      className="mt-1 max-w-prose basis-full"
      onSubmit={(e) => {
        e.preventDefault();
        save(draft.words, draft.begun);
      }}
    >
      <textarea
        rows={3}
        className="field w-full"
        aria-label="What you see, looking back"
        maxLength={4000}
        value={draft.words}
        onChange={(e) => setDraft({ ...draft, words: e.target.value })}
      />
      <p className="flex gap-3">
        <button type="submit" className="button py-0.5" disabled={keep.isPending || overtaken}>
          Save the note
        </button>
        <button type="button" className="link" onClick={() => setDraft(null)}>
          Cancel
        </button>
      </p>
      {overtaken ? (
        <Overtaken
          standing={standing}
          onKeepMine={() => save(draft.words, standing)}
          onTakeTheirs={() => setDraft(null)}
        />
      ) : (
        keep.error && <ErrorNote error={keep.error} kept="What you typed is still here." />
      )}
    </form>
  );
}
