import { useEffect } from "react";
import type { Schemas } from "@/api/client";
import { useHeldOf } from "@/api/holdings";
import { type PayerKey, useOutlay } from "@/api/hooks";
import type { Question } from "@/api/question";
import { shareDigits } from "@/format/format";
import { questionOf, useView } from "@/state/view";
import { ErrorNote } from "@/ui/ErrorNote";
import { Fig } from "@/ui/Fig";
import { NumberField } from "@/ui/NumberField";

type Bought = Schemas["BoughtOut"];
const ROWS: { name: string; of: keyof Bought }[] = [
  { name: "Price", of: "price" },
  { name: "Whole shares", of: "shares" },
  { name: "What they cost", of: "spent" },
  { name: "Income a year", of: "year" },
  { name: "a quarter", of: "quarter" },
  { name: "a month", of: "month" },
  { name: "Income a year, after tax", of: "year_after_tax" },
  { name: "a quarter, after tax", of: "quarter_after_tax" },
  { name: "a month, after tax", of: "month_after_tax" },
];

/** What the sum would make of what is held, at today’s price; nothing where no ledger is kept. */
function After({ payer, asked }: { payer: PayerKey; asked: Question }) {
  const { home, after } = useHeldOf(payer, asked).data ?? {};
  if (!home || !after) return null;
  return (
    <p className="mt-2 text-[15px]">
      Bought today, you would hold{" "}
      <Fig figure={after.shares} digits={shareDigits(after.shares.value)} /> for{" "}
      <Fig figure={after.cost} digits={2} />, yielding <Fig figure={after.yield_on_cost} /> on cost:{" "}
      <Fig figure={after.share_of_value} /> of all you own.
    </p>
  );
}

interface Props {
  payer: PayerKey;
  currency: string;
  /** The price typed as the one to buy below, if any; else it is the house’s. */
  below: number | undefined;
}

/** What a sum would buy and earn, at today’s price and at the one to buy below. */
export function Outlay({ payer, currency, below }: Props) {
  const [view, change] = useView();
  const { outlay, outlay_at } = view;
  // A working is asked for with what the address holds.
  const at = outlay === undefined ? undefined : below;
  useEffect(() => {
    if (outlay_at !== at) change({ outlay_at: at }, { replace: true });
  }, [outlay_at, at, change]);
  const asked = { ...questionOf(view), outlay: outlay?.toString(), outlay_at: below?.toString() };
  const found = useOutlay(payer, asked, outlay !== undefined);
  const held = outlay === undefined ? undefined : found.data;
  const taxed = !held || held.now.year.value !== held.now.year_after_tax.value;
  return (
    <section aria-label="What a sum would earn" className="mt-5 max-w-[460px]">
      <NumberField
        label={`A sum to put in, ${currency}`}
        note={
          taxed
            ? "What it would buy and earn; the tax is that of your house rules."
            : "What it would buy and earn. House rules hold no tax on dividends."
        }
        value={outlay ?? null}
        digits={0}
        step={1000}
        bounds={{ low: 0.01, high: 1e12 }}
        onChange={(value) => change({ outlay: value }, { replace: true })}
      />
      {found.error && outlay !== undefined && <ErrorNote error={found.error} />}
      {held && (
        <table className="rows mt-1 w-full text-[14px]">
          <caption className="sr-only">What the sum buys and earns</caption>
          <thead>
            <tr>
              <th scope="col">
                <span className="sr-only">Of it</span>
              </th>
              <th scope="col">Today</th>
              <th scope="col">At buy-below</th>
            </tr>
          </thead>
          <tbody>
            {ROWS.filter((row) => taxed || !row.of.endsWith("after_tax")).map((row) => (
              <tr key={row.of}>
                <th scope="row" className="text-left! font-normal!">
                  {row.name}
                </th>
                {[held.now, held.below].map((bought, n) => (
                  <td key={n === 0 ? "now" : "below"}>
                    <Fig figure={bought[row.of]} digits={row.of === "shares" ? 0 : 2} />
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {held && <After payer={payer} asked={asked} />}
    </section>
  );
}
