import type { Figure } from "@/api/client";
import type { Measure, PayerRow } from "@/api/payers";
import { DeviationMark, YearBars } from "@/charts/Marks";
import { kindName, shareDigits, show, upperFirst } from "@/format/format";
import { CushionBar } from "@/ui/CushionList";
import { cushionWords } from "@/ui/cushion";
import { Fig } from "@/ui/Fig";
import { STATE_WORDS, StateMark } from "@/ui/StateMark";
import { TouchMark } from "@/ui/TouchMark";
import { isMoney } from "./columns";

/** What stands in one cell: a mark, a word, or a figure that opens its working. */
export function CellContent({
  row,
  column,
  measure,
  currency,
}: {
  row: PayerRow;
  column: string;
  measure?: Measure;
  /** What the column's header says amounts are in. */
  currency?: string;
}) {
  if (!row.ready && !row.stale) return <span className="text-muted">…</span>;
  if (measure?.drawn === "dividends") return <Dividends row={row} />;
  if (measure?.drawn === "first") return <First row={row} />;
  const cell = row.cells[column];
  if (!cell || !measure) return null;
  if (measure.unit === null) {
    if (measure.drawn === "state" && row.state) {
      return (
        <span className="flex items-center gap-2">
          <StateMark state={row.state} label={false} /> {STATE_WORDS[row.state]}
        </span>
      );
    }
    return (
      <span className="text-muted">
        {cell.word ? upperFirst(kindName(cell.word)) : "–"}
        <TouchMark touch={cell.touch} />
      </span>
    );
  }
  const figure: Figure = {
    key: cell.key ?? "",
    label: measure.name,
    unit: measure.unit,
    value: cell.value ?? null,
    reason: cell.reason ?? null,
    breach: cell.breach ?? null,
    spared: cell.spared ?? null,
    notes: [],
    touch: cell.touch ?? null,
    cautions: cell.cautions ?? [],
  };
  const fig = (
    <Fig
      figure={figure}
      bare
      digits={digitsOf(measure, figure.value)}
      sign={measure.signed}
      tabIndex={-1}
      unknown="–"
      className={breaks(row, column) ? "font-semibold text-outside!" : ""}
    />
  );
  if (isMoney(measure) && figure.value !== null && row.currency !== currency) {
    return (
      <>
        {fig}
        <span className="text-[12px] text-muted"> {row.currency}</span>
      </>
    );
  }
  if (measure.drawn !== "deviation" || figure.value === null) return fig;
  return (
    <span className="flex items-center justify-end gap-2">
      <DeviationMark value={figure.value} />
      <span className="min-w-[44px]">{fig}</span>
    </span>
  );
}

/** Shares may be fractions; amounts at home stand without theirs. */
function digitsOf(measure: Measure, value: number | null): number | undefined {
  if (measure.unit === "count") return shareDigits(value);
  return measure.currency ? (measure.digits ?? undefined) : undefined;
}

/** What gives first, and has given. */
const breaks = (row: PayerRow, column: string) =>
  row.first?.state === "outside" && row.first.id === column;

function Dividends({ row }: { row: PayerRow }) {
  const n = row.dividends.length;
  const last = row.last_year ?? 0;
  return (
    <span className="flex justify-end" title={n ? `${last - n + 1} to ${last}` : undefined}>
      <YearBars values={row.dividends} />
      <span className="sr-only">
        {row.dividends.map((d) => (d === null ? "unknown" : show(d, "per_share"))).join(", ")}
      </span>
    </span>
  );
}

function First({ row }: { row: PayerRow }) {
  const { first } = row;
  if (!row.state) return null;
  return (
    <span className="flex items-center gap-2">
      <StateMark state={row.state} />
      <span className="w-[106px] text-[14px] whitespace-normal leading-tight">
        {first && upperFirst(first.short)}
        {!first && (row.state === "paying_nothing" ? "Paying nothing" : "No test has an answer")}
        <TouchMark touch={first?.cushion.touch} />
      </span>
      {first && <CushionBar test={first} width={66} />}
      {first && <span className="sr-only">{cushionWords(first)}</span>}
    </span>
  );
}
