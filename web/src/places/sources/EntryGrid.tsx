import { useEffect, useMemo, useRef, useState } from "react";
import type { PayerKey } from "@/api/hooks";
import {
  type Column,
  type Entry,
  type FactRow,
  type Fault,
  useEnter,
  useEntryPreview,
} from "@/api/sources";
import { number, upperFirst } from "@/format/format";
import { ErrorNote } from "@/ui/ErrorNote";
import { columnsAsRecords, lineName, putBlock, putNamed, readBlock, transpose } from "./grid";
import { Warnings } from "./Warnings";

interface Props {
  /** Whose facts they are; null for what belongs to no payer. */
  payer: PayerKey | null;
  /** Cells that begin filled, as they are the same for each fact. */
  given: Record<string, string>;
  table: string;
  columns: Column[];
  /** A held fact to correct: its cells start as they stand, and those of its key stay. */
  correcting?: FactRow;
  onKept: (words: string) => void;
  onClose: () => void;
}

const WAIT = 350;

/** Facts by hand. Every line of the table is a row of the grid and every fact a column, as in a
 * spreadsheet of statements; cells can be typed or pasted, and are checked while one goes. */
export function EntryGrid(props: Props) {
  const { payer, given, table, columns, correcting, onKept, onClose } = props;
  const lines = useMemo(() => columns.filter((c) => c.name !== "unit"), [columns]);
  const names = useMemo(() => lines.map((c) => c.name), [lines]);
  const first = () => lines.map((c) => [given[c.name] ?? ""]);
  const [cells, setCells, forget] = useDraft(
    `hearth-entry/${payer ? `${payer.exchange}/${payer.symbol}/` : ""}${table}`,
    correcting ? () => lines.map((c) => [heldText(correcting.cells[c.name])]) : first,
    correcting === undefined,
  );
  const [unit, setUnit] = useState(correcting ? "1" : "million");
  const [decimal, setDecimal] = useState(".");
  const [accepted, setAccepted] = useState<number[]>([]);
  const money = lines.some((c) => c.scaled);
  const held = correcting?.cells;
  const entry = useMemo(
    () => entryOf({ payer, table, cells, names, unit: money ? unit : "1", decimal, given, held }),
    [payer, table, cells, names, unit, money, decimal, given, held],
  );
  const settled = useSettled(entry);
  const preview = useEntryPreview(settled);
  const keep = useEnter();
  const faults = settled ? (preview.data?.faults ?? []) : [];
  const hard = faults.filter((f) => !f.warning);
  const soft = faults.filter((f) => f.warning);
  // biome-ignore lint/correctness/useExhaustiveDependencies: other faults are other places
  useEffect(() => setAccepted([]), [JSON.stringify(faults)]);
  const counts = settled && !preview.data?.refused ? preview.data?.tables : undefined;
  const fresh = counts?.some((t) => t.added || t.changed);
  const ready = fresh && settled === entry && soft.length === accepted.length;
  return (
    <section
      aria-label={`${correcting ? "Edit" : "Enter"} ${table.replaceAll("_", " ")} by hand`}
      className="mt-3 rounded-md border border-line bg-raised p-4"
    >
      <p className="max-w-[90ch] text-[14px] text-muted">
        {correcting
          ? "What you change here replaces the stored fact; Undo under “Import” puts it back. To keep the original in sight, edit the figure from its working instead."
          : "Type, or paste cells from a spreadsheet: a block goes where the cursor is; if its first column names the lines, each goes to its own. Empty cells stay unknown."}
      </p>
      <Dialect
        money={money}
        unit={unit}
        decimal={decimal}
        onUnit={setUnit}
        onDecimal={setDecimal}
      />
      <Cells
        lines={lines}
        names={names}
        cells={cells}
        faults={hard}
        fixed={correcting ? Object.keys(correcting.key) : []}
        onChange={setCells}
        onAdd={
          correcting
            ? undefined
            : () => setCells(cells.map((row, r) => [...row, first()[r]?.[0] ?? ""]))
        }
      />
      {preview.error && <ErrorNote error={preview.error} kept="What you typed is still here." />}
      {hard.length > 0 && <Hard faults={hard} />}
      {soft.length > 0 && hard.length === 0 && (
        <Warnings faults={faults} accepted={accepted} onAccept={setAccepted} />
      )}
      {counts && hard.length === 0 && (
        <p className="mt-2 text-[15px]" aria-live="polite">
          {counts
            .map(
              (t) =>
                `${number(t.added)} added, ${number(t.changed)} changed, ${number(t.same)} the same`,
            )
            .join("; ")}
          .
        </p>
      )}
      {keep.error && <ErrorNote error={keep.error} kept="What you typed is still here." />}
      <div className="mt-3 flex flex-wrap items-center gap-3">
        <button
          type="button"
          className="button primary"
          disabled={!ready || keep.isPending}
          onClick={() =>
            entry &&
            keep.mutate(
              { ...entry, accepted },
              {
                onSuccess: (k) => {
                  forget();
                  onKept(`Kept, as source no. ${k.source}.`);
                },
              },
            )
          }
        >
          Keep it
        </button>
        <button type="button" className="button" onClick={onClose}>
          Close
        </button>
      </div>
    </section>
  );
}

