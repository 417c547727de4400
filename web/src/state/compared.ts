/** The payers last compared, so that one more can be added from anywhere. */
const KEY = "hearth.compared";
export const MOST_COMPARED = 6;

export function lastCompared(): string[] {
  const kept = sessionStorage.getItem(KEY);
  return kept ? kept.split("\n").filter(Boolean) : [];
}

export const keepCompared = (payers: string[]) => sessionStorage.setItem(KEY, payers.join("\n"));

/** With one more: the oldest makes room where there are too many. */
export function withOneMore(payer: { exchange: string; symbol: string }): string[] {
  const key = `${payer.exchange}/${payer.symbol}`;
  const others = lastCompared().filter((k) => k !== key);
  return [...others.slice(-(MOST_COMPARED - 1)), key];
}

/** Payers as the URL holds them; a symbol may hold a comma. */
export const writeCompared = (payers: string[]) =>
  payers.map((p) => p.replaceAll(",", "%2C")).join(",");

export const readCompared = (text: string | undefined): string[] =>
  (text ?? "")
    .split(",")
    .filter(Boolean)
    .map((p) => p.replaceAll("%2C", ","));
