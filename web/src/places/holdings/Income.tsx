import { Link } from "@tanstack/react-router";
import { type Account, type Income as IncomeOf, useIncome } from "@/api/holdings";
import { ChartFrame } from "@/charts/ChartFrame";
import { IncomeMonths } from "@/charts/IncomeMonths";
import { heightOf, IncomeSteps, type Step } from "@/charts/IncomeSteps";
import { day, monthYear, number, signed } from "@/format/format";
import { useHiddenAmounts } from "@/state/amounts";
import { setTax, useTax } from "@/state/tax";
import { useView } from "@/state/view";
import { Amount } from "@/ui/Amount";
import { ErrorNote } from "@/ui/ErrorNote";
import { Fig, PayerContext } from "@/ui/Fig";
import { Dues } from "./Dues";
import { EVERYONE } from "./HoldingsPage";
import { PaidTable } from "./PaidTable";
import { Payments } from "./Payments";

const HEIGHT = 236;
const WHY: Record<string, string> = {
  reinvested: "reinvested",
  bought: "bought",
  sold: "sold",
  moved: "moved in or out",
  raised: "raises",
  cut: "cuts",
  begun: "newly known",
  ended: "ended",
  currency: "currency",
};

/** What does it pay me? A year, the months ahead, what changed it, and what has not come. */
export function Income({ accounts }: { accounts: Account[] }) {
  const [view] = useView();
  const tax = useTax();
  const found = useIncome(tax, view.since, view.as_of);
  const income = found.data;
  return (
    <>
      {found.error && <ErrorNote error={found.error} />}
      {!income && !found.error && <div className="h-[520px]" aria-busy="true" />}
      {income && (
        <PayerContext value={EVERYONE}>
          <Told income={income} />
          {income.a_year.value !== null && (
            <div className="mt-4 grid grid-cols-[minmax(0,1fr)] gap-x-8 gap-y-5 xl:grid-cols-[minmax(0,1fr)_364px]">
              <Months income={income} />
              <Changed income={income} />
              <Payments income={income} accounts={accounts} />
              <Dues income={income} accounts={accounts} />
            </div>
          )}
          <PaidTable />
        </PayerContext>
      )}
    </>
  );
}

function Told({ income }: { income: IncomeOf }) {
  const { home, taxed, tax, a_year, a_month, change, linked, real, prices } = income;
  if (a_year.value === null) {
    return (
      <p className="mt-3 max-w-prose font-serif text-[19px]">
        What it pays is not known: {a_year.reason}.
      </p>
    );
  }
  const moved = change.value ?? 0;
  const { by_shares, by_rates, growth } = income;
  const before = income.before.value ?? 0;
  return (
    <>
      <p className="mt-3 max-w-[110ch] font-serif text-[19px]">
        It pays you <Fig figure={a_year} digits={0} className="font-semibold" /> {home} a year
        {taxed && ` ${tax} tax`}, <Fig figure={a_month} digits={0} className="font-semibold" /> a
        month.{" "}
        {before > 0 && (
          <>
            That is <Fig figure={change} digits={0} size /> {moved < 0 ? "less" : "more"} than on{" "}
            {day(income.since)} (<Fig figure={growth} digits={1} sign />
            ): <Amount>{signed(number(by_shares, 0), by_shares)}</Amount> from other shares,{" "}
            <Amount>{signed(number(by_rates, 0), by_rates)}</Amount> from raises, cuts and currency.
          </>
        )}{" "}
        {linked.value !== null && before > 0 && (
          <>
            Without new shares it {linked.value < 0 ? "fell" : "rose"}{" "}
            <Fig figure={linked} digits={1} size />
            {prices.value !== null && (
              <>
                ; prices {prices.value < 0 ? "fell" : "rose"}{" "}
                <Fig figure={prices} digits={1} size />
                {real.value !== null && (
                  <>
                    : <Fig figure={real} digits={1} sign /> after prices
                  </>
                )}
              </>
            )}
            .
          </>
        )}
      </p>
      <p className="mt-1 flex flex-wrap items-baseline gap-x-4 text-[14px] text-muted">
        <span>
          At declared rates and today’s exchange rates.
          {(income.without ?? []).length > 0 && ` ${sentence(income.without)}`}
        </span>
        <TaxSwitch taxed={taxed} />
      </p>
    </>
  );
}

const sentence = (without: string[]) => {
  const said = without.slice(0, 3).join("; ");
  const more = without.length > 3 ? ` and ${without.length - 3} more` : "";
  return `${said.charAt(0).toUpperCase()}${said.slice(1)}${more}.`;
};

function TaxSwitch({ taxed }: { taxed: boolean }) {
  const tax = useTax();
  if (!taxed) {
    return (
      <Link to="/house-rules" className="link print:hidden">
        Before tax: set yours under House rules
      </Link>
    );
  }
  return (
    <span className="flex gap-3 print:hidden">
      {(["after", "before"] as const).map((t) => (
        <button
          key={t}
          type="button"
          aria-pressed={t === tax}
          className={`min-h-6 ${t === tax ? "font-semibold text-ink underline" : "link"}`}
          onClick={() => setTax(t)}
        >
          {t} tax
        </button>
      ))}
    </span>
  );
}

