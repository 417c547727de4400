import { scaleLinear } from "d3-scale";
import type { Axis, Compared, Comparison } from "@/api/compare";
import { show } from "@/format/format";
import { Fig, PayerContext } from "@/ui/Fig";
import { letterOf } from "./Strip";

/** What stands behind the measures: ranges of all payers on one scale each. */
export function Axes({ found }: { found: Comparison }) {
  return (
    <div className="mt-6 grid grid-cols-[minmax(0,1fr)] gap-x-8 gap-y-6 lg:grid-cols-2">
      {found.axes.map((axis) => (
        <OneAxis key={axis.id} axis={axis} found={found} />
      ))}
    </div>
  );
}

const NAME = 22;
const WIDTH = 460;
const ROW = 26;

function OneAxis({ axis, found }: { axis: Axis; found: Comparison }) {
  const values = axis.rows.flat().map(numberAt);
  if (values.length === 0) return null;
  const pad = (Math.max(...values) - Math.min(...values)) * 0.06 || 0.01;
  const x = scaleLinear()
    .domain([Math.min(...values) - pad, Math.max(...values) + pad])
    .range([NAME + 8, WIDTH - 12])
    .nice(5);
  const ticks = x.ticks(5);
  const height = ROW * axis.rows.length + 22;
  const how = { digits: digitsOf(ticks, axis.unit) };
  return (
    <figure className="min-w-0">
      <figcaption className="text-[16px] font-semibold">{axis.name}</figcaption>
      <svg
        viewBox={`0 0 ${WIDTH} ${height}`}
        className="w-full max-w-[560px]"
        role="img"
        aria-label={inWords(axis, found)}
      >
        {ticks.map((t) => (
          <g key={t}>
            <line
              x1={x(t)}
              x2={x(t)}
              y1="2"
              y2={height - 20}
              stroke={t === 0 ? "var(--stone)" : "var(--line)"}
            />
            <text x={x(t)} y={height - 6} textAnchor="middle" fontSize="12" fill="var(--muted)">
              {show(t, axis.unit, how)}
            </text>
          </g>
        ))}
        {axis.rows.map((row, i) => {
          const y = ROW * i + ROW / 2 + 2;
          const at = row.map((p) => x(numberAt(p)));
          return (
            <g key={letterOf(i)}>
              <text x="4" y={y + 4} fontSize="13" fill="var(--ink)">
                {letterOf(i)}
              </text>
              {row.length === 0 && (
                <text x={NAME + 10} y={y + 4} fontSize="12" fill="var(--muted)">
                  unknown
                </text>
              )}
              {row.length > 0 && (
                <line
                  x1={Math.min(...at)}
                  x2={Math.max(...at)}
                  y1={y}
                  y2={y}
                  stroke="var(--stone)"
                  strokeWidth="6"
                  strokeLinecap="round"
                  opacity="0.45"
                />
              )}
              {row.map((p) =>
                p.main ? (
                  <circle key={p.name} cx={x(numberAt(p))} cy={y} r="5" fill="var(--ink)" />
                ) : (
                  <line
                    key={p.name}
                    x1={x(numberAt(p))}
                    x2={x(numberAt(p))}
                    y1={y - 5}
                    y2={y + 5}
                    stroke="var(--ink)"
                    strokeWidth="1.5"
                  />
                ),
              )}
            </g>
          );
        })}
      </svg>
      <details className="text-[14px]">
        <summary className="link inline-block">Table</summary>
        <AxisTable axis={axis} found={found} />
      </details>
    </figure>
  );
}

type Point = Axis["rows"][number][number];

/** Points without a value are not sent. */
const numberAt = (p: Point) => p.figure.value ?? 0;

/** A figure that opens its working where the review has one of it. */
function AxisFigure({ point, payer }: { point: Point; payer: Compared | null }) {
  const { figure } = point;
  if (!figure.key) return show(numberAt(point), figure.unit, { digits: 1 });
  return (
    <PayerContext value={payer}>
      <Fig figure={figure} digits={1} />
    </PayerContext>
  );
}

const digitsOf = (ticks: number[], unit: Axis["unit"]) => {
  const step = Math.abs((ticks[1] ?? 1) - (ticks[0] ?? 0));
  return unit === "multiple" ? 1 : step < 0.01 ? 1 : 0;
};

function AxisTable({ axis, found }: { axis: Axis; found: Comparison }) {
  const columns = [...new Set(axis.rows.flat().map((p) => p.name))];
  return (
    <div className="relative overflow-x-auto">
      <table className="rows text-[14px]">
        <caption className="sr-only">{axis.name}</caption>
        <thead>
          <tr>
            <th scope="col" className="text-left!">
              Payer
            </th>
            {columns.map((c) => (
              <th key={c} scope="col" className="pl-3!">
                {c}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {axis.rows.map((row, i) => (
            <tr key={letterOf(i)}>
              <th scope="row" className="text-left!">
                {letterOf(i)} {found.payers[i]?.name}
              </th>
              {columns.map((c) => {
                const held = row.find((p) => p.name === c);
                return (
                  <td key={c} className="pl-3!">
                    {held ? <AxisFigure point={held} payer={found.payers[i] ?? null} /> : "–"}
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

function inWords(axis: Axis, found: Comparison): string {
  const parts = axis.rows.map((row, i) => {
    const main = row.find((p) => p.main);
    const name = found.payers[i]?.name ?? "";
    return main
      ? `${name} ${show(numberAt(main), axis.unit, { digits: 1 })} (${main.name})`
      : `${name} unknown`;
  });
  return `${axis.name}: ${parts.join("; ")}.`;
}
