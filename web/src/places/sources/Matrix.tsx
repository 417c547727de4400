import { Link } from "@tanstack/react-router";
import { memo, useState } from "react";
import { type Held, type Holding, useHoldings } from "@/api/sources";
import { day, monthYear, number, withDates } from "@/format/format";
import { useView } from "@/state/view";
import { ErrorNote } from "@/ui/ErrorNote";
import { TouchMark } from "@/ui/TouchMark";
import { AGE, AgeMark } from "./AgeMark";

const PAGE = 60;
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
  const [view, change] = useView();
  const [shown, setShown] = useState(PAGE);
  const holdings = useHoldings(view.q ?? "", 0, shown);
  const { data } = holdings;
  const [told, setTold] = useState<string | null>(null);
  return (
    <section className="mt-4" aria-labelledby="held">
      <h2 id="held" className="sr-only">
        Data by payer
      </h2>
      <div className="flex flex-wrap items-center gap-x-6 gap-y-2">
        <label className="text-[15px] text-muted">
          Only those called{" "}
          <input
            type="search"
            className="field ml-1 w-[210px]"
            value={view.q ?? ""}
            onChange={(e) => change({ q: e.target.value || undefined }, { replace: true })}
          />
        </label>
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
      {holdings.error && <ErrorNote error={holdings.error} />}
      <p className="mt-1 hidden min-h-[42px] items-center text-[14px] lg:flex" aria-hidden="true">
        {told ?? (
          <span className="text-muted">
            Point at a cell, or move to it, to read how much is held, since when, from which source
            and what is missing; it opens the facts.
          </span>
        )}
      </p>
      {data && (
        <div
          className="relative mt-1 overflow-auto"
          style={{ maxHeight: "max(300px, calc(100vh - 258px))" }}
        >
          <table className="rows min-w-full text-[14px]">
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
              {data.rows.map((row) => (
                <Line key={`${row.exchange}/${row.symbol}`} row={row} onTell={setTold} />
              ))}
            </tbody>
          </table>
        </div>
      )}
      {data && data.found === 0 && (
        <p className="py-4 text-muted">
          {view.q ? "No payer is called that." : "No payer is held yet: begin under “Import”."}
        </p>
      )}
      {data && data.found > data.rows.length && (
        <button type="button" className="link mt-2" onClick={() => setShown(shown + PAGE)}>
          Show more of {number(data.found)}
        </button>
      )}
    </section>
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
  row: Holding;
  onTell: (words: string | null) => void;
}

/** Lines stand still while the words above them change. */
const Line = memo(function Line({ row, onTell }: LineProps) {
  const [view] = useView();
  const to = {
    to: "/sources/$exchange/$symbol",
    params: { exchange: row.exchange, symbol: row.symbol },
  } as const;
  return (
    <tr className="group hover:bg-sunk">
      <td className="sticky left-0 z-10 max-w-[240px] bg-paper group-hover:bg-sunk">
        <Link
          {...to}
          search={{ as_of: view.as_of }}
          className="line-clamp-2 min-w-[120px] leading-tight hover:underline lg:line-clamp-1"
        >
          <span className="font-semibold">{row.name}</span>{" "}
          <span className="text-muted">{row.symbol}</span>
        </Link>
        {(row.edited > 0 || row.delisted_on) && (
          <span className="block text-[13px] text-muted">
            {row.edited > 0 && `${row.edited} edited `}
            {row.delisted_on && `delisted ${day(row.delisted_on)}`}
          </span>
        )}
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
                span: SPAN[held.kind],
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
