import { Fragment } from "react";
import type { Finding } from "@/api/client";
import { day, withDates } from "@/format/format";
import { Fig } from "./Fig";

/** A finding's sentence: words, dates and figures that open their working. */
export function Sentence({ finding }: { finding: Finding }) {
  return (
    <>
      {finding.parts.map((part, i) => (
        <Fragment key={i}>
          {part.text && withDates(part.text)}
          {part.day && day(part.day)}
          {part.figure && <Fig figure={part.figure} size={part.size} spoken />}
        </Fragment>
      ))}
    </>
  );
}
