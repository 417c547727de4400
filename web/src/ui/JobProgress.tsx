import type { Schemas } from "@/api/client";
import { cancelJob } from "@/api/hooks";
import { number } from "@/format/format";
import { ErrorNote } from "./ErrorNote";

/** A long task as it goes, and a way to stop it. error: why nothing more is heard of it. */
export function JobProgress({ job, error }: { job?: Schemas["JobOut"]; error?: Error | null }) {
  if (error) {
    return (
      <div className="mt-4">
        <ErrorNote
          error={error}
          kept="All of it came in or nothing; what came in stands in the list of imports. It is looked for again until the program answers."
        />
      </div>
    );
  }
  if (!job) return null;
  return (
    <div className="mt-4 flex flex-wrap items-center gap-x-4 gap-y-2">
      <progress
        className="w-64 accent-action"
        aria-label="How far the task is"
        max={job.total || 1}
        value={job.total ? job.done : undefined}
      />
      <span className="text-[14px] text-muted">
        {job.step.replace("_", " ")} {number(job.done)}
        {job.total > 0 && ` of ${number(job.total)}`}
      </span>
      <button type="button" className="button" onClick={() => void cancelJob(job.id)}>
        Cancel
      </button>
    </div>
  );
}
