import { useEffect, useMemo, useRef, useState } from "react";
import type { PayerKey } from "@/api/hooks";
import {
  type Column,
  type FactRow,
  type Fault,
  type TypedFacts,
  useEnter,
  useReadPasted,
  useTypedPreview,
} from "@/api/sources";
import { number, upperFirst } from "@/format/format";
import { useDraft } from "@/state/drafts";
import { ErrorNote } from "@/ui/ErrorNote";
import { GridCells, type Reference } from "./GridCells";
import {
  changedPlaces,
  columnsAsRecords,
  lineName,
  placeBlock,
  recordsAsColumns,
  withGiven,
} from "./grid";
import { HistoryButtons } from "./HistoryButtons";
import { type Incoming, PasteNote } from "./PasteNote";
import { onHistoryKey, useCells } from "./useCells";
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
  /** What is entered, where it is not simply facts of a table: "A new quarter". */
  title?: string;
  /** The fact before, to compare with. */
  reference?: Reference;
  /** source: under which it stands, and can be undone. */
  onKept: (words: string, source: number) => void;
  onClose: () => void;
}

const WAIT = 350;

/** How cells are written: what money is counted in, and the sign before decimals. */
interface Written {
  unit: string;
  decimal: string;
}

const isWritten = (raw: unknown): raw is Written => {
  const held = raw as Partial<Written> | null;
  return (
    ["1", "thousand", "million"].includes(held?.unit ?? "") &&
    [".", ","].includes(held?.decimal ?? "")
  );
};

/** Lines of which there are many a fact: years lie across, as in a sheet of statements. */
const ACROSS = ["statements"];

/** Facts by hand. What is typed is kept under what it is for: another payer or table, or another
 * fact that is corrected, is another grid. */
export function HandGrid(props: Props) {
  const { payer, table, title, correcting } = props;
  const whose = payer ? `${payer.exchange}/${payer.symbol}` : "";
  const what = correcting ? JSON.stringify(correcting.key) : (title ?? "");
  return <Grid key={`${whose}/${table}/${what}`} {...props} />;
}

