import type { Schemas } from "@/api/client";
import type { PayerKey } from "@/api/hooks";
import { type PriceSeries, usePrice } from "@/api/price";
import { day, number, show, upperFirst } from "@/format/format";
import { useView } from "@/state/view";
import { Fig, KeyFigure } from "@/ui/Fig";

export const SPANS: Record<string, string> = {
  this_year: "this year",
  "1": "1 year",
  "5": "5 years",
  "10": "10 years",
  all: "all",
};

/** What of a course of prices a span is told from. */
type Told = Pick<PriceSeries, "spans" | "span" | "put_in" | "measure">;

/** What a sum put in at the beginning would be, and what the return came from. */
export function PutIn({ price }: { price: Told }) {
  const span = price.span ?? price.spans.find((s) => s.id === "all");
  if (!span?.begins || span.worth_now.value === null) {
    return <p className="mt-1 text-muted">{upperFirst(span?.price.reason ?? "")}</p>;
  }
  return (
    <p className="mt-1 max-w-[84ch] text-[16px]" data-testid="put-in">
      {number(price.put_in)} put in on {day(span.begins)} was worth{" "}
      <Fig figure={span.worth_put_back} digits={0} className="font-semibold" /> on{" "}
      {day(span.ends ?? "")}, dividends put back in
      {span.market_worth.value !== null && (
        <>
          ; in the market, likewise, it was <Fig figure={span.market_worth} digits={0} />
        </>
      )}
      . Taken out, it was <Fig figure={span.worth_now} digits={0} /> and{" "}
      <Fig figure={span.received_of_it} digits={0} /> of dividends.{" "}
      {span.yearly.value !== null && span.from_growth.value !== null && (
        <>
          <Fig figure={span.yearly} digits={1} className="font-semibold" /> a year came from{" "}
          <Fig figure={span.from_growth} sign /> growth of {price.measure},{" "}
          <Fig figure={span.from_re_rating} sign /> re-rating and{" "}
          <Fig figure={span.from_income} sign /> income.
        </>
      )}
    </p>
  );
}

const A_YEAR = ["5", "10", "all"];
const ROWS = [
  ["price alone", "price", "price_a_year"],
  ["with dividends put back in", "total", "total_a_year"],
  ["market with dividends", "market_total", "market_total_a_year"],
] as const;

/** What it did over the usual spans and the chosen one, against the market. */
export function Performance({ price }: { price: PriceSeries }) {
  const spans = price.span ? [...price.spans, price.span] : price.spans;
  return (
    <div className="relative mt-2 overflow-x-auto">
      <table className="rows w-full text-[15px]">
        <caption className="sr-only">Performance, from five years on a year</caption>
        <thead>
          <tr>
            <th scope="col">Change, %</th>
            {spans.map((s) => (
              <th key={s.id} scope="col">
                {s.id === "span" ? "chosen span" : SPANS[s.id]}
                {A_YEAR.includes(s.id) && ", a year"}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {ROWS.map(([name, whole, yearly]) => (
            <tr key={whole}>
              <td>{name}</td>
              {spans.map((s) => (
                <td key={s.id}>
                  <Fig
                    figure={s[A_YEAR.includes(s.id) ? yearly : whole]}
                    bare
                    sign
                    unknown="–"
                    className={whole === "total" ? "font-semibold" : ""}
                  />
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

/** The key figures of the price. */
export function PriceKeys({ payer }: { payer: PayerKey }) {
  const [view] = useView();
  const { as_of, window, quantity, typical, span } = view;
  const price = usePrice(payer, { as_of, window, quantity, typical, span }).data;
  if (!price) return null;
  const error = price.beta_error.value;
  return (
    <div className="mt-3 grid grid-cols-2 content-start gap-x-5 gap-y-2 md:grid-cols-3 xl:grid-cols-4">
      <KeyFigure name="52-week low" figure={price.low_52} />
      <KeyFigure name="52-week high" figure={price.high_52} />
      <KeyFigure
        name="Highest close"
        figure={price.highest}
        note={price.highest.known_on && day(price.highest.known_on)}
      />
      <KeyFigure name="Against its highest" figure={price.from_peak} sign />
      {price.averages.map((a) => (
        <KeyFigure
          key={a.days}
          name={`${a.days}-day average`}
          figure={a.now}
          note={<Against figure={a.against} />}
        />
      ))}
      <KeyFigure
        name="Beta, five years of weeks"
        figure={price.beta}
        digits={2}
        note={error !== null && <>± {show(error, "index", { digits: 2 })}</>}
      />
    </div>
  );
}

function Against({ figure }: { figure: Schemas["FigureOut"] }) {
  if (figure.value === null) return null;
  return (
    <>
      price <Fig figure={figure} size /> {figure.value < 0 ? "under" : "over"}
    </>
  );
}
