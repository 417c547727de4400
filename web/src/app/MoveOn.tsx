import { useState } from "react";
import { Refusal } from "@/api/client";
import { useFeed, useJob } from "@/api/hooks";
import { day } from "@/format/format";
import { ErrorNote } from "@/ui/ErrorNote";
import { JobProgress } from "@/ui/JobProgress";

interface Props {
  today: string;
  /** The task that moves the day, while there is one. */
  id: string | null;
  onBegun: (id: string) => void;
}

const STEPS = [
  { name: "next day", days: 1 },
  { name: "next week", days: 7 },
  { name: "next quarter", days: 91 },
] as const;

/** The demo's day goes on, and what its market publishes until then comes in. */
export function MoveOn({ today, id, onBegun }: Props) {
  const feed = useFeed();
  const job = useJob(id);
  const [to, setTo] = useState("");
  const running = id !== null && job.data?.state === "running";
  const go = (until: string) => feed.mutate(until, { onSuccess: (begun) => onBegun(begun.id) });
  const early = to !== "" && to <= today;
  return (
    <div className="mt-4 border-t border-line pt-3">
      <p className="text-muted">Move the demo’s day on</p>
      {running ? (
        <JobProgress job={job.data} error={job.error} />
      ) : (
        <>
          <div className="mt-1 flex flex-wrap gap-x-4">
            {STEPS.map((step) => (
              <button
                key={step.name}
                type="button"
                className="link"
                disabled={feed.isPending}
                onClick={() => go(later(today, step.days))}
              >
                {step.name}
              </button>
            ))}
          </div>
          <form
            className="mt-2 flex items-end gap-2"
            onSubmit={(e) => {
              e.preventDefault();
              if (to && !early) go(to);
            }}
          >
            <label className="text-muted">
              to a day
              <input
                type="date"
                className="field mt-1 w-full"
                value={to}
                aria-invalid={early || undefined}
                onChange={(e) => setTo(e.target.value)}
              />
            </label>
            <button type="submit" className="button" disabled={!to || early || feed.isPending}>
              Move on
            </button>
          </form>
          {early && (
            <p role="alert" className="mt-1 text-[13px] text-outside">
              The day can only be moved on: it is {day(today)}.
            </p>
          )}
        </>
      )}
      {feed.error && <ErrorNote error={feed.error} kept="Nothing was changed." />}
      {job.data?.problem && <ErrorNote error={new Refusal(job.data.problem)} />}
      {job.data?.state === "done" && (
        <output className="mt-2 block text-[13px] text-muted">
          {job.data.source
            ? `What was published is in, as source no. ${job.data.source}; it can be undone in Sources.`
            : "Nothing new was published."}
        </output>
      )}
    </div>
  );
}

function later(today: string, days: number): string {
  const then = new Date(`${today}T00:00:00Z`);
  then.setUTCDate(then.getUTCDate() + days);
  return then.toISOString().slice(0, 10);
}
