import type { Schemas } from "@/api/client";
import { readInputs } from "@/api/question";
import { number, percent, upperFirst } from "@/format/format";
import { STATE_WORDS, StateMark } from "./StateMark";

type Said = Schemas["StrainSaidOut"];

/** A strain in words: "all revenue −20 % for 6 months, margin −2 points". */
export function strainWords(question: Record<string, string>): string {
  const inputs = readInputs(question.strain);
  const part = question.strain_part ?? "all";
  const name = part === "all" ? "all revenue" : part.slice(part.indexOf("/") + 1);
  const points = (v: number) => `${number(v * 100, 1)} points`;
  return [
    `${name} −${percent(inputs.fall ?? 0.2, 0)}`,
    inputs.months ? ` for ${number(inputs.months, 0)} months` : "",
    inputs.margin ? `, margin −${points(inputs.margin)}` : "",
    inputs.interest ? `, interest +${points(inputs.interest)}` : "",
  ].join("");
}

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
        {strainWords(said.question)}
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
