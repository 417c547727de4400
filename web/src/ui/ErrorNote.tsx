import { Refusal } from "@/api/client";

/** What happened, what was kept, what to do. */
export function ErrorNote({ error, kept }: { error: unknown; kept?: string }) {
  const problem = error instanceof Refusal ? error.problem : null;
  return (
    <div
      role="alert"
      className="rounded-md border border-uncovered bg-raised px-4 py-3 text-[15px]"
    >
      <p className="font-semibold">{problem?.title ?? "Something went wrong"}</p>
      <p>
        {problem?.detail ?? String(error)}
        {problem?.rule && <span className="text-muted"> (expected: {problem.rule})</span>}
      </p>
      {kept && <p className="text-muted">{kept}</p>}
    </div>
  );
}
