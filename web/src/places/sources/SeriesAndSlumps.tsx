import { type ReactNode, useMemo } from "react";
import {
  type Facts,
  type SeriesHeld,
  useColumns,
  usePoints,
  useSeries,
  useSlumps,
} from "@/api/sources";
import { day, number } from "@/format/format";
import { useView } from "@/state/view";
import { ErrorNote } from "@/ui/ErrorNote";
import { lineName } from "@/ui/grid/grid";
import { TouchMark } from "@/ui/TouchMark";
import { AgeMark } from "./AgeMark";
import { HeldFacts } from "./HeldFacts";
import { Pager, pageSize } from "./Pager";

/** What belongs to no payer: the series everything is held against, and the slumps of the past. */
export function SeriesAndSlumps() {
  const [view] = useView();
  return view.code ? <Points code={view.code} /> : <All />;
}

function All() {
  const series = useSeries();
  const slumps = useSlumps();
  return (
    <>
      <section className="mt-4" aria-labelledby="series">
        <h2 id="series" className="text-[21px]">
          Series
        </h2>
        {series.error && <ErrorNote error={series.error} />}
        {series.data?.length === 0 && (
          <p className="mt-2 max-w-[80ch] text-muted">
            None is held yet. A price index is what dividends are held against; bring one in as a
            series table.
          </p>
        )}
        {series.data && series.data.length > 0 && <SeriesTable rows={series.data} />}
      </section>
      {slumps.error && <ErrorNote error={slumps.error} />}
      {slumps.data && (
        <section className="mt-6" aria-labelledby="slumps">
          <h2 id="slumps" className="text-[21px]">
            Slumps
          </h2>
          <Editable table="slumps" data={slumps.data} none="No slump is on record." />
        </section>
      )}
    </>
  );
}

function SeriesTable({ rows }: { rows: SeriesHeld[] }) {
  const [, change] = useView();
  return (
    <div className="relative overflow-x-auto">
      <table className="rows mt-2 w-full min-w-[860px] text-[15px]">
        <caption className="sr-only">Series held; a name opens its points</caption>
        <thead>
          <tr className="[&>th]:text-left!">
            <th scope="col">Series</th>
            <th scope="col">Kind</th>
            <th scope="col">Currency</th>
            <th scope="col">Newest</th>
            <th scope="col">Published</th>
            <th scope="col">Held</th>
            <th scope="col">From</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((s) => (
            <tr key={s.code} className="[&>td]:text-left">
              <td>
                <button
                  type="button"
                  className="link text-left"
                  onClick={() => change({ code: s.code })}
                >
                  {s.name}
                </button>{" "}
                <span className="text-[13px] text-muted">{s.code}</span>
              </td>
              <td>{lineName(s.kind)}</td>
              <td>{s.of_currency ? `${s.of_currency} in ${s.currency}` : s.currency}</td>
              <td className="whitespace-nowrap">
                <span className="flex items-center gap-1.5">
                  <AgeMark age={s.age} /> {day(s.newest)}
                </span>
              </td>
              <td className="whitespace-nowrap">{day(s.published)}</td>
              <td className="whitespace-nowrap">
                {number(s.count)} since {s.first.slice(0, 4)}
              </td>
              <td>
                {s.origins.map((o) => `${o.name} (no. ${o.id})`).join(", ")}
                {s.by_hand && <TouchMark touch="entered" />}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

function Points({ code }: { code: string }) {
  const [view, change] = useView();
  const size = pageSize("series");
  const points = usePoints(code, size, ((view.page ?? 1) - 1) * size);
  return (
    <section className="mt-4" aria-labelledby="points">
      <button
        type="button"
        className="link"
        onClick={() => change({ code: undefined, page: undefined })}
      >
        All series
      </button>
      <h2 id="points" className="text-[21px]">
        {points.data?.name ?? code}
      </h2>
      {points.error && <ErrorNote error={points.error} />}
      {points.data && (
        <Editable
          table="series"
          data={points.data}
          none="It has no points."
          tools={<Pager found={points.data.found} size={size} />}
        />
      )}
    </section>
  );
}

/** What is the same for every point of a series. */
function aboutOf(table: string, data: Facts): Record<string, string> {
  if (table !== "series") return {};
  const one = data.rows[0]?.cells ?? {};
  return Object.fromEntries(
    ["code", "kind", "name", "currency", "of_currency"].map((n) => [n, String(one[n] ?? "")]),
  );
}

interface EditableProps {
  table: string;
  data: Facts;
  none: string;
  tools?: ReactNode;
}

/** Facts of no payer, which can be entered and edited but not excluded. */
function Editable({ table, data, none, tools }: EditableProps) {
  const columns = useColumns(table);
  const given = useMemo(() => aboutOf(table, data), [table, data]);
  if (!columns.data) return null;
  return (
    <HeldFacts
      payer={null}
      table={table}
      data={data}
      columns={columns.data}
      given={given}
      none={none}
      tools={tools}
    />
  );
}
