/** What an entry says besides its shares, price and amount. */
import type { Account, Entry, EntryIn } from "@/api/holdings";
import { day, number } from "@/format/format";
import { accountName } from "./Positions";

/** A number as it was typed, with its thousands apart. */
export const exact = (text: string | null) =>
  text === null ? "" : number(Number(text), text.split(".")[1]?.length ?? 0);

const MORE: { of: keyof Entry & keyof EntryIn; name: string }[] = [
  { of: "fee", name: "fee" },
  { of: "tax", name: "tax" },
  { of: "withheld", name: "withheld" },
  { of: "returned", name: "returned capital" },
  { of: "spent", name: "spent on shares" },
  { of: "settled", name: "settled" },
];

export function moreOf(entry: Entry, accounts: Account[]): string[] {
  const to = entry.to === null ? "" : accountName(accounts, entry.to);
  return [
    ...MORE.filter((m) => entry[m.of]).map((m) => `${m.name} ${exact(entry[m.of] as string)}`),
    entry.bought && `bought ${day(entry.bought)}`,
    to && `to ${to}`,
    entry.chosen.length > 0 && "lots chosen",
    entry.new && `${entry.new} for ${entry.old}${entry.into_symbol && ` of ${entry.into_symbol}`}`,
    entry.into_amount && `for ${entry.into_amount} ${entry.into_currency}`,
    entry.note,
  ].filter((text) => typeof text === "string" && text !== "") as string[];
}
