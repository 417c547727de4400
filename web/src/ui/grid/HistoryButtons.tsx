import type { Cells } from "./useCells";

interface Props {
  cells: Cells;
  onClear: () => void;
}

/** Undo, Redo and Clear of a grid; clearing can be undone too. */
export function HistoryButtons({ cells, onClear }: Props) {
  return (
    <span className="inline-flex gap-3 text-[15px]">
      <button type="button" className="link" disabled={!cells.canUndo} onClick={cells.undo}>
        Undo
      </button>
      <button type="button" className="link" disabled={!cells.canRedo} onClick={cells.redo}>
        Redo
      </button>
      <button type="button" className="link" onClick={onClear}>
        Clear
      </button>
    </span>
  );
}
