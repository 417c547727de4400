import { useEffect, useState } from "react";
import type { Schemas } from "@/api/client";
import { usePreview, useSources, useUndo } from "@/api/hooks";
import { day, number, upperFirst } from "@/format/format";
import { ErrorNote } from "@/ui/ErrorNote";
import { DropZone } from "./DropZone";
import { Preview } from "./Preview";
import { Restore } from "./Restore";

type Source = Schemas["SourceOut"];

export function SourcesPage() {
  const preview = usePreview();
  const [done, setDone] = useState<string | null>(null);
  useEffect(() => {
    document.title = "Sources · Hearth Yield";
  }, []);
  return (
    <div className="max-w-[1100px] px-4 pt-4 pb-12 lg:px-6">
      <h1 className="text-[30px]">Sources</h1>
      <p className="text-[15px] text-muted">
        Where every figure comes from. Bring in your own files; nothing leaves this machine.
      </p>
      <DropZone
        busy={preview.isPending}
        onFiles={(files) => {
          setDone(null);
          preview.mutate(files);
        }}
      />
      {preview.error && <ErrorNote error={preview.error} kept="Nothing was changed." />}
      {done && (
        <output className="mt-4 block rounded-md border border-line bg-raised px-4 py-3">
          {done}
        </output>
      )}
      {preview.data && (
        <Preview
          key={preview.data.token}
          preview={preview.data}
          onDone={(words) => {
            setDone(words);
            preview.reset();
          }}
          onClose={() => preview.reset()}
        />
      )}
      <History />
      <section className="mt-8" aria-labelledby="out">
        <h2 id="out" className="text-[21px]">
          Out again
        </h2>
        <ul className="mt-1 max-w-[80ch] text-[15px]">
          <li>
            <a className="link underline" href="/api/export" download>
              All facts as a Data Package
            </a>{" "}
            <span className="text-muted">
              a zip of CSVs that can be brought in again; one payer’s are under its findings
            </span>
          </li>
          <li>
            <a className="link underline" href="/api/backup" download>
              Everything as a backup
            </a>{" "}
            <span className="text-muted">one JSON file, your decisions and imports with it</span>
          </li>
        </ul>
        <Restore />
      </section>
    </div>
  );
}

function History() {
  const sources = useSources();
  const undo = useUndo();
  return (
    <section className="mt-8" aria-labelledby="history">
      <h2 id="history" className="text-[21px]">
        Brought in so far
      </h2>
      {sources.error && <ErrorNote error={sources.error} />}
      {undo.error && <ErrorNote error={undo.error} kept="Nothing was undone." />}
      {sources.data?.length === 0 && <p className="mt-2 text-muted">Nothing yet.</p>}
      {sources.data && sources.data.length > 0 && (
        <div className="relative overflow-x-auto">
          <table className="rows mt-2 w-full min-w-[560px] text-[15px]">
            <caption className="sr-only">Sources, newest first</caption>
            <thead>
              <tr>
                <th scope="col">Source</th>
                <th scope="col">Kind</th>
                <th scope="col">Added on</th>
                <th scope="col">Rows added</th>
                <th scope="col">Changed</th>
                <th scope="col">
                  <span className="sr-only">Undo</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {sources.data.map((s) => (
                <Line
                  key={s.id}
                  source={s}
                  busy={undo.isPending}
                  onUndo={() => undo.mutate(s.id)}
                />
              ))}
            </tbody>
          </table>
        </div>
      )}
    </section>
  );
}

function Line({ source, busy, onUndo }: { source: Source; busy: boolean; onUndo: () => void }) {
  const gone = source.undone_at !== null;
  return (
    <tr className={gone ? "text-muted" : ""}>
      <td>
        {source.file_name} <span className="text-[13px] text-muted">no. {source.id}</span>
      </td>
      <td>{upperFirst(source.kind)}</td>
      <td>{day(source.added_at)}</td>
      <td>{number(source.rows_added)}</td>
      <td>{number(source.rows_changed)}</td>
      <td className="pr-0!">
        {gone ? (
          `undone ${day(source.undone_at ?? "")}`
        ) : source.kind === "import" ? (
          <button
            type="button"
            className="link"
            disabled={busy}
            aria-label={`Undo the import of ${source.file_name}`}
            onClick={onUndo}
          >
            Undo
          </button>
        ) : null}
      </td>
    </tr>
  );
}
