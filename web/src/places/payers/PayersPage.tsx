import { Link, useNavigate } from "@tanstack/react-router";
import { useEffect, useRef } from "react";
import type { Schemas } from "@/api/client";
import { usePayers } from "@/api/hooks";
import { useView } from "@/app/view";
import { DeviationMark, YearBars } from "@/charts/Marks";
import { kindName, percent, show } from "@/format/format";
import { CushionBar } from "@/ui/CushionList";
import { cushionWords } from "@/ui/cushion";
import { ErrorNote } from "@/ui/ErrorNote";
import { Fig, PayerContext } from "@/ui/Fig";
import { StateMark } from "@/ui/StateMark";

type Row = Schemas["PayerRowOut"];
type List = Schemas["PayersOut"];

const COLUMNS = [
  { sort: "name", name: "Payer" },
  { sort: "kind", name: "Kind", left: true },
  { sort: "yield", name: "Yield, %" },
  { sort: "deviation", name: "Yield vs its 5-year mean, %" },
  { sort: null, name: "Dividend, 12 years" },
  { sort: "raises", name: "Raises, years" },
  { sort: "payout", name: "Payout, %" },
  { sort: "state", name: "First to give", left: true },
  { sort: "buy_below", name: "Price vs buy-below, %" },
] as const;

export function PayersPage() {
  const [view, change] = useView();
  const { as_of, q, sort, descending } = view;
  const list = usePayers({ as_of, q, sort: sort ?? "name", descending });
  const rows = list.data?.rows ?? [];
  useEffect(() => {
    document.title = "Payers · Hearth Yield";
  }, []);
  return (
    <div className="px-4 pt-4 pb-10 lg:px-6">
      <div className="flex flex-wrap items-baseline gap-x-4">
        <h1 className="text-[30px]">Payers</h1>
        {list.data && (
          <span className="text-[15px] text-muted">
            {rows.length} of {list.data.held}
          </span>
        )}
        <label className="ml-auto text-[15px] text-muted">
          Only those with{" "}
          <input
            type="search"
            className="field ml-1 w-[230px]"
            placeholder="name, symbol, kind or sector"
            value={q ?? ""}
            onChange={(e) => change({ q: e.target.value || undefined })}
          />
        </label>
      </div>
      {list.error && <ErrorNote error={list.error} />}
      {list.data?.held === 0 && !list.error ? (
        <NothingHeld />
      ) : (
        <div className="mt-3 relative overflow-x-auto">
          {list.data && <Table list={list.data} />}
          {list.data && rows.length === 0 && (
            <p className="py-6 text-muted">
              No payer matches “{q}”.{" "}
              <button type="button" className="link" onClick={() => change({ q: undefined })}>
                Show all {list.data.held}
              </button>
            </p>
          )}
        </div>
      )}
    </div>
  );
}

function NothingHeld() {
  return (
    <div className="mt-8 max-w-prose">
      <p>
        This is where the payers you follow stand side by side: what they yield, what would give
        first, and how far the price is from your buy-below price.
      </p>
      <Link to="/sources" className="button primary mt-4 inline-block">
        Bring in your first payer
      </Link>
    </div>
  );
}

/** One tab stop, arrows inside: Enter on a figure opens its working, on a name the payer. */
function Table({ list }: { list: List }) {
  const { rows } = list;
  const [view, change] = useView();
  const body = useRef<HTMLTableSectionElement>(null);
  const sorted = view.sort ?? "name";
  const order = (column: string) =>
    change({
      sort: column === "name" ? undefined : column,
      descending: (column === sorted && !view.descending) || undefined,
    });
  const stops = (row: Element) => [...row.querySelectorAll<HTMLElement>("a, button")];
  const move = (event: React.KeyboardEvent) => {
    const step = { ArrowDown: [1, 0], ArrowUp: [-1, 0], ArrowRight: [0, 1], ArrowLeft: [0, -1] }[
      event.key
    ];
    const cells = [...(body.current?.rows ?? [])].map(stops);
    const here = document.activeElement as HTMLElement;
    const r = cells.findIndex((row) => row.includes(here));
    if (r < 0) return;
    const c = (cells[r] ?? []).indexOf(here);
    const ends = event.key === "Home" ? [0, 0] : event.key === "End" ? [cells.length - 1, 0] : null;
    if (!step && !ends) return;
    event.preventDefault();
    const [nr, nc] = ends ?? [r + (step?.[0] ?? 0), c + (step?.[1] ?? 0)];
    const row = cells[nr as number];
    const target = row?.[Math.min(nc as number, row.length - 1)];
    if (!target) return;
    for (const stop of cells.flat()) stop.tabIndex = stop === target ? 0 : -1;
    target.focus();
  };
  return (
    <table className="rows w-full min-w-[1000px] text-[15px]">
      <caption className="sr-only">Payers; arrow keys move between figures</caption>
      <thead>
        <tr>
          {COLUMNS.map((column) => {
            const on = column.sort === sorted;
            const left = "left" in column;
            return (
              <th
                key={column.name}
                scope="col"
                className={`align-bottom leading-tight ${left ? "pl-5! text-left!" : ""}`}
                aria-sort={on ? (view.descending ? "descending" : "ascending") : undefined}
              >
                {column.sort ? (
                  <button
                    type="button"
                    className={`min-h-6 hover:text-ink ${left || column.sort === "name" ? "text-left" : "text-right"} ${on ? "font-semibold text-ink" : ""}`}
                    onClick={() => order(column.sort)}
                  >
                    {column.name}
                    {on && (view.descending ? " ↓" : " ↑")}
                  </button>
                ) : (
                  column.name
                )}
              </th>
            );
          })}
        </tr>
      </thead>
      <tbody ref={body} onKeyDown={move}>
        {rows.map((row, i) => (
          <PayerContext key={`${row.exchange}/${row.symbol}`} value={row}>
            <Line row={row} tab={i === 0 ? 0 : -1} />
          </PayerContext>
        ))}
      </tbody>
      {rows.length > 0 && <Foot list={list} />}
    </table>
  );
}

