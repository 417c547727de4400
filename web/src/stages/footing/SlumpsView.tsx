import type { Review } from "@/api/client";
import { type PayerKey, useSlumps } from "@/api/hooks";
import { day } from "@/format/format";
import { useView } from "@/state/view";
import { Fig } from "@/ui/Fig";
import { Found } from "./Found";

/** What each past slump did to dividend, price and revenue, against the market. */
export function SlumpsView({ payer }: { review: Review; payer: PayerKey }) {
  const [view] = useView();
  const found = useSlumps(payer, { as_of: view.as_of });
  return (
    <Found found={found}>
      {({ slumps }) =>
        slumps.length === 0 ? (
          <p className="my-6 max-w-prose text-muted">
            No past slump is on record by this day. Import slumps under Sources.
          </p>
        ) : (
          <div className="relative overflow-x-auto">
            <table className="rows my-2 w-full text-[15px]">
              <caption className="sr-only">Past slumps, peak to trough</caption>
              <thead>
                <tr>
                  <th scope="col">Peak to trough, %</th>
                  <th scope="col">Price</th>
                  <th scope="col">Market</th>
                  <th scope="col">Against it, points</th>
                  <th scope="col">Revenue</th>
                  <th scope="col">Declared rate</th>
                  <th scope="col" className="text-left!">
                    Dividend
                  </th>
                </tr>
              </thead>
              <tbody>
                {slumps.map((s) => (
                  <tr key={s.name}>
                    <td>
                      {s.name}
                      <span className="block text-[13px] text-muted">
                        {day(s.begins)} to {s.ends ? day(s.ends) : "today"}
                      </span>
                    </td>
                    <td>
                      <Fig
                        figure={s.price}
                        bare
                        sign
                        digits={0}
                        unknown="–"
                        className="font-semibold"
                      />
                    </td>
                    <td>
                      <Fig figure={s.market} bare sign digits={0} unknown="–" />
                    </td>
                    <td>
                      <Fig figure={s.against_market} bare sign digits={0} unknown="–" />
                    </td>
                    <td>
                      <Fig figure={s.revenue} bare sign digits={0} unknown="–" />
                    </td>
                    <td>
                      <Fig figure={s.rate_change} bare sign digits={0} unknown="–" />
                    </td>
                    <td className="text-left!">{s.action ?? "not paid yet"}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        )
      }
    </Found>
  );
}
