import { useContext } from "react";
import type { Review, Schemas } from "@/api/client";
import { openKey, useView } from "@/app/view";
import { ChartFrame } from "@/charts/ChartFrame";
import { DividendYears } from "@/charts/DividendYears";
import { month, number, rhythmName, show } from "@/format/format";
import { CushionList } from "@/ui/CushionList";
import { Fig, KeyFigure, PayerContext } from "@/ui/Fig";
import { StageSection } from "@/ui/StageSection";

type Year = Schemas["YearOut"];

export function RecordStage({ review }: { review: Review }) {
  const [view, change] = useView();
  const payer = useContext(PayerContext);
  const { record } = review;
  const real = view.real ?? false;
  const open = (year: Year) =>
    payer && change({ open: openKey(payer, year.total.key), path: undefined });
  const first = record.years[0];
  const last = record.years[record.years.length - 1];
  return (
    <StageSection
      id="record"
      title="Record"
      question="What has it paid, and does that beat inflation?"
      controls={
        <button
          type="button"
          className="link"
          aria-pressed={real}
          onClick={() => change({ real: !real || undefined })}
        >
          in today’s money
        </button>
      }
    >
      {record.years.length === 0 ? (
        <Empty />
      ) : (
        <>
          <ChartFrame
            name="record"
            title={
              <>
                Dividends per share by year, {review.payer.currency}, in today’s shares (hatched:
                this year so far)
                {real && <span className="text-action"> · line: in today’s money</span>}
              </>
            }
            summary={`Dividends per share from ${first?.year} to ${last?.year}: ${record.years
              .map(
                (y) =>
                  `${y.year} ${y.total.value === null ? "unknown" : number(y.total.value, 2)}, ${y.outcome}`,
              )
              .join("; ")}.`}
            height={DividendYears.height}
            draw={(width) => (
              <DividendYears
                years={record.years}
                slumps={review.slumps}
                real={real}
                width={width}
                open={open}
              />
            )}
            table={<Years years={record.years} />}
          />
          <Figures review={review} />
        </>
      )}
      <div className="mt-2">
        <CushionList
          tests={review.tests.filter((t) => t.stage === "record")}
          caption="Tests of the record"
        />
      </div>
    </StageSection>
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

function Figures({ review }: { review: Review }) {
  const { record } = review;
  return (
    <div className="mt-1">
      <Growth review={review} />
      <div className="mt-2 grid grid-cols-2 content-start gap-x-5 gap-y-2 md:grid-cols-4">
        <KeyFigure
          name="Declared rate"
          figure={record.declared_rate}
          note={record.rhythm.value ? rhythmName(record.rhythm.value) : ""}
        />
        <KeyFigure
          name="Paid in the last 12 months"
          figure={record.trailing_rate}
          note={
            record.gap_called_out && record.trailing_gap.value !== null ? (
              <>
                <Fig figure={record.trailing_gap} size digits={0} />{" "}
                {record.trailing_gap.value > 0 ? "over" : "under"} declared
              </>
            ) : (
              ""
            )
          }
        />
        <KeyFigure
          name="Latest raise"
          figure={record.latest_raise}
          sign
          note={record.latest_raise.known_on ? month(record.latest_raise.known_on) : ""}
        />
        <KeyFigure
          name="Ahead of inflation"
          figure={record.years_ahead}
          note={record.years_ahead.period ? `${record.years_ahead.period} full years` : ""}
        />
        {record.paces.map((pace) => (
          <KeyFigure
            key={pace.base_year}
            name={`To keep pace since ${pace.base_year}`}
            figure={pace.needed}
            note={
              pace.ahead.value !== null && (
                <>
                  pays <Fig figure={pace.ahead} size digits={0} />{" "}
                  {pace.ahead.value >= 0 ? "more" : "less"}
                </>
              )
            }
          />
        ))}
        <BaseYear review={review} />
      </div>
    </div>
  );
}

function Growth({ review }: { review: Review }) {
  const { growth } = review.record;
  return (
    <table className="rows w-full text-[15px]">
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
        <tr>
          <td>nominal</td>
          {growth.map((g) => (
            <td key={g.years}>
              <Fig figure={g.nominal} bare sign unknown="–" className="font-semibold" />
            </td>
          ))}
        </tr>
        <tr>
          <td>real, after prices</td>
          {growth.map((g) => (
            <td key={g.years}>
              <Fig figure={g.real} bare sign unknown="–" />
            </td>
          ))}
        </tr>
      </tbody>
    </table>
  );
}

/** Any year may be picked to keep pace since. */
function BaseYear({ review }: { review: Review }) {
  const [view, change] = useView();
  const years = review.record.years.filter((y) => y.complete && y.total.value);
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
