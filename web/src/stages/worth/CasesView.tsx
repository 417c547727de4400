import { useState } from "react";
import { useCases, useForgetCase, useKeepCase } from "@/api/cases";
import type { Review, Schemas } from "@/api/client";
import type { PayerKey } from "@/api/hooks";
import { namesOf } from "@/api/question";
import { day, isPercent, show, withDates } from "@/format/format";
import { openKey, questionOf, useView, viewOf, WORTH_PARTS } from "@/state/view";
import { ErrorNote } from "@/ui/ErrorNote";
import { Drawn } from "../Drawn";

type Cases = Schemas["CasesOut"];
type Case = Cases["cases"][number];
type Row = Cases["rows"][number];

/** Sets of inputs that were kept under a name, beside what is shown now. */
export function CasesView({ review }: { review: Review }) {
  const [view] = useView();
  const payer = { exchange: review.payer.exchange, symbol: review.payer.symbol };
  const asked = questionOf(view, WORTH_PARTS);
  const found = useCases(payer, asked);
  const keep = useKeepCase(payer);
  const forget = useForgetCase(payer);
  const [name, setName] = useState("");
  const own = namesOf(["worth"]).some((part) => view[part]);
  return (
    <Drawn found={found}>
      {(cases) => (
        <div className="mt-4">
          <SideBySide
            cases={cases}
            payer={payer}
            currency={review.payer.currency}
            onForget={(id) => forget.mutate(id)}
          />
          {cases.cases.length === 1 && (
            <p className="mt-2 max-w-[68ch] text-[14px] text-muted">
              No case is kept yet. A case is a set of inputs under a name, such as “before the
              guidance” and “after it”, or a careful and a hopeful one. Each is worked out again
              from what is known when you come back.
            </p>
          )}
          <form
            className="mt-3 flex flex-wrap items-end gap-3"
            onSubmit={(e) => {
              e.preventDefault();
              keep.mutate({ name, asked }, { onSuccess: () => setName("") });
            }}
          >
            <div>
              <label htmlFor="case-name" className="block text-[13px] text-muted">
                Keep what is shown now as
              </label>
              <input
                id="case-name"
                className="field w-[240px]"
                maxLength={60}
                value={name}
                onChange={(e) => setName(e.target.value)}
              />
            </div>
            <button
              type="submit"
              className="button"
              disabled={!name.trim() || !own || keep.isPending}
            >
              Keep
            </button>
            {!own && (
              <span className="text-[13px] text-muted">
                Change an assumption or switch a model first; defaults need no keeping.
              </span>
            )}
          </form>
          {keep.error && <ErrorNote error={keep.error} kept="What you typed is still there." />}
          {forget.error && <ErrorNote error={forget.error} />}
        </div>
      )}
    </Drawn>
  );
}

interface TableProps {
  cases: Cases;
  payer: PayerKey;
  currency: string;
  onForget: (id: number) => void;
}

function SideBySide({ cases, payer, currency, onForget }: TableProps) {
  const [, change] = useView();
  const partOf = (c: Case) => (c.id === null ? {} : viewOf(c.question, ["worth"]));
  const open = (c: Case) => change(partOf(c));
  const working = (row: Row, c: Case | undefined) =>
    c && change({ ...partOf(c), open: openKey(payer, keyOf(row)), path: undefined });
  return (
    <div className="relative overflow-x-auto">
      <table className="rows w-full text-[14px]">
        <caption className="sr-only">Cases side by side</caption>
        <thead>
          <tr className="align-bottom">
            <th scope="col">{currency} a share</th>
            {cases.cases.map((c) => (
              <th scope="col" key={c.id ?? "now"} className="min-w-[110px]">
                {c.id === null ? (
                  "As shown now"
                ) : (
                  <>
                    <button type="button" className="link font-semibold" onClick={() => open(c)}>
                      {c.name}
                    </button>
                    <span className="block font-normal text-[12px] text-muted">
                      kept {c.kept_at && day(c.kept_at.slice(0, 10))}{" "}
                      <button
                        type="button"
                        className="link"
                        aria-label={`Delete ${c.name}`}
                        onClick={() => c.id !== null && onForget(c.id)}
                      >
                        Delete
                      </button>
                    </span>
                    {c.refused && (
                      <span className="block font-normal text-[12px] text-outside">
                        {c.refused}
                      </span>
                    )}
                  </>
                )}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {cases.rows.map((row) => (
            <tr key={`${row.kind}-${row.id}`}>
              <th scope="row" className={row.kind === "sum" ? "font-semibold" : ""}>
                {row.name}
              </th>
              {row.cells.map((cell, i) => (
                <td
                  key={cases.cases[i]?.id ?? "now"}
                  title={cell.reason ? withDates(cell.reason) : undefined}
                  className={cell.own || row.kind === "sum" ? "font-semibold" : "text-muted"}
                >
                  {cell.value == null || !keyOf(row) ? (
                    told(row, cell)
                  ) : (
                    <button
                      type="button"
                      className="figure"
                      title="Open the case, and the working"
                      onClick={() => working(row, cases.cases[i])}
                    >
                      {told(row, cell)}
                    </button>
                  )}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

/** The figure that a line tells of a case; none of an input, which the fields show. */
function keyOf(row: Row): string {
  if (row.kind === "model") return `worth.models.${row.id}.middle`;
  if (row.kind === "input") return "";
  return row.id === "path" ? "worth.path.yearly.middle" : `worth.${row.id}`;
}

function told(row: Row, cell: Row["cells"][number]): string {
  if (cell.value == null) return row.kind === "model" ? "off" : "–";
  return show(cell.value, row.unit, isPercent(row.unit) ? { digits: 2 } : {});
}
