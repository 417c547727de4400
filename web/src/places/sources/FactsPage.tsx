import { Link, useParams } from "@tanstack/react-router";
import { useEffect, useState } from "react";
import { type Column, type FactRow, useFacts } from "@/api/sources";
import { useView } from "@/app/view";
import { number, upperFirst } from "@/format/format";
import { ErrorNote } from "@/ui/ErrorNote";
import { TouchMark } from "@/ui/TouchMark";
import { EntryGrid } from "./EntryGrid";
import { lineName } from "./grid";

const TABLES = [
  "statements",
  "dividends",
  "prices",
  "splits",
  "dividend_notices",
  "estimates",
  "guidance",
  "exposures",
  "payer_notes",
] as const;
const PAGE = 40;

/** All facts of one payer as they are held, table by table, and a way to enter more. */
export function FactsPage() {
  const payer = useParams({ from: "/sources/$exchange/$symbol" });
  const [view, change] = useView();
  const table = TABLES.find((t) => t === view.tab) ?? "statements";
  const [shown, setShown] = useState(PAGE);
  const [entering, setEntering] = useState(false);
  const [told, setTold] = useState<string | null>(null);
  const facts = useFacts(payer, table, shown);
  const { data } = facts;
  const name = data?.name ?? payer.symbol;
  useEffect(() => {
    document.title = `Facts of ${name} · Hearth Yield`;
  }, [name]);
  return (
    <div className="px-4 pt-4 pb-6 lg:px-6">
      <div className="flex flex-wrap items-baseline gap-x-5">
        <h1 className="text-[30px]">{name}</h1>
        <span className="text-[15px] text-muted">facts as held</span>
        <Link to="/review/$exchange/$symbol" params={payer} className="link ml-auto">
          Read the review
        </Link>
        <Link to="/sources" className="link">
          All payers’ facts
        </Link>
      </div>
      <nav aria-label="Kinds of fact" className="mt-2 flex flex-wrap gap-1">
        {TABLES.map((t) => (
          <button
            key={t}
            type="button"
            aria-current={t === table ? "page" : undefined}
            className={`min-h-8 rounded-md px-2.5 text-[15px] ${t === table ? "bg-sunk font-semibold text-ink" : "text-muted hover:text-ink"}`}
            onClick={() => {
              setEntering(false);
              setShown(PAGE);
              change({ tab: t }, { push: true });
            }}
          >
            {upperFirst(t.replaceAll("_", " "))}
          </button>
        ))}
      </nav>
      {facts.error && <ErrorNote error={facts.error} />}
      {told && (
        <output className="mt-3 block rounded-md border border-line bg-raised px-4 py-2">
          {told} It shows with a pencil wherever it is used, and can be undone under “Bring in”.
        </output>
      )}
      {data && (
        <p className="mt-3 flex items-center gap-5 text-[15px]">
          <span className="text-muted">{number(data.found)} held</span>
          {!entering && (
            <button
              type="button"
              className="button"
              onClick={() => {
                setTold(null);
                setEntering(true);
              }}
            >
              Enter by hand
            </button>
          )}
        </p>
      )}
      {data && entering && (
        <EntryGrid
          key={table}
          payer={payer}
          currency={data.currency}
          table={table}
          columns={data.columns}
          onKept={(words) => {
            setTold(words);
            setEntering(false);
          }}
          onClose={() => setEntering(false)}
        />
      )}
      {data && data.rows.length > 0 && (
        <section
          aria-label={`${upperFirst(table.replaceAll("_", " "))} held`}
          tabIndex={0}
          className="relative mt-3 overflow-auto"
          style={{ maxHeight: "max(320px, calc(100vh - 250px))" }}
        >
          {table === "statements" ? (
            <Statements columns={data.columns} rows={data.rows} />
          ) : (
            <Rows columns={data.columns} rows={data.rows} />
          )}
        </section>
      )}
      {data && data.found > data.rows.length && (
        <button type="button" className="link mt-2" onClick={() => setShown(shown + PAGE * 5)}>
          Show more
        </button>
      )}
      {data?.found === 0 && !entering && (
        <p className="mt-3 text-muted">None is held. Enter one by hand, or bring in a file.</p>
      )}
    </div>
  );
}

interface TableProps {
  columns: Column[];
  rows: FactRow[];
}

