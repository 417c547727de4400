/** Payers read lately on this machine, the newest first. */
import { readStored } from "./stored";

export interface Recent {
  exchange: string;
  symbol: string;
  name: string;
}

const KEY = "hearth.recent";
const MOST = 6;

const isRecent = (raw: unknown): raw is Recent[] =>
  Array.isArray(raw) &&
  raw.every(
    (r) =>
      typeof r?.exchange === "string" && typeof r.symbol === "string" && typeof r.name === "string",
  );

export const recentPayers = (): Recent[] => readStored(localStorage, KEY, isRecent) ?? [];

/** A review was opened. */
export function noteRecent({ exchange, symbol, name }: Recent) {
  const others = recentPayers().filter((r) => r.exchange !== exchange || r.symbol !== symbol);
  localStorage.setItem(KEY, JSON.stringify([{ exchange, symbol, name }, ...others].slice(0, MOST)));
}
