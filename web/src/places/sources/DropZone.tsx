import { useEffect, useId, useRef, useState } from "react";
import { FormatHelp } from "./FormatHelp";

interface Props {
  busy: boolean;
  /** Whether something is being settled: the examples make room for it. */
  settling: boolean;
  onFiles: (files: File[]) => void;
}

/** Drop, choose or paste; several files at once are one import. */
export function DropZone({ busy, settling, onFiles }: Props) {
  const [over, setOver] = useState(false);
  const id = useId();
  usePastedAnywhere(onFiles);
  return (
    <div
      className={`mt-4 items-start gap-6 ${settling ? "" : "lg:grid lg:grid-cols-[minmax(0,1fr)_minmax(0,1fr)]"}`}
    >
      <div
        className={`rounded-lg border border-dashed px-5 py-5 ${over ? "border-action bg-raised" : "border-stone"}`}
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
          accept=".csv,.tsv,.txt,.zip,.xlsx,.xlsm,.xls,.ods,.html,.htm,.ofx,.qfx,text/csv,application/zip"
          disabled={busy}
          className="max-w-full text-[15px] file:mr-3 file:min-h-8 file:rounded-md file:border file:border-stone file:bg-raised file:px-3"
          onChange={(e) => {
            const files = [...(e.target.files ?? [])];
            e.target.value = "";
            if (files.length) onFiles(files);
          }}
        />
        <PasteHere onFiles={onFiles} />
        <p hidden={settling} className="mt-2 max-w-[80ch] text-[14px] text-muted">
          Spreadsheets (XLSX, XLS, ODS), CSV, and pages with tables, as you have them. You see what
          was understood and settle what is open; nothing changes before you say so.
        </p>
        {busy && <output className="text-[14px]">Reading…</output>}
      </div>
      {!settling && <FormatHelp />}
    </div>
  );
}

/** Cells of a spreadsheet or a page as a file: with their structure where the clipboard has it. */
function pasted(data: DataTransfer | null): File[] {
  const html = data?.getData("text/html") ?? "";
  const text = data?.getData("text/plain") ?? "";
  if (/<table/i.test(html)) return [new File([html], "pasted.html", { type: "text/html" })];
  return text.includes("\t") || text.includes("\n")
    ? [new File([text], "pasted.txt", { type: "text/plain" })]
    : [];
}

/** What is pasted into the page, and not into a field of it, is read as a file. */
function usePastedAnywhere(onFiles: (files: File[]) => void) {
  const read = useRef(onFiles);
  read.current = onFiles;
  useEffect(() => {
    const listen = (event: ClipboardEvent) => {
      const target = event.target as HTMLElement | null;
      if (target?.closest("input, textarea, select, [contenteditable]")) return;
      const files = pasted(event.clipboardData);
      if (files.length === 0) return;
      event.preventDefault();
      read.current(files);
    };
    document.addEventListener("paste", listen);
    return () => document.removeEventListener("paste", listen);
  }, []);
}

/** A place to paste into, for who looks for one; what is typed there can be read too. */
function PasteHere({ onFiles }: { onFiles: (files: File[]) => void }) {
  const [text, setText] = useState("");
  const id = useId();
  return (
    <div className="mt-3 flex flex-wrap items-start gap-2">
      <label htmlFor={id} className="pt-1.5 text-[16px]">
        or paste cells:
      </label>
      <textarea
        id={id}
        rows={1}
        className="field min-w-[180px] flex-1 resize-y"
        placeholder="Ctrl+V, here or anywhere on this page"
        value={text}
        onChange={(e) => setText(e.target.value)}
        onPaste={(e) => {
          const files = pasted(e.clipboardData);
          if (files.length === 0) return;
          e.preventDefault();
          setText("");
          onFiles(files);
        }}
      />
      {text.includes("\n") && (
        <button
          type="button"
          className="button"
          onClick={() => onFiles([new File([text], "pasted.txt", { type: "text/plain" })])}
        >
          Read it
        </button>
      )}
    </div>
  );
}
