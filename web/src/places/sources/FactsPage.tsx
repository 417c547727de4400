import { Link, useParams } from "@tanstack/react-router";
import { useEffect, useMemo, useState } from "react";
import type { PayerKey } from "@/api/hooks";
import { useFacts } from "@/api/sources";
import { upperFirst } from "@/format/format";
import { useView } from "@/state/view";
import { ErrorNote } from "@/ui/ErrorNote";
import { ReviewLink } from "@/ui/ReviewLink";
import { HeldFacts } from "./HeldFacts";
import { Pager, pageSize } from "./Pager";
import { QUICK, type Quick, QuickEntry } from "./QuickEntry";

const TABLES = [
  "statements",
  "dividends",
  "prices",
  "splits",
  "dividend_notices",
  "estimates",
  "guidance",
  "exposures",
  "payer_notes",
  "payers",
] as const;
const NAMES: Record<string, string> = { payers: "The payer itself" };
const SPANS = ["year", "half", "quarter"] as const;

/** All facts of one payer as they are held, table by table, and a way to enter and mend them. */
export function FactsPage() {
  const payer = useParams({ from: "/sources/$exchange/$symbol" });
  const [view, change] = useView();
  const table = TABLES.find((t) => t === view.tab) ?? "statements";
  const span = table === "statements" ? SPANS.find((s) => s === view.period) : undefined;
  const size = pageSize(table);
  const facts = useFacts(payer, table, size, span, ((view.page ?? 1) - 1) * size);
  const { data } = facts;
  const currency = data?.currency ?? "";
  const given = useMemo(() => ({ currency }), [currency]);
  const name = data?.name ?? payer.symbol;
  useEffect(() => {
    document.title = `Facts of ${name} · Hearth Yield`;
  }, [name]);
  return (
    <div className="px-4 pt-4 pb-6 lg:px-6">
      <div className="flex flex-wrap items-baseline gap-x-5">
        <h1 className="text-[30px]">{name}</h1>
        <span className="text-[15px] text-muted">stored data</span>
        <ReviewLink payer={payer} className="link ml-auto">
          Read the review
        </ReviewLink>
        <Link to="/sources" search={{ as_of: view.as_of }} className="link">
          All payers’ facts
        </Link>
      </div>
      <QuickLine payer={payer} />
      <nav aria-label="Kinds of fact" className="mt-2 flex flex-wrap gap-1">
        {TABLES.map((t) => (
          <button
            key={t}
            type="button"
            aria-current={t === table ? "page" : undefined}
            className={`min-h-8 rounded-md px-2.5 text-[15px] ${t === table ? "bg-sunk font-semibold text-ink" : "text-muted hover:text-ink"}`}
            onClick={() => change({ tab: t, period: undefined, page: undefined })}
          >
            {NAMES[t] ?? upperFirst(t.replaceAll("_", " "))}
          </button>
        ))}
      </nav>
      {facts.error && <ErrorNote error={facts.error} />}
      {data && (
        <HeldFacts
          key={table}
          payer={payer}
          table={table}
          data={data}
          given={given}
          tools={
            <>
              {table === "statements" && <SpanChoice />}
              <Pager found={data.found} size={size} />
            </>
          }
          none="None is held. Enter one by hand, or import a file."
          open={table !== "payers"}
        />
      )}
    </div>
  );
}

/** The usual acts, one click or key away. */
function QuickLine({ payer }: { payer: PayerKey }) {
  const [what, setWhat] = useState<Quick | null>(null);
  const [told, setTold] = useState<string | null>(null);
  return (
    <>
      <p className="mt-1 flex flex-wrap items-center gap-x-4 gap-y-1 text-[15px]">
        <span className="text-muted">Add</span>
        {QUICK.map((q) => (
          <button
            key={q.id}
            type="button"
            className="link"
            aria-expanded={what === q.id}
            onClick={() => {
              setTold(null);
              setWhat(what === q.id ? null : q.id);
            }}
          >
            {q.name}
          </button>
        ))}
      </p>
      {told && (
        <output className="mt-2 block rounded-md border border-line bg-raised px-4 py-2">
          {told} It can be undone under “Import”.
        </output>
      )}
      {what && (
        <QuickEntry
          payer={payer}
          what={what}
          onKept={(words) => {
            setTold(words);
            setWhat(null);
          }}
          onClose={() => setWhat(null)}
        />
      )}
    </>
  );
}

/** Of statements, the span that is shown. */
function SpanChoice() {
  const [view, change] = useView();
  return (
    <label className="text-muted">
      Show{" "}
      <select
        className="field py-0.5"
        value={view.period ?? ""}
        onChange={(e) => change({ period: e.target.value || undefined, page: undefined })}
      >
        <option value="">all spans</option>
        <option value="year">years</option>
        <option value="half">halves</option>
        <option value="quarter">quarters</option>
      </select>
    </label>
  );
}
