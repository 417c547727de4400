import type { Account, Due, Income } from "@/api/holdings";
import { day, monthYear, number, percent } from "@/format/format";
import { useDraft } from "@/state/drafts";
import { useView } from "@/state/view";
import { Amount } from "@/ui/Amount";
import { isTyped } from "./EntryForm";
import { accountName } from "./Positions";

const ANSWER: Record<string, string> = {
  missing: "Missing",
  short: "Short",
  over: "More than due",
  unexpected: "Not expected",
  to_come: "Due",
};

/** What was due and has not come, or came otherwise; each with what to do. */
export function Dues({ income, accounts }: { income: Income; accounts: Account[] }) {
  const { month, home, dues } = income;
  return (
    <section aria-labelledby="dues">
      <h2 id="dues" className="text-[21px]">
        What has not come as due
      </h2>
      <p className="text-[15px]">
        {monthYear(`${month.month}-01`)} brought <Amount>{number(month.came, 0)}</Amount> {home} of
        the <Amount>{number(month.due, 0)}</Amount> due.
        {income.taxed && " Here all is before tax at home."}
        {dues.length === 0 && " Nothing is missing."}
      </p>
      <ul className="mt-1">
        {dues.map((d) => (
          <Row
            key={`${d.account}/${d.exchange}/${d.symbol}/${d.ex_date ?? d.comes}`}
            due={d}
            account={accounts.length > 1 ? accountName(accounts, d.account) : ""}
          />
        ))}
      </ul>
    </section>
  );
}

function Row({ due, account }: { due: Due; account: string }) {
  return (
    <li className="flex gap-3 border-line border-t py-1.5 text-[14px]">
      <span className="w-[92px] shrink-0 font-semibold">{ANSWER[due.answer]}</span>
      <span>
        {due.name}
        {account && <span className="text-muted"> in {account}</span>}: <Told due={due} />{" "}
        <Action due={due} />
      </span>
    </li>
  );
}

const money = (amount: number, currency: string) => (
  <>
    <Amount>{number(amount, 2)}</Amount> {currency}
  </>
);

function Told({ due }: { due: Due }) {
  const { came, net, currency, apart, withheld_part: part, answer } = due;
  if (answer === "unexpected")
    return (
      <>
        {money(came ?? 0, due.came_in)} came on {day(due.comes)}, which no payment on record
        explains.
      </>
    );
  const share = part > 0 ? ` after ${percent(part, 0)} withheld` : "";
  const on = `${due.told ? "" : "about "}${day(due.comes)}`;
  if (came === null)
    return (
      <>
        {money(net, currency)}
        {share} was due on {on}
        {answer === "missing"
          ? "; nothing is entered."
          : `; not entered yet, missing from ${day(due.last)} on.`}
      </>
    );
  return (
    <>
      {money(net, currency)}
      {share} was due on {on}; {money(came, due.came_in)} came
      {apart !== null && (
        <>
          , {money(Math.abs(apart), currency)} {apart < 0 ? "short" : "more"}
        </>
      )}
      .
    </>
  );
}

/** To enter what is missing, or to open what came. */
function Action({ due }: { due: Due }) {
  const [, change] = useView();
  const [, setDraft] = useDraft("entry/new", isTyped);
  const payer = `${due.exchange}/${due.symbol}`;
  const first = due.entries[0];
  if (first !== undefined) {
    return (
      <button
        type="button"
        className="link min-h-6 print:hidden"
        onClick={() => change({ tab: "entries", entry: String(first), q: payer })}
      >
        Open
      </button>
    );
  }
  return (
    <button
      type="button"
      className="link min-h-6 print:hidden"
      aria-label={`Enter it: ${due.name}, ${day(due.comes)}`}
      onClick={() => {
        setDraft({
          kind: "dividend",
          account: String(due.account),
          payer,
          day: due.comes,
          amount: due.gross.toFixed(2),
          withheld: due.withheld > 0 ? due.withheld.toFixed(2) : "",
          currency: due.currency,
        });
        change({ tab: "entries", entry: "new", q: undefined });
      }}
    >
      Enter it
    </button>
  );
}
