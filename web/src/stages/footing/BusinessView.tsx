import { type Figure, type Review, type Schemas, stageOf } from "@/api/client";
import { type PayerKey, useBusiness } from "@/api/hooks";
import { ChartFrame } from "@/charts/ChartFrame";
import { YearLines } from "@/charts/YearLines";
import { number } from "@/format/format";
import { useView } from "@/state/view";
import { Fig } from "@/ui/Fig";
import { Found } from "./Found";

type Indexed = Schemas["IndexedYearOut"];
type Year = Schemas["BusinessYearOut"];

const INDEXED = [
  ["revenue", "revenue"],
  ["net_income", "net income"],
  ["cash_per_share", "cash per share"],
  ["shares", "share count"],
] as const;
const MARGINS = [
  ["gross_margin", "Gross"],
  ["operating_margin", "Operating"],
  ["net_margin", "Net"],
  ["cash_margin", "Free cash flow"],
  ["return_on_assets", "Return on assets"],
  ["return_on_equity", "On equity"],
  ["return_on_capital", "On capital"],
] as const;

export function BusinessView({ review, payer }: { review: Review; payer: PayerKey }) {
  const [view] = useView();
  const found = useBusiness(payer, { as_of: view.as_of });
  return (
    <Found found={found}>
      {({ indexed, years, base_year }) =>
        indexed.length > 1 ? (
          <>
            <Course indexed={indexed} base={base_year} />
            <Margins years={years} now={stageOf(review, "footing").figures} />
          </>
        ) : (
          <p className="my-6 max-w-prose text-muted">
            Fewer than two fiscal years are held, so that no course can be drawn.
          </p>
        )
      }
    </Found>
  );
}

function Course({ indexed, base }: { indexed: Indexed[]; base: number | null }) {
  return (
    <ChartFrame
      name="business"
      title={`Revenue, net income, free cash flow per share and share count, ${base} = 100`}
      summary={`Against ${base} as 100, in ${indexed.at(-1)?.year}: ${INDEXED.map(
        ([id, name]) => `${name} ${told(indexed.at(-1)?.[id].value)}`,
      ).join(", ")}.`}
      height={YearLines.height}
      draw={(width) => (
        <YearLines
          years={indexed.map((y) => y.year)}
          lines={INDEXED.map(([id, name]) => ({ name, values: indexed.map((y) => y[id].value) }))}
          width={width}
          text={(v) => number(v, 0)}
        />
      )}
      table={
        <table className="rows w-full text-[14px]">
          <caption className="sr-only">Course of the business, indexed</caption>
          <thead>
            <tr>
              <th scope="col">Fiscal year</th>
              {INDEXED.map(([id, name]) => (
                <th key={id} scope="col">
                  {name}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {[...indexed].reverse().map((y) => (
              <tr key={y.end}>
                <td>{y.year}</td>
                {INDEXED.map(([id]) => (
                  <td key={id}>
                    <Fig figure={y[id]} digits={0} unknown="–" />
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      }
    />
  );
}

const told = (value: number | null | undefined) => (value == null ? "unknown" : number(value, 0));

/** Margins and returns of the last years, in percent. */
function Margins({ years, now }: { years: Year[]; now: Record<string, Figure> }) {
  const shown = years.slice(-6);
  return (
    <div className="relative mt-2 overflow-x-auto">
      <table className="rows w-full text-[14px]">
        <caption className="sr-only">Margins and returns by fiscal year, percent</caption>
        <thead>
          <tr>
            <th scope="col">Margins and returns, %</th>
            {shown.map((y) => (
              <th key={y.end} scope="col">
                {y.year}
              </th>
            ))}
            <th scope="col">12 months</th>
          </tr>
        </thead>
        <tbody>
          {MARGINS.filter(([id]) => shown.some((y) => y[id].value !== null)).map(([id, name]) => (
            <tr key={id}>
              <td>{name}</td>
              {shown.map((y) => (
                <td key={y.end}>
                  <Fig figure={y[id]} bare digits={1} unknown="–" />
                </td>
              ))}
              <td>
                {now[id] && (
                  <Fig figure={now[id]} bare digits={1} unknown="–" className="font-semibold" />
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
