/** The order of positions that the address asks for; without one the server's, by income. */
import type { Position } from "@/api/holdings";
import type { Change, View } from "@/state/view";

export const NAME = "payer";

/** How the address calls a column. */
export const sortOf = (column: string) => column.toLowerCase().replace(/\W+/g, "_");

type Read = (p: Position) => Position["value"];

/** What is unknown comes last either way. read: of the column sorted by; null for the names. */
export function sorted(rows: Position[], read: Read | null, descending: boolean): Position[] {
  const turn = descending ? -1 : 1;
  return [...rows].sort((a, b) => {
    if (read === null) return turn * a.name.localeCompare(b.name);
    const [x, y] = [read(a).value, read(b).value];
    if (x === null || y === null) return Number(x === null) - Number(y === null);
    return turn * (x - y);
  });
}

/** A column's first click: the most first, names from A; the next turns that, one more ends it. */
export function clicked(view: View, change: Change, column: string) {
  const first = column !== NAME;
  if (view.sort !== column) change({ sort: column, descending: first || undefined });
  else if (Boolean(view.descending) === first) change({ descending: first ? undefined : true });
  else change({ sort: undefined, descending: undefined });
}
