import { useEffect, useState } from "react";
import { Refusal, type Schemas } from "@/api/client";
import { useCommit, useJob } from "@/api/hooks";
import { day, number, withDates } from "@/format/format";
import { ErrorNote } from "@/ui/ErrorNote";
import { Warnings } from "@/ui/grid/Warnings";
import { JobProgress } from "@/ui/JobProgress";
import { StateMark } from "@/ui/StateMark";

type PreviewOut = Schemas["PreviewOut"];
type Fault = Schemas["FaultOut"];
type Mend = Schemas["MendOut"];

interface Props {
  preview: PreviewOut;
  /** Reads the files anew with one setting changed. */
  onMend: (mend: Mend) => void;
  onDone: (words: string) => void;
  onClose: () => void;
}

/** What the files would change, and everything wrong with them; then all of it or nothing. */
export function Preview({ preview, onMend, onDone, onClose }: Props) {
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
          <StateMark state="outside" label={false} /> {faults.length}{" "}
          {faults.length === 1 ? "error" : "errors"}. Nothing has been imported; correct the file
          and try again.
        </p>
      ) : (
        <Counts preview={preview} />
      )}
      {(preview.replaced_in_all ?? 0) > 0 && <Replaced preview={preview} />}
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
          <Warnings
            faults={preview.faults}
            accepted={accepted}
            onAccept={setAccepted}
            onMend={onMend}
          />
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

/** Values that are held and would be replaced, the most different first. */
function Replaced({ preview }: { preview: PreviewOut }) {
  const shown = preview.replaced ?? [];
  const all = preview.replaced_in_all ?? 0;
  return (
    <div className="mt-4">
      <h3 className="text-[16px]">
        {all === 1 ? "One value that is held" : `${number(all)} values that are held`} would be
        replaced
      </h3>
      <section
        aria-label="Values that would be replaced"
        tabIndex={0}
        className="relative mt-1 max-h-[320px] overflow-auto"
      >
        <table className="rows w-full max-w-[760px] text-[14px]">
          <caption className="sr-only">Old and new values, the most different first</caption>
          <thead className="sticky top-0 bg-raised">
            <tr className="[&>th]:text-left!">
              <th scope="col">Of</th>
              <th scope="col">Row</th>
              <th scope="col">Held</th>
              <th scope="col">New</th>
            </tr>
          </thead>
          <tbody>
            {shown.map((r) => (
              <tr key={`${r.table}:${r.whose}:${r.row}:${r.field}`} className="[&>td]:text-left">
                <td>
                  {r.whose}: {r.field.replaceAll("_", " ")}
                </td>
                <td>{withDates(r.row)}</td>
                <td>{r.before || "–"}</td>
                <td className="font-semibold">→ {r.after || "–"}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </section>
      {all > shown.length && (
        <p className="mt-1 text-[13px] text-muted">
          The {number(shown.length)} that differ most are shown.
        </p>
      )}
    </div>
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
            <th scope="col">Where</th>
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
              <td>{f.line ? `${f.file}, line ${f.line}` : f.file}</td>
              <td>{f.column?.replaceAll("_", " ") ?? "–"}</td>
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

interface ActionProps extends Omit<Props, "onMend"> {
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
  const [profile, setProfile] = useState<string | null>(() => suggestion(preview));
  const start = () =>
    commit.mutate(
      { token: preview.token, accepted, profile: profile?.trim() ?? "" },
      { onSuccess: (j) => setId(j.id) },
    );
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
        <ErrorNote error={new Refusal(job.data.problem)} kept="Nothing was changed." />
      )}
      {can && preview.found && preview.found.length > 0 && (
        <KeepProfile name={profile} onName={setProfile} />
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

/** A name to keep the settings under, where some were asked and none is kept yet. */
function suggestion(preview: PreviewOut): string | null {
  const tables = (preview.found ?? []).flatMap((f) => f.tables).filter((t) => !t.skipped);
  const asked = tables.some(
    (t) => !t.profile && t.settings.some((s) => s.asked && !DEFAULTS.test(s.name)),
  );
  return asked ? preview.file_name.replace(/\.\w+( and \d+ more)?$/, "").slice(0, 80) : null;
}

/** Settings that have a value of their own where nobody says anything. */
const DEFAULTS = /^(after_\w+|shares|per_share)$/;

function KeepProfile({
  name,
  onName,
}: {
  name: string | null;
  onName: (n: string | null) => void;
}) {
  return (
    <p className="mb-3 flex flex-wrap items-center gap-2 text-[15px]">
      <label>
        <input
          type="checkbox"
          className="mr-2 size-4 align-[-2px] accent-action"
          checked={name !== null}
          onChange={(e) => onName(e.target.checked ? "" : null)}
        />
        Remember how such files are read
      </label>
      {name !== null && (
        <label>
          as{" "}
          <input
            className="field w-[220px] py-0.5"
            aria-label="Name of the import profile"
            maxLength={80}
            value={name}
            onChange={(e) => onName(e.target.value)}
          />
        </label>
      )}
    </p>
  );
}
