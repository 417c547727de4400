import { useCallback, useState } from "react";

/** Cells with their history. What is typed outlives a reload of the page where a key is given. */
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

export function useCells(key: string | null, first: () => string[][]): Cells {
  const [held, setHeld] = useState<History>(() => {
    const kept = key === null ? null : sessionStorage.getItem(key);
    return { past: [], now: kept ? (JSON.parse(kept) as string[][]) : first(), future: [] };
  });
  const keep = useCallback(
    (next: History) => {
      if (key !== null) sessionStorage.setItem(key, JSON.stringify(next.now));
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
      if (key !== null) sessionStorage.removeItem(key);
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