/** Cells can be typed or pasted, and are checked while one goes. */
function Grid(props: Props) {
  const { payer, given, table, columns, correcting, title, onKept, onClose } = props;
  const lines = useMemo(() => columns.filter((c) => !HIDDEN.includes(c.name)), [columns]);
  const names = useMemo(() => lines.map((c) => c.name), [lines]);
  const also = useMemo(() => lines.map((c) => c.also), [lines]);
  const empty = () => lines.map((c) => [given[c.name] ?? ""]);
  const draft = `entry/${payer ? `${payer.exchange}/${payer.symbol}/` : ""}${table}/${title ?? ""}`;
  const grid = useCells(correcting ? null : draft, () =>
    correcting ? lines.map((c) => [heldText(correcting.cells[c.name])]) : empty(),
  );
  const [written, setWritten] = useDraft(`${draft}/written`, isWritten);
  const [correctedIn, setCorrectedIn] = useState<Written>({ unit: "1", decimal: "." });
  const dialect = correcting ? correctedIn : (written ?? { unit: "million", decimal: "." });
  const { unit, decimal } = dialect;
  const write = (change: Partial<Written>) =>
    (correcting ? setCorrectedIn : setWritten)({ ...dialect, ...change });
  const [accepted, setAccepted] = useState<number[]>([]);
  const [incoming, setIncoming] = useState<Incoming | null>(null);
  const readPasted = useReadPasted();
  const money = lines.some((c) => c.scaled);
  const held = correcting?.cells;
  const { cells } = grid;
  const entry = useMemo(
    () => factsOf({ payer, table, cells, names, unit: money ? unit : "1", decimal, given, held }),
    [payer, table, cells, names, unit, money, decimal, given, held],
  );
  const settled = useSettled(entry);
  const preview = useTypedPreview(settled);
  const keep = useEnter();
  const faults = settled ? (preview.data?.faults ?? []) : [];
  const hard = faults.filter((f) => !f.warning);
  const soft = faults.filter((f) => f.warning);
  // biome-ignore lint/correctness/useExhaustiveDependencies: other faults are other places
  useEffect(() => setAccepted([]), [JSON.stringify(faults)]);
  const counts = settled && !preview.data?.refused ? preview.data?.tables : undefined;
  const fresh = counts?.some((t) => t.added || t.changed);
  const ready = fresh && settled === entry && soft.length === accepted.length && !incoming;
  const across = ACROSS.includes(table) || correcting !== undefined;
  const offer = (next: string[][], words: string[], as?: string) =>
    setIncoming({ cells: next, places: changedPlaces(cells, next), words, unit: as });
  const block = (data: DataTransfer, line: number, fact: number) => {
    const text = data.getData("text/plain");
    if (!/[\t\n]/.test(text.trim())) return false;
    const html = data.getData("text/html");
    readPasted.mutate(
      { table, payer, text, html: /<table/i.test(html) ? html : "", unit },
      {
        onSuccess: (found) => {
          const told = [...found.notes, ...found.left_out.map((x) => `left out: ${x}`)];
          if (found.rows.length > 0)
            offer(
              recordsAsColumns(cells, found.rows, names, given, fact),
              told.map((w) => `${upperFirst(w)}.`),
            );
          else {
            const placed = placeBlock({ cells, text, names, also, line, fact, across });
            offer(withGiven(placed.cells, names, given), [...found.asks, ...placed.lost]);
          }
        },
      },
    );
    return true;
  };
  const place = useRef<HTMLElement>(null);
  useEffect(() => {
    const cells = [...(place.current?.querySelectorAll<HTMLInputElement>("[data-cell]") ?? [])];
    cells.find((c) => !c.value && !c.readOnly)?.focus();
  }, []);
  return (
    <section
      ref={place}
      aria-label={title ?? `${correcting ? "Edit" : "Enter"} ${table.replaceAll("_", " ")} by hand`}
      className="mt-3 rounded-md border border-line bg-raised p-4"
    >
      {title && <h2 className="text-[17px]">{title}</h2>}
      <p className="max-w-[90ch] text-[14px] text-muted">
        {correcting
          ? "What you change here replaces the stored fact; Undo under “Import” puts it back. To keep the original in sight, edit the figure from its working instead."
          : "Type, or paste cells from anywhere: you see where each goes before it does. Enter goes on to the next cell. Empty cells stay unknown."}
      </p>
      <div className="mt-2 flex flex-wrap items-center gap-x-6 gap-y-1">
        <Dialect
          money={money}
          unit={unit}
          decimal={decimal}
          onUnit={(unit) => write({ unit })}
          onDecimal={(decimal) => write({ decimal })}
        />
        <HistoryButtons cells={grid} onClear={() => grid.change(empty())} />
      </div>
      {incoming && (
        <PasteNote
          incoming={incoming}
          onTake={() => {
            grid.change(incoming.cells);
            setIncoming(null);
          }}
          onCancel={() => setIncoming(null)}
        />
      )}
      {readPasted.error && (
        <ErrorNote error={readPasted.error} kept="What you typed is still here." />
      )}
      <GridCells
        lines={lines}
        cells={incoming?.cells ?? cells}
        across={across}
        faults={incoming ? [] : hard}
        fixed={correcting ? Object.keys(correcting.key) : []}
        incoming={incoming?.places}
        reference={props.reference}
        onChange={grid.change}
        onBlock={block}
        onKey={(e) => onHistoryKey(e, grid)}
        onAdd={
          correcting
            ? undefined
            : () => grid.change(lines.map((c, l) => [...(cells[l] ?? []), given[c.name] ?? ""]))
        }
      />
      {preview.error && <ErrorNote error={preview.error} kept="What you typed is still here." />}
      {hard.length > 0 && !incoming && <Hard faults={hard} across={across} />}
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
          data-keep
          aria-disabled={!ready || keep.isPending}
          onClick={() =>
            entry &&
            ready &&
            !keep.isPending &&
            keep.mutate(
              { ...entry, accepted },
              {
                onSuccess: (k) => {
                  grid.forget();
                  setWritten(null);
                  onKept(`Kept, as source no. ${k.source}.`, k.source);
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

/** Columns that are settled beside the grid, or by it. */
const HIDDEN = ["unit", "assumed"];

/** A held value as it would be typed. */
const heldText = (value: unknown) => (value === null || value === undefined ? "" : String(value));

interface GridParts {
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
function factsOf(parts: GridParts): TypedFacts | null {
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
    <div className="flex flex-wrap gap-x-6 gap-y-1 text-[15px]">
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

/** The place of a fault, as the grid shows it. */
function Hard({ faults, across }: { faults: Fault[]; across: boolean }) {
  return (
    <ul className="mt-2 text-[14px] text-outside" aria-label="What cannot be kept yet">
      {faults.slice(0, 8).map((f) => (
        <li key={`${f.line}:${f.column}:${f.expected}`}>
          {upperFirst(lineName(f.column ?? "a cell"))}
          {f.line ? `, ${across ? "column" : "row"} ${f.line}:` : ":"}
          {f.value ? ` “${f.value}”;` : " empty;"} expected {f.expected}
        </li>
      ))}
      {faults.length > 8 && <li>and {faults.length - 8} more</li>}
    </ul>
  );
}
