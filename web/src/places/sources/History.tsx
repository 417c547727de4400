import { useState } from "react";
import type { Schemas } from "@/api/client";
import { useSources, useUndo } from "@/api/hooks";
import { useReport } from "@/api/sources";
import { day, number, upperFirst, withDates } from "@/format/format";
import { ErrorNote } from "@/ui/ErrorNote";

type Source = Schemas["SourceOut"];

/** Everything that was brought in or typed, with its report and the way back. */
export function History() {
  const sources = useSources();
  const undo = useUndo();
  const [open, setOpen] = useState<number | null>(null);
  return (
    <section className="mt-8" aria-labelledby="history">
      <h2 id="history" className="text-[21px]">
        Imported so far
      </h2>
      {sources.error && <ErrorNote error={sources.error} />}
      {undo.error && <ErrorNote error={undo.error} kept="Nothing was undone." />}
      {sources.data?.length === 0 && <p className="mt-2 text-muted">Nothing yet.</p>}
      {sources.data && sources.data.length > 0 && (
        <div className="relative overflow-x-auto">
          <table className="rows mt-2 w-full min-w-[620px] text-[15px]">
            <caption className="sr-only">Sources, newest first</caption>
            <thead>
              <tr>
                <th scope="col">Source</th>
                <th scope="col">Kind</th>
                <th scope="col">Added on</th>
                <th scope="col">Rows added</th>
                <th scope="col">Changed</th>
                <th scope="col">
                  <span className="sr-only">Report and undo</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {sources.data.map((s) => (
                <Line
                  key={s.id}
                  source={s}
                  busy={undo.isPending}
                  open={open === s.id}
                  onOpen={() => setOpen(open === s.id ? null : s.id)}
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

interface LineProps {
  source: Source;
  busy: boolean;
  open: boolean;
  onOpen: () => void;
  onUndo: () => void;
}

const KINDS: Record<string, string> = { manual: "by hand" };

function Line({ source, busy, open, onOpen, onUndo }: LineProps) {
  const gone = source.undone_at !== null;
  const can = source.kind !== "demo";
  return (
    <>
      <tr className={gone ? "text-muted" : ""}>
        <td>
          {withDates(source.file_name)}{" "}
          <span className="text-[13px] text-muted">no. {source.id}</span>
        </td>
        <td>{upperFirst(KINDS[source.kind] ?? source.kind)}</td>
        <td>{day(source.added_at)}</td>
        <td>{number(source.rows_added)}</td>
        <td>{number(source.rows_changed)}</td>
        <td className="whitespace-nowrap pr-0!">
          {gone ? (
            `undone ${day(source.undone_at ?? "")}`
          ) : (
            <span className="flex justify-end gap-4">
              <button
                type="button"
                className="link"
                aria-expanded={open}
                aria-label={`Report of ${source.file_name}`}
                onClick={onOpen}
              >
                Report
              </button>
              {can && (
                <button
                  type="button"
                  className="link"
                  disabled={busy}
                  aria-label={`Undo the import of ${source.file_name}`}
                  onClick={onUndo}
                >
                  Undo
                </button>
              )}
            </span>
          )}
        </td>
      </tr>
      {open && !gone && (
        <tr>
          <td colSpan={6} className="text-left!">
            <Report id={source.id} />
          </td>
        </tr>
      )}
    </>
  );
}

function Report({ id }: { id: number }) {
  const report = useReport(id, true);
  if (report.error) return <ErrorNote error={report.error} />;
  if (!report.data) return <p className="py-2 text-muted">…</p>;
  const { rows, warnings } = report.data;
  return (
    <div className="py-1 text-[14px]">
      <p>
        Stand as it said them:{" "}
        {Object.entries(rows)
          .map(([table, n]) => `${number(n)} ${table.replaceAll("_", " ")}`)
          .join(", ") || "none"}
        .
      </p>
      {warnings.length === 0 ? (
        <p className="text-muted">It came in without warnings.</p>
      ) : (
        <>
          <p className="mt-1">Accepted with it:</p>
          <ul>
            {warnings.map((w) => (
              <li key={`${w.file}:${w.line}:${w.column}`} className="text-muted">
                {[w.file, w.line && `line ${w.line}`, w.column].filter(Boolean).join(", ")}:{" "}
                {w.value} (expected {w.expected})
              </li>
            ))}
          </ul>
        </>
      )}
    </div>
  );
}
