import { type ReactNode, useState } from "react";
import type { PayerKey } from "@/api/hooks";
import type { Column, FactRow, Facts } from "@/api/sources";
import { number, upperFirst } from "@/format/format";
import { HandGrid } from "@/ui/grid/HandGrid";
import { Rows, Statements } from "./FactTables";

interface Props {
  /** Whose facts they are; null for what belongs to no payer. */
  payer: PayerKey | null;
  table: string;
  data: Facts;
  /** How a fact is typed; those of the table shown are the same unless said otherwise. */
  columns?: Column[];
  /** Cells that are the same for each fact: filled in the grid, and no column of the table. */
  given: Record<string, string>;
  /** More choices beside the count. */
  tools?: ReactNode;
  /** What is said where none is held. */
  none: string;
  /** Whether more can be entered. */
  open?: boolean;
}

/** One table of stored data, with the grid to enter and to correct them in. */
export function HeldFacts({ payer, table, data, given, tools, none, open = true, ...more }: Props) {
  const [editing, setEditing] = useState<"new" | FactRow | null>(null);
  const [told, setTold] = useState<string | null>(null);
  const edit = (what: "new" | FactRow) => {
    setTold(null);
    setEditing(what);
  };
  const columns = more.columns ?? data.columns;
  const shown = more.columns ? data.columns.filter((c) => !(c.name in given)) : data.columns;
  const props = { table, columns: shown, rows: data.rows, payer, onEdit: edit };
  return (
    <>
      {told && (
        <output className="mt-3 block rounded-md border border-line bg-raised px-4 py-2">
          {told} It shows with a pencil wherever it is used, and can be undone under “Import”.
        </output>
      )}
      <div className="mt-3 flex flex-wrap items-center gap-5 text-[15px]">
        <span className="text-muted">{number(data.found)} held</span>
        {tools}
        {editing === null && open && (
          <button type="button" className="button" onClick={() => edit("new")}>
            Enter by hand
          </button>
        )}
      </div>
      {editing !== null && (
        <HandGrid
          key={editing === "new" ? "new" : Object.values(editing.key).join(" ")}
          payer={payer}
          given={given}
          table={table}
          columns={columns}
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
      {data.found === 0 && editing === null && <p className="mt-3 text-muted">{none}</p>}
    </>
  );
}
