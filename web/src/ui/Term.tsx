import { type ReactNode, useId } from "react";
import GLOSSARY from "./glossary.json";

export type TermId = keyof typeof GLOSSARY;
export const isTerm = (id: string): id is TermId => id in GLOSSARY;

/** A word of our own: pointed at or focused, it says in one sentence what it means. end: it stands at
 * the right, and the sentence ends with it. */
export function Term({ id, end, children }: { id: TermId; end?: boolean; children: ReactNode }) {
  const tip = useId();
  return (
    <span className="term" tabIndex={0} aria-describedby={tip}>
      {children}
      <span role="tooltip" id={tip} className={end ? "tip end" : "tip"}>
        {GLOSSARY[id]}
      </span>
    </span>
  );
}
