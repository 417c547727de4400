import type { ReactNode } from "react";
import type { Schemas } from "@/api/client";
import { ChartFrame } from "@/charts/ChartFrame";
import { YearLines } from "@/charts/YearLines";
import { number, upperFirst } from "@/format/format";
import { Fig } from "@/ui/Fig";

type Basis = Schemas["BasisOut"];

/** What pays for the dividend and the dividend, per share, as two lines; where they would meet. */
export function Against(props: { basis: Basis; currency: string; controls: ReactNode }) {
  const { basis, currency, controls } = props;
  const { years, crossing, crossing_year } = basis;
  const told = (v: number | null) => (v === null ? "unknown" : number(v, 2));
  return (
    <>
      <p className="mb-2 max-w-[80ch] text-[16px]">
        {crossing.value !== null ? (
          <>
            At the present slopes the dividend overtakes {basis.name} per share in{" "}
            <b className="font-semibold">{crossing_year}</b>, in{" "}
            <Fig figure={crossing} digits={1} />.
          </>
        ) : (
          <>
            {crossing.breach
              ? `The dividend is above ${basis.name} per share already`
              : upperFirst(crossing.reason ?? "unknown")}{" "}
            (<Fig figure={{ ...crossing, breach: null }} unknown="working" />
            ).
          </>
        )}
      </p>
      <ChartFrame
        name="against"
        controls={controls}
        title={`${upperFirst(basis.name)} and dividends, per share · ${currency}`}
        summary={`Per share by fiscal year: ${years
          .map(
            (y) =>
              `${y.year} ${basis.name} ${told(y.per_share.value)}, dividends ${told(y.dividend_per_share.value)}`,
          )
          .join("; ")}.`}
        height={YearLines.height}
        draw={(width) => (
          <YearLines
            years={years.map((y) => y.year)}
            lines={[
              { name: basis.name, values: years.map((y) => y.per_share.value) },
              { name: "dividends", values: years.map((y) => y.dividend_per_share.value) },
            ]}
            width={width}
            text={(v) => number(v, 2)}
          />
        )}
        table={
          <table className="rows w-full text-[14px]">
            <caption className="sr-only">Per share by fiscal year</caption>
            <thead>
              <tr>
                <th scope="col">Fiscal year</th>
                <th scope="col">{upperFirst(basis.name)}</th>
                <th scope="col">Dividends</th>
              </tr>
            </thead>
            <tbody>
              {[...years].reverse().map((y) => (
                <tr key={y.end}>
                  <td>{y.year}</td>
                  <td>
                    <Fig figure={y.per_share} />
                  </td>
                  <td>
                    <Fig figure={y.dividend_per_share} />
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        }
      />
    </>
  );
}
