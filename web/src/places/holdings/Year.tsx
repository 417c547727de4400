import { useState } from "react";
import { type Account, useYear, type Year as YearOf } from "@/api/holdings";
import { day, number, shareDigits, signed } from "@/format/format";
import { useHiddenAmounts } from "@/state/amounts";
import { useView } from "@/state/view";
import { Amount } from "@/ui/Amount";
import { Download } from "@/ui/Download";
import { ErrorNote } from "@/ui/ErrorNote";
import { PayerContext } from "@/ui/Fig";
import { ReviewLink } from "@/ui/ReviewLink";
import { accountName } from "./Positions";

/** A calendar year, as one needs it for the tax office. */
export function Year({ accounts }: { accounts: Account[] }) {
  const [view, change] = useView();
  const hidden = useHiddenAmounts();
  const found = useYear(view.year ? Number(view.year) : undefined, view.as_of);
  const year = found.data;
  if (found.error) return <ErrorNote error={found.error} />;
  if (!year) return <div className="h-[420px]" aria-busy="true" />;
  const asked = `year=${year.year}${view.as_of ? `&as_of=${view.as_of}` : ""}`;
  return (
    <>
      <Told year={year} />
      <p className="mt-1 flex flex-wrap items-baseline gap-x-5 gap-y-1 text-[15px] print:hidden">
        <label>
          Year{" "}
          <select
            className="field py-0.5"
            value={year.year}
            onChange={(e) => change({ year: e.target.value })}
          >
            {year.years.map((y) => (
              <option key={y} value={y}>
                {y}
              </option>
            ))}
          </select>
        </label>
        {!hidden && (
          <>
            <Download className="link underline" href={`/api/holdings/year/file?${asked}`}>
              As a workbook
            </Download>
            <Download className="link underline" href={`/api/holdings/year/file?${asked}&form=csv`}>
              As CSV
            </Download>
          </>
        )}
      </p>
      <Dividends year={year} accounts={accounts} />
      <Countries year={year} />
      <Sales year={year} accounts={accounts} />
      <Others year={year} accounts={accounts} />
      {year.unresolved.length > 0 && (
        <p className="mt-4 text-[15px]">
          Not in it, as more went than was held:{" "}
          {year.unresolved.map((u) => `${u.name} (${accountName(accounts, u.account)})`).join(", ")}
          .
        </p>
      )}
    </>
  );
}

function Told({ year }: { year: YearOf }) {
  const { sums, home } = year;
  const nothing = year.dividends.length + year.sales.length + year.others.length === 0;
  if (nothing)
    return <p className="mt-3 font-serif text-[19px]">Nothing happened in {year.year}.</p>;
  return (
    <p className="mt-3 max-w-[110ch] font-serif text-[19px]">
      {year.year} brought <b className="font-semibold">{money(sums.gross)}</b> {home} of dividends
      {sums.withheld > 0 && (
        <>
          , <b className="font-semibold">{money(sums.net)}</b> after what was withheld
        </>
      )}
      {year.sales.length > 0 && (
        <>
          , and a {sums.gain < 0 ? "loss" : "gain"} of{" "}
          <b className="font-semibold">{money(Math.abs(sums.gain))}</b> on what was sold
        </>
      )}
      .
      {sums.unknown > 0 &&
        ` ${sums.unknown === 1 ? "One line has" : `${sums.unknown} lines have`} no amount at home and ${sums.unknown === 1 ? "is" : "are"} in no sum.`}
    </p>
  );
}

const money = (n: number | null) => (n === null ? "unknown" : <Amount>{number(n, 2)}</Amount>);

interface Part {
  year: YearOf;
  accounts: Account[];
}

interface TableProps {
  name: string;
  left: string[];
  right: string[];
  children: React.ReactNode;
}

/** On a narrow screen the first column and the last, until all are asked for. */
const BRIEF =
  "max-sm:[&_td:not(:last-child)]:hidden max-sm:[&_th[scope=col]:not(:first-child):not(:last-child)]:hidden";

