import { Popover } from "radix-ui";
import { useState } from "react";
import { complete, type Saved, useForget, useSave, useSaved } from "@/api/payers";
import { useView, type View } from "@/state/view";
import { ErrorNote } from "@/ui/ErrorNote";

const PANEL =
  "z-50 w-[min(380px,94vw)] rounded-md border border-line bg-raised p-3 text-[15px] shadow-lg";

/** Searches under names: opened, saved, put away, and brought back when put away by mistake. */
export function SavedSearches() {
  const [view, change] = useView();
  const [open, setOpen] = useState(false);
  const saved = useSaved();
  const searches = (saved.data ?? []).filter((s) => s.search);
  const apply = (s: Saved) => {
    const { q, where, sort, descending, delisted } = s.search ?? {};
    change({
      q: q || undefined,
      where: where?.parts?.length ? where : undefined,
      sort: sort === "name" ? undefined : sort,
      descending: descending || undefined,
      delisted: delisted || undefined,
    });
    setOpen(false);
  };
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger className="button">Saved searches</Popover.Trigger>
      <Popover.Portal>
        <Popover.Content align="end" sideOffset={4} className={PANEL} aria-label="Saved searches">
          {searches.length === 0 && (
            <p className="text-muted">
              None yet. Set conditions, then save them here under a name to come back to.
            </p>
          )}
          <SavedList saved={searches} onOpen={apply} />
          <SaveAs
            label="Save this search as"
            body={{ search: searchBody(view) }}
            taken={searches.map((s) => s.name)}
          />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

const searchBody = ({ q, where, sort, descending, delisted }: View) => ({
  q: q ?? "",
  where: where ? complete(where) : { join: "all" as const, parts: [] },
  sort: sort ?? "name",
  descending: descending ?? false,
  delisted: delisted ?? false,
});

/** Named views with a way to take each away, and to bring the last one back. */
export function SavedList({ saved, onOpen }: { saved: Saved[]; onOpen: (s: Saved) => void }) {
  const forget = useForget();
  const save = useSave();
  const [gone, setGone] = useState<Saved | null>(null);
  return (
    <>
      <ul>
        {saved.map((s) => (
          <li key={s.id} className="flex items-center justify-between gap-3">
            <button type="button" className="link grow text-left" onClick={() => onOpen(s)}>
              {s.name}
            </button>
            <button
              type="button"
              className="min-h-6 px-2 text-[13px] text-muted hover:text-ink"
              aria-label={`Remove ${s.name}`}
              onClick={() => forget.mutate(s.id, { onSuccess: () => setGone(s) })}
            >
              Remove
            </button>
          </li>
        ))}
      </ul>
      {forget.error && <ErrorNote error={forget.error} />}
      {gone && (
        <output className="mt-1 block text-[14px] text-muted">
          “{gone.name}” is removed.{" "}
          <button
            type="button"
            className="link"
            onClick={() => {
              const { name, search, columns } = gone;
              save.mutate({ name, search, columns }, { onSuccess: () => setGone(null) });
            }}
          >
            Bring it back
          </button>
        </output>
      )}
    </>
  );
}

interface SaveAsProps {
  label: string;
  body: Omit<Parameters<ReturnType<typeof useSave>["mutate"]>[0], "name">;
  taken: string[];
}

export function SaveAs({ label, body, taken }: SaveAsProps) {
  const [name, setName] = useState("");
  const save = useSave();
  const again = taken.includes(name.trim());
  return (
    <form
      className="mt-3 border-line border-t pt-3"
      onSubmit={(e) => {
        e.preventDefault();
        if (name.trim())
          save.mutate({ name: name.trim(), ...body }, { onSuccess: () => setName("") });
      }}
    >
      <label className="block text-[14px] text-muted">
        {label}
        <input
          className="field mt-1 block w-full text-[15px] text-ink"
          maxLength={60}
          value={name}
          onChange={(e) => setName(e.target.value)}
        />
      </label>
      <button
        type="submit"
        className="button primary mt-2"
        disabled={!name.trim() || save.isPending}
      >
        {again ? "Replace it" : "Save"}
      </button>
      {save.error && <ErrorNote error={save.error} kept="Nothing was saved." />}
    </form>
  );
}
