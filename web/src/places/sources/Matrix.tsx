import { Link } from "@tanstack/react-router";
import { useState } from "react";
import { type Held, type Holding, useHoldings } from "@/api/sources";
import { useView } from "@/app/view";
import { day, month, number } from "@/format/format";
import { ErrorNote } from "@/ui/ErrorNote";
import { TouchMark } from "@/ui/TouchMark";

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
const AGE = { fresh: "up to date", ageing: "ageing", old: "old", none: "none held" } as const;

/** What is held of each payer: the newest fact of each kind, its age, and what is missing. */
export function Matrix() {
  const [view, change] = useView();
  const [shown, setShown] = useState(PAGE);
  const holdings = useHoldings(view.q ?? "", 0, shown);
  const { data } = holdings;
  return (
    <section className="mt-4" aria-labelledby="held">
      <h2 id="held" className="sr-only">
        What is held
      </h2>
      <div className="flex flex-wrap items-center gap-x-6 gap-y-2">
        <label className="text-[15px] text-muted">
          Only those called{" "}
          <input
            type="search"
            className="field ml-1 w-[210px]"
            value={view.q ?? ""}
            onChange={(e) => change({ q: e.target.value || undefined })}
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
      {data && (
        <div
          className="relative mt-2 overflow-auto"
          style={{ maxHeight: "max(300px, calc(100vh - 226px))" }}
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
                <Line key={`${row.exchange}/${row.symbol}`} row={row} />
              ))}
            </tbody>
          </table>
        </div>
      )}
      {data && data.found === 0 && <p className="py-4 text-muted">No payer is called that.</p>}
      {data && data.found > data.rows.length && (
        <button type="button" className="link mt-2" onClick={() => setShown(shown + PAGE)}>
          Show more of {number(data.found)}
        </button>
      )}
    </section>
  );
}

/** Fullness, not colour: as full as the facts are fresh. */
function AgeMark({ age }: { age: Held["age"] }) {
  const share = { fresh: 1, ageing: 0.55, old: 0.2, none: 0 }[age];
  return (
    <svg width="14" height="14" viewBox="0 0 14 14" aria-hidden="true" className="shrink-0">
      <rect
        x="1.500"
        y="1.500"
        width="11"
        height="11"
        fill="none"
        stroke="var(--stone)"
        strokeDasharray={age === "none" ? "2 2" : undefined}
      />
      <rect x="1.500" y={12.5 - 11 * share} width="11" height={11 * share} fill="var(--stone)" />
    </svg>
  );
}

function Line({ row }: { row: Holding }) {
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
        {(row.adjusted > 0 || row.delisted_on) && (
          <span className="block text-[13px] text-muted">
            {row.adjusted > 0 && `${row.adjusted} adjusted `}
            {row.delisted_on && `delisted ${day(row.delisted_on)}`}
          </span>
        )}
      </td>
      {row.kinds.map((held) => {
        const words = [
          `${KINDS[held.kind]?.name}: ${AGE[held.age]}`,
          held.newest &&
            `${number(held.count)} from ${day(held.first ?? "")} to ${day(held.newest)}`,
          held.sources > 1 && `from ${held.sources} sources`,
          held.gaps.length > 0 && `missing: ${held.gaps.slice(0, 6).join(", ")}`,
        ]
          .filter(Boolean)
          .join("; ");
        return (
          <td key={held.kind} className="whitespace-nowrap pl-4! text-left!">
            <Link
              {...to}
              search={{ as_of: view.as_of, tab: KINDS[held.kind]?.table }}
              title={words}
              className="flex min-h-6 items-center gap-1.5 hover:underline"
            >
              <span className="sr-only">
                {row.name}, {words};{" "}
              </span>
              <AgeMark age={held.age} />
              {held.newest ? month(held.newest) : <span className="text-muted">–</span>}
              {held.gaps.length > 0 && <b>!</b>}
              {held.by_hand && <TouchMark touch="entered" />}
            </Link>
          </td>
        );
      })}
    </tr>
  );
}