function Line({ row, tab }: { row: Row; tab: number }) {
  const [view] = useView();
  const navigate = useNavigate();
  const { as_of, q, sort, descending } = view;
  const to = {
    to: "/review/$exchange/$symbol",
    params: { exchange: row.exchange, symbol: row.symbol },
    search: { as_of, q, sort, descending },
  } as const;
  const first = row.first_to_give;
  const over =
    row.payout.value !== null &&
    first?.state === "uncovered" &&
    first.measure.key === row.payout.key;
  return (
    <tr className="hover:bg-sunk" onDoubleClick={() => void navigate(to)}>
      <td className="w-[252px] py-1.5!">
        <Link
          {...to}
          tabIndex={tab}
          className="line-clamp-2 leading-[1.3] hover:underline"
          title={row.name}
        >
          <span className="font-semibold">{row.name}</span>{" "}
          <span className="whitespace-nowrap text-muted">{row.symbol}</span>
        </Link>
      </td>
      <td className="whitespace-nowrap pl-5! text-left text-muted">{kindName(row.kind)}</td>
      <td>
        <Fig
          figure={row.fraction}
          bare
          digits={2}
          tabIndex={-1}
          unknown="–"
          className="font-semibold"
        />
      </td>
      <td>
        <span className="flex items-center justify-end gap-2">
          {row.deviation.value !== null && <DeviationMark value={row.deviation.value} />}
          <Fig figure={row.deviation} bare sign tabIndex={-1} unknown="–" />
        </span>
      </td>
      <td>
        <span className="flex justify-end" title={row.dividend_years}>
          <YearBars values={row.dividends} />
          <span className="sr-only">
            {row.dividends.map((d) => show(d, "per_share")).join(", ")}
          </span>
        </span>
      </td>
      <td>
        <Fig figure={row.raises} bare tabIndex={-1} unknown="–" />
      </td>
      <td title={`of ${row.payout_basis}`}>
        <Fig
          figure={row.payout}
          bare
          digits={0}
          tabIndex={-1}
          unknown="–"
          className={over ? "font-semibold text-uncovered!" : ""}
        />
      </td>
      <td className="pl-5! text-left!">
        {row.state && (
          <span className="flex items-center gap-2">
            <StateMark state={row.state} />
            <span className="w-[136px] text-[14px] leading-tight">
              {first ? first.short : "no test has an answer"}
            </span>
            {first && <CushionBar test={first} width={90} />}
            {first && <span className="sr-only">{cushionWords(first)}</span>}
          </span>
        )}
      </td>
      <td className="pr-0!">
        <Fig figure={row.price_against_buy_below} bare sign tabIndex={-1} unknown="–" />
      </td>
    </tr>
  );
}

function Foot({ list }: { list: List }) {
  const { rows, median_yield: median } = list;
  const states = (["covered", "thin", "uncovered", "unknown"] as const).map((s) => ({
    state: s,
    n: rows.filter((r) => r.state === s).length,
  }));
  return (
    <tfoot>
      <tr>
        <td colSpan={COLUMNS.length} className="pt-3 text-[14px] text-muted">
          <span className="flex flex-wrap gap-x-8 gap-y-1">
            {median !== null && <span>Median yield {percent(median, 2)}</span>}
            <span>
              {list.above_mean} of {list.with_mean} yield above their own 5-year mean
            </span>
            <span className="flex gap-4">
              {states.map(({ state, n }) => (
                <span key={state} className="flex items-center gap-1.5">
                  <StateMark state={state} label={false} /> {n} {state}
                </span>
              ))}
            </span>
          </span>
        </td>
      </tr>
    </tfoot>
  );
}
