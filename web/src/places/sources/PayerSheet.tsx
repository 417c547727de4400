import { useRef, useState } from "react";
import { useStatus } from "@/api/hooks";
import { useEnter, useUsualPayer } from "@/api/sources";
import { ErrorNote } from "@/ui/ErrorNote";
import { readBlock } from "@/ui/grid/grid";
import { HistoryButtons } from "@/ui/grid/HistoryButtons";
import { type Cells, onHistoryKey, useCells } from "@/ui/grid/useCells";
import { PayerFields, plainPayer, whole } from "./PayerFields";
import type { Settled } from "./Understood";

interface Props {
  onFiles: (files: File[], settled: Settled) => void;
  /** The payer alone is kept. */
  onKept: (words: string) => void;
  onClose: () => void;
}

/** What most reviews begin with; more lines can be added by name, as people write them. */
const LINES = [
  "Dividend per share",
  "Revenue",
  "Operating profit",
  "Depreciation and amortization",
  "Interest expense",
  "Net income",
  "Diluted EPS",
  "Diluted shares",
  "Cash from operations",
  "Capital expenditure",
  "Dividends paid",
  "Cash",
  "Long-term debt",
  "Total assets",
  "Equity",
];
const YEARS = 10;
const DRAFT = "hearth-payer-sheet";

/** A payer by hand on one sheet: who it is, its years across, and a price. It is read as a pasted
 * spreadsheet would be, with the same preview. */
export function PayerSheet({ onFiles, onKept, onClose }: Props) {
  const usual = useUsualPayer();
  const today = useStatus(undefined).data?.today ?? "";
  const [typed, setTyped] = useState<Record<string, string>>({});
  const payer: Record<string, string> = {
    kind: "company",
    fiscal_year_end_month: "12",
    ...usual,
    ...typed,
  };
  const [unit, setUnit] = useState("millions");
  const [price, setPrice] = useState("");
  const last = Number(today.slice(0, 4)) - 1;
  const [first, setFirst] = useState("");
  const newest = Number(first || last);
  const years = Array.from({ length: YEARS }, (_, i) => String(newest - i));
  const grid = useCells(DRAFT, () => LINES.map(() => []));
  const alone = price.trim() === "" && !grid.cells.some((r) => r.some((c) => c.trim()));
  const ready = whole(payer);
  const enter = useEnter();
  const read = () => {
    if (!ready) return;
    if (alone) {
      enter.mutate(
        { table: "payers", unit: "1", decimal: ".", accepted: [], rows: [plainPayer(payer)] },
        { onSuccess: (k) => onKept(`Kept, as source no. ${k.source}.`) },
      );
      return;
    }
    grid.forget();
    const key = `${payer.exchange}/${payer.symbol}`;
    const file = new File([asText(payer, unit, years, grid.cells, price, today)], "typed.txt");
    onFiles([file], { answers: { "0.payer": key }, payers: [plainPayer(payer)] });
  };
  return (
    <section
      aria-label="A payer, on one sheet"
      className="mt-3 rounded-md border border-line bg-raised p-4"
    >
      <PayerFields held={payer} onSet={(id, value) => setTyped({ ...typed, [id]: value })} />
      <div className="mt-3 flex flex-wrap items-end gap-x-5 gap-y-2 text-[14px]">
        <label>
          Close of {today}{" "}
          <input
            className="field w-[100px] py-0.5 text-right"
            inputMode="decimal"
            value={price}
            onChange={(e) => setPrice(e.target.value)}
          />
        </label>
        <label>
          Newest year{" "}
          <input
            className="field w-[76px] py-0.5 text-right"
            inputMode="numeric"
            maxLength={4}
            value={first || String(last || "")}
            onChange={(e) => setFirst(e.target.value)}
          />
        </label>
        <label>
          Amounts in{" "}
          <select className="field py-0.5" value={unit} onChange={(e) => setUnit(e.target.value)}>
            <option>millions</option>
            <option>thousands</option>
            <option>single units</option>
          </select>
        </label>
        <HistoryButtons cells={grid} onClear={() => grid.change(LINES.map(() => []))} />
      </div>
      <YearsGrid years={years} grid={grid} />
      <p className="mt-1 max-w-[90ch] text-[13px] text-muted">
        Enter goes down, Tab to the right. Empty cells stay unknown. Costs and what is paid out are
        typed as positive amounts. You see what was understood before anything is kept.
      </p>
      {enter.error && <ErrorNote error={enter.error} kept="What you typed is still here." />}
      <p className="mt-3 flex gap-3">
        <button
          type="button"
          data-keep
          className="button primary"
          aria-disabled={!ready}
          onClick={read}
        >
          {alone ? "Keep the payer alone" : "Read it"}
        </button>
        <button type="button" className="button" onClick={onClose}>
          Close
        </button>
      </p>
    </section>
  );
}

