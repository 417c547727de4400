import { useCallback, useState } from "react";
import { keepDraft, readDraft } from "@/state/drafts";

/** Cells with their history. What is typed outlives the page where a key is given; who shows another
 * key shows other cells, so it is mounted anew. */
export interface Cells {
  cells: string[][];
  /** place: changes of one place after another are one step of the history. */
  change: (next: string[][], place?: string) => void;
  undo: () => void;
  redo: () => void;
  canUndo: boolean;
  canRedo: boolean;
  forget: () => void;
}

interface History {
  past: string[][][];
  now: string[][];
  future: string[][][];
  place?: string;
}

const MOST = 200;

/** A line for each name of column, all as long as each other. */
const areCells =
  (lines: number) =>
  (raw: unknown): raw is string[][] =>
    Array.isArray(raw) &&
    raw.length === lines &&
    raw.every(
      (line) =>
        Array.isArray(line) &&
        line.length > 0 &&
        line.length === (raw[0] as unknown[]).length &&
        line.every((cell) => typeof cell === "string"),
    );

export function useCells(key: string | null, first: () => string[][]): Cells {
  const [held, setHeld] = useState<History>(() => {
    const empty = first();
    const kept = key === null ? null : readDraft(key, areCells(empty.length));
    return { past: [], now: kept ?? empty, future: [] };
  });
  const keep = useCallback(
    (next: History) => {
      if (key !== null) keepDraft(key, next.now);
      setHeld(next);
    },
    [key],
  );
  return {
    cells: held.now,
    change: (next, place) =>
      keep({
        past:
          place !== undefined && place === held.place
            ? held.past
            : [...held.past, held.now].slice(-MOST),
        now: next,
        future: [],
        place,
      }),
    undo: () => {
      const before = held.past.at(-1);
      if (before)
        keep({ past: held.past.slice(0, -1), now: before, future: [held.now, ...held.future] });
    },
    redo: () => {
      const [next, ...future] = held.future;
      if (next) keep({ past: [...held.past, held.now], now: next, future });
    },
    canUndo: held.past.length > 0,
    canRedo: held.future.length > 0,
    forget: () => {
      if (key !== null) keepDraft(key, null);
    },
  };
}

/** Ctrl+Z and its ways back, inside a grid. */
export function onHistoryKey(event: React.KeyboardEvent, cells: Cells) {
  if (!(event.ctrlKey || event.metaKey) || event.altKey) return;
  const key = event.key.toLowerCase();
  if (key === "z" && !event.shiftKey) cells.undo();
  else if (key === "y" || (key === "z" && event.shiftKey)) cells.redo();
  else return;
  event.preventDefault();
}
