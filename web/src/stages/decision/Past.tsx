import type { Schemas } from "@/api/client";
import { day, number, show, upperFirst } from "@/format/format";
import { Fig } from "@/ui/Fig";
import { JudgedList } from "@/ui/JudgedList";
import { MemoLinks } from "@/ui/MemoLinks";
import { STATE_WORDS, StateMark } from "@/ui/StateMark";
import { StrainSaid } from "@/ui/StrainSaid";

type Decision = Schemas["DecisionOut"];
/** What a decision says beside its verdict and words. */
export const POINTS = ["pros", "cons", "risks"] as const;

export function SaidStrains({ strains }: { strains: Decision["strains"] }) {
  return (
    <ul>
      {strains.map((s) => (
        <li key={s.name} className="py-0.5">
          {s.name}: <StrainSaid said={s} />
        </li>
      ))}
    </ul>
  );
}

/** A decision of before, and what has changed since. */
export function Past({ decision }: { decision: Decision }) {
  const moved = decision.changes.filter((c) => c.moved);
  return (
    <article
      className="mt-3 border-line border-t pt-3"
      aria-label={`Decision of ${day(decision.as_of)}`}
    >
      <p className="text-[15px]">
        <b className="font-semibold">{upperFirst(decision.verdict)}</b>
        {decision.buy_below !== null && (
          <>
            ; buy below{" "}
            <b className="font-semibold">
              {number(decision.buy_below, 2)} {decision.currency}
            </b>
          </>
        )}
        {decision.trim_above !== null && (
          <>
            ; trim above {number(decision.trim_above, 2)} {decision.currency}
          </>
        )}{" "}
        <span className="text-muted">· {day(decision.as_of)}</span>
        {decision.state && (
          <span className="ml-2 text-muted">
            <StateMark state={decision.state} label={false} /> {STATE_WORDS[decision.state]}
            {decision.first_to_give && `, first to give ${decision.first_to_give}`}
          </span>
        )}
      </p>
      <p className="mt-1 max-w-prose whitespace-pre-wrap font-serif text-[16px]">
        {decision.words}
      </p>
      {POINTS.map(
        (name) =>
          decision[name] && (
            <p key={name} className="mt-1 max-w-prose whitespace-pre-wrap text-[14px]">
              <b className="font-semibold">{upperFirst(name)}:</b> {decision[name]}
            </p>
          ),
      )}
      <JudgedList judged={decision.expectations} />
      {decision.next_look && (
        <p className="mt-1 text-[14px]">Next look: {day(decision.next_look)}.</p>
      )}
      {decision.looked_back && (
        <p className="mt-1 max-w-prose whitespace-pre-wrap text-[14px]">
          <b className="font-semibold">Looking back:</b> {decision.looked_back}
        </p>
      )}
      <div className="mt-1">
        <MemoLinks id={decision.id} made={decision.as_of} />
      </div>
      <details className="mt-1" open={moved.length > 0}>
        <summary className="link inline-block text-[14px]">
          {moved.length === 0
            ? "Nothing it rests on has changed since"
            : `${moved.length} of ${decision.changes.length} figures have changed since`}
        </summary>
        <Changes changes={moved.length ? moved : decision.changes} />
        {decision.by_models && (
          <p className="mt-1 text-[14px] text-muted">
            Its combined value of then is the mean of its models; by today’s method three questions
            have one vote each.
          </p>
        )}
      </details>
      {Object.entries(decision.disagreements).map(([stage, words]) => (
        <p key={stage} className="mt-1 text-[14px]">
          You disagreed with {upperFirst(stage)}: {words}
        </p>
      ))}
      {decision.strains.length > 0 && <SaidStrains strains={decision.strains} />}
      {decision.dividends_since.length > 0 && (
        <p className="mt-1 text-[14px] text-muted">
          {decision.dividends_since.length} dividends have gone ex since.
        </p>
      )}
    </article>
  );
}

function Changes({ changes }: { changes: Decision["changes"] }) {
  return (
    <table className="rows mt-1 w-full text-[14px]">
      <caption className="sr-only">Figures then and now</caption>
      <thead>
        <tr>
          <th scope="col">Figure</th>
          <th scope="col">Then</th>
          <th scope="col">Now</th>
        </tr>
      </thead>
      <tbody>
        {changes.map((c) => (
          <tr key={c.key}>
            <td>{upperFirst(c.label)}</td>
            <td>
              {c.then === null
                ? "unknown"
                : `${show(c.then, c.unit)}${c.currency ? ` ${c.currency}` : ""}`}
            </td>
            <td>{c.now ? <Fig figure={c.now} /> : "–"}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
