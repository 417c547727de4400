import { useState } from "react";
import { type Account, type Due, type Income, useExplain } from "@/api/holdings";
import { day, monthYear, number, percent } from "@/format/format";
import { useDraft } from "@/state/drafts";
import { useView } from "@/state/view";
import { Amount } from "@/ui/Amount";
import { ErrorNote } from "@/ui/ErrorNote";
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
  const [saying, setSaying] = useState(false);
  const told = due.why !== null;
  return (
    <li
      className={`flex gap-3 border-line border-t py-1.5 text-[14px] ${told ? "text-muted" : ""}`}
    >
      <span className={`w-[92px] shrink-0 ${told ? "" : "font-semibold"}`}>
        {ANSWER[due.answer]}
      </span>
      <span className="min-w-0">
        {due.name}
        {account && <span className="text-muted"> in {account}</span>}: <Told due={due} />{" "}
        {told && <>You said: “{due.why}” </>}
        {!told && <Action due={due} />}
        {due.ex_date !== null && due.answer !== "to_come" && (
          <button
            type="button"
            className="link ml-2 min-h-6 print:hidden"
            aria-expanded={saying}
            aria-label={`${told ? "Change" : "Say why"}: ${due.name}, ${day(due.comes)}`}
            onClick={() => setSaying(!saying)}
          >
            {told ? "Change" : "Say why"}
          </button>
        )}
        {saying && <Why due={due} onDone={() => setSaying(false)} />}
      </span>
    </li>
  );
}

/** Why it did not come as due, in one's own words; it asks for nothing from then on. */
function Why({ due, onDone }: { due: Due; onDone: () => void }) {
  const key = `due/${due.account}/${due.exchange}/${due.symbol}/${due.ex_date}`;
  const [draft, setDraft] = useDraft<string>(key, isText);
  const explain = useExplain();
  const words = draft ?? due.why ?? "";
  const say = (said: string) =>
    explain
      .mutateAsync({
        account: due.account,
        exchange: due.exchange,
        symbol: due.symbol,
        ex_date: due.ex_date ?? "",
        words: said,
      })
      .then(() => {
        setDraft(null);
        onDone();
      })
      .catch(() => undefined);
  return (
    <form
      className="mt-1 flex flex-wrap gap-2"
      onSubmit={(e) => {
        e.preventDefault();
        say(words);
      }}
    >
      <input
        className="field w-[320px] max-w-full"
        aria-label={`Why it did not come as due: ${due.name}, ${day(due.comes)}`}
        placeholder="paid in shares, sold before, in dispute with the bank …"
        maxLength={300}
        value={words}
        onChange={(e) => setDraft(e.target.value)}
      />
      <button type="submit" className="button" disabled={!words.trim() || explain.isPending}>
        Keep
      </button>
      {due.why !== null && (
        <button
          type="button"
          className="button"
          disabled={explain.isPending}
          onClick={() => say("")}
        >
          Take it back
        </button>
      )}
      {explain.error && <ErrorNote error={explain.error} />}
    </form>
  );
}

const isText = (value: unknown): value is string => typeof value === "string";

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
