import { useEffect, useState } from "react";
import type { Schemas } from "@/api/client";
import { useCommit, useJob } from "@/api/hooks";
import { day, number } from "@/format/format";
import { ErrorNote } from "@/ui/ErrorNote";
import { JobProgress } from "@/ui/JobProgress";
import { StateMark } from "@/ui/StateMark";
import { Warnings } from "./Warnings";

type PreviewOut = Schemas["PreviewOut"];
type Fault = Schemas["FaultOut"];

interface Props {
  preview: PreviewOut;
  onDone: (words: string) => void;
  onClose: () => void;
}

/** What the files would change, and everything wrong with them; then all of it or nothing. */
export function Preview({ preview, onDone, onClose }: Props) {
  const faults = preview.faults.filter((f) => !f.warning);
  const warnings = preview.faults.filter((f) => f.warning);
  const fresh = preview.tables.some((t) => t.added || t.changed);
  const [accepted, setAccepted] = useState<number[]>([]);
  return (
    <section className="mt-5 rounded-lg border border-line bg-raised p-5" aria-labelledby="preview">
      <h2 id="preview" className="text-[21px]">
        {preview.file_name}
      </h2>
      {preview.refused ? (
        <p className="mt-1">
          <StateMark state="over" label={false} /> {faults.length}{" "}
          {faults.length === 1 ? "error" : "errors"}. Nothing has been imported; correct the file
          and try again.
        </p>
      ) : (
        <Counts preview={preview} />
      )}
      {preview.held_already && (
        <p className="mt-2 text-muted">
          These very files were imported on {day(preview.held_already)}.
        </p>
      )}
      {faults.length > 0 && <Faults faults={faults} caption="Errors" />}
      {warnings.length > 0 &&
        (preview.refused ? (
          <Faults faults={warnings} caption="Warnings" />
        ) : (
          <Warnings faults={preview.faults} accepted={accepted} onAccept={setAccepted} />
        ))}
      <Actions
        preview={preview}
        accepted={accepted}
        open={warnings.length - accepted.length}
        can={!preview.refused && fresh}
        onDone={onDone}
        onClose={onClose}
      />
    </section>
  );
}

export function Counts({ preview }: { preview: PreviewOut }) {
  return (
    <table className="rows mt-2 w-full max-w-[520px] text-[15px]">
      <caption className="sr-only">What would change, by table</caption>
      <thead>
        <tr>
          <th scope="col">Table</th>
          <th scope="col">Added</th>
          <th scope="col">Changed</th>
          <th scope="col">Same</th>
        </tr>
      </thead>
      <tbody>
        {preview.tables.map((t) => (
          <tr key={t.table}>
            <td>{t.table.replace("_", " ")}</td>
            <td>{number(t.added)}</td>
            <td>{number(t.changed)}</td>
            <td className="text-muted">{number(t.same)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Faults({ faults, caption }: { faults: Fault[]; caption: string }) {
  return (
    <section
      aria-label={caption}
      tabIndex={0}
      className="mt-2 max-h-[420px] relative overflow-auto"
    >
      <table className="rows w-full min-w-[640px] text-[14px]">
        <caption className="sr-only">{caption}</caption>
        <thead className="sticky top-0 bg-raised">
          <tr className="[&>th]:text-left!">
            <th scope="col">File</th>
            <th scope="col">Line</th>
            <th scope="col">Column</th>
            <th scope="col">Value</th>
            <th scope="col">Expected</th>
          </tr>
        </thead>
        <tbody>
          {faults.map((f) => (
            <tr
              key={`${f.file}:${f.line}:${f.column}:${f.value}:${f.expected}`}
              className="align-top [&>td]:text-left"
            >
              <td>{f.file}</td>
              <td>{f.line ?? "–"}</td>
              <td>{f.column ?? "–"}</td>
              <td className="max-w-[180px] break-words font-semibold">
                {f.value === null ? "–" : f.value === "" ? "(empty)" : f.value}
              </td>
              <td>{f.expected}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

interface ActionProps extends Props {
  can: boolean;
  accepted: number[];
  /** Warnings that are not accepted yet. */
  open: number;
}

function Actions({ preview, can, accepted, open, onDone, onClose }: ActionProps) {
  const commit = useCommit();
  const [id, setId] = useState<string | null>(null);
  const job = useJob(id);
  const state = job.data?.state;
  // biome-ignore lint/correctness/useExhaustiveDependencies: tells once, when the task ends
  useEffect(() => {
    if (state === "done") onDone(`${preview.file_name} is in, as source no. ${job.data?.source}.`);
    if (state === "cancelled") onDone("Cancelled. Nothing was kept of it.");
  }, [state]);
  const start = () =>
    commit.mutate({ token: preview.token, accepted }, { onSuccess: (j) => setId(j.id) });
  if (id !== null && (job.error || state === "running")) {
    return (
      <>
        <JobProgress job={job.data} error={job.error} />
        {job.error && (
          <button type="button" className="button mt-3" onClick={onClose}>
            Close
          </button>
        )}
      </>
    );
  }
  return (
    <div className="mt-4">
      {commit.error && <ErrorNote error={commit.error} kept="Nothing was changed." />}
      {state === "failed" && job.data?.problem && (
        <p role="alert" className="mb-3 text-over">
          {job.data.problem.detail}. Nothing was changed.
        </p>
      )}
      <div className="flex gap-3">
        {can && (
          <button
            type="button"
            className="button primary"
            disabled={commit.isPending || open > 0}
            onClick={start}
          >
            Import now
          </button>
        )}
        <button type="button" className="button" onClick={onClose}>
          {can ? "Cancel" : "Close"}
        </button>
        {can && open > 0 && (
          <span className="self-center text-[14px] text-muted">
            {open} {open === 1 ? "warning is" : "warnings are"} still to be accepted.
          </span>
        )}
      </div>
    </div>
  );
}
