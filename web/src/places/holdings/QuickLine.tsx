import { useState } from "react";
import { isUnsure, refusalOf } from "@/api/client";
import { type Account, type EntryIn, readLine, useKeepEntry } from "@/api/holdings";
import { day, upperFirst, withDates } from "@/format/format";
import { useDraft } from "@/state/drafts";

const isText = (raw: unknown): raw is string => typeof raw === "string";
const CANNOT =
  "Write it as “bought 50 TRS at 21.40 today”, with the symbol or the name of a payer.";

/** A trade in a line of words. */
export function QuickLine({ accounts }: { accounts: Account[] }) {
  const [draft, setDraft] = useDraft("entry/line", isText);
  const [account, setAccount] = useState(accounts[0]?.id ?? 0);
  const [said, setSaid] = useState<{ text: string; unsure?: boolean } | null>(null);
  const keep = useKeepEntry();
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
      const cost = kind === "opening" ? { amount: costOf(shares, price) } : { price };
      const { exchange, symbol, currency } = payer;
      const who = { account, exchange, symbol, currency };
      const body: EntryIn = { ...who, kind, day: line.day, shares, ...cost, ask };
      await keep.mutateAsync({ id: null, body });
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
        <label>
          in{" "}
          <select
            className="field"
            value={account}
            onChange={(e) => setAccount(Number(e.target.value))}
          >
            {accounts.map((a) => (
              <option key={a.id} value={a.id}>
                {a.name}
              </option>
            ))}
          </select>
        </label>
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

/** Of what was held at a price a share, what it cost; the server counts, so to the cent here. */
const costOf = (shares: string, price: string | null) =>
  price === null ? undefined : (Number(shares) * Number(price)).toFixed(2);
