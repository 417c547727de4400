import type { Review, Schemas } from "@/api/client";
import { usePath } from "@/api/trials";
import { ChartFrame } from "@/charts/ChartFrame";
import { PATH_HEIGHT, PathYears } from "@/charts/PathYears";
import { number, percent, upperFirst, withDates } from "@/format/format";
import { questionOf, useView, WORTH_PARTS } from "@/state/view";
import { Fig, KeyFigure } from "@/ui/Fig";
import { InputFields } from "@/ui/InputFields";
import { Sentence } from "@/ui/Sentence";
import { Choice } from "@/ui/StageSection";
import { Drawn } from "../Drawn";
import { ExpectedLine } from "../estimates/Expected";

type Path = Schemas["PathSeries"];
/** What holding the shares to a chosen year would return, and what that comes from. */
export function PathView({ review }: { review: Review }) {
  const [view, change] = useView();
  const payer = { exchange: review.payer.exchange, symbol: review.payer.symbol };
  const asked = questionOf(view, WORTH_PARTS);
  const found = usePath(payer, asked);
  return (
    <Drawn found={found}>
      {(path) => (
        <>
          <div className="mb-2 flex flex-wrap gap-x-6 text-[14px]">
            <Choice
              label="Measure the path goes by"
              options={path.measures.map((m) => ({ value: m.id, name: m.name }))}
              value={path.measure}
              onChange={(path_measure) =>
                change({ path_measure, inputs: without(view.inputs, path.of_measure) })
              }
            />
          </div>
          {path.grows && <Grows path={path} />}
          <Told path={path} review={review} />
          <InputFields
            fields={path.inputs}
            text={view.inputs}
            onText={(inputs) => change({ inputs }, { replace: true })}
            error={found.error}
            columns="xl:grid-cols-5"
            sides
          />
          <Years path={path} currency={review.payer.currency} />
          {path.estimated && <ExpectedLine payer={payer} measure={path.estimated} />}
        </>
      )}
    </Drawn>
  );
}

/** The inputs without some, also of their low and high cases. */
const without = (text: string | undefined, gone: string[]) =>
  (text ?? "")
    .split(",")
    .filter((pair) => pair && !gone.includes(pair.split(/[.:]/)[0] ?? ""))
    .join(",") || undefined;

/** What makes the measure grow; what cannot says why. */
function Grows({ path }: { path: Path }) {
  const [view, change] = useView();
  const not = path.bys.filter((b) => b.why_not);
  return (
    <div className="mb-2 text-[14px]">
      <div className="flex flex-wrap gap-x-3">
        <span className="text-muted">Grows by</span>
        <Choice
          label="What makes it grow"
          options={path.bys
            .filter((b) => !b.why_not || b.id === path.by)
            .map((b) => ({ value: b.id as string, name: b.name }))}
          value={path.by}
          onChange={(path_by) =>
            change({
              path_by: path_by === "trend" ? undefined : path_by,
              inputs: without(view.inputs, path.of_growth),
            })
          }
        />
      </div>
      {not.length > 0 && (
        <p className="text-[13px] text-muted">
          {not.map((b) => `Not by ${b.name}: ${withDates(b.why_not ?? "")}.`).join(" ")}
        </p>
      )}
    </div>
  );
}