function Table({ name, left, right, children }: TableProps) {
  const [all, setAll] = useState(false);
  return (
    <section className="mt-5" aria-label={name}>
      <h2 className="flex flex-wrap items-baseline gap-x-4 text-[21px]">
        {name}
        <button
          type="button"
          className="link min-h-11 font-sans text-[14px] sm:hidden print:hidden"
          aria-pressed={all}
          onClick={() => setAll(!all)}
        >
          {all ? "Fewer columns" : "All columns"}
        </button>
      </h2>
      <section aria-label={`Table of ${name}`} tabIndex={0} className="relative overflow-x-auto">
        <table className={`rows w-full text-[14px] ${all ? "" : BRIEF}`}>
          <caption className="sr-only">{name}</caption>
          <thead>
            <tr>
              {left.map((h) => (
                <th key={h} scope="col" className="text-left! align-bottom">
                  {h}
                </th>
              ))}
              {right.map((h) => (
                <th key={h} scope="col" className="align-bottom">
                  {h}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>{children}</tbody>
        </table>
      </section>
    </section>
  );
}

function Name({ of }: { of: { exchange: string; symbol: string; name: string } }) {
  return (
    <th scope="row" className="text-left! font-normal">
      <PayerContext value={of}>
        <ReviewLink payer={of} className="inline-block min-h-6 text-ink hover:underline">
          {of.name}
        </ReviewLink>
      </PayerContext>
    </th>
  );
}

function Dividends({ year, accounts }: Part) {
  const { dividends, home, sums } = year;
  if (dividends.length === 0) return null;
  const beyond = dividends.some((d) => d.beyond > 0);
  return (
    <>
      <Table
        name="Dividends"
        left={["Payer", "Country", "Account"]}
        right={[
          "Payments",
          "Gross",
          "Withheld",
          ...(beyond ? ["of it above the rate"] : []),
          "Net",
          "",
          `Gross, ${home}`,
          `Net, ${home}`,
        ]}
      >
        {dividends.map((d) => (
          <tr key={`${d.account}/${d.exchange}/${d.symbol}/${d.currency}`}>
            <Name of={d} />
            <td className="text-left!">{d.country ?? "–"}</td>
            <td className="text-left!">{accountName(accounts, d.account)}</td>
            <td>{d.payments}</td>
            <td>{money(d.gross)}</td>
            <td>{money(d.withheld)}</td>
            {beyond && <td>{money(d.beyond)}</td>}
            <td>{money(d.net)}</td>
            <td className="text-left! text-[12px] text-muted">{d.currency}</td>
            <td>{money(d.gross_at_home)}</td>
            <td>{money(d.at_home)}</td>
          </tr>
        ))}
        <tr className="font-semibold">
          <th scope="row" className="text-left!">
            In all
          </th>
          <Blank count={beyond ? 8 : 7} />
          <td>{money(sums.gross)}</td>
          <td>{money(sums.net)}</td>
        </tr>
      </Table>
      {sums.on_record > 0 && (
        <p className="mt-1 text-[14px] text-muted">
          {sums.on_record} of the payments are the record’s: nobody entered them.
        </p>
      )}
    </>
  );
}

/** Cells of a sum's row in which nothing stands. */
const Blank = ({ count }: { count: number }) =>
  Array.from({ length: count }, (_, n) => <td key={n} />);

/** The same by country, as forms ask for it. */
function Countries({ year }: { year: YearOf }) {
  const { countries, home } = year;
  if (countries.length < 2) return null;
  const beyond = countries.some((c) => c.beyond > 0);
  return (
    <Table
      name="Dividends by country"
      left={["Country"]}
      right={[
        "Payments",
        "Gross",
        "Withheld",
        ...(beyond ? ["of it above the rate"] : []),
        "Net",
        "",
        `Gross, ${home}`,
        `Net, ${home}`,
      ]}
    >
      {countries.map((c) => (
        <tr key={`${c.country}/${c.currency}`}>
          <th scope="row" className="text-left! font-normal text-ink">
            {c.country ?? "not known"}
          </th>
          <td>{c.payments}</td>
          <td>{money(c.gross)}</td>
          <td>{money(c.withheld)}</td>
          {beyond && <td>{money(c.beyond)}</td>}
          <td>{money(c.net)}</td>
          <td className="text-left! text-[12px] text-muted">{c.currency}</td>
          <td>{money(c.gross_at_home)}</td>
          <td>{money(c.at_home)}</td>
        </tr>
      ))}
    </Table>
  );
}

function Sales({ year, accounts }: Part) {
  const { sales, home, sums } = year;
  if (sales.length === 0) return null;
  return (
    <Table
      name="Sales, lot by lot"
      left={["Payer", "Account", "What", "Sold", "Bought"]}
      right={["Days held", "Shares", "Proceeds", "Cost", "Gain", "", `Gain, ${home}`]}
    >
      {sales.map((s, i) => (
        <tr key={i}>
          <Name of={s} />
          <td className="text-left!">{accountName(accounts, s.account)}</td>
          <td className="text-left!">{s.what}</td>
          <td className="whitespace-nowrap text-left!">{day(s.day)}</td>
          <td className="whitespace-nowrap text-left!">{s.bought ? day(s.bought) : "unknown"}</td>
          <td>{s.held ?? "–"}</td>
          <td>
            <Amount>{number(s.shares, shareDigits(s.shares))}</Amount>
          </td>
          <td>{money(s.proceeds)}</td>
          <td>{money(s.cost)}</td>
          <td>{gain(s.gain)}</td>
          <td className="text-left! text-[12px] text-muted">{s.currency}</td>
          <td>{gain(s.gain_at_home)}</td>
        </tr>
      ))}
      <tr className="font-semibold">
        <th scope="row" className="text-left!">
          In all
        </th>
        <Blank count={10} />
        <td>{gain(sums.gain)}</td>
      </tr>
    </Table>
  );
}

const gain = (n: number | null) =>
  n === null ? "unknown" : <Amount>{signed(number(n, 2), n)}</Amount>;

function Others({ year, accounts }: Part) {
  const { others, home } = year;
  if (others.length === 0) return null;
  return (
    <Table
      name="Returned capital, interest, fees and tax"
      left={["What", "Payer", "Account"]}
      right={["Amount", "", `Amount, ${home}`]}
    >
      {others.map((o) => (
        <tr key={`${o.what}/${o.account}/${o.name}/${o.currency}`}>
          <th scope="row" className="text-left! font-normal">
            {o.what}
          </th>
          <td className="text-left!">{o.name || "–"}</td>
          <td className="text-left!">{accountName(accounts, o.account)}</td>
          <td>{money(o.amount)}</td>
          <td className="text-left! text-[12px] text-muted">{o.currency}</td>
          <td>{money(o.at_home)}</td>
        </tr>
      ))}
    </Table>
  );
}
