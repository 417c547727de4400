import { Link } from "@tanstack/react-router";
import { useCallback, useEffect, useMemo, useState } from "react";
import { refusalOf } from "@/api/client";
import {
  type Catalogue,
  exportPayers,
  type Group,
  type PayerRow,
  type PayersWindow,
  useCatalogue,
  useFirstWindow,
  useFurtherWindows,
  useKeys,
  useMake,
  WINDOW,
} from "@/api/payers";
import { lowerFirst, number, show } from "@/format/format";
import { MOST_COMPARED, writeCompared } from "@/state/compared";
import { readStored } from "@/state/stored";
import { useView, type View } from "@/state/view";
import { ErrorNote } from "@/ui/ErrorNote";
import { JobProgress } from "@/ui/JobProgress";
import { SearchField } from "@/ui/SearchField";
import { STATE_WORDS, STATES, StateMark } from "@/ui/StateMark";
import { ColumnChoice } from "./ColumnChoice";
import { Conditions } from "./Conditions";
import { asked, columnsOf } from "./columns";
import { groupSentence, type Measures } from "./conditions";
import { Groups } from "./Groups";
import { keyOf, PayerTable } from "./PayerTable";
import { SavedSearches } from "./Saved";

const NOTHING: Group = { join: "all", parts: [] };
const NONE: Catalogue = { measures: [], sets: [] };

export function PayersPage() {
  const [view, change] = useView();
  const catalogue = useCatalogue(view.as_of);
  const declared = catalogue.data ?? NONE;
  const measures: Measures = useMemo(
    () => new Map(declared.measures.map((m) => [m.id, m])),
    [declared],
  );
  const columns = useMemo(() => columnsOf(view.cols, declared), [view.cols, declared]);
  const list = useWindows(view, columns, measures);
  const [tools, setTools] = useState(false);
  const [editing, setEditing] = useState(false);
  const where = view.where ?? NOTHING;
  const filtered = Boolean(view.q || where.parts?.length);
  useEffect(() => {
    document.title = "Payers · Hearth Yield";
  }, []);
  const { whole } = list;
  return (
    <div className="print-wide px-4 pt-4 pb-4 lg:px-6">
      <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
        <h1 className="text-[30px]">Payers</h1>
        {whole && (
          <span className="text-[15px] text-muted" aria-live="polite">
            {number(whole.found)} of {number(whole.held + (view.delisted ? whole.delisted : 0))}
          </span>
        )}
        {whole && whole.delisted > 0 && (
          <label className="flex min-h-6 items-center gap-2 text-[14px] text-muted">
            <input
              type="checkbox"
              className="size-4 accent-action"
              checked={view.delisted ?? false}
              onChange={(e) => change({ delisted: e.target.checked || undefined })}
            />
            with {number(whole.delisted)} delisted
          </label>
        )}
        <button
          type="button"
          className="button ml-auto md:hidden"
          aria-pressed={tools}
          onClick={() => setTools(!tools)}
        >
          {tools ? "Hide the controls" : "Search and columns"}
        </button>
        <div
          className={`ml-auto flex flex-wrap items-center gap-2 ${tools ? "" : "max-md:hidden"}`}
        >
          <SearchField
            label="Only those with"
            className="ml-1 w-[210px]"
            placeholder="name, kind or sector"
          />
          <button
            type="button"
            className="button"
            aria-expanded={editing}
            onClick={() => setEditing(!editing)}
          >
            Conditions{where.parts?.length ? ` (${where.parts.length})` : ""}
          </button>
          <SavedSearches />
        </div>
      </div>
      {editing && measures.size > 0 && (
        <Conditions
          group={where}
          catalogue={measures}
          counts={whole?.counts ?? []}
          held={whole?.held ?? 0}
          onChange={(g) => change({ where: g.parts?.length ? g : undefined }, { replace: true })}
        />
      )}
      {!editing && Boolean(where.parts?.length) && (
        <p className="mt-1 text-[15px]">
          <button type="button" className="link text-left" onClick={() => setEditing(true)}>
            {groupSentence(where, measures)}
          </button>
        </p>
      )}
      {(list.error ?? catalogue.error) && <ErrorNote error={list.error ?? catalogue.error} />}
      {whole?.held === 0 ? (
        <NothingHeld />
      ) : (
        whole && (
          <>
            <Pending whole={whole} />
            <Tools
              declared={declared}
              measures={measures}
              list={list}
              view={view}
              columns={columns}
              shown={tools}
            />
            {whole.found === 0 && (
              <p className="py-6 text-muted">
                No payer meets this.{" "}
                <button
                  type="button"
                  className="link"
                  onClick={() => change({ q: undefined, where: undefined })}
                >
                  Show all {number(whole.held)}
                </button>
              </p>
            )}
            {(whole.found > 0 || filtered) && <Foot whole={whole} measures={measures} />}
          </>
        )
      )}
    </div>
  );
}

