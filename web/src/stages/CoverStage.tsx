import { type ReactNode, useContext } from "react";
import type { Review, Schemas } from "@/api/client";
import { type PayerKey, useCover } from "@/api/hooks";
import { ChartFrame } from "@/charts/ChartFrame";
import { CoverYears } from "@/charts/CoverYears";
import { percent, upperFirst } from "@/format/format";
import { openKey, useView } from "@/state/view";
import { Fig, PayerContext } from "@/ui/Fig";
import { Choice } from "@/ui/StageSection";
import { Drawn } from "./Drawn";
import { Expected } from "./estimates/Expected";
import { FreakYears } from "./FreakYears";
import { later } from "./later";
import { StageView } from "./StageView";
import { StrainView } from "./strain";

const Against = later(() => import("./cover/Against").then((m) => m.Against));
const Bridge = later(() => import("./cover/Bridge").then((m) => m.Bridge));
const Matrix = later(() => import("./cover/Matrix").then((m) => m.Matrix));
const UsesOfCash = later(() => import("./cover/UsesOfCash").then((m) => m.UsesOfCash));

type Basis = Schemas["BasisOut"];
type Period = Schemas["CoverPeriodOut"];

/** Views of Cover. */
const VIEWS = [
  { value: "years", name: "By year" },
  { value: "matrix", name: "Every payout" },
  { value: "lines", name: "Cash against dividend" },
  { value: "bridge", name: "Bridge" },
  { value: "uses", name: "Uses of cash" },
  { value: "strain", name: "Strain" },
];

export function CoverStage({ review, payer }: { review: Review; payer: PayerKey }) {
  const [view, change] = useView();
  const found = useCover(payer, { as_of: view.as_of });
  const bases = found.data?.bases ?? [];
  const basis = bases.find((b) => b.basis === view.basis) ?? bases[0];
  const shown = VIEWS.find((v) => v.value === view.cover) ?? VIEWS[0];
  const total = view.total ?? false;
  const choice = bases.length > 1 && (
    <Choice
      label="Basis"
      options={bases.map((b) => ({ value: b.basis, name: b.name }))}
      value={basis?.basis ?? ""}
      onChange={(b) => change({ basis: b === bases[0]?.basis ? undefined : b })}
    />
  );
  const inTotal = (
    <button
      type="button"
      className="link"
      aria-pressed={total}
      onClick={() => change({ total: !total || undefined })}
    >
      in total
    </button>
  );
  return (
    <StageView
      review={review}
      id="cover"
      group={basis?.basis}
      controls={
        <Choice
          label="View"
          options={VIEWS}
          value={shown?.value ?? ""}
          onChange={(v) => change({ cover: v === "years" ? undefined : v })}
        />
      }
      chart={
        <Drawn found={found}>
          {(series) =>
            !basis || periodsOf(basis).length === 0 ? (
              <p className="my-8 max-w-prose text-muted">
                No fiscal year is held for this payer. Import its statements under Sources.
              </p>
            ) : shown?.value === "matrix" ? (
              <>
                <Matrix review={review} series={series} />
                <Expected payer={payer} />
              </>
            ) : shown?.value === "lines" ? (
              <Against basis={basis} currency={review.payer.currency} controls={choice} />
            ) : shown?.value === "bridge" ? (
              <Bridge payer={payer} total={total} controls={inTotal} />
            ) : shown?.value === "strain" ? (
              <StrainView review={review} payer={payer} />
            ) : shown?.value === "uses" ? (
              <UsesOfCash payer={payer} />
            ) : (
              <Chart
                review={review}
                basis={basis}
                columns={periodsOf(basis)}
                total={total}
                controls={
                  <>
                    {choice}
                    {inTotal}
                  </>
                }
              />
            )
          }
        </Drawn>
      }
    >
      {basis?.swings && (
        <p className="mt-1 text-[14px] text-muted">
          {upperFirst(basis.name)} swings widely: too many years stand out for any to be called a
          freak year.
        </p>
      )}
      {basis && <FreakYears basis={basis} />}
    </StageView>
  );
}

interface ChartProps {
  review: Review;
  basis: Basis;
  columns: ReturnType<typeof periodsOf>;
  /** In total, not per share. */
  total: boolean;
  controls: ReactNode;
}

function Chart({ review, basis, columns, total, controls }: ChartProps) {
  const [, change] = useView();
  const payer = useContext(PayerContext);
  const open = (period: Period) =>
    payer && change({ open: openKey(payer, period.payout.key), path: undefined });
  const told = (p: Period) =>
    p.payout.value === null ? (p.payout.breach ?? "unknown") : percent(p.payout.value, 0);
  return (
    <ChartFrame
      name="cover"
      controls={controls}
      title={`${upperFirst(basis.name)} ${total ? "in total, m" : "a share"}, the part paid out, and the payout ratio above it · ${review.payer.currency}`}
      summary={`Payout from ${basis.name}: ${columns
        .map((c) => `${c.name} ${told(c.period)}`)
        .join("; ")}.`}
      height={CoverYears.height}
      draw={(width) => (
        <CoverYears
          total={total}
          periods={columns}
          slumps={review.slumps}
          width={width}
          open={open}
        />
      )}
      table={<Periods columns={columns} />}
    />
  );
}

function periodsOf(basis: Basis) {
  const years = basis.years.map((p) => ({ name: `${p.year}`, period: p, trailing: false }));
  const t = basis.trailing;
  const newer = t && t.end > (basis.years[basis.years.length - 1]?.end ?? "");
  return newer ? [...years, { name: "12 m", period: t, trailing: true }] : years;
}

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
              {period.excluded && (
                <span className="text-muted"> · excluded: {period.excluded}</span>
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
