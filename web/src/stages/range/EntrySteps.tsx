import { useState } from "react";
import { type Review, refusalOf, type Schemas } from "@/api/client";
import type { PayerKey } from "@/api/hooks";
import { useEntrySteps, useForgetEntryStep, useKeepEntryStep } from "@/api/price";
import { number, readNumber, show, signed, upperFirst, withDates } from "@/format/format";
import { openKey, useView } from "@/state/view";
import { Refused } from "@/ui/ErrorNote";

type Step = Schemas["PricedStepOut"];

interface Props {
  review: Review;
  payer: PayerKey;
  quantity: string;
  /** The value aimed at, which a step would keep. */
  target: number | null;
}

/** Steps to buy in by: several aims, each with what one would put in there. */
export function EntrySteps({ review, payer, quantity, target }: Props) {
  const [view, change] = useView();
  const found = useEntrySteps(payer, view.as_of).data;
  const held = found?.steps ?? [];
  const keep = useKeepEntryStep(payer, view.as_of);
  const forget = useForgetEntryStep(payer);
  const [amount, setAmount] = useState("");
  const [wrong, setWrong] = useState<string>();
  const { currency } = review.payer;
  const submit = () => {
    const read = readNumber(amount);
    setWrong("error" in read ? read.error : undefined);
    if ("error" in read || target === null) return;
    keep.mutate(
      { quantity, target, amount: read.value.toString() },
      { onSuccess: () => setAmount("") },
    );
  };
  const error = wrong ?? (keep.error ? refusalOf(keep.error).message : undefined);
  return (
    <div className="mt-2 text-[14px]">
      {held.length > 0 && (
        <div className="relative overflow-x-auto">
          <table className="rows w-full">
            <caption className="text-left text-[13px] text-muted">
              Your steps to buy in by, {number(found?.total ?? 0, 2)} {currency} in all
            </caption>
            <thead>
              <tr>
                <th scope="col">At a</th>
                <th scope="col">Price today, {currency}</th>
                <th scope="col">vs price, % (− = under)</th>
                <th scope="col">Amount, {currency}</th>
                <td />
              </tr>
            </thead>
            <tbody>
              {held.map((e) => (
                <tr key={e.id}>
                  <th scope="row">
                    <button
                      type="button"
                      className="link"
                      onClick={() =>
                        change({
                          quantity: e.quantity,
                          aim: e.target,
                        })
                      }
                    >
                      {e.name} of {show(e.target, e.unit, { digits: 2 })}
                    </button>
                  </th>
                  <td title={e.reason ? withDates(e.reason) : undefined}>
                    {e.price === null ? (
                      "unknown"
                    ) : (
                      <button
                        type="button"
                        className="figure"
                        title="Aim at it, and open the working"
                        onClick={() =>
                          change({
                            quantity: e.quantity,
                            aim: e.target,
                            open: openKey(payer, "aim.target_price"),
                            path: undefined,
                          })
                        }
                      >
                        {number(e.price, 2)}
                      </button>
                    )}
                  </td>
                  <td>{told(e)}</td>
                  <td>{number(e.amount, 2)}</td>
                  <td>
                    <button
                      type="button"
                      className="link"
                      aria-label={`Delete the step at a ${e.name} of ${show(e.target, e.unit, { digits: 2 })}`}
                      onClick={() => forget.mutate(e.id)}
                    >
                      Delete
                    </button>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
      <Refused error={forget.error} />
      <form
        className="mt-1 flex flex-wrap items-baseline gap-x-3"
        onSubmit={(e) => {
          e.preventDefault();
          submit();
        }}
      >
        <label className="text-muted">
          Put in at this aim, {currency}
          <input
            className="field ml-2 min-h-[28px]! w-[96px] py-0.5! text-right"
            inputMode="decimal"
            value={amount}
            onChange={(e) => setAmount(e.target.value)}
          />
        </label>
        <button type="submit" className="link" disabled={!amount.trim() || target === null}>
          Keep as a step
        </button>
        {error && (
          <span role="alert" className="text-outside">
            {upperFirst(error)}
          </span>
        )}
      </form>
    </div>
  );
}

function told(e: Step): string {
  if (e.against === null) return "–";
  return Math.abs(e.against) < 0.0005
    ? "at the price"
    : signed(number(e.against * 100, 1), e.against);
}