function Told({ path, review }: { path: Path; review: Review }) {
  const { currency } = review.payer;
  const yearly = path.yearly.middle;
  const known = yearly && yearly.value !== null;
  return (
    <>
      <div className="max-w-[80ch] text-[16px]" aria-live="polite" data-testid="path">
        {path.said.map((sentence, i) => (
          <p key={i} className={i > 0 ? "mt-1 text-[15px]" : ""}>
            <Sentence parts={sentence} />
          </p>
        ))}
      </div>
      {known && (
        <div className="mt-3 grid grid-cols-[minmax(0,1fr)] gap-x-8 gap-y-4 xl:grid-cols-[minmax(0,3fr)_minmax(0,2fr)]">
          <ChartFrame
            name="path"
            title={`Price, ${currency}, until it is sold, and the dividends on the way`}
            summary={`Price ${number(path.price.value ?? 0, 2)} today, ${number(path.sold_at.middle?.value ?? 0, 2)} when it is sold after ${path.years.length} years; ${percent(yearly.value ?? 0)} a year.`}
            height={PATH_HEIGHT}
            draw={(width) => <PathYears path={path} width={width} />}
            table={<YearTable path={path} currency={currency} />}
          />
          <div>
            <Parts path={path} />
            <div className="mt-3 grid grid-cols-2 gap-x-5 gap-y-2">
              {path.key_figures.map(({ name, figure, digits }) => (
                <KeyFigure key={name} name={name} figure={figure} digits={digits ?? undefined} />
              ))}
            </div>
          </div>
        </div>
      )}
    </>
  );
}

/** The yearly return by what it comes from; bars to the left take away. */
function Parts({ path }: { path: Path }) {
  const values = path.parts.map((p) => p.figure.value ?? 0);
  const most = Math.max(...values.map(Math.abs), 1e-9);
  const negative = values.some((v) => v < 0);
  return (
    <table className="rows w-full text-[14px]">
      <caption className="text-left text-[13px] text-muted">
        What the yearly return comes from, % a year
      </caption>
      <tbody>
        {path.parts.map((p, i) => {
          const value = values[i] ?? 0;
          const size = (Math.abs(value) / most) * (negative ? 50 : 100);
          return (
            <tr key={p.id}>
              <th scope="row" className="whitespace-nowrap pr-2">
                {upperFirst(p.name)}
              </th>
              <td aria-hidden="true" className="w-full">
                <span
                  className="block h-2.5 rounded-sm"
                  style={{
                    width: `${size}%`,
                    marginLeft: negative ? `${value < 0 ? 50 - size : 50}%` : 0,
                    background: value < 0 ? "var(--paper)" : "var(--stone)",
                    border: "1px solid var(--stone)",
                  }}
                />
              </td>
              <td>
                <Fig figure={p.figure} digits={2} bare />
              </td>
            </tr>
          );
        })}
        <tr>
          <th scope="row">Together</th>
          <td />
          <td className="font-semibold">
            {path.yearly.middle && <Fig figure={path.yearly.middle} digits={2} bare />}
          </td>
        </tr>
      </tbody>
    </table>
  );
}

/** The way there, year by year, below the assumptions. */
function Years({ path, currency }: { path: Path; currency: string }) {
  if (path.years.length === 0) return null;
  return (
    <details className="mt-3 text-[14px]">
      <summary className="link inline-block">Year by year</summary>
      <YearTable path={path} currency={currency} />
    </details>
  );
}

function YearTable({ path, currency }: { path: Path; currency: string }) {
  const over = (payout: number | null) =>
    payout !== null && path.limit !== null && payout > path.limit;
  const covers = path.years.some((y) => y.payout !== null);
  return (
    <table className="rows w-full text-[14px]">
      <caption className="sr-only">The path, year by year</caption>
      <thead>
        <tr>
          <th scope="col">Year</th>
          <th scope="col">
            {upperFirst(path.measure_name)}, {currency}
          </th>
          <th scope="col">Dividend, {currency}</th>
          {covers && <th scope="col">Payout, %</th>}
          <th scope="col">Yield on cost, %</th>
          <th scope="col">Price, {currency}</th>
        </tr>
      </thead>
      <tbody>
        {path.years.map((y) => (
          <tr key={y.year}>
            <td>{y.year}</td>
            <td>{number(y.measure, 2)}</td>
            <td>{number(y.dividend, 2)}</td>
            {covers && (
              <td className={over(y.payout) ? "text-outside" : ""}>
                {y.payout === null ? "" : number(y.payout * 100)}
                {over(y.payout) && ", over your limit"}
              </td>
            )}
            <td>{number(y.yield_on_cost * 100, 2)}</td>
            <td>{number(y.price, 2)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
