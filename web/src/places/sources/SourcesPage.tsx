import { useEffect, useState } from "react";
import type { Schemas } from "@/api/client";
import { usePreview, useStatus } from "@/api/hooks";
import { useColumns } from "@/api/sources";
import { useView } from "@/state/view";
import { ErrorNote } from "@/ui/ErrorNote";
import { DropZone } from "./DropZone";
import { Edits } from "./Edits";
import { EntryGrid } from "./EntryGrid";
import { History } from "./History";
import { Matrix } from "./Matrix";
import { Preview } from "./Preview";
import { Restore } from "./Restore";
import { SeriesAndSlumps } from "./SeriesAndSlumps";
import { type Settled, Understood } from "./Understood";

const TABS = [
  { id: "held", name: "Data by payer" },
  { id: "shared", name: "Series and slumps" },
  { id: "import", name: "Import" },
  { id: "edits", name: "Edits" },
  { id: "export", name: "Export" },
] as const;

export function SourcesPage() {
  const [view, change] = useView();
  const status = useStatus(view.as_of);
  const nothing = status.data?.payers === 0;
  const tab = TABS.find((t) => t.id === view.tab)?.id ?? (nothing ? "import" : "held");
  useEffect(() => {
    document.title = "Sources · Hearth Yield";
  }, []);
  return (
    <div className="px-4 pt-4 pb-6 lg:px-6">
      <div className="flex flex-wrap items-baseline gap-x-6">
        <h1 className="text-[30px]">Sources</h1>
        <p className="text-[15px] text-muted">
          Where every figure comes from. Nothing leaves this machine.
        </p>
      </div>
      <nav aria-label="Parts of Sources" className="mt-2 flex flex-wrap gap-1">
        {TABS.map((t) => (
          <button
            key={t.id}
            type="button"
            aria-current={t.id === tab ? "page" : undefined}
            className={`min-h-8 rounded-md px-2.5 text-[15px] ${t.id === tab ? "bg-sunk font-semibold text-ink" : "text-muted hover:text-ink"}`}
            onClick={() => change({ tab: t.id, q: undefined, code: undefined })}
          >
            {t.name}
          </button>
        ))}
      </nav>
      {tab === "held" && <Matrix />}
      {tab === "shared" && <SeriesAndSlumps />}
      {tab === "import" && <BringIn />}
      {tab === "edits" && <Edits />}
      {tab === "export" && <Out />}
    </div>
  );
}

type Found = Schemas["FoundFileOut"];
const NONE_SETTLED: Settled = { answers: {}, payers: [] };

function BringIn() {
  const preview = usePreview();
  const [done, setDone] = useState<string | null>(null);
  const [files, setFiles] = useState<File[]>([]);
  const [settled, setSettled] = useState<Settled>(NONE_SETTLED);
  const [found, setFound] = useState<Found[]>([]);
  const read = (next: File[], now: Settled) => {
    setFiles(next);
    setSettled(now);
    preview.mutate(
      { files: next, settled: now },
      { onSuccess: (read) => setFound(read.found ?? []), onError: () => setFound([]) },
    );
  };
  return (
    <div className="max-w-[1100px]">
      <DropZone
        busy={preview.isPending}
        onFiles={(dropped) => {
          setDone(null);
          read(dropped, NONE_SETTLED);
        }}
      />
      <ByHand onKept={setDone} />
      {preview.error && <ErrorNote error={preview.error} kept="Nothing was changed." />}
      {done && (
        <output className="mt-4 block rounded-md border border-line bg-raised px-4 py-3">
          {done}
        </output>
      )}
      {found.length > 0 && (
        <Understood
          found={found}
          settled={settled}
          busy={preview.isPending}
          onSettle={(now) => read(files, now)}
        />
      )}
      {preview.data && (preview.data.token || preview.data.faults.length > 0) && (
        <Preview
          key={preview.data.token}
          preview={preview.data}
          onDone={(words) => {
            setDone(words);
            setFound([]);
            preview.reset();
          }}
          onClose={() => {
            setFound([]);
            preview.reset();
          }}
        />
      )}
      <History />
    </div>
  );
}

/** What belongs to no payer yet is typed here; a payer's own facts, on its own page. */
const SHARED = [
  { table: "payers", name: "a payer" },
  { table: "series", name: "a point of a series" },
  { table: "slumps", name: "a slump" },
];

const NOTHING = {};

function ByHand({ onKept }: { onKept: (words: string) => void }) {
  const [table, setTable] = useState("");
  const columns = useColumns(table);
  return (
    <>
      <p className="mt-3 flex flex-wrap items-center gap-x-4 gap-y-1 text-[15px]">
        <span>Enter by hand:</span>
        {SHARED.map((t) => (
          <button
            key={t.table}
            type="button"
            className="link"
            aria-expanded={table === t.table}
            onClick={() => setTable(table === t.table ? "" : t.table)}
          >
            {t.name}
          </button>
        ))}
        <span className="text-muted">
          A dividend, a price or a year of statements: open the payer under “Data by payer”.
        </span>
      </p>
      {table && columns.data && (
        <EntryGrid
          key={table}
          payer={null}
          given={NOTHING}
          table={table}
          columns={columns.data}
          onKept={(words) => {
            setTable("");
            onKept(words);
          }}
          onClose={() => setTable("")}
        />
      )}
    </>
  );
}

function Out() {
  return (
    <section className="mt-4 max-w-[1100px]" aria-labelledby="out">
      <h2 id="out" className="text-[21px]">
        Export
      </h2>
      <ul className="mt-1 max-w-[80ch] text-[15px]">
        <li>
          <a className="link underline" href="/api/export" download>
            All facts as a Data Package
          </a>
          <span className="text-muted">
            : a zip of CSVs that can be imported again; one payer’s are under its findings, those of
            several are taken from the table of payers
          </span>
        </li>
        <li>
          <a className="link underline" href="/api/backup" download>
            Everything as a backup
          </a>
          <span className="text-muted">
            : one JSON file, with your decisions, edits, searches and imports
          </span>
        </li>
      </ul>
      <Restore />
    </section>
  );
}
