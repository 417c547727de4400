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
  also: string[][] = [],
): string[][] | null {
  const known = new Map(
    names.flatMap((n, i) => [n, lineName(n), ...(also[i] ?? [])].map((w) => [plain(w), i])),
  );
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

interface Block {
  cells: string[][];
  text: string;
  names: string[];
  /** Of each name, what else people head it. */
  also?: string[][];
  line: number;
  fact: number;
  across: boolean;
}

/** Where the cells of a pasted block go: by the names in its first column or row where it has
 * them, else from the cursor on, the way the grid lies. lost: what has no place, in words. */
export function placeBlock({ cells, text, names, also, line, fact, across }: Block): {
  cells: string[][];
  lost: string[];
} {
  const block = readBlock(text);
  const named =
    putNamed(cells, block, names, fact, also) ??
    putNamed(cells, transpose(block), names, fact, also);
  if (named) return { cells: named, lost: unnamed(block, names, also) };
  // A block that is one line of a table of rows: a fact stands in a column here.
  const turned = !across || (block.length === 1 && (block[0]?.length ?? 0) > 1 && line === 0);
  const laid = turned ? transpose(block) : block;
  const over = line + laid.length - names.length;
  const fitted = putBlock(cells, laid, line, fact).slice(0, names.length);
  return { cells: fitted, lost: over > 0 ? [`${over} of its lines have no place here.`] : [] };
}

function unnamed(block: string[][], names: string[], also: string[][] = []): string[] {
  const known = new Set(names.flatMap((n, i) => [n, lineName(n), ...(also[i] ?? [])].map(plain)));
  const heads = block.map((r) => r[0] ?? "");
  const first = heads.some((h) => known.has(plain(h))) ? heads : (block[0] ?? []);
  const lost = first.filter((h) => h && !known.has(plain(h)));
  return lost.length > 0 ? [`Without a place here: ${lost.slice(0, 12).join(", ")}.`] : [];
}

/** Records that were read elsewhere, as facts from a place on; empty facts there are taken. */
export function recordsAsColumns(
  cells: string[][],
  records: Record<string, string>[],
  names: string[],
  given: Record<string, string>,
  fact: number,
): string[][] {
  const block = names.map((n) => records.map((r) => r[n] ?? given[n] ?? ""));
  return putBlock(cells, block, 0, fact);
}

/** What is the same for each fact, where a fact that says anything leaves it out. */
export function withGiven(
  cells: string[][],
  names: string[],
  given: Record<string, string>,
): string[][] {
  const says = (f: number) => cells.some((row) => row[f]);
  return cells.map((row, l) =>
    row.map((cell, f) => cell || (says(f) && given[names[l] ?? ""]) || ""),
  );
}

/** The cells that differ, as "line-fact". */
export function changedPlaces(before: string[][], next: string[][]): Set<string> {
  const places = new Set<string>();
  next.forEach((row, l) => {
    row.forEach((cell, f) => {
      if (cell !== (before[l]?.[f] ?? "")) places.add(`${l}-${f}`);
    });
  });
  return places;
}
