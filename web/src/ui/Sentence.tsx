import { Fragment } from "react";
import type { Sentence as Parts } from "@/api/client";
import { day, withDates } from "@/format/format";
import { Fig } from "./Fig";

/** A sentence of the core's: words, days and figures that open their working. */
export function Sentence({ parts }: { parts: Parts }) {
  return (
    <>
      {parts.map((part, i) => (
        <Fragment key={i}>
          {part.text && withDates(part.text)}
          {part.day && day(part.day)}
          {part.figure && <Fig figure={part.figure} size={part.size} spoken />}
        </Fragment>
      ))}
    </>
  );
}
