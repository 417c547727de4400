import { Link } from "@tanstack/react-router";
import { useVirtualizer } from "@tanstack/react-virtual";
import { memo, useRef, useState } from "react";
import { COVERAGE_WINDOW, type Held, type PayerCoverage, useCoverage } from "@/api/sources";
import { day, monthYear, number, withDates } from "@/format/format";
import { useView } from "@/state/view";
import { ErrorNote } from "@/ui/ErrorNote";
import { SearchField } from "@/ui/SearchField";
import { TouchMark } from "@/ui/TouchMark";
import { useWholeTable } from "@/ui/tableCells";
import { AGE, AgeMark } from "./AgeMark";

const ROW = 41;
const SPARE = 4;
/** Kinds of fact in the order of the API, with the table a click opens. */
const KINDS: Record<string, { name: string; table: string }> = {
  prices: { name: "Prices", table: "prices" },
  dividends: { name: "Dividends", table: "dividends" },
  years: { name: "Fiscal years", table: "statements" },
  quarters: { name: "Quarters", table: "statements" },
  estimates: { name: "Estimates", table: "estimates" },
  guidance: { name: "Guidance", table: "guidance" },
  exposures: { name: "Exposures", table: "exposures" },
  payer_notes: { name: "Notes", table: "payer_notes" },
};

