import type { PayerKey } from "@/api/hooks";
import type { Column, FactRow } from "@/api/sources";
import { number, upperFirst } from "@/format/format";
import { lineName } from "@/ui/grid/grid";
import { TouchMark } from "@/ui/TouchMark";
import { Exclude } from "./Exclude";

interface TableProps {
  table: string;
  columns: Column[];
  rows: FactRow[];
  /** Whose facts they are; null for what belongs to no payer, which is not excluded. */
  payer: PayerKey | null;
  onEdit: (row: FactRow) => void;
}

const keyOf = (row: FactRow) => Object.values(row.key).join(" ");

function cellText(column: Column, value: unknown, money = 1, digits?: number): string {
  if (value === null || value === undefined) return "–";
  if (typeof value !== "number") return String(value).replaceAll("_", " ");
  if (column.scaled) return number(value / money, money > 1 ? 1 : 0);
  if (column.type === "integer") return String(value);
  return digits === undefined ? String(+value.toFixed(4)) : value.toFixed(digits);
}

/** So many decimals as some value of a column needs, so that they stand beneath each other. */
function digitsOf(column: Column, rows: FactRow[]): number | undefined {
  if (column.type !== "number" || column.scaled) return undefined;
  const lengths = rows.map((r) => {
    const value = r.cells[column.name];
    return typeof value === "number" ? (String(+value.toFixed(4)).split(".")[1]?.length ?? 0) : 0;
  });
  return Math.max(0, ...lengths);
}

interface CellProps {
  row: FactRow;
  column: Column;
  money?: number;
  digits?: number;
}

/** A held value; where it is edited, what counts stands before it. */
function Cell({ row, column, money, digits }: CellProps) {
  const held = cellText(column, row.cells[column.name], money, digits);
  const changed = row.edited[column.name];
  if (!changed) return row.edited.excluded ? <s className="text-muted">{held}</s> : held;
  return (
    <span title={changed.reason}>
      {cellText(column, changed.value, money, digits)}
      <TouchMark touch="edited" /> <s className="text-muted">{held}</s>
    </span>
  );
}

/** What can be done with one fact. */
function Actions({
  table,
  row,
  payer,
  onEdit,
}: Omit<TableProps, "columns" | "rows"> & { row: FactRow }) {
  const name = `${table.replaceAll("_", " ")} ${keyOf(row).replaceAll("_", " ")}`;
  return (
    <span className="inline-flex gap-3">
      {!row.edited.excluded && (
        <button
          type="button"
          className="link"
          aria-label={`Edit: ${name}`}
          onClick={() => onEdit(row)}
        >
          Edit
        </button>
      )}
      {payer && table !== "payers" && <Exclude payer={payer} table={table} row={row} name={name} />}
    </span>
  );
}

