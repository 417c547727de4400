import { useEffect, useRef } from "react";
import { useStatus } from "@/api/hooks";
import { useHiddenAmounts } from "@/state/amounts";
import { useView } from "@/state/view";
import { HideAmounts } from "@/ui/Amount";
import { Download } from "@/ui/Download";
import { Edits } from "./Edits";
import { ImportPage } from "./ImportPage";
import { Matrix } from "./Matrix";
import { Restore } from "./Restore";
import { SeriesAndSlumps } from "./SeriesAndSlumps";

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
  // Where nothing is held files are what comes first; once they are in, the page stays.
  const began = useRef<"import" | "held">(undefined);
  if (status.data) began.current ??= nothing ? "import" : "held";
  const tab = TABS.find((t) => t.id === view.tab)?.id ?? began.current ?? "held";
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
      {tab === "import" && <ImportPage />}
      {tab === "edits" && <Edits />}
      {tab === "export" && <Out />}
    </div>
  );
}

function Out() {
  const hidden = useHiddenAmounts();
  const owned = hidden ? "without" : "with";
  const all = hidden ? "All facts" : "All facts, accounts and entries";
  return (
    <section className="mt-4 max-w-[1100px]" aria-labelledby="out">
      <h2 id="out" className="text-[21px]">
        Export
      </h2>
      <ul className="mt-1 max-w-[80ch] text-[15px]">
        <li>
          <Download
            className="link underline"
            href={`/api/export?owned=${owned}`}
            note={
              <span className="text-muted">
                : a zip of CSVs that can be imported again; one payer’s are under its findings,
                those of several are taken from the table of payers
              </span>
            }
          >
            {all} as a Data Package
          </Download>
        </li>
        <li>
          <Download
            className="link underline"
            href={`/api/export?owned=${owned}&form=xlsx`}
            note={
              <span className="text-muted">
                : a sheet for each table, for any office program; it can be imported again
              </span>
            }
          >
            {all} as a workbook
          </Download>
        </li>
        <li>
          {hidden ? (
            <>
              Accounts and entries are left out while amounts are hidden. <HideAmounts />
            </>
          ) : (
            <>
              Accounts and entries alone:{" "}
              <Download className="link underline" href="/api/export?owned=only">
                a Data Package
              </Download>{" "}
              or{" "}
              <Download className="link underline" href="/api/export?owned=only&form=xlsx">
                a workbook
              </Download>{" "}
              or{" "}
              <Download
                className="link underline"
                href="/api/export/statement"
                note={
                  <span className="text-muted">
                    {" "}
                    for other programs: all but conversions, exchanges of currencies and what
                    institutions stated
                  </span>
                }
              >
                an OFX statement
              </Download>
            </>
          )}
        </li>
        <li>
          <Download
            className="link underline"
            href="/api/backup"
            note={
              <span className="text-muted">
                : one JSON file, with your decisions, edits, searches and imports
              </span>
            }
          >
            Everything as a backup
          </Download>
        </li>
      </ul>
      <Restore />
    </section>
  );
}
