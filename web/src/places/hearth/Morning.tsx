import { Link } from "@tanstack/react-router";
import { type Income, useHoldings, useIncome } from "@/api/holdings";
import { ChartFrame } from "@/charts/ChartFrame";
import { IncomeMonths } from "@/charts/IncomeMonths";
import { monthName, monthYear, number, percent, upperFirst } from "@/format/format";
import { useHiddenAmounts } from "@/state/amounts";
import { useTax } from "@/state/tax";
import { useView } from "@/state/view";
import { Amount } from "@/ui/Amount";
import { Fig, PayerContext } from "@/ui/Fig";
import { STATE_WORDS, STATES, StateMark } from "@/ui/StateMark";

const HEIGHT = 124;
const EVERYONE = { exchange: "", symbol: "" };

/** The income in a morning's words: this month and the last, a year, and how safe it is. */
export function Morning() {
  const [view] = useView();
  const tax = useTax();
  const hidden = useHiddenAmounts();
  const held = useHoldings("state", view.as_of).data;
  const income = useIncome(tax, undefined, view.as_of).data;
  if (held?.entries === 0) {
    return (
      <p className="mt-3 text-[15px] text-muted">
        <Link to="/holdings" className="link underline">
          Enter what you hold
        </Link>
        , and what it pays you stands here.
      </p>
    );
  }
  if (!held || !income) return <div className="h-[150px]" aria-busy="true" />;
  if (income.a_year.value === null) return null;
  const told = STATES.flatMap((state) => {
    const group = held.groups.find((g) => g.name === state);
    const share = group?.share_of_income.value ?? null;
    return share === null ? [] : [[state, share] as const];
  });
  return (
    <PayerContext value={EVERYONE}>
      <div className="mt-3 grid grid-cols-[minmax(0,1fr)] gap-x-10 gap-y-3 xl:grid-cols-[minmax(0,1fr)_420px]">
        <div>
          <Told income={income} />
          <p className="mt-2 flex flex-wrap items-baseline gap-x-2 text-[15px]">
            {told.map(([state, share], i) => (
              <span key={state} className="whitespace-nowrap">
                <StateMark state={state} label={false} /> {percent(share, 1)}
                {i === 0 && " of declared income is"} {STATE_WORDS[state]}
                {i + 1 < told.length ? "," : "."}
              </span>
            ))}
            <Link to="/holdings" search={{ as_of: view.as_of, tab: "income" }} className="link">
              Income
            </Link>
          </p>
          <NotCome income={income} />
        </div>
        <ChartFrame
          name="hearth-income"
          height={HEIGHT}
          title={`${income.home} a month${income.taxed ? ` ${income.tax} tax` : ""}: dark declared, hatched expected, thin a year before`}
          summary={
            hidden
              ? "Income by month; amounts are hidden."
              : income.months
                  .map((m) => `${monthYear(`${m.month}-01`)} ${number(m.total, 0)}`)
                  .join("; ")
          }
          draw={(width) => (
            <IncomeMonths
              months={income.months}
              width={width}
              height={HEIGHT}
              hidden={hidden}
              small
            />
          )}
          table={
            <table className="rows w-full text-[14px]">
              <tbody>
                {income.months.map((m) => (
                  <tr key={m.month}>
                    <th scope="row" className="text-left! font-normal">
                      {monthYear(`${m.month}-01`)}
                    </th>
                    <td>
                      <Amount>{number(m.total, 0)}</Amount>
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          }
        />
      </div>
    </PayerContext>
  );
}

const monthOf = (iso: string) => monthName(`${iso}-01`);

function Told({ income }: { income: Income }) {
  const { home, taxed, tax, month, months, a_year, growth, linked, prices } = income;
  const next = months[0];
  const sure = next?.sure ?? 0;
  const before = income.before.value ?? 0;
  return (
    <p className="max-w-[80ch] font-serif text-[20px] leading-snug">
      {next && (
        <>
          {next.month === month.month && "The rest of "}
          {monthOf(next.month)} will bring{" "}
          <b className="font-semibold">
            <Amount>{number(next.total, 0)}</Amount>
          </b>{" "}
          {home}
          {taxed && ` ${tax} tax`}
          {next.total > 0 &&
            (sure >= next.total - 0.5
              ? ", all of it declared"
              : sure > 0
                ? ", some of it declared"
                : ", none of it declared yet")}
          ;{" "}
        </>
      )}
      {next?.month === month.month ? "so far it" : monthOf(month.month)} brought{" "}
      <Amount>{number(month.brought, 0)}</Amount>
      {month.left > 0.5 && (
        <>
          , <Amount>{number(month.left, 0)}</Amount> less than was due
        </>
      )}
      . Your income stands at <Fig figure={a_year} digits={0} className="font-semibold" /> a year
      {before > 0 && (
        <>
          , <Fig figure={growth} digits={1} size /> {(growth.value ?? 0) < 0 ? "below" : "above"} a
          year ago
        </>
      )}
      {linked.value !== null && before > 0 && (
        <>
          ; without new shares it {linked.value < 0 ? "fell" : "rose"}{" "}
          <Fig figure={linked} digits={1} size />
          {prices.value !== null && (
            <>
              , prices <Fig figure={prices} digits={1} sign />
            </>
          )}
        </>
      )}
      .
    </p>
  );
}

/** Payments that are missing or came short, each with the way to them. */
/** How many payments have not come as due; which, stands with what needs the person. */
function NotCome({ income }: { income: Income }) {
  const [view] = useView();
  const of = (answer: string) =>
    income.dues.filter((d) => d.answer === answer && d.why === null).length;
  const [missing, short] = [of("missing"), of("short")];
  if (missing + short === 0) return null;
  const told = [
    missing > 0 && `${number(missing)} ${missing === 1 ? "payment is" : "payments are"} missing`,
    short > 0 && `${number(short)} came short`,
  ].filter(Boolean);
  return (
    <p className="mt-1 text-[15px]">
      {upperFirst(told.join(", "))}.{" "}
      <Link to="/holdings" search={{ as_of: view.as_of, tab: "income" }} className="link">
        Due against received
      </Link>
    </p>
  );
}
