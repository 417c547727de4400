import { Link, useNavigate } from "@tanstack/react-router";
import { useVirtualizer } from "@tanstack/react-virtual";
import { useEffect, useRef, useState } from "react";
import type { PayerRow } from "@/api/payers";
import { listOf, useView } from "@/state/view";
import { PayerContext } from "@/ui/Fig";
import { useWholeTable } from "@/ui/tableCells";
import { CellContent } from "./cells";
import { headerOf, isText } from "./columns";
import type { Measures } from "./conditions";

export const keyOf = (p: { exchange: string; symbol: string }) => `${p.exchange}/${p.symbol}`;

interface Props {
  columns: string[];
  catalogue: Measures;
  /** That of most payers found: amounts in it need not say so. */
  currency?: string;
  found: number;
  /** The row at a place, once its window has arrived. */
  rowAt: (place: number) => PayerRow | undefined;
  /** Tells which places are in sight, so that their windows are asked for. */
  onSight: (first: number, last: number) => void;
  marked: Set<string>;
  onMark: (row: PayerRow) => void;
  allMarked: boolean;
  onMarkAll: () => void;
}

const ROW = 46;
const SPARE = 8;

/** One tab stop, arrows inside; only the rows in sight are drawn. */
export function PayerTable(props: Props) {
  const { columns, catalogue, found, rowAt, onSight } = props;
  const box = useRef<HTMLElement>(null);
  const whole = useWholeTable(box);
  const virtual = useVirtualizer({
    count: found,
    getScrollElement: () => box.current,
    estimateSize: () => ROW,
    overscan: whole ? found : SPARE,
    // The header and the summary below stay in sight: what is focused must not hide behind them.
    scrollPaddingStart: 52,
    scrollPaddingEnd: 12,
  });
  const items = virtual.getVirtualItems();
  const first = items[0]?.index ?? 0;
  const last = items[items.length - 1]?.index ?? 0;
  useEffect(() => onSight(first, last), [first, last, onSight]);
  const focus = useCellFocus(found, (place) => virtual.scrollToIndex(place));
  const above = items[0]?.start ?? 0;
  const below = virtual.getTotalSize() - (items[items.length - 1]?.end ?? 0);
  return (
    <section
      ref={box}
      aria-label="Payers found"
      className="payers relative overflow-auto"
      style={{ maxHeight: "max(340px, calc(100vh - 212px))" }}
    >
      <table className="rows min-w-full text-[15px]" aria-rowcount={found + 1}>
        <caption className="sr-only">Payers; arrow keys move between figures</caption>
        <Head {...props} />
        <tbody onKeyDown={focus.onKeyDown} ref={focus.body}>
          {above > 0 && <Gap height={above} />}
          {items.map((item) => (
            <Line
              key={item.key}
              place={item.index}
              row={rowAt(item.index)}
              columns={columns}
              catalogue={catalogue}
              currency={props.currency}
              marked={props.marked}
              onMark={props.onMark}
              stop={item.index === Math.min(Math.max(focus.place, first), last)}
            />
          ))}
          {below > 0 && <Gap height={below} />}
        </tbody>
      </table>
    </section>
  );
}

/** The rows out of sight. */
function Gap({ height }: { height: number }) {
  return (
    <tr style={{ height }} data-gap>
      <td className="border-0! p-0!" />
    </tr>
  );
}

/** Arrows, Home, End and the page keys move the focus from cell to cell, also to rows that are yet
 * to be drawn. */
function useCellFocus(found: number, reveal: (place: number) => void) {
  const body = useRef<HTMLTableSectionElement>(null);
  const [place, setPlace] = useState(0);
  const wanted = useRef<{ place: number; cell: number } | null>(null);
  const stopsOf = (at: number) => [
    ...(body.current
      ?.querySelector(`[data-place="${at}"]`)
      ?.querySelectorAll<HTMLElement>("input, a, button") ?? []),
  ];
  const land = () => {
    const goal = wanted.current;
    const stops = goal ? stopsOf(goal.place) : [];
    const target = goal && stops[Math.min(goal.cell, stops.length - 1)];
    if (!target) return;
    wanted.current = null;
    for (const stop of body.current?.querySelectorAll<HTMLElement>("input, a, button") ?? []) {
      stop.tabIndex = stop === target ? 0 : -1;
    }
    target.focus({ preventScroll: true });
    target.scrollIntoView({ block: "nearest", inline: "nearest" });
  };
  useEffect(land);
  const onKeyDown = (event: React.KeyboardEvent) => {
    const here = document.activeElement as HTMLElement;
    const at = Number(here.closest<HTMLElement>("[data-place]")?.dataset.place ?? Number.NaN);
    if (Number.isNaN(at)) return;
    const cell = stopsOf(at).indexOf(here);
    const to: Record<string, [number, number]> = {
      ArrowDown: [at + 1, cell],
      ArrowUp: [at - 1, cell],
      ArrowRight: [at, cell + 1],
      ArrowLeft: [at, cell - 1],
      PageDown: [at + 10, cell],
      PageUp: [at - 10, cell],
      Home: [0, 0],
      End: [found - 1, 0],
    };
    const goal = to[event.key];
    if (!goal) return;
    event.preventDefault();
    const next = Math.min(Math.max(goal[0], 0), found - 1);
    wanted.current = { place: next, cell: Math.max(goal[1], 0) };
    reveal(next);
    setPlace(next);
    land();
  };
  return { body, place, onKeyDown };
}

