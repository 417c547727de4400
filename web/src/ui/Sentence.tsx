import { Fragment } from "react";
import type { Sentence as Parts } from "@/api/client";
import { day, withDates } from "@/format/format";
import { Fig } from "./Fig";

/** The marks a text begins with. */
const marks = (text: string | null | undefined) => /^[,.;:)]+/.exec(text ?? "")?.[0] ?? "";

/** A sentence of the core's: words, days and figures that open their working. No line begins with the
 * mark that follows a figure. owned: of what the person owns, whose amounts can be hidden. */
export function Sentence({ parts, owned = false }: { parts: Parts; owned?: boolean }) {
  return (
    <>
      {parts.map((part, i) => {
        const taken = parts[i - 1]?.figure ? marks(part.text).length : 0;
        return (
          <Fragment key={i}>
            {part.text && withDates(part.text.slice(taken))}
            {part.day && day(part.day)}
            {part.figure && (
              <span className="whitespace-nowrap">
                <Fig
                  figure={part.figure}
                  size={part.size}
                  spoken
                  owned={owned}
                  digits={owned ? 2 : undefined}
                />
                {marks(parts[i + 1]?.text)}
              </span>
            )}
          </Fragment>
        );
      })}
    </>
  );
}