/** Facts as lines, the newest first. */
export function Rows(props: TableProps) {
  const { columns, rows } = props;
  const used = columns.filter((c) => c.required || rows.some((r) => r.cells[c.name] != null));
  const digits = new Map(used.map((c) => [c.name, digitsOf(c, rows)]));
  const text = (c: Column) => c.type === "text" || c.type === "choice" || c.type === "currency";
  return (
    <table className="rows text-[14px]">
      <caption className="sr-only">Stored data, the newest first</caption>
      <thead className="sticky top-0 bg-paper">
        <tr>
          {used.map((c) => (
            <th key={c.name} scope="col" className={`pr-5! ${text(c) ? "text-left!" : ""}`}>
              {upperFirst(c.name.replaceAll("_", " "))}
            </th>
          ))}
          <th scope="col" className="pr-6! text-left!">
            Source
          </th>
          <th scope="col">
            <span className="sr-only">Edit or exclude</span>
          </th>
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => (
          <tr key={keyOf(row)}>
            {used.map((c) => (
              <td
                key={c.name}
                className={`pr-5! ${text(c) ? "max-w-[420px] text-left!" : "whitespace-nowrap"}`}
              >
                <Cell row={row} column={c} digits={digits.get(c.name)} />
              </td>
            ))}
            <td className="whitespace-nowrap pr-6! text-left! text-muted">
              {row.source_name}
              {row.by_hand && <TouchMark touch="entered" />}
              {row.aside && <span className="block text-[13px]">does not count: {row.aside}</span>}
            </td>
            <td className="whitespace-nowrap">
              <Actions {...props} row={row} />
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

const HEAD = ["span", "published_on"];
const NAME_CELL =
  "sticky left-0 min-w-[140px] bg-paper lg:min-w-[196px] text-left! text-[14px] text-ink";

/** Lines down, periods across, the newest first; versions of one period side by side. */
export function Statements(props: TableProps) {
  const { columns, rows } = props;
  const lines = columns.filter(
    (c) =>
      !["period_end", "unit", "currency", ...HEAD].includes(c.name) &&
      rows.some((r) => r.cells[c.name] != null || r.edited[c.name]),
  );
  const derived = [...new Set(rows.flatMap((r) => Object.keys(r.derived)))];
  const currencies = [...new Set(rows.map((r) => r.cells.currency))];
  return (
    <table className="rows text-[14px]">
      <caption className="sr-only">Stored statements, in millions, the newest first</caption>
      <thead className="sticky top-0 z-10 bg-paper">
        <tr>
          <th scope="col" className="sticky left-0 bg-paper text-left! align-top">
            {currencies.length === 1 ? `${currencies[0]} and shares` : "Money and shares"}
            <br />
            in millions
          </th>
          {rows.map((row) => (
            <PeriodHead key={keyOf(row)} {...props} row={row} inWords={currencies.length > 1} />
          ))}
        </tr>
      </thead>
      <tbody>
        {lines.map((line) => (
          <tr key={line.name}>
            <th scope="row" className={NAME_CELL}>
              {lineName(line.name)}
            </th>
            {rows.map((r) => (
              <td
                key={keyOf(r)}
                className={`whitespace-nowrap pl-4! ${restated(r, rows, line.name) ? "font-semibold" : ""}`}
              >
                <Cell row={r} column={line} money={1e6} />
              </td>
            ))}
          </tr>
        ))}
        {derived.map((name) => (
          <tr key={name}>
            <th scope="row" className={`${NAME_CELL} italic`}>
              {lineName(name)} <span className="text-muted">derived</span>
            </th>
            {rows.map((r) => (
              <td key={keyOf(r)} className="whitespace-nowrap pl-4! text-muted italic">
                {r.derived[name] === undefined ? "–" : number((r.derived[name] ?? 0) / 1e6, 1)}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

const versionsOf = (row: FactRow, rows: FactRow[]) =>
  rows.filter(
    (r) => r !== row && r.key.period_end === row.key.period_end && r.key.span === row.key.span,
  );

/** Whether another version of the period says something else here. */
const restated = (row: FactRow, rows: FactRow[], line: string) =>
  versionsOf(row, rows).some((r) => r.cells[line] !== row.cells[line]);

/** inWords: the currency is told, as the periods shown are not all in the same. */
function PeriodHead(props: TableProps & { row: FactRow; inWords: boolean }) {
  const { row, rows } = props;
  const again = versionsOf(row, rows).length > 0;
  return (
    <th scope="col" className="pl-4! leading-tight">
      <span className="whitespace-nowrap text-ink">
        {String(row.key.span)} to {row.key.period_end}
      </span>
      <br />
      <span className="whitespace-nowrap">
        {row.edited.excluded ? "excluded, " : again ? "version of " : "published "}
        {row.key.published_on}
        {props.inWords && `, ${row.cells.currency}`}
      </span>
      {row.by_hand && <TouchMark touch="entered" />}
      <br />
      <Actions {...props} row={row} />
    </th>
  );
}
