import { useEffect, useState } from "react";
import type { Compared, CompareLine, Comparison } from "@/api/compare";
import { useCatalogue } from "@/api/payers";
import { number, percent, show, upperFirst, withDates } from "@/format/format";
import { useView } from "@/state/view";
import { Fig, PayerContext } from "@/ui/Fig";
import { MeasureSelect } from "@/ui/MeasureSelect";
import { ReviewLink } from "@/ui/ReviewLink";
import { StateMark } from "@/ui/StateMark";
import type { Line } from "./lines";
import { letterOf, Strip } from "./Strip";

interface Props {
  found: Comparison;
  lines: Line[];
  onLines: (lines: Line[], how?: { replace?: boolean }) => void;
  onRemove: (key: string) => void;
}

/** Measures down, payers across; in each row the distances as a strip. */
export function LinesTable({ found, lines, onLines, onRemove }: Props) {
  const { payers } = found;
  const [weighing, setWeighing] = useState(false);
  const set = (id: string, part: Partial<Line>, how?: { replace?: boolean }) =>
    onLines(
      lines.map((x) => (x.id === id ? { ...x, ...part } : x)),
      how,
    );
  return (
    <>
      <button
        type="button"
        className="button mt-3 sm:hidden"
        aria-pressed={weighing}
        onClick={() => setWeighing(!weighing)}
      >
        {weighing ? "Hide the weights" : "Show the weights"}
      </button>
      <section
        aria-label="Measures compared"
        tabIndex={0}
        className={`relative mt-4 overflow-x-auto ${weighing ? "" : "max-sm:[&_.weighing]:hidden"}`}
      >
        <table className="rows w-full text-[15px]">
          <caption className="sr-only">Measures compared; the best of each is marked</caption>
          <thead>
            <tr>
              <th scope="col" className="sticky left-0 z-10 bg-paper text-left!">
                Measure
              </th>
              <th scope="col" className="weighing text-left!">
                Better
              </th>
              <th scope="col" className="weighing">
                Weight
              </th>
              {payers.map((p, i) => (
                <PayerHead
                  key={`${p.exchange}/${p.symbol}`}
                  payer={p}
                  place={i}
                  onRemove={onRemove}
                />
              ))}
              <th scope="col" className="pl-5! text-left!">
                Distances
              </th>
              <th scope="col">
                <span className="sr-only">Take out</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {found.lines.map((line) => (
              <Row
                key={line.id}
                line={line}
                payers={payers}
                onSet={(part, how) => set(line.id, part, how)}
                onTakeOut={() => onLines(lines.filter((x) => x.id !== line.id))}
              />
            ))}
          </tbody>
          <tfoot>
            <Foot name="Points" payers={payers} of={(p) => number(p.points, 2)} />
            <Foot name="Place" payers={payers} of={(p) => String(p.rank)} strong />
            <Foot
              name="Comes first with other weights"
              payers={payers}
              of={(p) => (p.firmness === null ? "–" : percent(p.firmness, 0))}
            />
          </tfoot>
        </table>
      </section>
      <AddMeasure lines={lines} onAdd={(line) => onLines([...lines, line])} />
    </>
  );
}

interface HeadProps {
  payer: Compared;
  place: number;
  onRemove: (key: string) => void;
}

function PayerHead({ payer, place, onRemove }: HeadProps) {
  return (
    <th scope="col" className="min-w-[104px] pl-4! align-bottom">
      <span className="block text-[13px] text-muted">
        {payer.state && <StateMark state={payer.state} />} {letterOf(place)}
      </span>
      <ReviewLink payer={payer} className="font-semibold text-ink hover:underline">
        {payer.name}
      </ReviewLink>
      <span className="block text-[13px]">
        {payer.symbol} · {payer.currency}{" "}
        <button
          type="button"
          data-tool
          className="link"
          aria-label={`Take out ${payer.name}`}
          onClick={() => onRemove(`${payer.exchange}/${payer.symbol}`)}
        >
          ×
        </button>
      </span>
    </th>
  );
}

interface RowProps {
  line: CompareLine;
  payers: Compared[];
  onSet: (part: Partial<Line>, how?: { replace?: boolean }) => void;
  onTakeOut: () => void;
}

