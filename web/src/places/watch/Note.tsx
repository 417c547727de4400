import { useId, useState } from "react";
import { useWatchNote, type Watched } from "@/api/watch";
import { AddPayer } from "@/ui/AddPayer";
import { ErrorNote } from "@/ui/ErrorNote";

/** The person's note and group on a payer, in place. */
export function Note({ row, groups }: { row: Watched; groups: string[] }) {
  const keep = useWatchNote();
  const [typed, setTyped] = useState<{ note: string; group: string } | null>(null);
  const list = useId();
  const { exchange, symbol } = row;
  if (typed === null) {
    return (
      <span className="block max-w-[32ch] text-[14px] font-normal">
        {row.note && <span className="whitespace-pre-wrap">{row.note} </span>}
        <button
          type="button"
          className="link min-h-6 text-left print:hidden"
          aria-label={`${row.note || row.group ? "Edit the note" : "Note"}: ${row.name}`}
          onClick={() => setTyped({ note: row.note, group: row.group })}
        >
          {row.note || row.group ? "Edit the note" : "Note"}
        </button>
        {!row.verdict && row.reaches.length === 0 && (
          <button
            type="button"
            className="link ml-4 min-h-6 text-left print:hidden"
            aria-label={`Watch no more: ${row.name}`}
            onClick={() => keep.mutate({ exchange, symbol, said: null })}
          >
            Watch no more
          </button>
        )}
      </span>
    );
  }
  const close = () => setTyped(null);
  return (
    <form
      className="mt-1 max-w-[280px] text-[14px] font-normal"
      onSubmit={(e) => {
        e.preventDefault();
        keep.mutate({ exchange, symbol, said: typed }, { onSuccess: close });
      }}
    >
      <textarea
        rows={3}
        className="field w-full"
        aria-label={`Note on ${row.name}`}
        value={typed.note}
        onChange={(e) => setTyped({ ...typed, note: e.target.value })}
      />
      <label className="mt-1 block text-muted">
        Group
        <input
          className="field ml-2 w-[180px]"
          list={list}
          value={typed.group}
          onChange={(e) => setTyped({ ...typed, group: e.target.value })}
        />
      </label>
      <datalist id={list}>
        {groups.filter(Boolean).map((g) => (
          <option key={g} value={g} />
        ))}
      </datalist>
      {keep.error && <ErrorNote error={keep.error} kept="Nothing was changed." />}
      <span className="mt-2 flex gap-2">
        <button type="submit" className="button" disabled={keep.isPending}>
          Save
        </button>
        <button type="button" className="button" onClick={close}>
          Cancel
        </button>
      </span>
    </form>
  );
}

/** A payer without a decision can be watched too. */
export function WatchMore({ taken }: { taken: Watched[] }) {
  const keep = useWatchNote();
  return (
    <div className="mt-4 print:hidden">
      <AddPayer
        label="Watch another"
        taken={taken.map((r) => `${r.exchange}/${r.symbol}`)}
        onAdd={(key) => {
          const at = key.indexOf("/");
          const said = { note: "", group: "" };
          keep.mutate({ exchange: key.slice(0, at), symbol: key.slice(at + 1), said });
        }}
      />
      {keep.error && <ErrorNote error={keep.error} kept="Nothing was changed." />}
    </div>
  );
}
