import { isRefusedDay, Refusal, refusalOf } from "@/api/client";
import { upperFirst, withDates } from "@/format/format";

interface Props {
  error: unknown;
  kept?: string;
  /** The way on, where there is one. */
  way?: { name: string; go: () => void };
}

/** What happened, what was kept, what to do. A day that cannot be viewed is told once, by the frame,
 * which knows the way back. */
export function ErrorNote({ error, kept, way }: Props) {
  if (isRefusedDay(error) && !way) return null;
  const problem = error instanceof Refusal ? error.problem : null;
  return (
    <div role="alert" className="rounded-md border border-outside bg-raised px-4 py-3 text-[15px]">
      <p className="font-semibold">{problem?.title ?? "Something went wrong"}</p>
      <p>
        {upperFirst(withDates(problem?.detail ?? String(error)))}
        {problem?.rule && (
          <span className="text-muted"> (expected: {withDates(problem.rule)})</span>
        )}
      </p>
      {kept && <p className="text-muted">{kept}</p>}
      {way && (
        <button type="button" className="link mt-1" onClick={way.go}>
          {way.name}
        </button>
      )}
    </div>
  );
}

/** The same in one line, beside what was asked. */
export function Refused({ error }: { error: unknown }) {
  if (!error) return null;
  const rule = error instanceof Refusal && error.problem.rule;
  return (
    <span role="alert" className="text-outside">
      {upperFirst(withDates(refusalOf(error).message))}
      {rule && ` (expected: ${withDates(rule)})`}
    </span>
  );
}
