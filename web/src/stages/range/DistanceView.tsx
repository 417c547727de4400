import type { Review, Schemas } from "@/api/client";
import type { PayerKey } from "@/api/hooks";
import { useDistance } from "@/api/price";
import { ChartFrame } from "@/charts/ChartFrame";
import { DISTANCE_HEIGHT, DistanceYears } from "@/charts/DistanceYears";
import { day, number, percent, signed, upperFirst, withDates } from "@/format/format";
import { useView } from "@/state/view";
import { Fig } from "@/ui/Fig";
import { Drawn } from "../Drawn";
import { PutIn } from "./PriceTold";

type Distance = Schemas["DistanceSeries"];

/** How far the price stood from what is usual, over the years, and what the measure did meanwhile. */
export function DistanceView({ review, payer }: { review: Review; payer: PayerKey }) {
  const [view, change] = useView();
  const { as_of, quantity, typical, span } = view;
  const window = view.window ?? "10";
  const found = useDistance(payer, { as_of, window, quantity, typical, span });
  return (
    <Drawn found={found}>
      {(distance) => {
        if (distance.typical.value === null || distance.days.length < 2) {
          const why = distance.typical.reason ?? "too few weeks are known";
          return <p className="my-6 max-w-prose text-muted">{upperFirst(withDates(why))}.</p>;
        }
        return (
          <>
            <p className="mb-1 text-[16px]" data-testid="distance-finding">
              {distance.now.value === null ? (
                `Where it stands today is unknown: ${withDates(distance.now.reason ?? "")}.`
              ) : (
                <>
                  The price is <Fig figure={distance.now} size digits={0} />{" "}
                  {distance.now.value < 0 ? "under" : "over"} what the {distance.usual}{" "}
                  {distance.name} of <Fig figure={distance.typical} digits={2} /> would pay today.
                </>
              )}
            </p>
            <ChartFrame
              name="distance"
              title={`Price against what the ${distance.usual} ${distance.name} of these years would pay, %`}
              summary={summaryOf(distance)}
              height={DISTANCE_HEIGHT}
              draw={(width) => (
                <DistanceYears
                  distance={distance}
                  slumps={review.slumps}
                  width={width}
                  onSpan={(from, to) => change({ span: `${from}..${to}` })}
                />
              )}
              table={<Weeks distance={distance} />}
            />
            {distance.gaps.map((gap) => (
              <p key={gap} className="text-[13px] text-muted">
                Gaps: {withDates(gap)}; a {distance.name} needs one that is positive.
              </p>
            ))}
            {distance.span ? (
              <>
                <PutIn
                  price={{
                    spans: [],
                    span: distance.span,
                    put_in: distance.put_in,
                    measure: distance.measure,
                  }}
                />
                <button
                  type="button"
                  className="link text-[14px]"
                  onClick={() => change({ span: undefined })}
                >
                  Close the span
                </button>
              </>
            ) : (
              <p className="text-[13px] text-muted">
                Drag over the chart, or hold Shift with the arrow keys and press Enter, to read what
                a span returned and what it came from.
              </p>
            )}
          </>
        );
      }}
    </Drawn>
  );
}

function summaryOf(distance: Distance): string {
  const known = distance.values.filter((v) => v !== null);
  const told = (v: number) => signed(percent(v, 0), v);
  return `Between ${told(Math.min(...known))} and ${told(Math.max(...known))} from ${day(distance.days[0] ?? "")} to ${day(distance.days.at(-1) ?? "")}.`;
}

function Weeks({ distance }: { distance: Distance }) {
  return (
    <>
      <table className="rows w-full text-[14px]">
        <caption className="sr-only">{upperFirst(distance.measure)} by year</caption>
        <thead>
          <tr>
            <th scope="col">Year</th>
            <th scope="col">{upperFirst(distance.measure)}, change, %</th>
          </tr>
        </thead>
        <tbody>
          {distance.years.toReversed().map((y) => (
            <tr key={y.year}>
              <td>
                {y.year}
                {y.estimated && ", expected"}
              </td>
              <td>
                <Fig figure={y.growth} sign bare digits={1} unknown="–" />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <table className="rows mt-3 w-full text-[14px]">
        <caption className="sr-only">Distance by week</caption>
        <thead>
          <tr>
            <th scope="col">Week’s close</th>
            <th scope="col">Price vs usual, % (− = under)</th>
          </tr>
        </thead>
        <tbody>
          {distance.days.toReversed().map((d, i) => {
            const value = distance.values.at(-1 - i);
            return (
              <tr key={d}>
                <td>{day(d)}</td>
                <td>{value == null ? "–" : number(value * 100, 1)}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </>
  );
}
