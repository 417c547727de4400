import { type ReactNode, useId } from "react";
import GLOSSARY from "./glossary.json";

export type TermId = keyof typeof GLOSSARY;
export const isTerm = (id: string): id is TermId => id in GLOSSARY;

/** A word of our own: pointed at or focused, it says in one sentence what it means. */
export function Term({ id, children }: { id: TermId; children: ReactNode }) {
  const tip = useId();
  return (
    <span className="term" tabIndex={0} aria-describedby={tip}>
      {children}
      <span role="tooltip" id={tip} className="tip">
        {GLOSSARY[id]}
      </span>
    </span>
  );
}
