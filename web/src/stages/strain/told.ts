/** The map of falls in words, for those who cannot see it. */
import type { Schemas } from "@/api/client";
import { percent } from "@/format/format";

type Drawn = Pick<Schemas["StrainMap"], "first" | "gives" | "uncovered" | "not_covered">;

/** With the margin as it is: which test gives at what fall, and from where cash does not cover. */
export function mapInWords(map: Drawn): string {
  const [gives, uncovered] = [map.gives[0] ?? null, map.uncovered[0] ?? null];
  const first =
    gives === null
      ? "every test that holds today holds whatever falls"
      : `${map.first ?? "the first test"} gives at ${percent(gives, 1)}`;
  return `With the margin as it is, ${first}, and the dividend ${coverInWords(uncovered, map)}.`;
}

const coverInWords = (uncovered: number | null, map: Drawn) => {
  if (uncovered !== null) return `is not covered from ${percent(uncovered, 1)}`;
  return map.not_covered ? "is not covered even now" : "stays covered whatever falls";
};
