import { useState } from "react";
import type { Schemas } from "@/api/client";
import { number, upperFirst, withDates } from "@/format/format";
import { lineName } from "@/ui/grid/grid";
import { Settings } from "./Settings";

type FoundFile = Schemas["FoundFileOut"];
type Table = Schemas["FoundTableOut"];

/** What a person settled of files: answers by question, and payers made on the spot. */
export interface Settled {
  answers: Record<string, string>;
  payers: Record<string, string>[];
  profile?: string;
}

interface Props {
  found: FoundFile[];
  settled: Settled;
  busy: boolean;
  onSettle: (settled: Settled) => void;
}

/** What was understood of files as people have them: the cells beside their reading, what has to be
 * answered, and what is left out. */
export function Understood({ found, settled, busy, onSettle }: Props) {
  const answer = (id: string, value: string | undefined) => {
    const answers = { ...settled.answers };
    if (value === undefined) delete answers[id];
    else answers[id] = value;
    onSettle({ ...settled, answers });
  };
  return (
    <section className="mt-5" aria-label="What was understood" aria-busy={busy}>
      {found.map((file) => (
        <div key={file.name}>
          {file.tables.map((table) => (
            <One
              key={table.id}
              file={file.name}
              table={table}
              made={settled.payers}
              onAnswer={answer}
              onPayer={(id, payer) =>
                onSettle({
                  ...settled,
                  answers: { ...settled.answers, [id]: `${payer.exchange}/${payer.symbol}` },
                  payers: [...settled.payers, payer],
                })
              }
            />
          ))}
          {file.own.length > 0 && (
            <p className="mt-2 text-[15px]">
              Tables of Hearth Yield’s own in {file.name}, read as they are: {file.own.join("; ")}.
            </p>
          )}
          {file.left_out.length > 0 && (
            <p className="mt-2 text-[14px] text-muted">
              Left out of {file.name}: {file.left_out.join("; ")}.
            </p>
          )}
        </div>
      ))}
    </section>
  );
}

interface OneProps {
  file: string;
  table: Table;
  /** Payers made on the spot before: the next one is likely to be of their kind. */
  made: Record<string, string>[];
  onAnswer: (id: string, value: string | undefined) => void;
  onPayer: (id: string, payer: Record<string, string>) => void;
}

const KINDS: Record<string, string> = {
  series: "Price index",
  payers: "Payers",
  entries: "What you own",
};
const kindName = (kind: string) => KINDS[kind] ?? upperFirst(kind.replaceAll("_", " "));

function One({ file, table, made, onAnswer, onPayer }: OneProps) {
  const open = table.settings.some((s) => s.answer === null);
  return (
    <div className={`mt-3 rounded-lg border border-line p-4 ${table.skipped ? "" : "bg-raised"}`}>
      <h2 className="flex flex-wrap items-baseline gap-x-2 text-[17px]">
        {table.name || (table.kind ? kindName(table.kind) : "A table")}{" "}
        <span className="text-muted">in {where(file, table)}</span>
        <button
          type="button"
          className="link ml-auto font-sans text-[14px]"
          aria-label={`${table.skipped ? "Read this table" : "Leave this table out"}: ${kindName(table.kind)} in ${where(file, table)}`}
          onClick={() => onAnswer(`${table.id}.skip`, table.skipped ? undefined : "yes")}
        >
          {table.skipped ? "Read this table" : "Leave this table out"}
        </button>
      </h2>
      {table.skipped ? (
        <p className="text-[14px] text-muted">Left out.</p>
      ) : (
        <>
          <p className="text-[15px]">{told(table)}</p>
          {table.profile && <ByProfile table={table} onAnswer={onAnswer} />}
          <Settings table={table} made={made} onAnswer={onAnswer} onPayer={onPayer} />
          {table.notes.map((note) => (
            <p key={note} className="mt-1 text-[14px]">
              {upperFirst(withDates(note))}.
            </p>
          ))}
          {table.left_out.length > 0 && (
            <p className="mt-1 text-[14px] text-muted">Left out: {table.left_out.join("; ")}.</p>
          )}
          <details className="mt-1 text-[14px]" open={open}>
            <summary className="link inline-block">Its cells, and what they are taken for</summary>
            <div className="gap-6 xl:grid xl:grid-cols-[minmax(0,1fr)_minmax(0,1fr)]">
              <Cells table={table} />
              {table.targets.length > 0 && <Lines table={table} onAnswer={onAnswer} />}
            </div>
          </details>
        </>
      )}
    </div>
  );
}