/** A held value as it would be typed. */
const heldText = (value: unknown) => (value === null || value === undefined ? "" : String(value));

/** What is typed outlives a reload of the page; a correction begins from the fact each time. */
function useDraft(key: string, first: () => string[][], keeps: boolean) {
  const [cells, setCells] = useState<string[][]>(() => {
    const kept = keeps ? sessionStorage.getItem(key) : null;
    return kept ? (JSON.parse(kept) as string[][]) : first();
  });
  const change = (next: string[][]) => {
    setCells(next);
    if (keeps) sessionStorage.setItem(key, JSON.stringify(next));
  };
  return [cells, change, () => sessionStorage.removeItem(key)] as const;
}

interface EntryParts {
  payer: PayerKey | null;
  table: string;
  cells: string[][];
  names: string[];
  unit: string;
  decimal: string;
  given: Record<string, string>;
  /** What the fact that is corrected says: a cell of it that is emptied becomes unknown. */
  held?: FactRow["cells"];
}

/** What is typed as the API takes it; null while nothing but what was given is there. */
function entryOf(parts: EntryParts): Entry | null {
  const { payer, table, cells, names, unit, decimal, given, held = {} } = parts;
  const rows = columnsAsRecords(cells, names).filter((r) =>
    Object.entries(r).some(([name, cell]) => given[name] !== cell),
  );
  if (rows.length === 0) return null;
  const emptied = Object.fromEntries(names.filter((n) => held[n] != null).map((n) => [n, ""]));
  const owner: Record<string, string> = payer
    ? { exchange: payer.exchange, symbol: payer.symbol }
    : {};
  return {
    table,
    unit,
    decimal,
    accepted: [],
    rows: rows.map((r) => ({ ...emptied, ...r, ...owner })),
  };
}

/** The newest value once it has stood still for a moment. */
function useSettled<T>(value: T): T {
  const [settled, setSettled] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(value), WAIT);
    return () => clearTimeout(timer);
  }, [value]);
  return settled;
}

interface DialectProps {
  money: boolean;
  unit: string;
  decimal: string;
  onUnit: (unit: string) => void;
  onDecimal: (sign: string) => void;
}

function Dialect({ money, unit, decimal, onUnit, onDecimal }: DialectProps) {
  return (
    <div className="mt-2 flex flex-wrap gap-x-6 gap-y-1 text-[15px]">
      {money && (
        <label>
          Money in{" "}
          <select className="field py-0.5" value={unit} onChange={(e) => onUnit(e.target.value)}>
            <option value="1">single units</option>
            <option value="thousand">thousands</option>
            <option value="million">millions</option>
          </select>
        </label>
      )}
      <label>
        Decimals after a{" "}
        <select
          className="field py-0.5"
          value={decimal}
          onChange={(e) => onDecimal(e.target.value)}
        >
          <option value=".">point</option>
          <option value=",">comma</option>
        </select>
      </label>
    </div>
  );
}

interface CellsProps {
  lines: Column[];
  names: string[];
  cells: string[][];
  faults: Fault[];
  /** Lines that cannot be changed. */
  fixed: string[];
  onChange: (cells: string[][]) => void;
  onAdd?: () => void;
}

