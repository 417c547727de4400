import { useEffect, useState } from "react";
import type { Schemas } from "@/api/client";
import { cancelJob, usePreview, useReading } from "@/api/hooks";
import { number } from "@/format/format";
import { keepDraft, readDraft } from "@/state/drafts";
import { ErrorNote } from "@/ui/ErrorNote";
import { ReviewLink } from "@/ui/ReviewLink";
import { ByHand } from "./ByHand";
import { DropZone } from "./DropZone";
import { FromFeed } from "./FromFeed";
import { History } from "./History";
import { Preview } from "./Preview";
import { Profiles } from "./Profiles";
import { type Settled, Understood } from "./Understood";

type Found = Schemas["FoundFileOut"];
type Payer = Schemas["NamedPayerOut"];
const NONE_SETTLED: Settled = { answers: {}, payers: [] };

/** What came of an import: words, and the payers whose reviews can be opened now. */
interface Done {
  words: string;
  payers: Payer[];
}

/** Files in: dropped, chosen, pasted or typed; understood, settled, previewed, imported, undone. */
export function ImportPage() {
  const preview = usePreview();
  const [done, setDone] = useState<Done | null>(null);
  const [files, setFiles] = useState<File[]>([]);
  const [settled, setSettled] = useState<Settled>(NONE_SETTLED);
  const [found, setFound] = useState<Found[]>([]);
  const [again, setAgain] = useState(false);
  const [byHand, setByHand] = useState("");
  const read = (next: File[], now: Settled) => {
    setFiles(next);
    setSettled(now);
    const some = Object.keys(now.answers).length > 0 || now.payers.length > 0;
    keepDraft(keyOf(next), some ? now : null);
    preview.mutate(
      { files: next, settled: now, task: newTask() },
      { onSuccess: (read) => setFound(read.found ?? []), onError: () => setFound([]) },
    );
  };
  const stop = (task: string) => {
    preview.reset();
    // One that is over by now is not known any more.
    cancelJob(task).catch(() => undefined);
  };
  const close = () => {
    keepDraft(keyOf(files), null);
    setFound([]);
    preview.reset();
  };
  const drop = (dropped: File[], now = NONE_SETTLED) => {
    const before = now === NONE_SETTLED ? readDraft(keyOf(dropped), isSettled) : null;
    setDone(null);
    setAgain(before !== null);
    read(dropped, before ?? now);
  };
  const settle = (now: Settled) => read(files, now);
  return (
    <div className="max-w-[1100px]">
      <DropZone
        settling={found.length > 0 || byHand !== ""}
        busy={preview.isPending}
        onFiles={(dropped) => drop(dropped)}
      />
      {preview.isPending && preview.variables && (
        <Reading key={preview.variables.task} task={preview.variables.task} onStop={stop} />
      )}
      <FromFeed />
      <ByHand
        what={byHand}
        onWhat={setByHand}
        onKept={(words) => setDone({ words, payers: [] })}
        onFiles={drop}
      />
      {preview.error && <ErrorNote error={preview.error} kept="Nothing was changed." />}
      {done && <DoneNote done={done} />}
      {found.length > 0 && again && (
        <p className="mt-4 text-[15px]">
          What you answered of these files before is taken up.{" "}
          <button type="button" className="link" onClick={() => drop(files, { ...NONE_SETTLED })}>
            Begin anew
          </button>
        </p>
      )}
      {found.length > 0 && (
        <Understood found={found} settled={settled} busy={preview.isPending} onSettle={settle} />
      )}
      {preview.data && (preview.data.token || preview.data.faults.length > 0) && (
        <Preview
          key={preview.data.token}
          preview={preview.data}
          onMend={(mend) =>
            settle({ ...settled, answers: { ...settled.answers, [mend.id]: mend.value } })
          }
          onDone={(words) => {
            setDone({ words, payers: preview.data.payers ?? [] });
            close();
          }}
          onClose={close}
        />
      )}
      {found.length > 0 && !preview.data?.token && !preview.data?.faults.length && (
        <button type="button" className="button mt-3" onClick={close}>
          Cancel
        </button>
      )}
      <History />
      <Profiles />
    </div>
  );
}

/** The same files dropped again, after a reload too, are the same. */
const keyOf = (files: File[]) =>
  `import/${files.map((f) => `${f.name}:${f.size}:${f.lastModified}`).join("|")}`;

const isSettled = (raw: unknown): raw is Settled => {
  const held = raw as Partial<Settled> | null;
  return (
    typeof held?.answers === "object" &&
    held.answers !== null &&
    Object.values(held.answers).every((a) => typeof a === "string") &&
    Array.isArray(held.payers)
  );
};

/** Any that no other reading bears. */
const newTask = () => `reading-${Date.now()}-${Math.random().toString(36).slice(2)}`;

/** How far files are read, once that takes longer than a second, and a way to stop it. */
function Reading({ task, onStop }: { task: string; onStop: (task: string) => void }) {
  const [long, setLong] = useState(false);
  useEffect(() => {
    const wait = setTimeout(() => setLong(true), 1000);
    return () => clearTimeout(wait);
  }, []);
  const job = useReading(long ? task : null);
  if (!long) return null;
  const done = job.data?.done ?? 0;
  return (
    <div className="mt-3 flex flex-wrap items-center gap-x-4 gap-y-2">
      <progress className="w-64 accent-action" aria-label="The files are being read" />
      <span className="text-[14px] text-muted">
        {job.data?.step ?? "reading"} {done > 0 && number(done)}
      </span>
      <button type="button" className="button" onClick={() => onStop(task)}>
        Cancel
      </button>
    </div>
  );
}

const SHOWN = 12;

function DoneNote({ done }: { done: Done }) {
  return (
    <output className="mt-4 block rounded-md border border-line bg-raised px-4 py-3">
      {done.words}
      {done.payers.length > 0 && (
        <span className="mt-1 flex flex-wrap gap-x-4 gap-y-1">
          <span className="text-muted">Read the review of</span>
          {done.payers.slice(0, SHOWN).map((p) => (
            <ReviewLink key={`${p.exchange}/${p.symbol}`} payer={p} className="link underline">
              {p.name}
            </ReviewLink>
          ))}
          {done.payers.length > SHOWN && (
            <span className="text-muted">and {done.payers.length - SHOWN} more</span>
          )}
        </span>
      )}
    </output>
  );
}