/** The windows in sight, the first among them always: it tells what is true of all found. */
function useWindows(view: View, columns: string[], measures: Measures) {
  const [sight, setSight] = useState<[number, number]>([0, 0]);
  const further: number[] = [];
  for (let w = Math.max(sight[0], 1); w <= sight[1]; w++) further.push(w);
  const foot = [...measures.values()].filter((m) => m.foot).map((m) => m.id);
  const ids = [...new Set([...asked(columns, measures).split(","), ...foot])]
    .filter(Boolean)
    .join(",");
  const first = useFirstWindow(view, ids, measures.size > 0);
  const others = useFurtherWindows(view, ids, further);
  const rowAt = (place: number): PayerRow | undefined => {
    const w = Math.floor(place / WINDOW);
    const data = w === 0 ? first.data : others[further.indexOf(w)]?.data;
    return data?.rows[place % WINDOW];
  };
  const onSight = useCallback((first: number, last: number) => {
    const next = [Math.floor(first / WINDOW), Math.floor(last / WINDOW)] as [number, number];
    setSight((now) => (now[0] === next[0] && now[1] === next[1] ? now : next));
  }, []);
  const error = first.error ?? others.find((a) => a.error)?.error;
  return { whole: first.data, rowAt, onSight, error };
}

interface ToolsProps {
  declared: Catalogue;
  measures: Measures;
  list: ReturnType<typeof useWindows>;
  view: View;
  columns: string[];
  /** On a narrow screen the controls come when they are asked for. */
  shown: boolean;
}

/** Columns and grouping, what is done with marked rows, and the table itself. */
function Tools({ declared, measures, list, view, columns, shown }: ToolsProps) {
  const [, change] = useView();
  const [marked, setMarked] = useMarked();
  const [problem, setProblem] = useState<unknown>(null);
  const keys = useKeys(view, false);
  const found = list.whole?.found ?? 0;
  const names = useMemo(() => new Set(marked.keys()), [marked]);
  const markAll = async () => {
    if (marked.size > 0) return setMarked(new Map());
    const all = (await keys.refetch()).data ?? [];
    setMarked(new Map(all.map((k) => [keyOf(k), k])));
  };
  const mark = (row: PayerRow) => {
    const next = new Map(marked);
    const { exchange, symbol } = row;
    if (!next.delete(keyOf(row))) next.set(keyOf(row), { exchange, symbol });
    setMarked(next);
  };
  return (
    <>
      <div
        className={`mt-2 mb-1 flex flex-wrap items-center gap-x-4 gap-y-1 ${shown ? "" : "max-md:hidden"}`}
      >
        <ColumnChoice catalogue={declared} />
        <label className="ml-auto text-[15px] text-muted">
          Show{" "}
          <select
            className="field ml-1 py-0.5"
            value={view.by ?? ""}
            onChange={(e) => change({ by: e.target.value || undefined })}
          >
            <option value="">each payer</option>
            <option value="sector">by sector</option>
            <option value="industry">by industry</option>
            <option value="kind">by kind</option>
            <option value="state">by state</option>
          </select>
        </label>
      </div>
      {marked.size > 0 && (
        <p className="flex flex-wrap items-center gap-4 py-1 text-[15px]">
          <span>
            {number(marked.size)} {marked.size === 1 ? "payer" : "payers"} marked
          </span>
          {marked.size >= 2 && marked.size <= MOST_COMPARED && (
            <Link
              to="/compare"
              search={{ as_of: view.as_of, compared: writeCompared([...marked.keys()]) }}
              className="link"
            >
              Compare them
            </Link>
          )}
          <button
            type="button"
            className="link"
            onClick={() => {
              setProblem(null);
              exportPayers([...marked.values()]).catch((e) => setProblem(refusalOf(e)));
            }}
          >
            Export their facts
          </button>
          <button type="button" className="link" onClick={() => setMarked(new Map())}>
            Unmark
          </button>
        </p>
      )}
      {problem !== null && <ErrorNote error={problem as Error} />}
      {view.by ? (
        <Groups columns={columns} catalogue={measures} />
      ) : (
        found > 0 && (
          <PayerTable
            columns={columns}
            catalogue={measures}
            currency={list.whole?.currency ?? undefined}
            found={found}
            rowAt={list.rowAt}
            onSight={list.onSight}
            marked={names}
            onMark={mark}
            allMarked={marked.size > 0 && marked.size === found}
            onMarkAll={() => void markAll()}
          />
        )
      )}
    </>
  );
}

