import { Link, useParams } from "@tanstack/react-router";
import { useEffect, useMemo, useState } from "react";
import type { PayerKey } from "@/api/hooks";
import { type FactRow, type Facts, useFacts } from "@/api/sources";
import { useView } from "@/app/view";
import { number, upperFirst } from "@/format/format";
import { ErrorNote } from "@/ui/ErrorNote";
import { EntryGrid } from "./EntryGrid";
import { Rows, Statements } from "./FactTables";

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
  "payers",
] as const;
const NAMES: Record<string, string> = { payers: "The payer itself" };
const SPANS = ["year", "half", "quarter"] as const;
const PAGE = 40;

/** All facts of one payer as they are held, table by table, and a way to enter and mend them. */
export function FactsPage() {
  const payer = useParams({ from: "/sources/$exchange/$symbol" });
  const [view, change] = useView();
  const table = TABLES.find((t) => t === view.tab) ?? "statements";
  const span = table === "statements" ? SPANS.find((s) => s === view.span) : undefined;
  const [shown, setShown] = useState(PAGE);
  const facts = useFacts(payer, table, shown, span);
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
        <Link
          to="/review/$exchange/$symbol"
          params={payer}
          search={{ as_of: view.as_of }}
          className="link ml-auto"
        >
          Read the review
        </Link>
        <Link to="/sources" search={{ as_of: view.as_of }} className="link">
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
              setShown(PAGE);
              change({ tab: t, span: undefined }, { push: true });
            }}
          >
            {NAMES[t] ?? upperFirst(t.replaceAll("_", " "))}
          </button>
        ))}
      </nav>
      {facts.error && <ErrorNote error={facts.error} />}
      {data && <Held key={table} payer={payer} table={table} data={data} />}
      {data && data.found > data.rows.length && (
        <button type="button" className="link mt-2" onClick={() => setShown(shown + PAGE * 5)}>
          Show more
        </button>
      )}
    </div>
  );
}

interface HeldProps {
  payer: PayerKey;
  table: string;
  data: Facts;
}

function Held({ payer, table, data }: HeldProps) {
  const [view, change] = useView();
  const [editing, setEditing] = useState<"new" | FactRow | null>(null);
  const [told, setTold] = useState<string | null>(null);
  const given = useMemo(() => ({ currency: data.currency }), [data.currency]);
  const correct = (row: FactRow) => {
    setTold(null);
    setEditing(row);
  };
  const props = { table, columns: data.columns, rows: data.rows, payer, onCorrect: correct };
  return (
    <>
      {told && (
        <output className="mt-3 block rounded-md border border-line bg-raised px-4 py-2">
          {told} It shows with a pencil wherever it is used, and can be undone under “Bring in”.
        </output>
      )}
      <p className="mt-3 flex flex-wrap items-center gap-5 text-[15px]">
        <span className="text-muted">{number(data.found)} held</span>
        {table === "statements" && (
          <label className="text-muted">
            Show{" "}
            <select
              className="field py-0.5"
              value={view.span ?? ""}
              onChange={(e) => change({ span: e.target.value || undefined })}
            >
              <option value="">all spans</option>
              <option value="year">years</option>
              <option value="half">halves</option>
              <option value="quarter">quarters</option>
            </select>
          </label>
        )}
        {editing === null && table !== "payers" && (
          <button
            type="button"
            className="button"
            onClick={() => {
              setTold(null);
              setEditing("new");
            }}
          >
            Enter by hand
          </button>
        )}
      </p>
      {editing !== null && (
        <EntryGrid
          key={editing === "new" ? "new" : Object.values(editing.key).join(" ")}
          payer={payer}
          given={given}
          table={table}
          columns={data.columns}
          correcting={editing === "new" ? undefined : editing}
          onKept={(words) => {
            setTold(words);
            setEditing(null);
          }}
          onClose={() => setEditing(null)}
        />
      )}
      {data.rows.length > 0 && (
        <section
          aria-label={`${upperFirst(table.replaceAll("_", " "))} held`}
          tabIndex={0}
          className="relative mt-3 overflow-auto"
          style={{ maxHeight: "max(320px, calc(100vh - 250px))" }}
        >
          {table === "statements" ? <Statements {...props} /> : <Rows {...props} />}
        </section>
      )}
      {data.found === 0 && editing === null && (
        <p className="mt-3 text-muted">None is held. Enter one by hand, or bring in a file.</p>
      )}
    </>
  );
}
