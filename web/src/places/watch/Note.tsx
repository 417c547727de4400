import { useId } from "react";
import { useWatchNote, type Watched } from "@/api/watch";
import { useDraft } from "@/state/drafts";
import { AddPayer } from "@/ui/AddPayer";
import { ErrorNote } from "@/ui/ErrorNote";
import { Overtaken } from "@/ui/Overtaken";

interface Said {
  note: string;
  group: string;
}

const isSaid = (raw: unknown): raw is Said => {
  const held = raw as Partial<Said> | null;
  return typeof held?.note === "string" && typeof held.group === "string";
};

const isDraft = (raw: unknown): raw is { begun: Said; said: Said } => {
  const held = raw as { begun?: unknown; said?: unknown } | null;
  return isSaid(held?.begun) && isSaid(held?.said);
};

/** The person's note and group on a payer, in place. */
export function Note({ row, groups }: { row: Watched; groups: string[] }) {
  const keep = useWatchNote();
  const list = useId();
  const { exchange, symbol } = row;
  const [draft, setDraft] = useDraft(`watch/${exchange}/${symbol}`, isDraft);
  const standing = { note: row.note, group: row.group };
  if (draft === null) {
    return (
      <span className="block max-w-[32ch] text-[14px] font-normal">
        {row.note && <span className="whitespace-pre-wrap">{row.note} </span>}
        <button
          type="button"
          className="link min-h-6 text-left print:hidden"
          aria-label={`${row.note || row.group ? "Edit the note" : "Note"}: ${row.name}`}
          onClick={() => setDraft({ begun: standing, said: standing })}
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
  const typed = draft.said;
  const type = (said: Partial<Said>) => setDraft({ ...draft, said: { ...typed, ...said } });
  const close = () => setDraft(null);
  const save = (begun: Said) =>
    keep.mutate({ exchange, symbol, said: { ...typed, begun } }, { onSuccess: close });
  const overtaken = draft.begun.note !== row.note || draft.begun.group !== row.group;
  return (
    <form
      className="mt-1 max-w-[280px] text-[14px] font-normal"
      onSubmit={(e) => {
        e.preventDefault();
        save(draft.begun);
      }}
    >
      <textarea
        rows={3}
        className="field w-full"
        aria-label={`Note on ${row.name}`}
        value={typed.note}
        onChange={(e) => type({ note: e.target.value })}
      />
      <label className="mt-1 block text-muted">
        Group
        <input
          className="field ml-2 w-[180px]"
          list={list}
          value={typed.group}
          onChange={(e) => type({ group: e.target.value })}
        />
      </label>
      <datalist id={list}>
        {groups.filter(Boolean).map((g) => (
          <option key={g} value={g} />
        ))}
      </datalist>
      {overtaken ? (
        <Overtaken
          standing={[row.note, row.group && `(in ${row.group})`].filter(Boolean).join(" ")}
          onKeepMine={() => save(standing)}
          onTakeTheirs={close}
        />
      ) : (
        keep.error && <ErrorNote error={keep.error} kept="What you typed is still here." />
      )}
      <span className="mt-2 flex gap-2">
        <button type="submit" className="button" disabled={keep.isPending || overtaken}>
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
