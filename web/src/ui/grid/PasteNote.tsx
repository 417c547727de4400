import { useEffect, useRef } from "react";

/** A paste on its way: where its cells would go, and what of it has no place. */
export interface Incoming {
  cells: string[][];
  places: Set<string>;
  words: string[];
  unit?: string;
}

interface Props {
  incoming: Incoming;
  onTake: () => void;
  onCancel: () => void;
}

/** Enter takes it, Escape leaves everything as it was. */
export function PasteNote({ incoming, onTake, onCancel }: Props) {
  const take = useRef<HTMLButtonElement>(null);
  useEffect(() => take.current?.focus(), []);
  const n = incoming.places.size;
  return (
    <section aria-label="Pasted cells" className="mt-2 rounded-md bg-sunk px-3 py-2">
      <p className="text-[15px]" aria-live="polite">
        {n === 0
          ? "Nothing of what you pasted has a place here."
          : `${n} ${n === 1 ? "cell goes" : "cells go"} where they are outlined.`}
      </p>
      {incoming.words.map((w) => (
        <p key={w} className="text-[14px] text-muted">
          {w}
        </p>
      ))}
      <p className="mt-1 flex gap-3">
        {n > 0 && (
          <button
            ref={take}
            type="button"
            className="button primary"
            onClick={onTake}
            onKeyDown={(e) => e.key === "Escape" && onCancel()}
          >
            Put them in
          </button>
        )}
        <button type="button" className="button" onClick={onCancel}>
          Cancel
        </button>
      </p>
    </section>
  );
}
