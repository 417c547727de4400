import { useEffect, useRef } from "react";
import { GROUPINGS, type Grouping, type Holdings, useHoldings } from "@/api/holdings";
import { useMakePending } from "@/api/payers";
import { useHiddenAmounts } from "@/state/amounts";
import { useView } from "@/state/view";
import { HideAmounts } from "@/ui/Amount";
import { ErrorNote } from "@/ui/ErrorNote";
import { Fig, PayerContext } from "@/ui/Fig";
import { Accounts } from "./Accounts";
import { Entries } from "./Entries";
import { Income } from "./Income";
import { Positions } from "./Positions";
import { Year } from "./Year";

const TABS = [
  { id: "income", name: "Income", asks: "What does it pay me?" },
  { id: "positions", name: "Positions", asks: "What do I own?" },
  { id: "year", name: "The year", asks: "What did the year bring?" },
  { id: "entries", name: "Entries", asks: "What did I buy, sell and get?" },
] as const;
/** Whose sums these are: of all payers. */
export const EVERYONE = { exchange: "", symbol: "" };

export const groupingOf = (by: string | undefined): Grouping =>
  GROUPINGS.find((g) => g === by) ?? "payer";

/** What do I own? */
export function HoldingsPage() {
  const [view, change] = useView();
  const hidden = useHiddenAmounts();
  const found = useHoldings(groupingOf(view.by), view.as_of);
  useEffect(() => {
    document.title = "Holdings · Hearth Yield";
  }, []);
  const held = found.data;
  useMakePending(held?.pending ?? 0, view.as_of);
  // Entries come first while there are none; once something is entered, the view stays.
  const began = useRef<"income" | "entries">(undefined);
  if (held) began.current ??= held.entries === 0 ? "entries" : "income";
  const asked = view.lots || view.by || view.sort ? "positions" : began.current;
  const tab = TABS.find((t) => t.id === (view.tab ?? asked)) ?? TABS[0];
  return (
    <div className="px-4 pt-4 pb-6 lg:px-6">
      <div className="flex flex-wrap items-baseline gap-x-6 gap-y-1">
        <h1 className="text-[30px]">Holdings</h1>
        <p className="text-[15px] text-muted">{tab.asks}</p>
        <span className="ml-auto">{!hidden && <HideAmounts />}</span>
        <nav aria-label="Views of Holdings" className="flex gap-4 text-[15px]">
          {TABS.map((t) => (
            <button
              key={t.id}
              type="button"
              aria-current={t === tab ? "page" : undefined}
              className={`min-h-6 ${t === tab ? "border-action border-b-2 font-semibold text-ink" : "link"}`}
              onClick={() => change({ tab: t.id, lots: undefined, entry: undefined })}
            >
              {t.name}
            </button>
          ))}
        </nav>
      </div>
      {found.error && <ErrorNote error={found.error} />}
      {held && (
        <>
          {tab.id === "income" && held.entries > 0 && <Income accounts={held.accounts} />}
          {(held.entries === 0 || ["positions", "entries"].includes(tab.id)) && (
            <Told held={held} />
          )}
          {tab.id === "positions" && <Positions held={held} />}
          {tab.id === "year" && <Year accounts={held.accounts} />}
          {tab.id === "entries" && (
            <>
              <Accounts accounts={held.accounts} cash={held.cash} home={held.home} />
              {held.accounts.length > 0 && <Entries accounts={held.accounts} />}
            </>
          )}
        </>
      )}
    </div>
  );
}

/** The answer in a sentence. */
function Told({ held }: { held: Holdings }) {
  const [view] = useView();
  const { totals, home, positions } = held;
  if (positions === 0) {
    return (
      <p className="mt-3 max-w-prose font-serif text-[19px]">
        {held.entries > 0 || view.as_of
          ? "Nothing is held on this day."
          : "Nothing is entered yet. The payers you hold, how many shares, and what they cost are enough to begin."}
      </p>
    );
  }
  const missing = totals.value.notes?.length ?? 0;
  const costless = (totals.cost.notes?.length ?? 0) - missing;
  return (
    <PayerContext value={EVERYONE}>
      <p className="mt-3 max-w-[110ch] font-serif text-[19px]">
        You own {positions} {positions === 1 ? "position" : "positions"} worth{" "}
        <Fig figure={totals.value} digits={0} className="font-semibold" /> {home}, bought for{" "}
        <Fig figure={totals.cost} digits={0} />; {positions === 1 ? "it declares" : "they declare"}{" "}
        <Fig figure={totals.income} digits={0} className="font-semibold" /> a year,{" "}
        <Fig figure={totals.yield_on_cost} className="font-semibold" /> of what you paid.
        {costless > 0 &&
          ` What ${costless === 1 ? "one position" : `${costless} positions`} cost is not known.`}
        {missing > 0 &&
          ` ${missing === 1 ? "One position is" : `${missing} positions are`} in no sum: open the value to see why.`}
      </p>
    </PayerContext>
  );
}