/** The sheet as a text that is read like any other. */
function asText(
  payer: Record<string, string>,
  unit: string,
  years: string[],
  cells: string[][],
  price: string,
  today: string,
): string {
  const head =
    unit === "single units" ? `${payer.currency}, in units` : `${payer.currency} in ${unit}`;
  const rows = LINES.map((name, r) => [name, ...years.map((_, c) => cells[r]?.[c] ?? "")]);
  const filled = rows.filter((r) => r.slice(1).some((c) => c.trim()));
  const lines = [[head], ["", ...years], ...filled];
  if (price.trim()) lines.push([], ["Date", "Close"], [today, price.trim()]);
  return lines.map((r) => r.join("\t")).join("\n");
}

function YearsGrid({ years, grid }: { years: string[]; grid: Cells }) {
  const table = useRef<HTMLTableElement>(null);
  const { cells, change } = grid;
  const put = (block: string[][], r: number, c: number, place?: string) =>
    change(
      LINES.map((_, l) => years.map((_, y) => block[l - r]?.[y - c] ?? cells[l]?.[y] ?? "")),
      place,
    );
  const move = (event: React.KeyboardEvent, r: number, c: number) => {
    onHistoryKey(event, grid);
    const step = { ArrowDown: 1, Enter: 1, ArrowUp: -1 }[event.key];
    if (event.defaultPrevented || !step) return;
    event.preventDefault();
    const at = (row: number, column: number) =>
      table.current?.querySelector<HTMLInputElement>(`[data-cell="${row}-${column}"]`);
    const next = at(r + step, c) ?? (event.key === "Enter" ? at(1, c + 1) : null);
    next?.focus();
    next?.select();
    if (!next && event.key === "Enter")
      table.current?.closest("section")?.querySelector<HTMLElement>("[data-keep]")?.focus();
  };
  return (
    <div className="relative mt-2 overflow-x-auto">
      <table ref={table} className="text-[14px]">
        <caption className="sr-only">Years across, lines down</caption>
        <thead>
          <tr>
            <th scope="col" className="text-left!">
              <span className="sr-only">Line</span>
            </th>
            {years.map((y) => (
              <th key={y} scope="col" className="px-1 text-right!">
                {y}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {LINES.map((name, r) => (
            <tr key={name}>
              <th
                scope="row"
                className="sticky left-0 whitespace-nowrap bg-raised pr-3 text-left! text-ink"
              >
                {name}
              </th>
              {years.map((y, c) => (
                <td key={y} className="px-0.5 py-0.5">
                  <input
                    data-cell={`${r}-${c}`}
                    className="field min-h-7 w-[76px] px-1.5 py-0 text-right"
                    aria-label={`${name}, ${y}`}
                    value={cells[r]?.[c] ?? ""}
                    onChange={(e) => put([[e.target.value]], r, c, `${r}-${c}`)}
                    onKeyDown={(e) => move(e, r, c)}
                    onPaste={(e) => {
                      const block = readBlock(e.clipboardData.getData("text/plain"));
                      if (block.length * (block[0]?.length ?? 0) < 2) return;
                      e.preventDefault();
                      put(block, r, c);
                    }}
                  />
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
