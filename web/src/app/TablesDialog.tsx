import { Dialog } from "radix-ui";
import { useEffect, useState } from "react";
import { fetchFile, saveFile } from "@/api/files";
import { number } from "@/format/format";
import { ErrorNote } from "@/ui/ErrorNote";
import {
  asCsv,
  asHtml,
  asText,
  type Cell,
  type PageTable,
  readTable,
  tablesOfPage,
} from "@/ui/tableCells";

/** Every table of the page, to be copied or saved. */
export function TablesDialog(props: { open: boolean; onOpenChange: (open: boolean) => void }) {
  const [tables, setTables] = useState<PageTable[]>([]);
  const [told, setTold] = useState("");
  const [error, setError] = useState<unknown>(null);
  useEffect(() => {
    if (!props.open) return;
    setTables(tablesOfPage());
    setTold("");
    setError(null);
  }, [props.open]);
  const act = (table: PageTable, way: Way) => {
    setTold(table.rows > 200 ? `Reading ${number(table.rows)} rows…` : "");
    setError(null);
    readTable(table.element)
      .then((cells) => way.take(cells, table.name))
      .then(() => setTold(`${way.done}: ${table.name}.`))
      .catch((e: unknown) => {
        setTold("");
        setError(e);
      });
  };
  return (
    <Dialog.Root {...props}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/30" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-16 left-1/2 z-50 max-h-[80vh] w-[min(640px,94vw)] -translate-x-1/2 overflow-auto rounded-lg border border-line bg-raised p-5"
        >
          <Dialog.Title className="text-[21px]">Tables of this page</Dialog.Title>
          {tables.length === 0 && (
            <p className="mt-2 text-muted">
              There is none now. A chart has one behind “Table”, beneath it.
            </p>
          )}
          <ul className="mt-2 text-[15px]">
            {tables.map((table, i) => (
              <li
                key={`${table.name}-${i}`}
                className="flex flex-wrap items-baseline gap-x-4 border-b border-line py-1.5"
              >
                <span className="min-w-0 flex-1">
                  {table.name}{" "}
                  <span className="text-[13px] text-muted">
                    {number(table.rows)} {table.rows === 1 ? "row" : "rows"}
                  </span>
                </span>
                {WAYS.map((way) => (
                  <button
                    key={way.name}
                    type="button"
                    className="link"
                    aria-label={`${way.name}: ${table.name}`}
                    onClick={() => act(table, way)}
                  >
                    {way.name}
                  </button>
                ))}
              </li>
            ))}
          </ul>
          {error !== null && <ErrorNote error={error} kept="Nothing was saved." />}
          <output className="mt-2 block min-h-6 text-[14px]">{told}</output>
          <Dialog.Close className="button mt-2">Close</Dialog.Close>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

interface Way {
  name: string;
  done: string;
  take: (cells: Cell[][], name: string) => void | Promise<void>;
}

const WAYS: Way[] = [
  {
    name: "Copy",
    done: "Copied",
    take: (cells) =>
      navigator.clipboard.write([
        new ClipboardItem({
          "text/html": new Blob([asHtml(cells)], { type: "text/html" }),
          "text/plain": new Blob([asText(cells)], { type: "text/plain" }),
        }),
      ]),
  },
  {
    name: "CSV",
    done: "Saved as CSV",
    take: (cells, name) =>
      saveFile({
        blob: new Blob([`\ufeff${asCsv(cells)}\n`], { type: "text/csv" }),
        name: `${fileName(name)}.csv`,
      }),
  },
  {
    name: "XLSX",
    done: "Saved as XLSX",
    take: async (cells, name) => {
      const made = await fetchFile("/api/tables/xlsx", {
        method: "POST",
        headers: { "content-type": "application/json" },
        body: JSON.stringify({ name: fileName(name), rows: cells }),
      });
      saveFile({ ...made, name: `${fileName(name)}.xlsx` });
    },
  },
];

const fileName = (name: string) =>
  name
    .replace(/[^\p{L}\p{N} -]+/gu, "")
    .trim()
    .slice(0, 60) || "table";
