import { useContext } from "react";
import type { Review, Schemas } from "@/api/client";
import { openKey, useView } from "@/app/view";
import { ChartFrame } from "@/charts/ChartFrame";
import { CoverYears } from "@/charts/CoverYears";
import { percent, withDates } from "@/format/format";
import { CushionList } from "@/ui/CushionList";
import { Fig, KeyFigure, PayerContext } from "@/ui/Fig";
import { Choice, StageSection } from "@/ui/StageSection";
import { FreakYears } from "./FreakYears";

type Basis = Schemas["BasisOut"];
type Period = Schemas["CoverPeriodOut"];

export function CoverStage({ review }: { review: Review }) {
  const [view, change] = useView();
  const payer = useContext(PayerContext);
  const { bases, trailing_note } = review.cover;
  const basis = bases.find((b) => b.basis === view.basis) ?? (bases[0] as Basis);
  const columns = periodsOf(basis);
  const open = (period: Period) =>
    payer && change({ open: openKey(payer, period.payout.key), path: undefined });
  return (
    <StageSection
      id="cover"
      title="Cover"
      question="Who pays for the dividend, and how far can that fall?"
      controls={
        <Choice
          label="Basis"
          options={bases.map((b) => ({ value: b.basis, name: b.name }))}
          value={basis.basis}
          onChange={(b) => change({ basis: b === bases[0]?.basis ? undefined : b })}
        />
      }
    >
      {columns.length === 0 ? (
        <p className="my-8 max-w-prose text-muted">
          No fiscal year is held for this payer. Bring in its statements under Sources.
        </p>
      ) : (
        <>
          <ChartFrame
            name="cover"
            title={`${basis.name.charAt(0).toUpperCase()}${basis.name.slice(1)} a share, the part paid out, and the payout ratio above it · ${review.payer.currency}`}
            summary={`Payout from ${basis.name}: ${columns
              .map(
                (c) =>
                  `${c.name} ${c.period.payout.value === null ? (c.period.payout.breach ?? "unknown") : percent(c.period.payout.value, 0)}`,
              )
              .join("; ")}.`}
            height={CoverYears.height}
            draw={(width) => (
              <CoverYears periods={columns} slumps={review.slumps} width={width} open={open} />
            )}
            table={<Periods columns={columns} />}
          />
          <Figures basis={basis} note={trailing_note} />
          <FreakYears basis={basis} />
        </>
      )}
      <div className="mt-3">
        <CushionList
          tests={review.tests.filter((t) => t.stage === "cover")}
          caption="Tests of the cover"
        />
      </div>
    </StageSection>
  );
}

function periodsOf(basis: Basis) {
  const years = basis.years.map((p) => ({ name: `${p.year}`, period: p, trailing: false }));
  const t = basis.trailing;
  const newer = t && t.end > (basis.years[basis.years.length - 1]?.end ?? "");
  return newer ? [...years, { name: "12 m", period: t, trailing: true }] : years;
}

function Figures({ basis, note }: { basis: Basis; note: string | null }) {
  const shown = basis.trailing ?? basis.latest;
  const { latest, overpaid, through_cycle_paid: asPaid } = basis;
  return (
    <>
      <div className="mt-2 grid grid-cols-2 gap-x-5 gap-y-2 md:grid-cols-3">
        <KeyFigure
          name="Payout at the declared rate"
          figure={basis.declared}
          digits={0}
          note={note ? "on the last fiscal year" : "on the last 12 months"}
        />
        <KeyFigure
          name="Through the cycle"
          figure={basis.through_cycle}
          digits={0}
          note={
            differs(basis.through_cycle, asPaid) && (
              <>
                <Fig figure={asPaid} digits={0} /> as paid
              </>
            )
          }
        />
        <KeyFigure
          name="Worst of ten years"
          figure={basis.worst_of_ten}
          digits={0}
          note={
            overpaid.value ? (
              <>
                <Fig figure={overpaid} /> {overpaid.period} overpaid
              </>
            ) : (
              ""
            )
          }
        />
        {latest && (
          <KeyFigure name={`As paid in ${latest.label}`} figure={latest.payout} digits={0} />
        )}
        {shown && (
          <>
            <KeyFigure name="Left after the dividend" figure={shown.left} note={periodOf(shown)} />
            <KeyFigure
              name="… and after buybacks"
              figure={shown.left_after_buybacks}
              note={periodOf(shown)}
            />
          </>
        )}
      </div>
      {basis.swings && (
        <p className="mt-1 text-[14px] text-muted">
          {basis.name.charAt(0).toUpperCase()}
          {basis.name.slice(1)} swings widely: too many years stand out for any to be called a freak
          year.
        </p>
      )}
    </>
  );
}

const periodOf = (period: Period) => withDates(period.label);

const differs = (a: Schemas["FigureOut"], b: Schemas["FigureOut"]) =>
  a.value !== null && b.value !== null && Math.abs(a.value - b.value) > 0.005;

function Periods({ columns }: { columns: ReturnType<typeof periodsOf> }) {
  return (
    <table className="rows w-full text-[14px]">
      <caption className="sr-only">Cover by year</caption>
      <thead>
        <tr>
          <th scope="col">Period</th>
          <th scope="col">Per share</th>
          <th scope="col">Paid per share</th>
          <th scope="col">Payout, %</th>
          <th scope="col">In total, m</th>
          <th scope="col">Dividends, m</th>
          <th scope="col">Left, m</th>
        </tr>
      </thead>
      <tbody>
        {[...columns].reverse().map(({ name, period }) => (
          <tr key={name}>
            <td>
              {period.label}
              {period.freak && <span className="text-muted"> · freak year</span>}
              {period.set_aside && (
                <span className="text-muted"> · set aside: {period.set_aside}</span>
              )}
            </td>
            <td>
              <Fig figure={period.per_share} />
            </td>
            <td>
              <Fig figure={period.dividend_per_share} />
            </td>
            <td>
              <Fig figure={period.payout} bare digits={0} className="font-semibold" />
            </td>
            <td>
              <Fig figure={period.driver} bare />
            </td>
            <td>
              <Fig figure={period.dividends} bare />
            </td>
            <td>
              <Fig figure={period.left} bare />
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
