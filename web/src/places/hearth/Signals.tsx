import { Link } from "@tanstack/react-router";
import { type ReactNode, useState } from "react";
import { type Signal, useSeen, useSignals } from "@/api/signals";
import { month, shortDay } from "@/format/format";
import { useView } from "@/state/view";
import { ErrorNote } from "@/ui/ErrorNote";
import { ReviewLink } from "@/ui/ReviewLink";
import { Sentence } from "@/ui/Sentence";

const SHOWN = 8;

interface Props {
  today: string;
  /** Only what asks for something to be done; without: what is good to know. */
  asking?: boolean;
}

/** What happened since the person last looked, by payer; it stays until it is seen. */
export function Signals({ today, asking = false }: Props) {
  const [view] = useView();
  const [all, showAll] = useState(false);
  const [more, showMore] = useState(false);
  const found = useSignals(view.as_of, !all);
  const seen = useSeen();
  const signals = (found.data?.signals ?? []).filter((s) => all || s.asks === asking);
  const groups = byPayer(signals);
  const id = asking ? "needs" : "signals";
  if (asking && groups.length === 0) return null;
  const open = signals.filter((s) => !s.seen);
  return (
    <section aria-labelledby={id} className={asking ? "mt-4" : "mt-5"}>
      <div className="flex flex-wrap items-baseline gap-x-5">
        <h2 id={id} className="text-[21px]">
          {asking ? "Needs you" : all ? "What happened" : "New since you looked"}
        </h2>
        {open.length > 1 && (
          <button
            type="button"
            className="link text-[15px]"
            disabled={seen.isPending}
            onClick={() => seen.mutate({ signals: open, seen: true })}
          >
            All seen
          </button>
        )}
        {!asking && (
          <button
            type="button"
            className="link text-[15px]"
            aria-pressed={all}
            onClick={() => showAll(!all)}
          >
            {all ? "Only what is new" : "Show what was seen too"}
          </button>
        )}
        {!asking && found.making && <output className="text-[14px] text-muted">Looking …</output>}
      </div>
      {(found.error ?? seen.error) && <ErrorNote error={found.error ?? seen.error} />}
      {found.data && groups.length === 0 && (
        <p className="mt-1 max-w-prose text-[15px] text-muted">
          {found.making ? "The facts are being gone through." : "Nothing new."}
        </p>
      )}
      <ul className="mt-1">
        {groups.slice(0, more ? undefined : SHOWN).map((group) => (
          <Group
            key={`${group[0].exchange}/${group[0].symbol}`}
            signals={group}
            today={today}
            busy={seen.isPending}
            onSeen={(of, as) => seen.mutate({ signals: of, seen: as })}
          />
        ))}
      </ul>
      {groups.length > SHOWN && (
        <button type="button" className="link mt-1 text-[15px]" onClick={() => showMore(!more)}>
          {more ? "Show fewer" : `Show ${groups.length - SHOWN} more payers`}
        </button>
      )}
    </section>
  );
}

type Some = [Signal, ...Signal[]];

/** In the order of their newest. */
function byPayer(signals: Signal[]): Some[] {
  const groups = new Map<string, Some>();
  for (const s of signals) {
    const key = `${s.exchange}/${s.symbol}`;
    const held = groups.get(key);
    if (held) held.push(s);
    else groups.set(key, [s]);
  }
  return [...groups.values()];
}

const OF_A_PAYER = 4;
const ROW = "grid min-h-6 grid-cols-[72px_minmax(0,1fr)] hover:underline";

/** What a signal rests on: the stage of its payer on its day, or the income. */
function Grounds({
  signal: s,
  today,
  children,
}: {
  signal: Signal;
  today: string;
  children: ReactNode;
}) {
  const as_of = s.day < today ? s.day : undefined;
  if (s.of_income)
    return (
      <Link to="/holdings" search={{ tab: "income" }} className={ROW}>
        {children}
      </Link>
    );
  const stage = s.stage === "payer" ? undefined : s.stage;
  return (
    <ReviewLink payer={s} search={{ as_of, stage }} className={ROW}>
      {children}
    </ReviewLink>
  );
}

interface GroupProps {
  signals: Some;
  today: string;
  busy: boolean;
  onSeen: (signals: Signal[], seen: boolean) => void;
}

function Group({ signals, today, busy, onSeen }: GroupProps) {
  const [open, setOpen] = useState(false);
  const first = signals[0];
  const unseen = signals.filter((s) => !s.seen);
  // What asks for something to be done comes before what is merely good to know.
  const ordered = [...signals.filter((s) => s.asks), ...signals.filter((s) => !s.asks)];
  const shown = open ? ordered : ordered.slice(0, OF_A_PAYER);
  return (
    <li className="grid gap-x-6 border-b border-line py-2 text-[15px] sm:grid-cols-[200px_minmax(0,1fr)_auto]">
      <ReviewLink payer={first} className="min-h-6 font-semibold hover:underline">
        {first.name}
      </ReviewLink>
      <div>
        <ul>
          {shown.map((s) => (
            <li key={`${s.kind}/${s.event}`} className={s.seen ? "text-muted" : ""}>
              <Grounds signal={s} today={today}>
                <span className="text-muted">
                  {s.day.slice(0, 4) === today.slice(0, 4) ? shortDay(s.day) : month(s.day)}
                </span>
                <span className={s.asks && !s.seen ? "font-semibold" : ""}>
                  <span className="sr-only">{s.title}: </span>
                  <Sentence parts={s.said} owned={s.of_income} />
                </span>
              </Grounds>
            </li>
          ))}
        </ul>
        {signals.length > OF_A_PAYER && (
          <button
            type="button"
            className="link text-[14px]"
            aria-expanded={open}
            onClick={() => setOpen(!open)}
          >
            {open ? "Fewer" : `${signals.length - OF_A_PAYER} more`}
          </button>
        )}
      </div>
      <button
        type="button"
        className="button self-start justify-self-start"
        aria-label={`${unseen.length ? "Seen" : "Unseen again"}: ${first.name}`}
        disabled={busy}
        onClick={() => onSeen(unseen.length ? unseen : signals, unseen.length > 0)}
      >
        {unseen.length ? "Seen" : "Unseen again"}
      </button>
    </li>
  );
}
