import { useState } from "react";
import type { Schemas } from "@/api/client";
import {
  useForgetProfile,
  useImportProfile,
  useImportProfiles,
  useRenameProfile,
} from "@/api/importProfiles";
import { day } from "@/format/format";
import { Download } from "@/ui/Download";
import { ErrorNote } from "@/ui/ErrorNote";

type Profile = Schemas["ImportProfileOut"];

/** How files of one sort are read: kept at an import, known again by their headings. */
export function Profiles() {
  const found = useImportProfiles();
  const forget = useForgetProfile();
  const back = useImportProfile();
  const [gone, setGone] = useState<{ name: string; file: File } | null>(null);
  const profiles = found.data ?? [];
  if (profiles.length === 0 && !gone && !back.error)
    return <ImportOne onFile={(f) => back.mutate(f)} none />;
  return (
    <section className="mt-6" aria-labelledby="profiles">
      <h2 id="profiles" className="text-[21px]">
        Import profiles
      </h2>
      <p className="max-w-[80ch] text-[14px] text-muted">
        What you settled of files of one sort. The next such file is known by its headings and read
        the same way.
      </p>
      {found.error && <ErrorNote error={found.error} />}
      {(forget.error ?? back.error) && (
        <ErrorNote error={(forget.error ?? back.error) as Error} kept="Nothing was changed." />
      )}
      {gone && (
        <output className="mt-2 block text-[15px]">
          “{gone.name}” is deleted.{" "}
          <button
            type="button"
            className="link"
            onClick={() => back.mutate(gone.file, { onSuccess: () => setGone(null) })}
          >
            Undo
          </button>
        </output>
      )}
      <ul className="mt-2 text-[15px]">
        {profiles.map((p) => (
          <One key={p.id} profile={p} onForget={() => forget.mutate(p, { onSuccess: setGone })} />
        ))}
      </ul>
      <ImportOne onFile={(f) => back.mutate(f)} />
    </section>
  );
}

function One({ profile, onForget }: { profile: Profile; onForget: () => void }) {
  const rename = useRenameProfile();
  const [name, setName] = useState<string | null>(null);
  const kinds = profile.kinds.map((k) => k.replaceAll("_", " ")).join(", ");
  return (
    <li className="flex flex-wrap items-baseline gap-x-4 gap-y-1 border-b border-line py-1.5">
      {name === null ? (
        <span className="font-semibold">{profile.name}</span>
      ) : (
        <form
          className="flex gap-2"
          onSubmit={(e) => {
            e.preventDefault();
            rename.mutate({ id: profile.id, name }, { onSuccess: () => setName(null) });
          }}
        >
          <input
            className="field"
            aria-label={`New name of ${profile.name}`}
            maxLength={80}
            value={name}
            onChange={(e) => setName(e.target.value)}
          />
          <button type="submit" className="button" disabled={!name.trim()}>
            Rename
          </button>
        </form>
      )}
      <span className="text-[14px] text-muted">
        {kinds}; kept {day(profile.kept_on)}
      </span>
      <span className="ml-auto flex gap-4">
        <button
          type="button"
          className="link"
          aria-label={`Rename ${profile.name}`}
          onClick={() => setName(name === null ? profile.name : null)}
        >
          {name === null ? "Rename" : "Cancel"}
        </button>
        <Download
          className="link"
          href={`/api/import-profiles/${profile.id}/export`}
          aria-label={`Export ${profile.name}`}
        >
          Export
        </Download>
        <button
          type="button"
          className="link"
          aria-label={`Delete ${profile.name}`}
          onClick={onForget}
        >
          Delete
        </button>
      </span>
      {rename.error && <ErrorNote error={rename.error} kept="Nothing was changed." />}
    </li>
  );
}

function ImportOne({ onFile, none }: { onFile: (file: File) => void; none?: boolean }) {
  return (
    <p className="mt-3 text-[14px] text-muted">
      {none && "No import profile is kept yet; one is kept with an import that asked something. "}
      <label className="link cursor-pointer focus-within:underline">
        Import a profile
        <input
          type="file"
          accept=".json,application/json"
          className="sr-only"
          onChange={(e) => {
            const file = e.target.files?.[0];
            e.target.value = "";
            if (file) onFile(file);
          }}
        />
      </label>
    </p>
  );
}
