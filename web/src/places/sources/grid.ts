/** Cells as a person types or pastes them, before anything is read. */

import { upperFirst } from "@/format/format";

const CAPITALS = /^(ebit|ebitda|ffo|affo)$/;

const TERMS: Record<string, string> = {
  depreciation_amortization: "Depreciation and amortization",
  stock_based_compensation: "Stock-based compensation",
  straight_line_rent: "Straight-line rent",
  risk_free_yield: "Risk-free yield",
  aaa_yield: "AAA yield",
};

/** A column or kind as a person reads it: "Cost of revenue", "EBIT". */
export const lineName = (name: string) =>
  TERMS[name] ??
  (CAPITALS.test(name)
    ? name.toUpperCase()
    : upperFirst(name.replaceAll("_", " ").replace(/\beps\b/, "EPS")));

/** A block copied from a spreadsheet: lines of cells, parted by tabs. */
export function readBlock(text: string): string[][] {
  return text
    .replace(/\r\n?/g, "\n")
    .replace(/\n$/, "")
    .split("\n")
    .map((line) => line.split("\t").map((cell) => cell.trim()));
}

const plain = (text: string) =>
  text
    .toLowerCase()
    .replace(/[^a-z]+/g, " ")
    .trim();

/** Puts a block into cells at a place; the cells grow where the block is larger. */
export function putBlock(
  cells: string[][],
  block: string[][],
  row: number,
  column: number,
): string[][] {
  const height = Math.max(cells.length, row + block.length);
  const width = Math.max(
    ...cells.map((r) => r.length),
    column + Math.max(...block.map((r) => r.length)),
  );
  return Array.from({ length: height }, (_, r) =>
    Array.from({ length: width }, (_, c) => block[r - row]?.[c - column] ?? cells[r]?.[c] ?? ""),
  );
}

/** A block whose first column names most of its lines: each line goes where its name stands. */
export function putNamed(
  cells: string[][],
  block: string[][],
  names: string[],
  column: number,
): string[][] | null {
  const known = new Map(names.flatMap((n, i) => [n, lineName(n)].map((w) => [plain(w), i])));
  const places = block.map((line) => known.get(plain(line[0] ?? "")));
  const hits = places.filter((p) => p !== undefined).length;
  if (block.every((line) => line.length < 2) || hits < block.length / 2) return null;
  return block.reduce((done, line, i) => {
    const place = places[i];
    return place === undefined ? done : putBlock(done, [line.slice(1)], place, column);
  }, cells);
}

/** Columns of cells as records: one for each column that holds anything. */
export function columnsAsRecords(cells: string[][], names: string[]): Record<string, string>[] {
  const width = Math.max(0, ...cells.map((r) => r.length));
  const records: Record<string, string>[] = [];
  for (let c = 0; c < width; c++) {
    const record: Record<string, string> = {};
    names.forEach((name, r) => {
      const cell = cells[r]?.[c]?.trim();
      if (cell) record[name] = cell;
    });
    if (Object.keys(record).length) records.push(record);
  }
  return records;
}

export const transpose = (cells: string[][]): string[][] =>
  Array.from({ length: Math.max(0, ...cells.map((r) => r.length)) }, (_, c) =>
    cells.map((row) => row[c] ?? ""),
  );