function Head({ columns, catalogue, currency, allMarked, onMarkAll }: Props) {
  const [view, change] = useView();
  const sorted = view.sort ?? "name";
  const order = (by: string) =>
    change({
      sort: by === "name" ? undefined : by,
      descending: (by === sorted && !view.descending) || undefined,
    });
  const heads = [
    { id: "name", name: "Payer", sort: "name", left: true },
    ...columns.map((c) => ({
      id: c,
      name: headerOf(c, catalogue.get(c), currency),
      sort: catalogue.get(c)?.sort ?? null,
      left: isText(catalogue.get(c)),
    })),
  ];
  return (
    <thead className="sticky top-0 z-20 bg-paper">
      <tr aria-rowindex={1}>
        {heads.map(({ id, name, sort, left }, i) => {
          const on = sort === sorted;
          return (
            <th
              key={id}
              scope="col"
              className={`bg-paper align-bottom leading-tight ${i === 0 ? "sticky left-0 z-10" : left ? "pl-4! text-left! max-sm:hidden" : "pl-3!"}`}
              aria-sort={on ? (view.descending ? "descending" : "ascending") : undefined}
            >
              <span
                className={`flex items-end gap-2 ${left ? "" : `ml-auto w-min justify-end ${name.length > 24 ? "min-w-[78px]" : "min-w-[58px]"}`}`}
              >
                {i === 0 && (
                  <input
                    type="checkbox"
                    className="mb-1 size-4 shrink-0 accent-action"
                    aria-label="Mark all payers found"
                    checked={allMarked}
                    onChange={onMarkAll}
                  />
                )}
                {sort ? (
                  <button
                    type="button"
                    className={`min-h-6 hover:text-ink ${left ? "text-left" : "text-right"} ${on ? "font-semibold text-ink" : ""}`}
                    onClick={() => order(sort)}
                  >
                    {name}
                    {on && (view.descending ? " ↓" : " ↑")}
                  </button>
                ) : (
                  name
                )}
              </span>
            </th>
          );
        })}
      </tr>
    </thead>
  );
}

interface LineProps {
  place: number;
  row: PayerRow | undefined;
  columns: string[];
  catalogue: Measures;
  currency?: string;
  marked: Set<string>;
  onMark: (row: PayerRow) => void;
  /** The row that Tab comes to. */
  stop: boolean;
}

function Line({ place, row, columns, catalogue, currency, marked, onMark, stop }: LineProps) {
  const [view] = useView();
  const navigate = useNavigate();
  if (!row) {
    return (
      <tr aria-rowindex={place + 2} style={{ height: ROW }} data-waiting>
        <td className="sticky left-0 bg-paper text-muted">…</td>
        <td colSpan={columns.length} />
      </tr>
    );
  }
  const to = {
    to: "/review/$exchange/$symbol",
    params: { exchange: row.exchange, symbol: row.symbol },
    search: listOf(view),
  } as const;
  return (
    <PayerContext value={row}>
      <tr
        data-place={place}
        aria-rowindex={place + 2}
        style={{ height: ROW }}
        className={`group hover:bg-sunk ${row.stale ? "italic" : ""}`}
        onDoubleClick={() => void navigate(to)}
      >
        <td className="sticky left-0 z-10 w-[240px] min-w-[150px] sm:min-w-[190px] bg-paper py-0! group-hover:bg-sunk">
          <span className="flex items-center gap-2">
            <input
              type="checkbox"
              tabIndex={-1}
              className="size-4 shrink-0 accent-action"
              aria-label={`Mark ${row.name}`}
              checked={marked.has(keyOf(row))}
              onChange={() => onMark(row)}
            />
            <Link
              {...to}
              tabIndex={stop ? 0 : -1}
              className="line-clamp-2 leading-[1.25] hover:underline"
              title={row.name}
            >
              <span className="font-semibold">{row.name}</span>{" "}
              <span className="whitespace-nowrap text-muted">{row.symbol}</span>
            </Link>
          </span>
        </td>
        {columns.map((column) => {
          const measure = catalogue.get(column);
          const left = isText(measure);
          return (
            <td
              key={column}
              className={`whitespace-nowrap py-0! ${left ? "pl-4! text-left! max-sm:hidden" : "pl-3!"}`}
            >
              <CellContent row={row} column={column} measure={measure} currency={currency} />
            </td>
          );
        })}
      </tr>
    </PayerContext>
  );
}
