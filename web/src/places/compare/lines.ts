/** The measures of a comparison as the URL and the API hold them: "yield:high:1,payout:low:2". */
export interface Line {
  id: string;
  /** Empty: as the measure is declared. */
  better: "" | "high" | "low";
  /** Nothing: as the measure has it. */
  weight?: number;
}

export function readLines(text: string): Line[] {
  return text
    .split(",")
    .filter(Boolean)
    .map((part) => {
      const [id = "", better = "", weight = ""] = part.split(":");
      return {
        id,
        better: better === "low" || better === "high" ? better : "",
        weight: weight === "" ? undefined : Number(weight),
      };
    });
}

export const writeLines = (lines: Line[]): string =>
  lines
    .map((x) => `${x.id}:${x.better}:${x.weight === undefined ? "" : +x.weight.toFixed(4)}`)
    .join(",");
