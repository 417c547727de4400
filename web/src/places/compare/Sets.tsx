import { useState } from "react";
import { useCompareSets } from "@/api/compare";
import { useForget, useSave, useSaved } from "@/api/payers";
import { writeCompared } from "@/state/compared";
import { useView } from "@/state/view";
import { ErrorNote } from "@/ui/ErrorNote";

interface Props {
  payers: string[];
  text: string;
}

/** Sets of measures by stage, and comparisons kept under a name. */
export function Sets({ payers, text }: Props) {
  const [, change] = useView();
  const sets = useCompareSets().data ?? [];
  const saved = (useSaved().data ?? []).filter((s) => s.comparison);
  const save = useSave();
  const forget = useForget();
  const error = save.error ?? forget.error;
  const [naming, setNaming] = useState<string | null>(null);
  const now = sets.find((s) => s.lines === text)?.id ?? "";
  const mine = saved.find((s) => s.comparison?.lines === text);
  return (
    <div className="flex flex-wrap items-center gap-x-4 gap-y-1 text-[15px]">
      <label className="text-muted">
        Measures{" "}
        <select
          className="field py-0.5"
          value={now || (mine ? `saved:${mine.id}` : "")}
          onChange={(e) => {
            const kept = saved.find((s) => `saved:${s.id}` === e.target.value)?.comparison;
            const set = sets.find((s) => s.id === e.target.value);
            if (set) change({ lines: set.lines });
            else if (kept)
              change({
                lines: kept.lines,
                ...(kept.payers?.length && { compared: writeCompared(kept.payers) }),
              });
          }}
        >
          {!now && !mine && <option value="">your own</option>}
          {sets.map((s) => (
            <option key={s.id} value={s.id}>
              {s.name}
            </option>
          ))}
          {saved.length > 0 && (
            <optgroup label="Saved">
              {saved.map((s) => (
                <option key={s.id} value={`saved:${s.id}`}>
                  {s.name}
                </option>
              ))}
            </optgroup>
          )}
        </select>
      </label>
      {naming === null ? (
        <button type="button" className="link" onClick={() => setNaming("")}>
          Save this comparison
        </button>
      ) : (
        <form
          className="flex gap-2"
          onSubmit={(e) => {
            e.preventDefault();
            save.mutate(
              { name: naming, comparison: { payers, lines: text } },
              { onSuccess: () => setNaming(null) },
            );
          }}
        >
          <input
            className="field w-[170px] py-0.5"
            aria-label="Name of the comparison"
            maxLength={60}
            value={naming}
            onChange={(e) => setNaming(e.target.value)}
          />
          <button type="submit" className="button py-0.5" disabled={!naming.trim()}>
            Save
          </button>
          <button type="button" className="link" onClick={() => setNaming(null)}>
            Cancel
          </button>
        </form>
      )}
      {mine && naming === null && (
        <button type="button" className="link" onClick={() => forget.mutate(mine.id)}>
          Delete “{mine.name}”
        </button>
      )}
      {error && <ErrorNote error={error} kept="The comparison is still here." />}
    </div>
  );
}
