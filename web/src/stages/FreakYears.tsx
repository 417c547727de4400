import { useContext, useState } from "react";
import type { Schemas } from "@/api/client";
import { useEdits, useExcludeYear, useTakeBack } from "@/api/sources";
import { ErrorNote } from "@/ui/ErrorNote";
import { PayerContext } from "@/ui/Fig";
import { Term } from "@/ui/Term";

type Basis = Schemas["BasisOut"];
type Period = Schemas["CoverPeriodOut"];

/** Fiscal years far outside their neighbours: marked, and excluded only when the person says so. */
export function FreakYears({ basis }: { basis: Basis }) {
  const told = basis.years.filter((y) => y.freak || y.excluded);
  if (told.length === 0) return null;
  return (
    <ul className="mt-2 text-[15px]">
      {told.map((year) => (
        <li key={year.end}>
          {year.excluded ? (
            <ExcludedYear basis={basis} year={year} />
          ) : (
            <Freak basis={basis} year={year} />
          )}
        </li>
      ))}
    </ul>
  );
}

function ExcludedYear({ basis, year }: { basis: Basis; year: Period }) {
  const payer = useContext(PayerContext);
  const edits = useEdits();
  const back = useTakeBack();
  const mine = edits.data?.find(
    (a) =>
      a.withdrawn_at === null &&
      a.basis === basis.basis &&
      a.exchange === payer?.exchange &&
      a.symbol === payer?.symbol &&
      a.key.period_end === year.end,
  );
  return (
    <p>
      Fiscal {year.end.slice(0, 4)} is excluded on {basis.name}: {year.excluded}.{" "}
      {mine && (
        <button
          type="button"
          className="link"
          onClick={() => back.mutate({ id: mine.id, again: false })}
        >
          Include again
        </button>
      )}
      {back.error && <ErrorNote error={back.error} />}
    </p>
  );
}

function Freak({ basis, year }: { basis: Basis; year: Period }) {
  const payer = useContext(PayerContext);
  const aside = useExcludeYear(payer ?? { exchange: "", symbol: "" });
  const [open, setOpen] = useState(false);
  const [reason, setReason] = useState("");
  const name = year.end.slice(0, 4);
  return (
    <>
      <p>
        Fiscal {name} is a <Term id="freak year">freak year</Term> on {basis.name}: far outside its
        neighbours.{" "}
        {!open && (
          <button type="button" className="link" onClick={() => setOpen(true)}>
            Exclude it with a reason
          </button>
        )}
      </p>
      {open && (
        <form
          className="my-1 flex flex-wrap items-center gap-2"
          onSubmit={(e) => {
            e.preventDefault();
            aside.mutate({ period_end: year.end, basis: basis.basis, reason });
          }}
        >
          <label>
            <span className="text-[14px] text-muted">Why fiscal {name} should not count</span>{" "}
            <input
              // biome-ignore lint/a11y/noAutofocus: the form opens at the person's own press
              autoFocus
              className="field w-[min(380px,80vw)]"
              maxLength={500}
              value={reason}
              onChange={(e) => setReason(e.target.value)}
            />
          </label>
          <button
            type="submit"
            className="button primary"
            disabled={!reason.trim() || aside.isPending}
          >
            Exclude
          </button>
          <button type="button" className="button" onClick={() => setOpen(false)}>
            Cancel
          </button>
          {aside.error && <ErrorNote error={aside.error} kept="What you typed is still here." />}
        </form>
      )}
    </>
  );
}
