import { useContext } from "react";
import { type Review, type Schemas, stageOf } from "@/api/client";
import { type PayerKey, useRecord } from "@/api/hooks";
import { ChartFrame } from "@/charts/ChartFrame";
import { DividendYears } from "@/charts/DividendYears";
import { day, number, show } from "@/format/format";
import { openKey, useView } from "@/state/view";
import { Fig, KeyFigure, PayerContext } from "@/ui/Fig";
import { Choice } from "@/ui/StageSection";
import { Drawn } from "./Drawn";
import { ExpectedLine } from "./estimates/Expected";
import { Payments } from "./record/Payments";
import { StageView } from "./StageView";

type Year = Schemas["YearOut"];

type Record = Schemas["RecordSeries"];

interface Props {
  review: Review;
  record: Record;
}

const VIEWS = [
  { value: "years", name: "By year" },
  { value: "payments", name: "Every payment" },
  { value: "slumps", name: "In slumps" },
];

export function RecordStage({ review, payer }: { review: Review; payer: PayerKey }) {
  const [view, change] = useView();
  const found = useRecord(payer, { as_of: view.as_of, base_years: view.base_years });
  const shown = VIEWS.find((v) => v.value === view.record)?.value ?? "years";
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
            ) : shown === "slumps" ? (
              <InSlumps slumps={record.slumps} />
            ) : (
              <>
                <Chart review={review} record={record} real={real} />
                <Growth review={review} record={record} />
                <ExpectedLine payer={payer} measure="dps" />
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
  const [chosen, move] = useBases(record);
  const open = (year: Year) =>
    payer && change({ open: openKey(payer, year.total.key), path: undefined });
  return (
    <ChartFrame
      name="record"
      title={
        <>
          Dividends per share, {review.payer.currency}, in today’s shares (hatched: this year,
          paler: expected; lines: keeping pace)
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
        <DividendYears
          years={years}
          paces={record.paces}
          bases={basesOf(record)}
          chosen={chosen}
          onBase={move}
          slumps={review.slumps}
          real={real}
          width={width}
          open={open}
        />
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

/** How the dividend grew over every span, before and after prices, and with the year ahead. */
function Growth({ review, record }: Props) {
  const { figures } = stageOf(review, "record");
  const { growth } = record;
  const row = (name: string, id: "nominal" | "real" | "ahead", className = "") => (
    <tr>
      <td>{name}</td>
      {growth.map((g) => {
        const figure = figures[g[id] ?? ""];
        return (
          <td key={g.name}>
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
            <th key={g.name} scope="col">
              {g.name}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {row("nominal", "nominal", "font-semibold")}
        {row("real, after prices", "real")}
        {row("nominal, with the year ahead", "ahead")}
      </tbody>
    </table>
  );
}

const basesOf = (record: Record) =>
  record.years.filter((y) => y.complete && y.total.value).map((y) => y.year);

/** The two base years, as the address has them before the answer does, and a way to move one. */
function useBases(record: Record): [number[], (place: number, year: number) => void] {
  const [view, change] = useView();
  const typed = (view.base_years ?? "").split(",").map(Number);
  const years = record.paces.map((p, place) => typed[place] || p.base_year);
  const move = (place: number, year: number) =>
    change(
      { base_years: years.map((y, i) => (i === place ? year : y)).join(",") },
      { replace: true },
    );
  return [years, move];
}

/** What the dividend would have to be to have kept pace, from two years that can be moved. */
function Paces({ record }: { record: Record }) {
  const [years, move] = useBases(record);
  return (
    <>
      {record.paces.map((pace, place) => (
        <div key={place} className="min-w-0">
          <KeyFigure
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
          <select
            aria-label={`${place === 0 ? "First" : "Second"} year, chosen from a list`}
            className="field min-h-[26px]! py-0! text-[13px]"
            value={years[place]}
            onChange={(e) => move(place, Number(e.target.value))}
          >
            {basesOf(record).map((year) => (
              <option key={year} value={year}>
                since {year}
              </option>
            ))}
          </select>
        </div>
      ))}
    </>
  );
}

/** What the dividend did in each past slump. */
function InSlumps({ slumps }: { slumps: Record["slumps"] }) {
  if (slumps.length === 0) {
    return <p className="my-6 max-w-prose text-muted">No past slump is on record by this day.</p>;
  }
  return (
    <table className="rows my-3 w-full text-[15px]">
      <caption className="sr-only">The dividend in past slumps</caption>
      <thead>
        <tr>
          <th scope="col">Slump</th>
          <th scope="col" className="text-left!">
            The dividend was
          </th>
          <th scope="col">Declared rate before</th>
          <th scope="col">After</th>
          <th scope="col">Change, %</th>
        </tr>
      </thead>
      <tbody>
        {slumps.map((s) => (
          <tr key={s.name}>
            <td>
              {s.name}
              <span className="text-[13px] text-muted">
                {" "}
                {day(s.begins)} to {s.ends ? day(s.ends) : "today"}
              </span>
            </td>
            <td className="text-left!">{s.action ?? "not paid yet"}</td>
            <td>
              <Fig figure={s.before} unknown="–" />
            </td>
            <td>
              <Fig figure={s.after} unknown="–" />
            </td>
            <td>
              <Fig figure={s.change} bare sign unknown="–" className="font-semibold" />
            </td>
          </tr>
        ))}
      </tbody>
    </table>
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
