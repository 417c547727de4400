import { AlertDialog } from "radix-ui";
import { useState } from "react";
import { Refusal } from "@/api/client";
import { useJob, useRestore } from "@/api/hooks";
import { ErrorNote } from "@/ui/ErrorNote";
import { JobProgress } from "@/ui/JobProgress";

/** A backup replaces everything, so it is the one step that asks first. */
export function Restore() {
  const [file, setFile] = useState<File | null>(null);
  const [id, setId] = useState<string | null>(null);
  const restore = useRestore();
  const job = useJob(id);
  const start = () => {
    if (!file) return;
    restore.mutate(file, { onSuccess: (j) => setId(j.id) });
    setFile(null);
  };
  return (
    <div className="mt-3">
      <label className="text-[15px]">
        Restore a backup:{" "}
        <input
          type="file"
          accept=".json,application/json"
          className="text-[15px] file:mr-3 file:min-h-8 file:rounded-md file:border file:border-stone file:bg-raised file:px-3"
          onChange={(e) => {
            setFile(e.target.files?.[0] ?? null);
            e.target.value = "";
          }}
        />
      </label>
      {restore.error && <ErrorNote error={restore.error} kept="Nothing was changed." />}
      {id !== null && (job.error || job.data?.state === "running") && (
        <JobProgress job={job.data} error={job.error} />
      )}
      {job.data?.state === "failed" && job.data.problem && (
        <ErrorNote error={new Refusal(job.data.problem)} kept="Nothing was changed." />
      )}
      {job.data?.state === "done" && (
        <output className="mt-2 block">
          Restored. {job.data?.told.map((words) => `${words} `)}
        </output>
      )}
      <AlertDialog.Root open={file !== null} onOpenChange={(open) => !open && setFile(null)}>
        <AlertDialog.Portal>
          <AlertDialog.Overlay className="fixed inset-0 z-40 bg-black/30" />
          <AlertDialog.Content className="fixed top-32 left-1/2 z-50 w-[min(460px,92vw)] -translate-x-1/2 rounded-lg border border-line bg-raised p-5">
            <AlertDialog.Title className="text-[21px]">Replace everything?</AlertDialog.Title>
            <AlertDialog.Description className="mt-2 text-[15px]">
              All facts and decisions here give way to those in {file?.name}. The file is checked
              first, and what is here now is kept as a backup in the data folder.
            </AlertDialog.Description>
            <div className="mt-4 flex gap-3">
              <AlertDialog.Action className="button primary" onClick={start}>
                Replace everything
              </AlertDialog.Action>
              <AlertDialog.Cancel className="button">Cancel</AlertDialog.Cancel>
            </div>
          </AlertDialog.Content>
        </AlertDialog.Portal>
      </AlertDialog.Root>
    </div>
  );
}
