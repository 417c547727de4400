import { Link } from "@tanstack/react-router";
import { useState } from "react";
import type { PayerKey } from "@/api/hooks";
import { useForgetStrain, useKeepStrain, useKeptStrains } from "@/api/strains";
import { useView } from "@/state/view";
import { ErrorNote } from "@/ui/ErrorNote";
import { StrainSaid } from "@/ui/StrainSaid";

/** Strains kept on the payer under a name, and the way to put every payer under this one. */
export function KeptStrains({ payer }: { payer: PayerKey }) {
  const [view, change] = useView();
  const kept = useKeptStrains(payer, view.as_of);
  const keep = useKeepStrain(payer);
  const forget = useForgetStrain(payer);
  const [name, setName] = useState("");
  const asked = {
    as_of: view.as_of,
    strain: view.strain,
    strain_part: view.strain_part ?? "all",
  };
  return (
    <div className="mt-5 max-w-[80ch]">
      <h3 className="text-[17px]">Kept strains</h3>
      {kept.data?.length === 0 && (
        <p className="text-[14px] text-muted">
          None yet. A kept strain is made again each time you come back, and a decision keeps what
          it said.
        </p>
      )}
      <ul>
        {kept.data?.map((k) => (
          <li
            key={k.id}
            className="flex flex-wrap items-baseline gap-x-3 border-line border-b py-1"
          >
            <button
              type="button"
              className="link font-semibold"
              onClick={() =>
                change({
                  strain: k.question.strain,
                  strain_part:
                    k.question.strain_part === "all" ? undefined : k.question.strain_part,
                })
              }
            >
              {k.name}
            </button>
            <StrainSaid said={k} />
            <button
              type="button"
              className="link ml-auto text-[13px]"
              aria-label={`Delete ${k.name}`}
              onClick={() => forget.mutate(k.id)}
            >
              Delete
            </button>
          </li>
        ))}
      </ul>
      <form
        className="mt-2 flex flex-wrap items-end gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          keep.mutate({ name, asked }, { onSuccess: () => setName("") });
        }}
      >
        <div>
          <label htmlFor="strain-name" className="block text-[13px] text-muted">
            Keep this strain as
          </label>
          <input
            id="strain-name"
            className="field w-[240px]"
            maxLength={60}
            value={name}
            onChange={(e) => setName(e.target.value)}
          />
        </div>
        <button type="submit" className="button" disabled={!name.trim() || keep.isPending}>
          Keep
        </button>
        {view.strain_part === undefined && (
          <Link
            to="/payers/strain"
            search={{ as_of: view.as_of, strain: view.strain } as never}
            className="link"
          >
            Apply to all payers
          </Link>
        )}
      </form>
      {keep.error && <ErrorNote error={keep.error} kept="What you typed is still there." />}
      {forget.error && <ErrorNote error={forget.error} />}
    </div>
  );
}