function Row({ line, payers, onSet, onTakeOut }: RowProps) {
  const how = { digits: line.digits ?? 1, sign: line.signed };
  return (
    <tr>
      <th scope="row" className="sticky left-0 z-10 bg-paper text-left! text-[15px] text-ink">
        {line.name}
      </th>
      <td className="weighing text-left!">
        <button
          type="button"
          className="link"
          aria-label={`${line.name}: ${line.better === "high" ? "more" : "less"} is better; turn`}
          onClick={() => onSet({ better: line.better === "high" ? "low" : "high" })}
        >
          {line.better === "high" ? "more" : "less"}
        </button>
      </td>
      <td className="weighing">
        <Weight line={line} onWeight={(weight) => onSet({ weight }, { replace: true })} />
      </td>
      {line.cells.map((cell, i) => {
        const payer = payers[i];
        return (
          <td key={payer ? `${payer.exchange}/${payer.symbol}` : i} className="pl-4!">
            <PayerContext value={payer ?? null}>
              {cell.figure ? (
                <Fig
                  figure={cell.figure}
                  className={cell.best ? "font-semibold underline decoration-2" : ""}
                  {...how}
                />
              ) : (
                <span className="text-muted" title={upperFirst(cell.reason ?? "")}>
                  not used
                </span>
              )}
            </PayerContext>
            {cell.best && <span className="sr-only"> best</span>}
            {cell.figure && cell.compared !== null && cell.compared !== cell.figure.value && (
              <span className="block text-[13px] text-muted">
                = {show(cell.compared, line.unit, how)}
              </span>
            )}
            {cell.figure?.value === null && !cell.figure.breach && !cell.figure.spared && (
              <span className="block max-w-[150px] text-[12px] text-muted">
                {withDates(cell.figure.reason ?? "")}
              </span>
            )}
          </td>
        );
      })}
      <td className="pl-5!">
        <Strip line={line} />
      </td>
      <td>
        <button
          type="button"
          data-tool
          className="link"
          aria-label={`Take out ${line.name}`}
          onClick={onTakeOut}
        >
          ×
        </button>
      </td>
    </tr>
  );
}

/** A weight as a number one can type; it acts at once. */
function Weight({ line, onWeight }: { line: CompareLine; onWeight: (weight: number) => void }) {
  const [text, setText] = useState(String(line.weight));
  useEffect(() => setText((t) => (Number(t) === line.weight ? t : String(line.weight))), [line]);
  const wrong = !(Number(text) >= 0 && Number(text) <= 1000) || text.trim() === "";
  return (
    <input
      className="field w-[62px] px-1.5 py-0.5 text-right"
      inputMode="decimal"
      aria-label={`Weight of ${line.name}`}
      aria-invalid={wrong || undefined}
      title={wrong ? "a number from 0 to 1,000" : undefined}
      value={text}
      onChange={(e) => {
        const next = e.target.value.replace(",", ".");
        setText(next);
        const weight = Number(next);
        if (next.trim() !== "" && weight >= 0 && weight <= 1000) onWeight(weight);
      }}
    />
  );
}

interface FootProps {
  name: string;
  payers: Compared[];
  of: (payer: Compared) => string;
  strong?: boolean;
}

function Foot({ name, payers, of, strong }: FootProps) {
  return (
    <tr className={strong ? "font-semibold" : ""}>
      <th scope="row" className="sticky left-0 bg-paper text-left! text-ink">
        {name}
      </th>
      <td colSpan={2} className="weighing" />
      {payers.map((p) => (
        <td key={`${p.exchange}/${p.symbol}`} className="pr-[7px]! pl-4!">
          {of(p)}
        </td>
      ))}
      <td colSpan={2} />
    </tr>
  );
}

function AddMeasure({ lines, onAdd }: { lines: Line[]; onAdd: (line: Line) => void }) {
  const [view] = useView();
  const catalogue = useCatalogue(view.as_of);
  const taken = new Set(lines.map((x) => x.id));
  const measures = (catalogue.data?.measures ?? []).filter((m) => m.unit && !taken.has(m.id));
  return (
    <p className="mt-2">
      <MeasureSelect
        measures={measures}
        value=""
        label="Add a measure"
        className="max-w-[320px]"
        none="Add a measure…"
        onChoose={(id) => id && onAdd({ id, better: "" })}
      />
    </p>
  );
}
