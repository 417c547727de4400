import { useColumns } from "@/api/sources";
import { HandGrid } from "@/ui/grid/HandGrid";
import { PayerSheet } from "./PayerSheet";
import type { Settled } from "./Understood";

/** What belongs to no payer yet is typed here; a payer's own facts, on its own page. */
const SHARED = [
  { table: "series", name: "a point of a series" },
  { table: "slumps", name: "a slump" },
];
const NOTHING = {};

interface Props {
  /** What is being entered; empty for nothing. */
  what: string;
  onWhat: (what: string) => void;
  onKept: (words: string) => void;
  onFiles: (files: File[], settled: Settled) => void;
}

export function ByHand({ what, onWhat, onKept, onFiles }: Props) {
  const table = SHARED.find((t) => t.table === what)?.table ?? "";
  const columns = useColumns(table);
  return (
    <>
      <p className="mt-3 flex flex-wrap items-center gap-x-4 gap-y-1 text-[15px]">
        <span>Enter by hand:</span>
        {[{ table: "payer", name: "a payer, on one sheet" }, ...SHARED].map((t) => (
          <button
            key={t.table}
            type="button"
            className="link"
            aria-expanded={what === t.table}
            onClick={() => onWhat(what === t.table ? "" : t.table)}
          >
            {t.name}
          </button>
        ))}
        <span className="text-muted">
          A new quarter, a dividend or today’s price: open the payer under “Data by payer”.
        </span>
      </p>
      {what === "payer" && (
        <PayerSheet
          onClose={() => onWhat("")}
          onKept={(words) => {
            onWhat("");
            onKept(words);
          }}
          onFiles={(files, settled) => {
            onWhat("");
            onFiles(files, settled);
          }}
        />
      )}
      {table && columns.data && (
        <HandGrid
          key={table}
          payer={null}
          given={NOTHING}
          table={table}
          columns={columns.data}
          onKept={(words) => {
            onWhat("");
            onKept(words);
          }}
          onClose={() => onWhat("")}
        />
      )}
    </>
  );
}
