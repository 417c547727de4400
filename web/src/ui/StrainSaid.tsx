import type { Schemas } from "@/api/client";
import { percent, upperFirst } from "@/format/format";
import { STATE_WORDS, StateMark } from "./StateMark";

type Said = Schemas["StrainSaidOut"];

/** What a kept strain says of its payer. */
export function StrainSaid({ said }: { said: Said }) {
  if (said.refused)
    return <span className="text-[14px] text-muted">{upperFirst(said.refused)}</span>;
  return (
    <span className="text-[14px]">
      {said.state && (
        <>
          <StateMark state={said.state} /> {STATE_WORDS[said.state]}
        </>
      )}{" "}
      <span className="text-muted">
        {said.words}
        {said.first && said.gives_at !== null && (
          <>
            ; {said.first} gives at {percent(said.gives_at, 1)}
          </>
        )}
        {said.uncovered_at !== null && <>, not covered from {percent(said.uncovered_at, 1)}</>}
      </span>
    </span>
  );
}
