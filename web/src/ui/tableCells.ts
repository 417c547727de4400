/** Tables of the page as cells: what is copied and saved is what is shown, with plain numbers. */
import { type RefObject, useEffect, useState } from "react";
import { locale } from "@/format/format";
import { usePrinting } from "@/state/printing";

export type Cell = string | number;
const WHOLE = "hearth:whole";
const WAIT = 50;
const PATIENCE = 20_000;

/** Whether all rows of a long table are drawn, as it is about to be read or printed. */
export function useWholeTable(box: RefObject<HTMLElement | null>): boolean {
  const [whole, setWhole] = useState(false);
  useEffect(() => {
    const place = box.current;
    if (!place) return;
    const on = (event: Event) => setWhole((event as CustomEvent<boolean>).detail);
    place.addEventListener(WHOLE, on);
    return () => place.removeEventListener(WHOLE, on);
  });
  return usePrinting() || whole;
}

/** A table of the page by what it is called, and how many rows it has beneath its heading. */
export interface PageTable {
  name: string;
  rows: number;
  element: HTMLTableElement;
}

/** The tables of the page that have a name. */
export function tablesOfPage(): PageTable[] {
  const found = document.querySelectorAll<HTMLTableElement>("main table, [role=dialog] table");
  return [...found].flatMap((element) => {
    const called = element.caption?.textContent ?? element.getAttribute("aria-label") ?? "";
    const name = called.split(";")[0]?.trim() ?? "";
    const counted = Number(element.getAttribute("aria-rowcount") ?? 0) - 1;
    const rows = Math.max(counted, element.tBodies[0]?.rows.length ?? 0);
    return name && rows > 0 && element.offsetParent !== null ? [{ name, rows, element }] : [];
  });
}

const tell = (table: HTMLTableElement, whole: boolean) =>
  table.parentElement?.dispatchEvent(new CustomEvent(WHOLE, { detail: whole }));

/** All cells of a table; of a long one, once all its rows have arrived. */
export async function readTable(table: HTMLTableElement): Promise<Cell[][]> {
  tell(table, true);
  try {
    const until = Date.now() + PATIENCE;
    do {
      await new Promise((done) => setTimeout(done, WAIT));
    } while (table.querySelector("[data-waiting]") && Date.now() < until);
    return [...table.rows]
      .filter((row) => !row.hasAttribute("data-gap"))
      .map((row) => [...row.cells].flatMap((cell) => cellsOf(cell)))
      .filter((row) => row.some((c) => c !== ""));
  } finally {
    tell(table, false);
  }
}

function cellsOf(cell: HTMLTableCellElement): Cell[] {
  return [plainCell(textOf(cell)), ...Array<Cell>(Math.min(cell.colSpan, 50) - 1).fill("")];
}

/** What a reader sees in a cell: marks and hidden words are left out, fields tell their values. */
function textOf(cell: HTMLElement): string {
  const parts: string[] = [];
  const walk = (node: Node) => {
    if (node instanceof HTMLInputElement)
      return node.type === "checkbox" ? undefined : parts.push(node.value);
    if (node instanceof HTMLSelectElement)
      return parts.push(node.selectedOptions[0]?.textContent ?? "");
    if (node instanceof Element && node.matches("svg, .sr-only, [hidden], [data-tool]")) return;
    if (node.nodeType === Node.TEXT_NODE) parts.push(node.textContent ?? "");
    if (node.nodeName === "BR") parts.push(" ");
    node.childNodes.forEach(walk);
  };
  walk(cell);
  return parts.join("").replace(/\s+/g, " ").trim();
}

const FORMULA = /^[=+\-@\t\r]/;

/** CSV whose texts no spreadsheet runs. */
export function asCsv(rows: Cell[][]): string {
  const cell = (c: Cell) => {
    if (typeof c === "number") return String(c);
    const safe = FORMULA.test(c) ? `'${c}` : c;
    return /[",\n]/.test(safe) ? `"${safe.replaceAll('"', '""')}"` : safe;
  };
  return rows.map((r) => r.map(cell).join(",")).join("\n");
}

export const asText = (rows: Cell[][]) => rows.map((r) => r.join("\t")).join("\n");

/** As a spreadsheet takes a table from the clipboard. */
export function asHtml(rows: Cell[][]): string {
  const safe = (c: Cell) =>
    String(c).replaceAll("&", "&amp;").replaceAll("<", "&lt;").replaceAll(">", "&gt;");
  const line = (r: Cell[]) => `<tr>${r.map((c) => `<td>${safe(c)}</td>`).join("")}</tr>`;
  return `<table>${rows.map(line).join("")}</table>`;
}

const parts = new Intl.NumberFormat(locale).formatToParts(12345.6);
const DECIMAL = parts.find((p) => p.type === "decimal")?.value ?? ".";
const GROUP = parts.find((p) => p.type === "group")?.value ?? ",";
const NUMERIC = /^-?\d+(\.\d+)?(%|×)?$/;

/** A shown cell for a spreadsheet: a number where it is one (55 % is 0.55, 2.6× is 2.6). */
export function plainCell(text: string): string | number {
  const bare = text
    .replace(/[\s\u00a0\u202f\u2009]/g, "")
    .replaceAll(GROUP, "")
    .replace(DECIMAL, ".")
    .replace("−", "-");
  if (!NUMERIC.test(bare) || /^\d{4}-/.test(text)) return text;
  const value = Number.parseFloat(bare);
  return bare.endsWith("%") ? Number((value / 100).toPrecision(12)) : value;
}
