import type { Schemas } from "@/api/client";
import { type PayerKey, useBusiness } from "@/api/hooks";
import { ChartFrame } from "@/charts/ChartFrame";
import { YearLines } from "@/charts/YearLines";
import { number } from "@/format/format";
import { useView } from "@/state/view";
import { Fig } from "@/ui/Fig";
import { Found } from "./Found";

type Business = Schemas["BusinessSeries"];

const SHOWN = -6;

export function BusinessView({ payer }: { payer: PayerKey }) {
  const [view] = useView();
  const found = useBusiness(payer, { as_of: view.as_of });
  return (
    <Found found={found}>
      {(business) =>
        business.indexed_years.length > 1 ? (
          <>
            <Course business={business} />
            <Margins business={business} />
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

function Course({ business }: { business: Business }) {
  const { indexed, indexed_years: years, base_year: base } = business;
  return (
    <ChartFrame
      name="business"
      title={`Revenue, net income, free cash flow per share and share count, ${base} = 100`}
      summary={`Against ${base} as 100, in ${years.at(-1)}: ${indexed
        .map((x) => `${x.name} ${told(x.figures.at(-1)?.value)}`)
        .join(", ")}.`}
      height={YearLines.height}
      draw={(width) => (
        <YearLines
          years={years}
          lines={indexed.map((x) => ({ name: x.name, values: x.figures.map((f) => f.value) }))}
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
              {indexed.map((x) => (
                <th key={x.id} scope="col">
                  {x.name}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {years
              .map((year, at) => (
                <tr key={year}>
                  <td>{year}</td>
                  {indexed.map((x) => (
                    <td key={x.id}>
                      {x.figures[at] && <Fig figure={x.figures[at]} digits={0} unknown="–" />}
                    </td>
                  ))}
                </tr>
              ))
              .reverse()}
          </tbody>
        </table>
      }
    />
  );
}

const told = (value: number | null | undefined) => (value == null ? "unknown" : number(value, 0));

/** Margins and returns of the last years, in percent. */
function Margins({ business }: { business: Business }) {
  const years = business.years.slice(SHOWN);
  const lines = business.margins.map((x) => ({ ...x, figures: x.figures.slice(SHOWN) }));
  return (
    <div className="relative mt-2 overflow-x-auto">
      <table className="rows w-full text-[14px]">
        <caption className="sr-only">Margins and returns by fiscal year, percent</caption>
        <thead>
          <tr>
            <th scope="col">Margins and returns, %</th>
            {years.map((year) => (
              <th key={year} scope="col">
                {year}
              </th>
            ))}
            <th scope="col">12 months</th>
          </tr>
        </thead>
        <tbody>
          {lines
            .filter((x) => x.figures.some((f) => f.value !== null))
            .map((x) => (
              <tr key={x.id}>
                <td>{x.name}</td>
                {x.figures.map((figure, at) => (
                  <td key={years[at]}>
                    <Fig figure={figure} bare digits={1} unknown="–" />
                  </td>
                ))}
                <td>
                  {x.now && (
                    <Fig figure={x.now} bare digits={1} unknown="–" className="font-semibold" />
                  )}
                </td>
              </tr>
            ))}
        </tbody>
      </table>
    </div>
  );
}
