import { useId, useState } from "react";

/** Drop or choose; several files at once are one import. */
export function DropZone({ busy, onFiles }: { busy: boolean; onFiles: (files: File[]) => void }) {
  const [over, setOver] = useState(false);
  const id = useId();
  return (
    <div
      className={`mt-4 rounded-lg border border-dashed px-5 py-5 ${over ? "border-action bg-raised" : "border-stone"}`}
      onDragOver={(e) => {
        e.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(e) => {
        e.preventDefault();
        setOver(false);
        const files = [...e.dataTransfer.files];
        if (files.length) onFiles(files);
      }}
    >
      <label htmlFor={id} className="text-[16px]">
        Drop files here, or choose them:
      </label>{" "}
      <input
        id={id}
        type="file"
        multiple
        accept=".csv,.tsv,.txt,.zip,.xlsx,.xlsm,.xls,.ods,.html,.htm,text/csv,application/zip"
        disabled={busy}
        className="text-[15px] file:mr-3 file:min-h-8 file:rounded-md file:border file:border-stone file:bg-raised file:px-3"
        onChange={(e) => {
          const files = [...(e.target.files ?? [])];
          e.target.value = "";
          if (files.length) onFiles(files);
        }}
      />
      <p className="mt-2 max-w-[80ch] text-[14px] text-muted">
        Spreadsheets (XLSX, XLS, ODS), CSV and pages with tables, as you have them: statements with
        their years across or down, dividends, prices, a price index. You see what was understood,
        settle what is open, and see what would change before anything does. A zip with a
        datapackage.json, or CSV tables of our own, are read as they are.
      </p>
      {busy && <output className="text-[14px]">Reading…</output>}
    </div>
  );
}
