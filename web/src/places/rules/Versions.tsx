import { type RulesHeld, useRestoreRules } from "@/api/rules";
import { day } from "@/format/format";
import { ErrorNote } from "@/ui/ErrorNote";

/** Every version there was, with the way back to it. */
export function Versions({ held, onRestored }: { held: RulesHeld; onRestored: () => void }) {
  const restore = useRestoreRules(onRestored);
  const first = { number: 0, made_at: "", note: "the house’s own" };
  return (
    <section aria-labelledby="versions" className="mt-8">
      <h2 id="versions" className="text-[21px]">
        Versions
      </h2>
      {restore.error && <ErrorNote error={restore.error} />}
      <ul className="mt-1 max-w-[720px] text-[15px]">
        {[...held.versions, first].map((v) => (
          <li
            key={v.number}
            className="flex flex-wrap items-baseline gap-x-4 border-line border-b py-1.5"
          >
            <span className="w-[150px] text-muted">
              {v.number === 0 ? "At the start" : day(v.made_at.slice(0, 10))}
            </span>
            <span className="grow">{v.note || "no note"}</span>
            {v.number === held.version ? (
              <b className="font-semibold text-[14px]">in use</b>
            ) : (
              <button
                type="button"
                className="link text-[14px]"
                aria-label={`Restore the version ${v.note ? `“${v.note}”` : `of ${day(v.made_at.slice(0, 10))}`}`}
                disabled={restore.isPending}
                onClick={() => restore.mutate(v.number)}
              >
                Restore
              </button>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
