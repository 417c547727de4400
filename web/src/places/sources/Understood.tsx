import { useState } from "react";
import type { Schemas } from "@/api/client";
import { useNames } from "@/api/hooks";
import { number, upperFirst, withDates } from "@/format/format";
import { NewPayer } from "./NewPayer";

type FoundFile = Schemas["FoundFileOut"];
type Table = Schemas["FoundTableOut"];
type Question = Schemas["FoundQuestionOut"];

/** What a person settled of files: answers by question, and payers made on the spot. */
export interface Settled {
  answers: Record<string, string>;
  payers: Record<string, string>[];
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
              onAnswer={answer}
              onPayer={(id, payer) =>
                onSettle({
                  answers: { ...settled.answers, [id]: `${payer.exchange}/${payer.symbol}` },
                  payers: [...settled.payers, payer],
                })
              }
            />
          ))}
        </div>
      ))}
    </section>
  );
}

interface OneProps {
  file: string;
  table: Table;
  onAnswer: (id: string, value: string | undefined) => void;
  onPayer: (id: string, payer: Record<string, string>) => void;
}

function One({ file, table, onAnswer, onPayer }: OneProps) {
  const open = table.questions.length > 0;
  return (
    <div className="mt-3 rounded-lg border border-line bg-raised p-4">
      <h2 className="text-[17px]">
        {upperFirst(table.kind)} <span className="text-muted">in {where(file, table)}</span>
      </h2>
      <p className="text-[15px]">{told(table)}</p>
      {table.questions.map((q) => (
        <Ask
          key={q.id}
          question={q}
          onAnswer={(value) => onAnswer(q.id, value)}
          onPayer={(payer) => onPayer(q.id, payer)}
        />
      ))}
      {table.notes.map((note) => (
        <p key={note} className="text-[14px]">
          {upperFirst(note)}.
        </p>
      ))}
      {table.left_out.length > 0 && (
        <p className="text-[14px] text-muted">Left out: {table.left_out.join("; ")}.</p>
      )}
      <details className="mt-1 text-[14px]" open={open}>
        <summary className="link inline-block">Its cells, and what they are taken for</summary>
        <Cells table={table} />
        <Lines table={table} onAnswer={onAnswer} />
      </details>
    </div>
  );
}

const where = (file: string, table: Table) =>
  file.startsWith(table.sheet) ? file : `${file}, ${table.sheet}`;

function told(table: Table): string {
  const parts = [
    table.payer ? `of ${table.payer}` : "",
    table.currency ? `in ${table.currency}` : "",
    table.unit && table.unit !== "1" ? `counted in ${table.unit}s` : "",
    table.periods.length > 0 ? `${number(table.periods.length)} periods across` : "",
    table.rows > 0 ? `${number(table.rows)} rows` : "",
  ].filter(Boolean);
  return parts.length > 0 ? `${upperFirst(parts.join(", "))}.` : "";
}

interface AskProps {
  question: Question;
  onAnswer: (value: string) => void;
  onPayer: (payer: Record<string, string>) => void;
}

/** One question, answered by a click or a short text. */
function Ask({ question, onAnswer, onPayer }: AskProps) {
  const [text, setText] = useState("");
  return (
    <fieldset className="mt-2 rounded-md bg-sunk px-3 py-2">
      <legend className="float-left mr-3 text-[15px] font-semibold">
        {withDates(question.asks)}
      </legend>
      {question.kind === "choice" && (
        <span className="flex flex-wrap gap-2">
          {question.options.map((o) => (
            <button
              key={o.value}
              type="button"
              className="button"
              onClick={() => onAnswer(o.value)}
            >
              {withDates(o.name)}
            </button>
          ))}
        </span>
      )}
      {question.kind === "text" && (
        <form
          className="flex gap-2"
          onSubmit={(e) => {
            e.preventDefault();
            if (/^[A-Za-z]{3}$/.test(text.trim())) onAnswer(text.trim().toUpperCase());
          }}
        >
          <input
            className="field w-[90px] uppercase"
            aria-label={question.asks}
            maxLength={3}
            value={text}
            onChange={(e) => setText(e.target.value)}
          />
          <button type="submit" className="button">
            Use it
          </button>
        </form>
      )}
      {question.kind === "payer" && <Whose onAnswer={onAnswer} onPayer={onPayer} />}
    </fieldset>
  );
}

/** A payer that is held, by its name; or a new one. */
function Whose({ onAnswer, onPayer }: Pick<AskProps, "onAnswer" | "onPayer">) {
  const [text, setText] = useState("");
  const [making, setMaking] = useState(false);
  const found = useNames(text, text.trim().length > 1).data ?? [];
  if (making) return <NewPayer name={text} onMade={onPayer} onClose={() => setMaking(false)} />;
  return (
    <div className="flex flex-wrap items-baseline gap-2">
      <input
        className="field w-[240px]"
        aria-label="Whose is it? Name or symbol of a payer"
        value={text}
        onChange={(e) => setText(e.target.value)}
      />
      {text.trim().length > 1 &&
        found.slice(0, 6).map((f) => (
          <button
            key={`${f.exchange}/${f.symbol}`}
            type="button"
            className="button"
            onClick={() => onAnswer(`${f.exchange}/${f.symbol}`)}
          >
            {f.name}
          </button>
        ))}
      <button type="button" className="link" onClick={() => setMaking(true)}>
        A new payer
      </button>
    </div>
  );
}

function Cells({ table }: { table: Table }) {
  return (
    <section
      aria-label={`First cells of ${table.sheet}`}
      tabIndex={0}
      className="mt-1 overflow-auto"
    >
      <table className="border-collapse text-[13px]">
        <caption className="sr-only">First cells of {table.sheet}</caption>
        <tbody>
          {table.cells.map((row, i) => (
            <tr key={i}>
              {row.map((cell, j) => (
                <td key={j} className="whitespace-nowrap border border-line px-1.5 py-0.5">
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

/** What each heading is taken for; another choice acts at once. */
function Lines({ table, onAnswer }: Pick<OneProps, "table" | "onAnswer">) {
  return (
    <table className="rows mt-2 w-full max-w-[640px] text-[14px]">
      <caption className="sr-only">What each heading is taken for</caption>
      <thead>
        <tr className="[&>th]:text-left!">
          <th scope="col">Heading</th>
          <th scope="col">Taken for</th>
        </tr>
      </thead>
      <tbody>
        {table.lines.map((read) => (
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
                    {t.replaceAll("_", " ")}
                  </option>
                ))}
              </select>{" "}
              {!read.sure && <span className="text-muted">by likeness</span>}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