function ByProfile({ table, onAnswer }: Pick<OneProps, "table" | "onAnswer">) {
  return (
    <p className="text-[14px]">
      Read by your profile “{table.profile}”.{" "}
      <button
        type="button"
        className="link"
        onClick={() => onAnswer(`${table.id}.profile`, "none")}
      >
        Read it without
      </button>
    </p>
  );
}

const where = (file: string, table: Table) =>
  file.startsWith(table.sheet) ? file : `${file}, ${table.sheet}`;

function told(table: Table): string {
  const parts = [
    table.payer ? `of ${table.payer_name ?? table.payer} (${table.payer})` : "",
    table.periods.length > 0
      ? `${number(table.periods.length)} periods ${table.lie === "across" ? "across" : "down"}`
      : "",
    table.lie === "wide" ? "a column for each payer" : "",
    ...Object.entries(table.rows).map(([t, n]) => `${number(n)} ${rowsOf(t, n)}`),
  ].filter(Boolean);
  return parts.length > 0 ? `${upperFirst(parts.join(", "))}.` : "";
}

const rowsOf = (table: string, n: number) => {
  const name = table.replaceAll("_", " ");
  if (n !== 1 || name === "series") return name;
  return name.endsWith("ies") ? name.replace(/ies$/, "y") : name.replace(/s$/, "");
};

function Cells({ table }: { table: Table }) {
  return (
    <section
      aria-label={`First cells of ${table.sheet}`}
      tabIndex={0}
      className="mt-1 max-h-[340px] overflow-auto"
    >
      <table className="border-collapse text-[13px]">
        <caption className="sr-only">First cells of {table.sheet}</caption>
        <tbody>
          {table.cells.map((row, i) => (
            <tr key={i}>
              <th scope="row" className="border border-line bg-sunk px-1.5 text-muted">
                {table.first_row + i}
              </th>
              {row.map((cell, j) => (
                <td
                  key={j}
                  className={`whitespace-nowrap border border-line px-1.5 py-0.5 ${/^[A-Za-z]/.test(cell) ? "text-left" : "text-right"}`}
                >
                  {cell}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

const LONG = 60;

/** What each heading is taken for; another choice acts at once. */
function Lines({ table, onAnswer }: Pick<OneProps, "table" | "onAnswer">) {
  const [all, setAll] = useState(false);
  const lines = all ? table.lines : table.lines.slice(0, LONG);
  return (
    <div className="max-h-[340px] overflow-auto">
      <table className="rows mt-1 w-full max-w-[640px] text-[14px]">
        <caption className="sr-only">What each heading is taken for</caption>
        <thead>
          <tr className="[&>th]:text-left!">
            <th scope="col">Heading</th>
            <th scope="col">Taken for</th>
          </tr>
        </thead>
        <tbody>
          {lines.map((read) => (
            <tr key={read.id} className="[&>td]:text-left">
              <td>{read.heading}</td>
              <td>
                <select
                  className="field"
                  aria-label={`${read.heading} is taken for`}
                  value={read.target ?? ""}
                  onChange={(e) => onAnswer(read.id, e.target.value || "none")}
                >
                  <option value="">left out</option>
                  {table.targets.map((t) => (
                    <option key={t} value={t}>
                      {lineName(t)}
                    </option>
                  ))}
                </select>{" "}
                {!read.sure && <span className="text-muted">by likeness</span>}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {table.lines.length > lines.length && (
        <button type="button" className="link" onClick={() => setAll(true)}>
          Show all {number(table.lines.length)}
        </button>
      )}
    </div>
  );
}
