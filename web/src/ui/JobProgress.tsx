import type { Schemas } from "@/api/client";
import { cancelJob } from "@/api/hooks";
import { number } from "@/format/format";

/** A long task as it goes, and a way to stop it. */
export function JobProgress({ job }: { job: Schemas["JobOut"] }) {
  return (
    <div className="mt-4 flex items-center gap-4">
      <progress
        className="w-64 accent-action"
        aria-label="How far the task is"
        max={job.total || 1}
        value={job.done}
      />
      <span className="text-[14px] text-muted">
        {job.step.replace("_", " ")} {number(job.done)} of {number(job.total)}
      </span>
      <button type="button" className="button" onClick={() => void cancelJob(job.id)}>
        Cancel
      </button>
    </div>
  );
}
