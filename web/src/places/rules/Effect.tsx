import { useEffect } from "react";
import type { State } from "@/api/client";
import { useMake } from "@/api/payers";
import { type Rules, useEffectOf } from "@/api/rules";
import { number } from "@/format/format";
import { useView } from "@/state/view";
import { ErrorNote } from "@/ui/ErrorNote";
import { ReviewLink } from "@/ui/ReviewLink";
import { STATE_WORDS, STATES, StateMark } from "@/ui/StateMark";

/** What the draft would change: who moves, from which state to which. */
export function Effect({ rules, draft }: { rules: Rules; draft: Rules | null }) {
  const [view] = useView();
  const found = useEffectOf(rules, view.as_of);
  const effect = found.data;
  const make = useMake(view.as_of);
  const due = (effect?.pending ?? 0) > 0;
  // biome-ignore lint/correctness/useExhaustiveDependencies: asked once, as soon as some are due
  useEffect(() => {
    if (due) make.mutate(false);
  }, [due, view.as_of]);
  if (found.error) return <ErrorNote error={found.error} kept="What you typed is kept." />;
  if (!effect) return <p className="text-muted" aria-busy="true" />;
  return (
    <div aria-live="polite">
      <p className="text-[17px] leading-snug" data-testid="effect">
        {effect.payers === 0
          ? "No payer is held yet; these rules will judge those you import."
          : draft === null
            ? `${number(effect.payers)} payers are held against these rules.`
            : effect.changed === 0
              ? "No payer would change state."
              : `${number(effect.changed)} of ${number(effect.payers)} payers would change state.`}
      </p>
      {effect.pending > 0 && (
        <p className="text-[13px] text-muted">
          {number(effect.pending)} are still being measured and are not counted.
        </p>
      )}
      {make.error && <ErrorNote error={make.error} kept="What is measured already is counted." />}
      <table className="rows mt-2 w-full text-[14px]">
        <caption className="sr-only">Payers by state</caption>
        <thead>
          <tr>
            <th scope="col">State</th>
            <th scope="col">Now</th>
            {draft && <th scope="col">Then</th>}
          </tr>
        </thead>
        <tbody>
          {STATES.map((state) => (
            <tr key={state}>
              <td>
                <span className="flex items-center gap-2">
                  <StateMark state={state} label={false} /> {STATE_WORDS[state]}
                </span>
              </td>
              <td>{number(effect.before[state] ?? 0)}</td>
              {draft && <td className="font-semibold">{number(effect.after[state] ?? 0)}</td>}
            </tr>
          ))}
        </tbody>
      </table>
      {draft && effect.moved.length > 0 && (
        <ul className="mt-3 text-[14px]" aria-label="Payers that would change state">
          {effect.moved.map((m) => (
            <li
              key={`${m.exchange}/${m.symbol}`}
              className="flex items-center justify-between gap-2 border-line border-b py-1"
            >
              <ReviewLink payer={m} className="link truncate">
                {m.name}
              </ReviewLink>
              <span className="flex shrink-0 items-center gap-1.5">
                <Mark state={m.before} /> → <Mark state={m.after} />
              </span>
            </li>
          ))}
          {effect.changed > effect.moved.length && (
            <li className="py-1 text-muted">
              and {number(effect.changed - effect.moved.length)} more
            </li>
          )}
        </ul>
      )}
    </div>
  );
}

function Mark({ state }: { state: State | "none" }) {
  return state === "none" ? <span className="text-muted">none</span> : <StateMark state={state} />;
}
