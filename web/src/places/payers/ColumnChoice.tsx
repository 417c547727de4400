import { Popover } from "radix-ui";
import { useState } from "react";
import { type Catalogue, useSaved } from "@/api/payers";
import { useView } from "@/state/view";
import { columnsOf, setOf } from "./columns";
import { groupsOf } from "./conditions";
import { SaveAs, SavedList } from "./Saved";

/** The stage whose columns are shown, or the person's own choice of them. */
export function ColumnChoice({ catalogue }: { catalogue: Catalogue }) {
  const [view, change] = useView();
  const current = setOf(view.cols, catalogue);
  return (
    <fieldset className="flex flex-wrap items-center gap-1">
      <legend className="sr-only">Columns</legend>
      {catalogue.sets.map((set, i) => (
        <button
          key={set.id}
          type="button"
          aria-pressed={current === set}
          className={`min-h-8 rounded-md px-2.5 text-[15px] ${current === set ? "bg-sunk font-semibold text-ink" : "text-muted hover:text-ink"}`}
          onClick={() => change({ cols: i === 0 ? undefined : set.id })}
        >
          {set.name}
        </button>
      ))}
      <OwnColumns catalogue={catalogue} own={!current} />
    </fieldset>
  );
}

/** Those whose name holds every word. */
const named = (words: string) => (m: { name: string }) =>
  words
    .toLowerCase()
    .split(/\s+/)
    .every((w) => m.name.toLowerCase().includes(w));

function OwnColumns({ catalogue, own }: { catalogue: Catalogue; own: boolean }) {
  const [view, change] = useView();
  const saved = useSaved();
  const [open, setOpen] = useState(false);
  const [words, setWords] = useState("");
  const chosen = columnsOf(view.cols, catalogue);
  const sets = (saved.data ?? []).filter((s) => s.columns);
  const toggle = (id: string) => {
    const next = chosen.includes(id) ? chosen.filter((c) => c !== id) : [...chosen, id];
    if (next.length) change({ cols: next.join(",") });
  };
  const all = catalogue.measures.filter((m) => m.column);
  const active = sets.find((s) => s.columns?.columns.join(",") === view.cols);
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger
        className={`min-h-8 rounded-md px-2.5 text-[15px] ${own ? "bg-sunk font-semibold text-ink" : "text-muted hover:text-ink"}`}
      >
        {active?.name ?? "Own columns"}…
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={4}
          aria-label="Own columns"
          className="z-50 max-h-[70vh] w-[min(640px,94vw)] overflow-auto rounded-md border border-line bg-raised p-3 text-[15px] shadow-lg"
        >
          {sets.length > 0 && (
            <SavedList
              saved={sets}
              onOpen={(s) => {
                change({ cols: s.columns?.columns.join(",") });
                setOpen(false);
              }}
            />
          )}
          <input
            type="search"
            className="field mb-2 w-full"
            aria-label="Find a column"
            placeholder="Find a column"
            value={words}
            onChange={(e) => setWords(e.target.value)}
          />
          <div className="gap-6 sm:columns-2">
            {groupsOf(all.filter(named(words))).map(({ name, measures }) => {
              return (
                <fieldset key={name} className="mb-3 break-inside-avoid">
                  <legend className="text-[13px] text-muted">{name}</legend>
                  {measures.map((m) => (
                    <label key={m.id} className="flex min-h-6 items-center gap-2 text-[14px]">
                      <input
                        type="checkbox"
                        className="size-4 accent-action"
                        checked={chosen.includes(m.id)}
                        onChange={() => toggle(m.id)}
                      />
                      {m.name}
                    </label>
                  ))}
                </fieldset>
              );
            })}
          </div>
          <SaveAs
            label="Save these columns as"
            body={{ columns: { columns: chosen } }}
            taken={sets.map((s) => s.name)}
          />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