function Cells({ lines, names, cells, faults, fixed, onChange, onAdd }: CellsProps) {
  const body = useRef<HTMLTableSectionElement>(null);
  const width = Math.max(1, ...cells.map((r) => r.length));
  const faultAt = (line: Column, c: number) =>
    faults.find((f) => f.column === line.name && f.line === c + 1);
  const paste = (event: React.ClipboardEvent, row: number, column: number) => {
    const block = readBlock(event.clipboardData.getData("text"));
    if (block.length === 1 && block[0]?.length === 1) return;
    event.preventDefault();
    const tall = lines.length;
    const grown = (next: string[][]) => next.slice(0, tall);
    const named = putNamed(cells, block, names, column);
    if (named) return onChange(grown(named));
    // A block that is one line of a table of rows: a fact stands in a column here.
    const turned = block.length === 1 && (block[0]?.length ?? 0) > 1 && row === 0;
    onChange(grown(putBlock(cells, turned ? transpose(block) : block, row, column)));
  };
  const move = (event: React.KeyboardEvent, row: number, column: number) => {
    const step = { ArrowDown: 1, Enter: 1, ArrowUp: -1 }[event.key];
    if (!step) return;
    event.preventDefault();
    body.current?.querySelector<HTMLElement>(`[data-cell="${row + step}-${column}"]`)?.focus();
  };
  return (
    <div className="relative mt-3 overflow-auto" style={{ maxHeight: "44vh" }}>
      <table className="text-[14px]">
        <caption className="sr-only">What you enter: a line a row, a fact a column</caption>
        <tbody ref={body}>
          {lines.map((line, r) => (
            <tr key={line.name}>
              <th scope="row" className="sticky left-0 bg-raised pr-3 text-left! align-middle">
                <span className="text-[14px] text-ink">{lineName(line.name)}</span>
                {line.required && <span className="text-muted"> (needed)</span>}
              </th>
              {Array.from({ length: width }, (_, c) => {
                const fault = faultAt(line, c);
                return (
                  <td key={c} className="px-1 py-0.5">
                    {line.choices.length > 0 ? (
                      <select
                        data-cell={`${r}-${c}`}
                        className="field w-[148px] py-0.5"
                        aria-label={`${line.name}, ${c + 1}`}
                        aria-invalid={fault ? true : undefined}
                        disabled={fixed.includes(line.name)}
                        value={cells[r]?.[c] ?? ""}
                        onChange={(e) => onChange(putBlock(cells, [[e.target.value]], r, c))}
                      >
                        <option value="" />
                        {line.choices.map((choice) => (
                          <option key={choice} value={choice}>
                            {choice.replaceAll("_", " ")}
                          </option>
                        ))}
                      </select>
                    ) : (
                      <input
                        data-cell={`${r}-${c}`}
                        className={`field w-[148px] py-0.5 ${line.type === "text" ? "" : "text-right"}`}
                        aria-label={`${line.name}, ${c + 1}`}
                        aria-invalid={fault ? true : undefined}
                        title={fault ? `expected ${fault.expected}` : line.expected}
                        readOnly={fixed.includes(line.name)}
                        placeholder={line.type === "date" ? "YYYY-MM-DD" : undefined}
                        value={cells[r]?.[c] ?? ""}
                        onChange={(e) => onChange(putBlock(cells, [[e.target.value]], r, c))}
                        onPaste={(e) => paste(e, r, c)}
                        onKeyDown={(e) => move(e, r, c)}
                      />
                    )}
                  </td>
                );
              })}
              {r === 0 && onAdd && (
                <td rowSpan={lines.length} className="pl-3 align-top">
                  <button type="button" className="button whitespace-nowrap" onClick={onAdd}>
                    Add column
                  </button>
                </td>
              )}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

function Hard({ faults }: { faults: Fault[] }) {
  return (
    <ul className="mt-2 text-[14px] text-over" aria-label="What cannot be kept yet">
      {faults.slice(0, 8).map((f) => (
        <li key={`${f.line}:${f.column}:${f.expected}`}>
          {upperFirst((f.column ?? "a cell").replaceAll("_", " "))}
          {f.value ? ` has “${f.value}”` : " is empty"}: expected {f.expected}
        </li>
      ))}
    </ul>
  );
}