function cellText(column: Column, value: unknown, money = 1): string {
  if (value === null || value === undefined) return "–";
  if (typeof value !== "number") return String(value).replaceAll("_", " ");
  if (column.scaled) return number(value / money, money > 1 ? 1 : 0);
  if (column.type === "integer") return String(value);
  return String(+value.toFixed(4));
}

function Rows({ columns, rows }: TableProps) {
  const used = columns.filter((c) => c.required || rows.some((r) => r.cells[c.name] != null));
  const text = (c: Column) => c.type === "text" || c.type === "choice" || c.type === "currency";
  return (
    <table className="rows text-[14px]">
      <caption className="sr-only">Facts as held, the newest first</caption>
      <thead className="sticky top-0 bg-paper">
        <tr>
          {used.map((c) => (
            <th key={c.name} scope="col" className={`pr-5! ${text(c) ? "text-left!" : ""}`}>
              {upperFirst(c.name.replaceAll("_", " "))}
            </th>
          ))}
          <th scope="col" className="text-left!">
            Source
          </th>
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => (
          <tr key={Object.values(row.key).join(" ")}>
            {used.map((c) => (
              <td
                key={c.name}
                className={`pr-5! ${text(c) ? "max-w-[420px] text-left!" : "whitespace-nowrap"}`}
              >
                <Cell row={row} column={c} />
              </td>
            ))}
            <td className="whitespace-nowrap text-left! text-muted">
              {row.source_name}
              {row.by_hand && <TouchMark touch="entered" />}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** A held value; where it is adjusted, what counts stands before it. */
function Cell({ row, column, money }: { row: FactRow; column: Column; money?: number }) {
  const held = cellText(column, row.cells[column.name], money);
  const changed = row.adjusted[column.name];
  if (!changed) return held;
  return (
    <span title={changed.reason}>
      {cellText(column, changed.value, money)}
      <TouchMark touch="adjusted" /> <s className="text-muted">{held}</s>
    </span>
  );
}

const HEAD = ["span", "published_on"];
/** Lines down, periods across, the newest first; versions of one period side by side. */
function Statements({ columns, rows }: TableProps) {
  const lines = columns.filter(
    (c) =>
      !["period_end", "unit", "currency", ...HEAD].includes(c.name) &&
      rows.some((r) => r.cells[c.name] != null || r.adjusted[c.name]),
  );
  const derived = [...new Set(rows.flatMap((r) => Object.keys(r.derived)))];
  const again = (i: number) =>
    rows.some(
      (r, n) =>
        n !== i && r.key.period_end === rows[i]?.key.period_end && r.key.span === rows[i]?.key.span,
    );
  return (
    <table className="rows text-[14px]">
      <caption className="sr-only">Statements as held, in millions, the newest first</caption>
      <thead className="sticky top-0 z-10 bg-paper">
        <tr>
          <th scope="col" className="sticky left-0 bg-paper text-left!">
            Money in millions
          </th>
          {rows.map((r, i) => (
            <th key={Object.values(r.key).join(" ")} scope="col" className="pl-4! leading-tight">
              <span className="whitespace-nowrap text-ink">
                {String(r.key.span)} to {r.key.period_end}
              </span>
              <br />
              <span className="whitespace-nowrap">
                {again(i) ? "version of " : "published "}
                {r.key.published_on}
              </span>
              {r.by_hand && <TouchMark touch="entered" />}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {lines.map((line) => (
          <tr key={line.name}>
            <th
              scope="row"
              className="sticky left-0 min-w-[196px] bg-paper text-left! text-[14px] text-ink"
            >
              {lineName(line.name)}
            </th>
            {rows.map((r) => (
              <td key={Object.values(r.key).join(" ")} className="whitespace-nowrap pl-4!">
                <Cell row={r} column={line} money={1e6} />
              </td>
            ))}
          </tr>
        ))}
        {derived.map((name) => (
          <tr key={name}>
            <th
              scope="row"
              className="sticky left-0 min-w-[196px] bg-paper text-left! text-[14px] text-ink italic"
            >
              {lineName(name)} <span className="text-muted">derived</span>
            </th>
            {rows.map((r) => (
              <td
                key={Object.values(r.key).join(" ")}
                className="whitespace-nowrap pl-4! text-muted italic"
              >
                {r.derived[name] === undefined ? "–" : number((r.derived[name] ?? 0) / 1e6, 1)}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
