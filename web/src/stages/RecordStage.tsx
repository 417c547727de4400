import { useContext } from "react";
import { type Review, type Schemas, stageOf } from "@/api/client";
import { type PayerKey, useRecord } from "@/api/hooks";
import { ChartFrame } from "@/charts/ChartFrame";
import { DividendYears } from "@/charts/DividendYears";
import { number, show } from "@/format/format";
import { openKey, useView } from "@/state/view";
import { Fig, KeyFigure, PayerContext } from "@/ui/Fig";
import { Choice } from "@/ui/StageSection";
import { Drawn } from "./Drawn";
import { Payments } from "./record/Payments";
import { StageView } from "./StageView";

type Year = Schemas["YearOut"];

interface Props {
  review: Review;
  record: Schemas["RecordSeries"];
}

const VIEWS = [
  { value: "years", name: "By year" },
  { value: "payments", name: "Every payment" },
];

export function RecordStage({ review, payer }: { review: Review; payer: PayerKey }) {
  const [view, change] = useView();
  const found = useRecord(payer, { as_of: view.as_of, base_year: view.base_year?.toString() });
  const shown = view.record === "payments" ? "payments" : "years";
  const real = view.real ?? false;
  return (
    <StageView
      review={review}
      id="record"
      controls={
        <>
          <Choice
            label="View"
            options={VIEWS}
            value={shown}
            onChange={(v) => change({ record: v === "years" ? undefined : v })}
          />
          {shown === "years" && (
            <span className="border-line border-l pl-4">
              <button
                type="button"
                className="link"
                aria-pressed={real}
                onClick={() => change({ real: !real || undefined })}
              >
                in today’s money
              </button>
            </span>
          )}
        </>
      }
      chart={
        <Drawn found={found}>
          {(record) =>
            record.years.length === 0 ? (
              <Empty />
            ) : shown === "payments" ? (
              <Payments payer={payer} />
            ) : (
              <>
                <Chart review={review} record={record} real={real} />
                <Growth review={review} record={record} />
              </>
            )
          }
        </Drawn>
      }
      keys={found.data && found.data.years.length > 0 && <Paces record={found.data} />}
    />
  );
}

function Chart({ review, record, real }: Props & { real: boolean }) {
  const [, change] = useView();
  const payer = useContext(PayerContext);
  const { years } = record;
  const open = (year: Year) =>
    payer && change({ open: openKey(payer, year.total.key), path: undefined });
  return (
    <ChartFrame
      name="record"
      title={
        <>
          Dividends per share by year, {review.payer.currency}, in today’s shares (hatched: this
          year so far)
          {real && <span className="text-action"> · line: in today’s money</span>}
        </>
      }
      summary={`Dividends per share from ${years[0]?.year} to ${years[years.length - 1]?.year}: ${years
        .map(
          (y) =>
            `${y.year} ${y.total.value === null ? "unknown" : number(y.total.value, 2)}, ${y.outcome}`,
        )
        .join("; ")}.`}
      height={DividendYears.height}
      draw={(width) => (
        <DividendYears years={years} slumps={review.slumps} real={real} width={width} open={open} />
      )}
      table={<Years years={years} />}
    />
  );
}

function Empty() {
  return (
    <p className="my-8 max-w-prose text-muted">
      No regular dividend is on record. A payer that has yet to begin shows its earnings and cash
      below; what cannot be judged without a dividend says so.
    </p>
  );
}

/** How the dividend grew over every span, before and after prices. */
function Growth({ review, record }: Props) {
  const { figures } = stageOf(review, "record");
  const { growth } = record;
  const row = (name: string, id: "nominal" | "real", className = "") => (
    <tr>
      <td>{name}</td>
      {growth.map((g) => {
        const figure = figures[g[id]];
        return (
          <td key={g.years}>
            {figure && <Fig figure={figure} bare sign unknown="–" className={className} />}
          </td>
        );
      })}
    </tr>
  );
  return (
    <table className="rows mt-1 w-full text-[15px]">
      <caption className="sr-only">Dividend growth a year, nominal and real</caption>
      <thead>
        <tr>
          <th scope="col">Growth a year, %, over</th>
          {growth.map((g) => (
            <th key={g.years} scope="col">
              {g.years} {g.years === 1 ? "year" : "years"}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {row("nominal", "nominal", "font-semibold")}
        {row("real, after prices", "real")}
      </tbody>
    </table>
  );
}

/** What the dividend would have to be to have kept pace, and a choice of the year it is told from. */
function Paces({ record }: Pick<Props, "record">) {
  return (
    <>
      {record.paces.map((pace) => (
        <KeyFigure
          key={pace.base_year}
          name={`Needed to keep pace since ${pace.base_year}`}
          figure={pace.needed}
          note={
            pace.ahead.value !== null && (
              <>
                pays <Fig figure={pace.ahead} size digits={0} />{" "}
                {pace.ahead.value >= 0 ? "more" : "less"} than that
              </>
            )
          }
        />
      ))}
      <BaseYear record={record} />
    </>
  );
}

/** Any year may be picked to keep pace since. */
function BaseYear({ record }: Pick<Props, "record">) {
  const [view, change] = useView();
  const years = record.years.filter((y) => y.complete && y.total.value);
  return (
    <div>
      <label htmlFor="base-year" className="block text-[13px] text-muted">
        Pace since another year
      </label>
      <select
        id="base-year"
        className="field min-h-[28px]! py-0! text-[14px]"
        value={view.base_year ?? ""}
        onChange={(e) => change({ base_year: e.target.value ? Number(e.target.value) : undefined })}
      >
        <option value="">choose</option>
        {years.map((y) => (
          <option key={y.year} value={y.year}>
            {y.year}
          </option>
        ))}
      </select>
    </div>
  );
}

function Years({ years }: { years: Year[] }) {
  return (
    <table className="rows w-full text-[14px]">
      <caption className="sr-only">Dividends by year</caption>
      <thead>
        <tr>
          <th scope="col">Year</th>
          <th scope="col">Per share</th>
          <th scope="col">In today’s money</th>
          <th scope="col">Payments</th>
          <th scope="col">Specials</th>
          <th scope="col">What happened</th>
        </tr>
      </thead>
      <tbody>
        {[...years].reverse().map((y) => (
          <tr key={y.year}>
            <td>
              {y.year}
              {!y.complete && " so far"}
            </td>
            <td>
              <Fig figure={y.total} digits={4} />
            </td>
            <td>{y.real ? <Fig figure={y.real} digits={4} /> : "–"}</td>
            <td>{y.payments.map((p) => show(p.amount, "per_share", { digits: 3 })).join(", ")}</td>
            <td>{y.special ? <Fig figure={y.special} digits={3} /> : "–"}</td>
            <td>
              {y.outcome}
              {y.part && <span className="text-muted"> · {y.part}</span>}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
