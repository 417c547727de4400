import { useState } from "react";
import { Refusal } from "@/api/client";
import { useFeed, useJob, useStatus } from "@/api/hooks";
import { ErrorNote } from "@/ui/ErrorNote";
import { JobProgress } from "@/ui/JobProgress";

/** Where a feed is set up: what it has published comes in at a press. A demo's comes with its day. */
export function FromFeed() {
  const status = useStatus();
  const feed = useFeed();
  const [id, setId] = useState<string | null>(null);
  const job = useJob(id);
  if (!status.data?.feed || status.data.pinned) return null;
  return (
    <div className="mt-4">
      {id !== null && (job.error || job.data?.state === "running") ? (
        <JobProgress job={job.data} error={job.error} />
      ) : (
        <button
          type="button"
          className="button"
          disabled={feed.isPending}
          onClick={() => feed.mutate(undefined, { onSuccess: (begun) => setId(begun.id) })}
        >
          Ask the feed for what is new
        </button>
      )}
      {feed.error && <ErrorNote error={feed.error} kept="Nothing was changed." />}
      {job.data?.problem && <ErrorNote error={new Refusal(job.data.problem)} />}
      {job.data?.state === "done" && (
        <output className="mt-2 block text-[15px]">
          {job.data.source
            ? `It is in, as source no. ${job.data.source}.`
            : "Nothing new was published."}
        </output>
      )}
    </div>
  );
}