function Months({ income }: { income: IncomeOf }) {
  const hidden = useHiddenAmounts();
  const { months, home } = income;
  return (
    <section aria-labelledby="months-ahead">
      <h2 id="months-ahead" className="text-[21px]">
        The next twelve months
      </h2>
      <ChartFrame
        name="income-months"
        height={HEIGHT}
        title={
          <>
            <Amount>{number(income.ahead, 0)}</Amount> {home} on the way,{" "}
            <Amount>{number(income.sure, 0)}</Amount> of it declared (solid; hatched: expected); the
            past twelve brought <Amount>{number(income.came, 0)}</Amount> (thin)
          </>
        }
        summary={
          hidden
            ? "Income by month; amounts are hidden."
            : months.map((m) => `${monthYear(`${m.month}-01`)} ${number(m.total, 0)}`).join("; ")
        }
        draw={(width) => (
          <IncomeMonths months={months} width={width} height={HEIGHT} hidden={hidden} />
        )}
        table={
          <table className="rows w-full text-[14px]">
            <thead>
              <tr>
                <th scope="col" className="text-left!">
                  Month
                </th>
                {["Gone ex", "Declared", "Expected", "In all", "A year before"].map((name) => (
                  <th key={name} scope="col">
                    {name}, {home}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {months.map((m) => (
                <tr key={m.month}>
                  <th scope="row" className="text-left! font-normal">
                    {monthYear(`${m.month}-01`)}
                  </th>
                  {[m.gone_ex, m.declared, m.expected, m.total, m.came].map((n, i) => (
                    <td key={i}>
                      <Amount>{number(n, 2)}</Amount>
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        }
      />
    </section>
  );
}

function stepsOf(income: IncomeOf): Step[] {
  const before = income.before.value ?? 0;
  const steps: Step[] = [{ name: day(income.since), by: null, to: before }];
  let to = before;
  for (const why of Object.keys(WHY)) {
    const by = income.changes.find((c) => c.why === why)?.by ?? 0;
    if (by === 0) continue;
    to += by;
    steps.push({ name: WHY[why] ?? why, by, to });
  }
  return [...steps, { name: "now", by: null, to }];
}

function Changed({ income }: { income: IncomeOf }) {
  const [, change] = useView();
  const hidden = useHiddenAmounts();
  const steps = stepsOf(income);
  return (
    <section aria-labelledby="changed">
      <h2 id="changed" className="text-[21px]">
        What changed it
      </h2>
      <ChartFrame
        name="income-steps"
        height={Math.max(heightOf(steps), 120)}
        title={
          <label>
            since{" "}
            <input
              type="date"
              className="field py-0 text-[13px]"
              value={income.since}
              onChange={(e) => change({ since: e.target.value || undefined })}
            />
          </label>
        }
        summary={
          hidden
            ? "What changed the income; amounts are hidden."
            : steps.map((s) => `${s.name} ${number(s.by ?? s.to, 0)}`).join("; ")
        }
        draw={(width) => <IncomeSteps steps={steps} width={width} hidden={hidden} />}
        table={
          <table className="rows w-full text-[14px]">
            <thead>
              <tr>
                {["Day", "Payer", "What"].map((name) => (
                  <th key={name} scope="col" className="text-left!">
                    {name}
                  </th>
                ))}
                <th scope="col">A year, {income.home}</th>
              </tr>
            </thead>
            <tbody>
              {income.events.map((e) => (
                <tr key={`${e.exchange}/${e.symbol}/${e.why}/${e.day}`}>
                  <td className="whitespace-nowrap text-left!">{day(e.day)}</td>
                  <td className="text-left!">{e.name}</td>
                  <td className="text-left!">{WHY[e.why]}</td>
                  <td>
                    <Amount>{signed(number(e.by, 2), e.by)}</Amount>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        }
      />
      <Largest income={income} />
    </section>
  );
}

/** The raises and cuts of most weight, in words. */
function Largest({ income }: { income: IncomeOf }) {
  const rates = income.events.filter((e) => ["raised", "cut"].includes(e.why));
  const cut = rates.filter((e) => e.why === "cut").slice(0, 2);
  const payers = new Set(rates.filter((e) => e.why === "raised").map((e) => e.symbol));
  if (rates.length === 0) return null;
  return (
    <p className="mt-1 text-[14px] text-muted">
      {payers.size > 0 && `${payers.size} ${payers.size === 1 ? "payer" : "payers"} raised`}
      {payers.size > 0 && cut.length > 0 && "; "}
      {cut.map((e, i) => (
        <span key={e.symbol + e.day}>
          {i > 0 && ", "}
          {e.name} cut, {number(e.before ?? 0, 2)} to {number(e.after ?? 0, 2)} a share
        </span>
      ))}
      .
    </p>
  );
}
