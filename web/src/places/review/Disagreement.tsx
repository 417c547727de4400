import type { Stage } from "@/api/client";
import { type PayerKey, useDisagree } from "@/api/hooks";
import { isWordsDraft, useDraft } from "@/state/drafts";
import { ErrorNote } from "@/ui/ErrorNote";
import { Overtaken } from "@/ui/Overtaken";

interface Props {
  payer: PayerKey;
  stage: Stage;
  said?: string;
  /** The stage is being read: its entry reaches to the rail's edge. */
  on: boolean;
}

/** The person's own word against a finding; it goes into the decision. What opens it stands beside
 * the stage's name, so that nothing moves while one scrolls. */
export function Disagreement({ payer, stage, said, on }: Props) {
  const key = `disagree/${payer.exchange}/${payer.symbol}/${stage.id}`;
  const [draft, setDraft] = useDraft(key, isWordsDraft);
  const disagree = useDisagree(payer);
  const standing = said ?? "";
  const save = (words: string, begun: string) =>
    disagree.mutate({ stage: stage.id, words, begun }, { onSuccess: () => setDraft(null) });
  const overtaken = draft !== null && draft.begun !== standing;
  const begin = () => setDraft({ begun: standing, words: standing });
  if (draft === null) {
    if (said) {
      return (
        <p className="mt-1 border-action border-l-2 pl-2 text-[14px]">
          You disagree: {said}{" "}
          <button type="button" className="link" onClick={begin}>
            Edit
          </button>
        </p>
      );
    }
    return (
      <button
        type="button"
        className={`link absolute top-2 text-[13px] ${on ? "right-[18px]" : "right-0"}`}
        aria-label={`Disagree with what ${stage.name} found`}
        onClick={begin}
      >
        Disagree
      </button>
    );
  }
  return (
    <form
      className="mt-1"
      onSubmit={(e) => {
        e.preventDefault();
        save(draft.words, draft.begun);
      }}
    >
      <label className="block text-[13px] text-muted" htmlFor={`disagree-${stage.id}`}>
        Why you disagree
      </label>
      <textarea
        id={`disagree-${stage.id}`}
        className="field w-full text-[14px]"
        rows={3}
        maxLength={1000}
        value={draft.words}
        // biome-ignore lint/a11y/noAutofocus: it was asked for by this very press
        autoFocus
        onChange={(e) => setDraft({ ...draft, words: e.target.value })}
      />
      <div className="flex gap-3 text-[14px]">
        <button type="submit" className="link" disabled={!draft.words.trim() || overtaken}>
          Save
        </button>
        <button type="button" className="link" onClick={() => setDraft(null)}>
          Cancel
        </button>
        {said && (
          <button type="button" className="link" onClick={() => save("", draft.begun)}>
            Delete
          </button>
        )}
      </div>
      {overtaken ? (
        <Overtaken
          standing={standing}
          onKeepMine={() => save(draft.words, standing)}
          onTakeTheirs={() => setDraft(null)}
        />
      ) : (
        disagree.error && <ErrorNote error={disagree.error} kept="What you typed is still here." />
      )}
    </form>
  );
}
