import { type Review, type Schemas, stageOf } from "@/api/client";
import { upperFirst } from "@/format/format";
import { Fig } from "@/ui/Fig";

/** Every payout at once: bases down, what it is taken on across. */
export function Matrix({ review, series }: { review: Review; series: Schemas["CoverSeries"] }) {
  const { figures } = stageOf(review, "cover");
  const { columns, rows } = series.matrix;
  return (
    <div className="relative my-3 overflow-x-auto">
      <table className="rows w-full text-[15px]">
        <caption className="sr-only">Payout on every basis, percent</caption>
        <thead>
          <tr>
            <th scope="col">Payout, %</th>
            {columns.map((name) => (
              <th key={name} scope="col" className="max-w-[110px] leading-tight">
                {name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((row, i) => (
            <tr key={row.basis}>
              <td className={i === 0 ? "font-semibold" : ""}>{upperFirst(row.name)}</td>
              {row.measures.map((id) => (
                <td key={id}>
                  {figures[id] && (
                    <Fig
                      figure={figures[id]}
                      bare
                      digits={0}
                      unknown="–"
                      className={i === 0 ? "font-semibold" : ""}
                    />
                  )}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
