/** Places and actions that the search box reaches. */
import type { View } from "@/state/view";

export interface Doing {
  name: string;
  note: "place" | "action";
  /** Found by these words too. */
  also?: string;
  to:
    | "/"
    | "/payers"
    | "/payers/strain"
    | "/payers/breadth"
    | "/compare"
    | "/watch"
    | "/holdings"
    | "/journal"
    | "/house-rules"
    | "/sources"
    | "/glossary";
  search?: View;
}

/** A trade in words, as the line of Holdings reads it; on a review without a name it is of that
 * payer. Null for words that are none. */
export function tradeOf(words: string, here: { symbol: string } | null): string | null {
  const [, begins, rest = ""] =
    /^\s*((?:bought|buy|sold|sell|held|own)\s+[\d][\d.,']*)(.*)$/i.exec(words) ?? [];
  if (!begins) return null;
  const named = !/^\s*(?:(?:at|for|on|today|yesterday)\b|$)/i.test(rest);
  if (named) return words.trim();
  return here ? `${begins} ${here.symbol}${rest}`.trim() : null;
}

/** What leads to a page; the rest needs a hand of the box. */
export const DOINGS: Doing[] = [
  { name: "Hearth", note: "place", also: "signals new today", to: "/" },
  { name: "Payers", note: "place", also: "table search list", to: "/payers" },
  { name: "Compare", note: "place", also: "side by side ranking", to: "/compare" },
  { name: "Watch", note: "place", also: "targets reach waited", to: "/watch" },
  { name: "Holdings", note: "place", also: "own positions lots accounts", to: "/holdings" },
  {
    name: "Enter a buy, a sale or what you hold",
    note: "action",
    also: "holdings ledger entry account bought sold",
    to: "/holdings",
    search: { tab: "entries", entry: "new" },
  },
  { name: "Journal", note: "place", also: "decisions memo looking back", to: "/journal" },
  { name: "House rules", note: "place", also: "limits settings signals tax", to: "/house-rules" },
  { name: "Sources", note: "place", also: "data", to: "/sources" },
  { name: "Glossary", note: "place", also: "words terms help", to: "/glossary" },
  {
    name: "Import files",
    note: "action",
    also: "spreadsheet csv paste",
    to: "/sources",
    search: { tab: "import" },
  },
  {
    name: "Enter a payer, a quarter or a price by hand",
    note: "action",
    also: "new type",
    to: "/sources",
    search: { tab: "import" },
  },
  {
    name: "Undo an import",
    note: "action",
    also: "history sources feed",
    to: "/sources",
    search: { tab: "import" },
  },
  {
    name: "Export, back up or restore",
    note: "action",
    also: "backup data package workbook",
    to: "/sources",
    search: { tab: "export" },
  },
  {
    name: "Edits and exclusions",
    note: "action",
    also: "corrections",
    to: "/sources",
    search: { tab: "edits" },
  },
  {
    name: "Series and slumps",
    note: "action",
    also: "inflation index yields",
    to: "/sources",
    search: { tab: "shared" },
  },
  {
    name: "Put every payer under a strain",
    note: "action",
    also: "worse year stress",
    to: "/payers/strain",
  },
  {
    name: "How many yield more than they usually do",
    note: "action",
    also: "breadth mean",
    to: "/payers/breadth",
  },
  {
    name: "Look back on what my limits would have said",
    note: "action",
    also: "house rules past",
    to: "/house-rules",
  },
  {
    name: "Choose what I want to hear of",
    note: "action",
    also: "signals notify",
    to: "/house-rules",
  },
];

/** Whether each word typed stands in a name or beside it. */
export const isCalled = (name: string, also: string, words: string[]) => {
  const text = `${name} ${also}`.toLowerCase();
  return words.every((w) => text.includes(w));
};
