import { useRef, useState } from "react";
import type { Column, Fault } from "@/api/sources";
import { lineName, putBlock } from "./grid";

interface Props {
  lines: Column[];
  /** A row for each line, a column for each fact. */
  cells: string[][];
  /** Lines lie down and facts across, as in statements; else a row is a fact, as in lists. */
  across: boolean;
  faults: Fault[];
  /** Lines that cannot be changed. */
  fixed: string[];
  /** Cells that a paste would change, as "line-fact"; nothing can be typed meanwhile. */
  incoming?: Set<string>;
  onChange: (cells: string[][], place: string) => void;
  /** Returns whether the block is taken. */
  onBlock: (data: DataTransfer, line: number, fact: number) => boolean;
  onAdd?: () => void;
  onKey: (event: React.KeyboardEvent) => void;
  /** What stands beside facts that lie across, to compare with: the fact before. */
  reference?: Reference;
}

export interface Reference {
  name: string;
  values: Record<string, string>;
}

/** Columns that may stay empty where a rule fills them, with what it fills in. */
const FILLED: Record<string, string> = {
  published_on: "by rule if empty",
  span: "",
};

/** Facts to type: years across for statements, one a row for lists. */
export function GridCells(props: Props) {
  const { lines, cells, across, onAdd, onKey } = props;
  const body = useRef<HTMLTableElement>(null);
  const facts = Math.max(1, ...cells.map((r) => r.length));
  const [whole, setWhole] = useState(false);
  const filled = (l: number) => cells[l]?.some((cell) => cell !== "") ?? false;
  const places = lines.map((line, l) => ({ line, l }));
  const shown = places.filter(({ line, l }) => whole || !line.seldom || filled(l));
  const move = (event: React.KeyboardEvent, line: number, fact: number) => {
    onKey(event);
    if (event.defaultPrevented || event.target instanceof HTMLSelectElement) return;
    const step = { ArrowDown: 1, Enter: 1, ArrowUp: -1 }[event.key];
    if (!step) return;
    event.preventDefault();
    const at = (l: number, f: number) =>
      body.current?.querySelector<HTMLElement>(`[data-cell="${l}-${f}"]`);
    const after = shown.find(({ l }) => l > line)?.l ?? lines.length;
    const next = across ? at(line + step, fact) : at(line, fact + step);
    const wrapped = event.key === "Enter" ? (across ? at(0, fact + 1) : at(after, 0)) : null;
    const to = next ?? wrapped;
    if (to) {
      to.focus();
      if (to instanceof HTMLInputElement) to.select();
    } else if (event.key === "Enter")
      body.current?.closest("section")?.querySelector<HTMLElement>("[data-keep]")?.focus();
  };
  const cell = (line: Column, l: number, f: number) => (
    <td key={`${l}-${f}`} className="px-1 py-0.5">
      <Cell {...props} line={line} l={l} f={f} onMove={move} narrow={!across && shown.length > 8} />
    </td>
  );
  const add = onAdd && (
    <button type="button" className="button whitespace-nowrap" onClick={onAdd}>
      {across ? "Add column" : "Add row"}
    </button>
  );
  return (
    <div className="relative mt-3 overflow-auto" style={{ maxHeight: "44vh" }}>
      <table ref={body} className="text-[14px]">
        <caption className="sr-only">
          What you enter: {across ? "a line a row, a fact a column" : "a fact a row"}
        </caption>
        {across ? (
          <tbody>
            {lines.map((line, l) => (
              <tr key={line.name}>
                <th scope="row" className="sticky left-0 bg-raised pr-3 text-left! align-middle">
                  <Name line={line} />
                </th>
                {Array.from({ length: facts }, (_, f) => cell(line, l, f))}
                {props.reference && (
                  <td className="whitespace-nowrap pl-3 text-right text-muted">
                    {l === 0 ? props.reference.name : (props.reference.values[line.name] ?? "")}
                  </td>
                )}
                {l === 0 && add && (
                  <td rowSpan={lines.length} className="pl-3 align-top">
                    {add}
                  </td>
                )}
              </tr>
            ))}
          </tbody>
        ) : (
          <>
            <thead className="sticky top-0 bg-raised">
              <tr>
                {shown.map(({ line }) => (
                  <th key={line.name} scope="col" className="px-1 text-left!">
                    <Name line={line} />
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {Array.from({ length: facts }, (_, f) => (
                <tr key={f}>{shown.map(({ line, l }) => cell(line, l, f))}</tr>
              ))}
            </tbody>
          </>
        )}
      </table>
      {!across && (
        <p className="mt-1 flex gap-3">
          {add}
          {(whole || shown.length < lines.length) && (
            <button
              type="button"
              className="link min-h-6"
              aria-pressed={whole}
              onClick={() => setWhole(!whole)}
            >
              {whole ? "Fewer columns" : "All columns"}
            </button>
          )}
        </p>
      )}
    </div>
  );
}

function Name({ line }: { line: Column }) {
  return (
    <>
      <span className="text-[14px] text-ink">{lineName(line.name)}</span>
      {line.required && !(line.name in FILLED) && <span className="text-muted"> (needed)</span>}
    </>
  );
}

interface CellProps extends Props {
  line: Column;
  l: number;
  f: number;
  onMove: (event: React.KeyboardEvent, line: number, fact: number) => void;
  /** Of a row of many cells. */
  narrow: boolean;
}

const WIDTH: Record<string, string> = { text: "w-[180px]" };
const PLACEHOLDER: Record<string, string> = { period_end: "2025, Q3 2025", ...FILLED };

function Cell(props: CellProps) {
  const { line, l, f, cells, faults, fixed, incoming, onChange, onBlock, onMove, narrow } = props;
  const fault = faults.find((x) => x.column === line.name && x.line === f + 1);
  const value = cells[l]?.[f] ?? "";
  const shared = {
    "data-cell": `${l}-${f}`,
    "aria-label": `${lineName(line.name)}, ${f + 1}`,
    "aria-invalid": fault ? true : undefined,
    onKeyDown: (e: React.KeyboardEvent) => onMove(e, l, f),
  } as const;
  const put = (text: string) => onChange(putBlock(cells, [[text]], l, f), `${l}-${f}`);
  if (line.choices.length > 0) {
    return (
      <select
        {...shared}
        className="field w-[132px] py-0.5"
        disabled={fixed.includes(line.name) || incoming !== undefined}
        value={value}
        onChange={(e) => put(e.target.value)}
      >
        <option value="" />
        {value && !line.choices.includes(value) && <option value={value}>{value}</option>}
        {line.choices.map((choice) => (
          <option key={choice} value={choice}>
            {choice.replaceAll("_", " ")}
          </option>
        ))}
      </select>
    );
  }
  const width = narrow ? "w-[104px]" : (WIDTH[line.type] ?? "w-[132px]");
  const coming = incoming?.has(`${l}-${f}`) ? "border-action font-semibold" : "";
  return (
    <input
      {...shared}
      className={`field py-0.5 ${width} ${line.type === "text" ? "" : "text-right"} ${coming}`}
      title={fault ? `expected ${fault.expected}` : line.expected}
      readOnly={fixed.includes(line.name) || incoming !== undefined}
      placeholder={PLACEHOLDER[line.name] ?? (line.type === "date" ? "YYYY-MM-DD" : undefined)}
      value={value}
      onChange={(e) => put(e.target.value)}
      onPaste={(e) => {
        if (onBlock(e.clipboardData, l, f)) e.preventDefault();
      }}
    />
  );
}
