import type { Schemas } from "@/api/client";
import { day, lowerFirst, show, withDates } from "@/format/format";
import { Fig } from "./Fig";

export type Judged = Schemas["JudgedOut"];

/** How an expectation stands: by a mark and a word, never by colour alone. */
export const TRACK_WORDS: Record<Judged["track"], string> = {
  on: "on track",
  off: "off track",
  met: "came true",
  missed: "did not come true",
  unknown: "cannot be told yet",
};
const TRACK_MARKS: Record<Judged["track"], string> = {
  on: "◆",
  off: "◇",
  met: "✓",
  missed: "✗",
  unknown: "…",
};

type Said = Pick<Judged, "name" | "unit" | "currency" | "way" | "side" | "value" | "until">;

const digitsOf = (e: Pick<Judged, "unit">) =>
  e.unit === "multiple" || e.unit === "per_share" ? 2 : 1;

/** The statement as it is read: "Dividend grows at least 6.0 % a year until 31 December 2029". */
export function saidInWords(e: Said): string {
  const side = e.side === "at_least" ? "at least" : "at most";
  const priced = e.unit === "per_share" || e.unit === "money";
  const value = show(e.value, e.unit, { digits: digitsOf(e) }) + (priced ? ` ${e.currency}` : "");
  const until = day(e.until);
  if (e.way === "growth") return `${e.name} grows ${side} ${value} a year until ${until}`;
  if (e.way === "throughout") return `${e.name} stays ${side} ${value} until ${until}`;
  return `${e.name} is ${side} ${value} by ${until}`;
}

/** Expectations with what has become of each; whose they are stands in `PayerContext`. */
export function JudgedList({ judged }: { judged: Judged[] }) {
  if (judged.length === 0) return null;
  return (
    <ul className="mt-1 text-[14px]">
      {judged.map((e) => (
        <li key={saidInWords(e)} className="py-0.5">
          <span aria-hidden="true" className="mr-1.5 inline-block w-4 text-center">
            {TRACK_MARKS[e.track]}
          </span>
          {saidInWords(e)}: <b className="font-semibold">{TRACK_WORDS[e.track]}</b>
          <span className="text-muted">
            <Now of={e} />
          </span>
        </li>
      ))}
    </ul>
  );
}

function Now({ of: e }: { of: Judged }) {
  if (e.track === "unknown") return e.reason ? ` (${withDates(lowerFirst(e.reason))})` : "";
  if (e.now.value === null) return "";
  const apart = e.wanted.value !== null && e.wanted.value !== e.value;
  return (
    <>
      ; <Fig figure={e.now} digits={digitsOf(e)} spoken={e.unit === "per_share"} /> now
      {apart && (
        <>
          , on the way it would be{" "}
          <Fig figure={e.wanted} digits={digitsOf(e)} spoken={e.unit === "per_share"} />
        </>
      )}
    </>
  );
}
