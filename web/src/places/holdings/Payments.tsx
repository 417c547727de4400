import { useState } from "react";
import type { Account, Income } from "@/api/holdings";
import { day, number, shareDigits, shortDay } from "@/format/format";
import { Amount } from "@/ui/Amount";
import { PayerContext } from "@/ui/Fig";
import { ReviewLink } from "@/ui/ReviewLink";
import { accountName } from "./Positions";

const FIRST = 8;
const STANDS: Record<string, string> = {
  gone_ex: "gone ex",
  declared: "declared",
  expected: "expected",
};

/** What comes next, payer by payer. */
export function Payments({ income, accounts }: { income: Income; accounts: Account[] }) {
  const [all, setAll] = useState(false);
  const rows = all ? income.payments : income.payments.slice(0, FIRST);
  const year = income.payments[0]?.comes.slice(0, 4);
  const soon = (iso: string) => (iso.slice(0, 4) === year ? shortDay(iso) : day(iso));
  const twice = inSeveral(income);
  return (
    <section aria-labelledby="payments" className="min-w-0">
      <h2 id="payments" className="flex flex-wrap items-baseline gap-x-4 text-[21px]">
        Next payments
        {income.payments.length > FIRST && (
          <button
            type="button"
            className="link min-h-6 font-sans text-[14px] print:hidden"
            onClick={() => setAll(!all)}
          >
            {all ? "the next only" : `all ${income.payments.length} of twelve months`}
          </button>
        )}
      </h2>
      <section aria-label="Payments to come" tabIndex={0} className="relative overflow-x-auto">
        <table className="rows w-full text-[14px]">
          <caption className="sr-only">Payments to come, the next first</caption>
          <thead>
            <tr>
              <th scope="col" className="text-left!">
                Payer
              </th>
              <th scope="col" className="max-sm:hidden">
                Goes ex
              </th>
              <th scope="col">Pays</th>
              <th scope="col" className="max-sm:hidden">
                A share
              </th>
              <th scope="col">Shares</th>
              <th scope="col">Amount, {income.home}</th>
              <th scope="col" className="pl-4! text-left!">
                <span className="sr-only">How sure</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {rows.map((p, i) => {
              const expected = p.stands === "expected";
              const about = expected ? "about " : "";
              return (
                <tr key={i} className={expected ? "text-muted" : undefined}>
                  <th scope="row" className="text-left! font-normal">
                    <PayerContext value={p}>
                      <ReviewLink
                        payer={p}
                        className={`inline-block min-h-6 hover:underline ${expected ? "" : "font-semibold text-ink"}`}
                      >
                        {p.name}
                      </ReviewLink>
                    </PayerContext>
                    {twice.has(`${p.exchange}/${p.symbol}/${p.comes}`) && (
                      <span className="block text-[12px] text-muted">
                        {accountName(accounts, p.account)}
                      </span>
                    )}
                  </th>
                  <td className="whitespace-nowrap max-sm:hidden">
                    {about}
                    {soon(p.ex_date)}
                  </td>
                  <td className="whitespace-nowrap">
                    {p.told ? "" : "about "}
                    {soon(p.comes)}
                  </td>
                  <td className="whitespace-nowrap max-sm:hidden">
                    {number(p.each, 4)} <span className="text-[12px]">{p.currency}</span>
                  </td>
                  <td>
                    <Amount>{number(p.shares, shareDigits(p.shares))}</Amount>
                  </td>
                  <td>
                    <Amount>{p.amount === null ? "unknown" : number(p.amount, 2)}</Amount>
                  </td>
                  <td className="pl-4! text-left!">{STANDS[p.stands]}</td>
                </tr>
              );
            })}
          </tbody>
        </table>
      </section>
    </section>
  );
}

/** Payments that come in several accounts. */
function inSeveral(income: Income): Set<string> {
  const keys = income.payments.map((p) => `${p.exchange}/${p.symbol}/${p.comes}`);
  return new Set(keys.filter((key, i) => keys.indexOf(key) !== i));
}
