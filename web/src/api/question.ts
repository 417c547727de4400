/** What is asked of a review, as the API and the address write it: names and texts. */
import PARTS from "./question.json";
import type { paths } from "./schema";

export type Question = NonNullable<
  paths["/api/payers/{exchange}/{symbol}/review"]["get"]["parameters"]["query"]
>;

export type Part = keyof typeof PARTS;
/** What a part of a question changes. */
export type Of = "review" | "ruler" | "worth" | "strain" | "span" | "aim" | "outlay" | "reach";

/** The names of its parts, or of those that change these. */
export const namesOf = (of?: readonly string[]) =>
  (Object.keys(PARTS) as Part[]).filter((name) => !of || of.includes(PARTS[name]));

/** "growth:0.05,required_return:0.09" as values by id; what cannot be read is left out. */
export function readInputs(text: string | undefined): Record<string, number> {
  const pairs = (text ?? "").split(",").map((pair) => pair.split(":"));
  return Object.fromEntries(
    pairs.flatMap(([id, value]) => {
      const number = value === undefined || value === "" ? Number.NaN : Number(value);
      return id && Number.isFinite(number) ? [[id, number]] : [];
    }),
  );
}

/** The same text with one input changed; undefined takes it out. */
export function withInput(
  text: string | undefined,
  id: string,
  value: number | undefined,
): string | undefined {
  const inputs = { ...readInputs(text) };
  if (value === undefined) delete inputs[id];
  else inputs[id] = value;
  const pairs = Object.entries(inputs).map(([name, held]) => `${name}:${held}`);
  return pairs.join(",") || undefined;
}

/** A list of ids with one of them put in or taken out. */
export function withId(list: string | undefined, id: string, held: boolean): string | undefined {
  const others = (list ?? "").split(",").filter((x) => x && x !== id);
  return (held ? [...others, id] : others).join(",") || undefined;
}

/** Why models were set aside, by id; what cannot be read is left out. */
export function readReasons(text: string | undefined): Record<string, string> {
  try {
    const held: unknown = JSON.parse(text || "{}");
    return typeof held === "object" && held !== null ? (held as Record<string, string>) : {};
  } catch {
    return {};
  }
}

/** The same text with the reason of one model changed; an empty one takes it out. */
export function withReason(text: string | undefined, id: string, reason: string) {
  const held = { ...readReasons(text) };
  if (reason.trim()) held[id] = reason.trim();
  else delete held[id];
  return Object.keys(held).length > 0 ? JSON.stringify(held) : undefined;
}
