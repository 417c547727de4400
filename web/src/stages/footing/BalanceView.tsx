import { useContext } from "react";
import type { Review, Schemas } from "@/api/client";
import { type PayerKey, useBalance } from "@/api/hooks";
import { BalanceYears } from "@/charts/BalanceYears";
import { ChartFrame } from "@/charts/ChartFrame";
import { show } from "@/format/format";
import { openKey, useView } from "@/state/view";
import { Fig, PayerContext } from "@/ui/Fig";
import { Found } from "./Found";

type Year = Schemas["BalanceYearOut"];

export function BalanceView({ review, payer }: { review: Review; payer: PayerKey }) {
  const [view, change] = useView();
  const found = useBalance(payer, { as_of: view.as_of });
  const key = useContext(PayerContext);
  const open = (year: Year) =>
    key && change({ open: openKey(key, year.debt_to_ebitda.key), path: undefined });
  return (
    <Found found={found}>
      {({ years, currency }) =>
        years.length === 0 ? (
          <p className="my-6 max-w-prose text-muted">
            No fiscal year is held for {review.payer.name}. Import its statements under Sources.
          </p>
        ) : (
          <ChartFrame
            name="balance"
            title={`Total assets; filled: the part owed${years.some((y) => y.debt_to_ebitda.value !== null) ? "; above: net debt to EBITDA" : ""} · ${currency ?? ""}, m`}
            summary={`Total assets and liabilities by year: ${years
              .map((y) => `${y.year} ${told(y.assets)} of which owed ${told(y.liabilities)}`)
              .join("; ")}.`}
            height={BalanceYears.height}
            draw={(width) => <BalanceYears years={years} width={width} open={open} />}
            table={<Years years={years} />}
          />
        )
      }
    </Found>
  );
}

const told = (figure: Schemas["FigureOut"]) =>
  figure.value === null ? "unknown" : show(figure.value, figure.unit);

function Years({ years }: { years: Year[] }) {
  return (
    <table className="rows w-full text-[14px]">
      <caption className="sr-only">Balance sheet by fiscal year</caption>
      <thead>
        <tr>
          <th scope="col">Fiscal year</th>
          <th scope="col">Assets, m</th>
          <th scope="col">Liabilities, m</th>
          <th scope="col">Equity, m</th>
          <th scope="col">Net debt, m</th>
          <th scope="col">Net debt to EBITDA</th>
          <th scope="col">Interest cover</th>
        </tr>
      </thead>
      <tbody>
        {[...years].reverse().map((y) => (
          <tr key={y.end}>
            <td>{y.year}</td>
            <td>
              <Fig figure={y.assets} bare />
            </td>
            <td>
              <Fig figure={y.liabilities} bare />
            </td>
            <td>
              <Fig figure={y.equity} bare />
            </td>
            <td>
              <Fig figure={y.net_debt} bare />
            </td>
            <td>
              <Fig figure={y.debt_to_ebitda} />
            </td>
            <td>
              <Fig figure={y.interest_cover} />
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
