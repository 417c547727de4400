import type { State } from "@/api/client";
/** Conditions in plain words. */
import { type Condition, complete, type Group, isComplete, type Measure } from "@/api/payers";
import { isPercent, kindName, number, percent, show, upperFirst } from "@/format/format";
import { STATE_WORDS } from "@/ui/StateMark";

export const NUMBER_OPS = ["at_least", "at_most", "known", "unknown"] as const;
export const WORD_OPS = ["is", "is_not", "known", "unknown"] as const;
export const OP_WORDS: Record<Condition["op"], string> = {
  at_least: "at least",
  at_most: "at most",
  is: "is",
  is_not: "is not",
  known: "is known",
  unknown: "is unknown",
};

/** Measures by id. */
export type Measures = Map<string, Measure>;

/** Measures under the names of their stages, and in Cover of the basis they are taken on. */
export function groupsOf<M extends Pick<Measure, "stage" | "group">>(
  all: M[],
): { name: string; measures: M[] }[] {
  const groups = new Map<string, M[]>();
  for (const m of all) {
    const name = upperFirst(m.stage) + (m.group ? `, on ${m.group}` : "");
    groups.set(name, [...(groups.get(name) ?? []), m]);
  }
  return [...groups].map(([name, measures]) => ({ name, measures }));
}

function amount(value: number, measure: Measure): string {
  const unit = measure.unit ?? "count";
  if (isPercent(unit)) return percent(value, Number.isInteger(+(value * 100).toFixed(6)) ? 0 : 1);
  if (unit === "count" || unit === "years")
    return unit === "years" ? show(value, unit) : number(value);
  return show(value, unit);
}

/** A word as it is read: a state is one of the tests against the person's limits. */
export const wordOf = (word: string, measure: Pick<Measure, "drawn"> | undefined): string =>
  (measure?.drawn === "state" && STATE_WORDS[word as State]) || kindName(word);

/** "yield above its 5-year average by at least 10 %" */
export function sentence(c: Condition, measure: Measure): string {
  if (c.op === "known" || c.op === "unknown") return `${measure.name} ${OP_WORDS[c.op]}`;
  if (c.op === "is" || c.op === "is_not") {
    const words = (c.words ?? []).map((w) => wordOf(w, measure)).join(" or ");
    return measure.words.replace("{}", c.op === "is" ? `is ${words}` : `is not ${words}`);
  }
  const value = c.value ?? 0;
  const turned = measure.turned !== null && value < 0;
  const least = (c.op === "at_least") !== turned;
  const words = turned && measure.turned ? measure.turned : measure.words;
  return words.replace(
    "{}",
    `${least ? "at least" : "at most"} ${amount(turned ? -value : value, measure)}`,
  );
}

/** A whole search as one sentence; a group inside stands in brackets. */
export function groupSentence(group: Group, catalogue: Measures): string {
  const join = group.join === "all" ? ", and " : ", or ";
  return (complete(group).parts ?? [])
    .map((part) => {
      if ("join" in part) return `(${groupSentence(part, catalogue)})`;
      const measure = catalogue.get(part.id);
      return measure ? sentence(part, measure) : part.id;
    })
    .join(join);
}

/** Where each complete condition stands among the counts, which the API gives in reading order. */
export function countPlaces(group: Group): Map<Condition, number> {
  const places = new Map<Condition, number>();
  const walk = (g: Group) => {
    for (const part of g.parts ?? []) {
      if ("join" in part) walk(part);
      else if (isComplete(part)) places.set(part, places.size);
    }
  };
  walk(group);
  return places;
}
