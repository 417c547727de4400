import { useState } from "react";
import { isUnsure, refusalOf } from "@/api/client";
import { type Account, type EntryIn, readLine, useKeepEntry } from "@/api/holdings";
import { day, upperFirst, withDates } from "@/format/format";
import { useDraft } from "@/state/drafts";
import { useIntention } from "@/state/intention";
import { AccountSelect } from "./AccountSelect";

const isText = (raw: unknown): raw is string => typeof raw === "string";
const CANNOT =
  "Write it as “bought 50 TRS at 21.40 today”, with the symbol or the name of a payer.";

/** A trade in a line of words. */
export function QuickLine({ accounts }: { accounts: Account[] }) {
  const [draft, setDraft] = useDraft("entry/line", isText);
  const [account, setAccount] = useState(accounts[0]?.id ?? 0);
  const [said, setSaid] = useState<{ text: string; unsure?: boolean } | null>(null);
  const keep = useKeepEntry();
  const intentionOf = useIntention();
  const text = draft ?? "";
  const save = async (ask: boolean) => {
    try {
      const line = await readLine(text);
      if (!line) return setSaid({ text: CANNOT });
      const [payer, ...others] = line.payers ?? [];
      if (!payer) return setSaid({ text: line.payers ? "No payer is called that." : CANNOT });
      if (others.length > 0) {
        const names = [payer, ...others].map((p) => p.symbol).join(", ");
        return setSaid({ text: `Several are called that: ${names}. Write the symbol.` });
      }
      const { kind, shares, price } = line;
      const { exchange, symbol, currency } = payer;
      const who = { account, exchange, symbol, currency };
      const body: EntryIn = { ...who, kind, day: line.day, shares, price };
      const intention = intentionOf(body);
      await keep.mutateAsync({ id: null, body: { ...body, intention, ask } });
      intentionOf({});
      setDraft(null);
      const at = price === null ? "" : ` at ${price} ${payer.currency}`;
      setSaid({ text: `Entered: ${shares} of ${payer.name}${at}, ${day(line.day)}.` });
    } catch (thrown) {
      const error = refusalOf(thrown);
      const unsure = isUnsure(error);
      setSaid({ text: upperFirst(withDates(error.message)), unsure });
    }
  };
  return (
    <form
      className="mt-1 flex flex-wrap items-baseline gap-3 text-[15px] print:hidden"
      aria-label="A trade in a line"
      onSubmit={(e) => {
        e.preventDefault();
        void save(!said?.unsure);
      }}
    >
      <input
        className="field w-[min(420px,100%)]"
        aria-label="What you bought, sold or hold"
        placeholder="bought 50 TRS at 21.40 today"
        value={text}
        onChange={(e) => {
          setDraft(e.target.value);
          setSaid(null);
        }}
      />
      {accounts.length > 1 && (
        <AccountSelect
          label="in"
          accounts={accounts}
          value={String(account)}
          onChange={(id) => setAccount(Number(id))}
        />
      )}
      <button type="submit" className="button primary" disabled={keep.isPending}>
        {said?.unsure ? "Enter it all the same" : "Enter"}
      </button>
      {said && (
        <output className="w-full text-[14px]" role={said.unsure ? "alert" : undefined}>
          {said.text}
        </output>
      )}
    </form>
  );
}
