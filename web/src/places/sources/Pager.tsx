import { number } from "@/format/format";
import { useView } from "@/state/view";

/** So many facts stand on a page; statements lie across. */
export const pageSize = (table: string) => (table === "statements" ? 40 : 100);

/** Of stored facts, the newest first: which are shown, and the way through all of them. */
export function Pager({ found, size }: { found: number; size: number }) {
  const [view, change] = useView();
  const last = Math.max(1, Math.ceil(found / size));
  const page = Math.min(Math.max(1, Math.floor(view.page ?? 1)), last);
  if (last === 1) return null;
  const go = (to: number) => change({ page: to > 1 ? to : undefined });
  const step = (name: string, to: number) => (
    <button
      type="button"
      className="link"
      disabled={to < 1 || to > last || to === page}
      onClick={() => go(to)}
    >
      {name}
    </button>
  );
  return (
    <nav aria-label="Pages" className="flex flex-wrap items-center gap-x-4 text-[15px]">
      <span className="text-muted">
        {number((page - 1) * size + 1)} to {number(Math.min(page * size, found))} of {number(found)}
      </span>
      {step("Newest", 1)}
      {step("Newer", page - 1)}
      {step("Older", page + 1)}
      {step("Oldest", last)}
      <label className="text-muted">
        Page{" "}
        <select className="field py-0.5" value={page} onChange={(e) => go(Number(e.target.value))}>
          {Array.from({ length: last }, (_, i) => (
            <option key={i} value={i + 1}>
              {i + 1}
            </option>
          ))}
        </select>{" "}
        of {last}
      </label>
    </nav>
  );
}