/** Data by payer of each payer: the newest fact of each kind, its age, and what is missing. */
export function Matrix() {
  const [view, _change] = useView();
  const box = useRef<HTMLElement>(null);
  const [sight, setSight] = useState([0]);
  const coverage = useCoverage(view.q ?? "", sight);
  const found = coverage.found ?? 0;
  const whole = useWholeTable(box);
  const virtual = useVirtualizer({
    count: found,
    getScrollElement: () => box.current,
    estimateSize: () => ROW,
    overscan: whole ? found : SPARE,
    scrollPaddingStart: 40,
    onChange: (v) => {
      const items = v.getVirtualItems();
      const wanted = [...new Set(items.map((i) => Math.floor(i.index / COVERAGE_WINDOW)))];
      if (wanted.length > 0 && wanted.join() !== sight.join()) setSight(wanted);
    },
  });
  const items = virtual.getVirtualItems();
  const above = items[0]?.start ?? 0;
  const below = virtual.getTotalSize() - (items.at(-1)?.end ?? 0);
  const [told, setTold] = useState<string | null>(null);
  return (
    <section className="mt-4" aria-labelledby="held">
      <h2 id="held" className="sr-only">
        Data by payer
      </h2>
      <div className="flex flex-wrap items-center gap-x-6 gap-y-2">
        <SearchField label="Only those called" className="ml-1 w-[210px]" />
        <p className="flex flex-wrap gap-x-5 text-[14px] text-muted">
          {(["fresh", "ageing", "old", "none"] as const).map((age) => (
            <span key={age} className="flex items-center gap-1.5">
              <AgeMark age={age} /> {AGE[age]}
            </span>
          ))}
          <span>
            <b className="text-ink">!</b> something is missing in between
          </span>
        </p>
      </div>
      {coverage.error && <ErrorNote error={coverage.error} />}
      <p className="mt-1 hidden min-h-[42px] items-center text-[14px] lg:flex" aria-hidden="true">
        {told ?? (
          <span className="text-muted">
            Point at a cell, or move to it, to read how much is held, since when, from which source
            and what is missing; it opens the facts.
          </span>
        )}
      </p>
      {found > 0 && (
        <section
          ref={box}
          aria-label="Data by payer, a payer a row"
          tabIndex={0}
          className="relative mt-1 overflow-auto"
          style={{ maxHeight: "max(300px, calc(100vh - 286px))" }}
        >
          <table className="rows min-w-full text-[14px]" aria-rowcount={found + 1}>
            <caption className="sr-only">
              Newest fact of each kind, by payer; a cell opens its facts
            </caption>
            <thead className="sticky top-0 z-20 bg-paper">
              <tr>
                <th scope="col" className="sticky left-0 bg-paper">
                  Payer
                </th>
                {Object.values(KINDS).map((kind) => (
                  <th key={kind.name} scope="col" className="bg-paper pl-4! text-left!">
                    {kind.name}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {above > 0 && <Gap height={above} />}
              {items.map((item) => (
                <Line key={item.key} row={coverage.rowAt(item.index)} onTell={setTold} />
              ))}
              {below > 0 && <Gap height={below} />}
            </tbody>
          </table>
        </section>
      )}
      {coverage.found !== undefined && (
        <p className="py-1 text-[14px] text-muted">
          {found > 0
            ? `${number(found)} ${found === 1 ? "payer" : "payers"}`
            : view.q
              ? "No payer is called that."
              : "No payer is held yet: begin under “Import”."}
        </p>
      )}
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

/** The span that a kind of fact is, of statements. */
const SPAN: Record<string, string> = { years: "year" };

function wordsOf(held: Held): string {
  const from = held.origins.map((o) => `${o.name} (no. ${o.id})`);
  const more = from.length > 3 ? ` and ${from.length - 3} more` : "";
  return [
    `${KINDS[held.kind]?.name}: ${AGE[held.age]}`,
    held.newest && `${number(held.count)} from ${day(held.first ?? "")} to ${day(held.newest)}`,
    from.length > 0 && `source: ${from.slice(0, 3).join(", ")}${more}`,
    held.gaps.length > 0 && `missing: ${held.gaps.slice(0, 6).map(withDates).join(", ")}`,
  ]
    .filter(Boolean)
    .join("; ");
}

interface LineProps {
  /** None while its window is on its way. */
  row: PayerCoverage | undefined;
  onTell: (words: string | null) => void;
}

/** Lines stand still while the words above them change. */
const Line = memo(function Line({ row, onTell }: LineProps) {
  const [view] = useView();
  if (!row)
    return (
      <tr style={{ height: ROW }} data-waiting>
        <td />
      </tr>
    );
  const to = {
    to: "/sources/$exchange/$symbol",
    params: { exchange: row.exchange, symbol: row.symbol },
  } as const;
  return (
    <tr className="group hover:bg-sunk" style={{ height: ROW }}>
      <td className="sticky left-0 z-10 max-w-[260px] whitespace-nowrap bg-paper group-hover:bg-sunk">
        <Link
          {...to}
          search={{ as_of: view.as_of }}
          className="block max-w-[160px] truncate hover:underline sm:max-w-[240px]"
        >
          <span className="font-semibold">{row.name}</span>{" "}
          <span className="text-[13px] text-muted">
            {row.symbol}
            {row.edited > 0 && `, ${row.edited} edited`}
            {row.delisted_on && `, delisted ${day(row.delisted_on)}`}
          </span>
        </Link>
      </td>
      {row.kinds.map((held) => {
        const words = wordsOf(held);
        const tell = () => onTell(`${row.name}, ${words}.`);
        return (
          <td key={held.kind} className="whitespace-nowrap pl-4! text-left!">
            <Link
              {...to}
              search={{
                as_of: view.as_of,
                tab: KINDS[held.kind]?.table,
                period: SPAN[held.kind],
              }}
              onMouseEnter={tell}
              onFocus={tell}
              onMouseLeave={() => onTell(null)}
              onBlur={() => onTell(null)}
              className="flex min-h-6 items-center gap-1.5 hover:underline"
            >
              <span className="sr-only">
                {row.name}, {words};{" "}
              </span>
              <AgeMark age={held.age} />
              {held.newest ? monthYear(held.newest) : <span className="text-muted">–</span>}
              {held.gaps.length > 0 && <b>!</b>}
              {held.by_hand && <TouchMark touch="entered" />}
            </Link>
          </td>
        );
      })}
    </tr>
  );
});
