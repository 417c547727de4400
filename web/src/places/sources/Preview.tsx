import { useEffect, useState } from "react";
import type { Schemas } from "@/api/client";
import { useCommit, useJob } from "@/api/hooks";
import { day, number } from "@/format/format";
import { ErrorNote } from "@/ui/ErrorNote";
import { JobProgress } from "@/ui/JobProgress";
import { StateMark } from "@/ui/StateMark";

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
  return (
    <section className="mt-5 rounded-lg border border-line bg-raised p-5" aria-labelledby="preview">
      <h2 id="preview" className="text-[21px]">
        {preview.file_name}
      </h2>
      {preview.refused ? (
        <p className="mt-1">
          <StateMark state="uncovered" label={false} /> {faults.length}{" "}
          {faults.length === 1 ? "fault" : "faults"}. Nothing can be brought in until they are
          mended; nothing has been changed.
        </p>
      ) : (
        <Counts preview={preview} />
      )}
      {preview.held_already && (
        <p className="mt-2 text-muted">
          These very files were brought in on {day(preview.held_already)}.
        </p>
      )}
      {faults.length > 0 && <Faults faults={faults} caption="Faults" />}
      {warnings.length > 0 && (
        <>
          <h3 className="mt-4 text-[17px]">
            {warnings.length} {warnings.length === 1 ? "warning" : "warnings"}
          </h3>
          <p className="text-[14px] text-muted">Worth a look; they do not stop the import.</p>
          <Faults faults={warnings} caption="Warnings" />
        </>
      )}
      <Actions
        preview={preview}
        can={!preview.refused && fresh}
        onDone={onDone}
        onClose={onClose}
      />
    </section>
  );
}

function Counts({ preview }: { preview: PreviewOut }) {
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

function Actions({ preview, can, onDone, onClose }: Props & { can: boolean }) {
  const commit = useCommit();
  const [id, setId] = useState<string | null>(null);
  const job = useJob(id);
  const state = job.data?.state;
  // biome-ignore lint/correctness/useExhaustiveDependencies: tells once, when the task ends
  useEffect(() => {
    if (state === "done") onDone(`${preview.file_name} is in, as source no. ${job.data?.source}.`);
    if (state === "cancelled") onDone("Cancelled. Nothing was kept of it.");
  }, [state]);
  const start = () => commit.mutate(preview.token, { onSuccess: (j) => setId(j.id) });
  if (job.data && state === "running") {
    return <JobProgress job={job.data} />;
  }
  return (
    <div className="mt-4">
      {commit.error && <ErrorNote error={commit.error} kept="Nothing was changed." />}
      {state === "failed" && job.data?.problem && (
        <p role="alert" className="mb-3 text-uncovered">
          {job.data.problem.detail}. Nothing was changed.
        </p>
      )}
      <div className="flex gap-3">
        {can && (
          <button
            type="button"
            className="button primary"
            disabled={commit.isPending}
            onClick={start}
          >
            Bring it in
          </button>
        )}
        <button type="button" className="button" onClick={onClose}>
          {can ? "Leave it" : "Close"}
        </button>
      </div>
    </div>
  );
}