type Key = { exchange: string; symbol: string };
const MARKED = "hearth.marked";

/** Which payers are marked; kept over a reload of this tab. */
function useMarked(): [Map<string, Key>, (to: Map<string, Key>) => void] {
  const [marked, setMarked] = useState(() => {
    const kept = readStored(sessionStorage, MARKED, isKeys) ?? [];
    return new Map(kept.map((k) => [keyOf(k), k]));
  });
  const change = (to: Map<string, Key>) => {
    setMarked(to);
    sessionStorage.setItem(MARKED, JSON.stringify([...to.values()]));
  };
  return [marked, change];
}

const isKeys = (raw: unknown): raw is Key[] =>
  Array.isArray(raw) &&
  raw.every((k) => typeof k?.exchange === "string" && typeof k?.symbol === "string");

/** Says which figures are not up to date yet, and how far making them has come. */
function Pending({ whole }: { whole: PayersWindow }) {
  const [view] = useView();
  const make = useMake(view.as_of);
  const idle = whole.pending > 0 && !whole.job;
  // biome-ignore lint/correctness/useExhaustiveDependencies: asked once, as soon as some are due
  useEffect(() => {
    if (idle) make.mutate(false);
  }, [idle, view.as_of]);
  if (whole.pending === 0) return null;
  const running = whole.job?.state === "running";
  return (
    <div className="mt-2 text-[15px]" role="status">
      <span>
        Updating measures: {number(Math.max(0, whole.held + whole.delisted - whole.pending))} of{" "}
        {number(whole.held + whole.delisted)}. Older values are in italics.
      </span>
      {running && whole.job ? (
        <JobProgress job={whole.job} />
      ) : (
        whole.job && (
          <p className="text-muted">
            {whole.job.problem?.detail ?? "Making them was stopped."}{" "}
            <button type="button" className="link" onClick={() => make.mutate(true)}>
              Go on
            </button>
          </p>
        )
      )}
      {make.error && <ErrorNote error={make.error} />}
    </div>
  );
}

function NothingHeld() {
  return (
    <div className="mt-8 max-w-prose">
      <p>
        This is where the payers you follow stand side by side: what they yield, what would give
        first, and how far the price is from your buy-below price.
      </p>
      <Link to="/sources" className="button primary mt-4 inline-block">
        Import your first payer
      </Link>
    </div>
  );
}

function Foot({ whole, measures }: { whole: PayersWindow; measures: Measures }) {
  const [view] = useView();
  const { summaries, states } = whole;
  const medians = [...measures.values()].flatMap((m) => {
    const median = m.foot ? summaries[m.id]?.median : null;
    if (median == null || !m.unit) return [];
    const how = { sign: m.signed, digits: m.digits ?? 1 };
    return [{ id: m.id, said: `Median ${lowerFirst(m.name)} ${show(median, m.unit, how)}` }];
  });
  return (
    <p className="mt-2 flex flex-wrap gap-x-8 gap-y-1 text-[14px] text-muted">
      {medians.map(({ id, said }) => (
        <span key={id}>{said}</span>
      ))}
      <span className="flex flex-wrap gap-x-4">
        {STATES.map((s) => (
          <span key={s} className="flex items-center gap-1.5">
            <StateMark state={s} label={false} /> {number(states[s] ?? 0)} {STATE_WORDS[s]}
          </span>
        ))}
      </span>
      <Link to="/payers/breadth" search={{ as_of: view.as_of } as never} className="link">
        How many yield more than they usually do
      </Link>
    </p>
  );
}
