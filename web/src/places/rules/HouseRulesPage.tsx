import { useEffect, useState } from "react";
import { useStatus } from "@/api/hooks";
import { type RulesHeld, useHouseRules, useSaveRules } from "@/api/rules";
import { day } from "@/format/format";
import { useView } from "@/state/view";
import { ErrorNote } from "@/ui/ErrorNote";
import { plainRules, sameRules, useDraft } from "./draft";
import { Effect } from "./Effect";
import { Exceptions } from "./Exceptions";
import { Ledger } from "./Ledger";
import { LookBack } from "./LookBack";
import { PriceEffects } from "./PriceEffects";
import { Settings } from "./Settings";
import { SignalRules } from "./SignalRules";
import { Versions } from "./Versions";

export function HouseRulesPage() {
  const [view] = useView();
  const held = useHouseRules(view.as_of);
  useEffect(() => {
    document.title = "House rules · Hearth Yield";
  }, []);
  if (held.error) {
    return (
      <div className="p-6">
        <ErrorNote error={held.error} />
      </div>
    );
  }
  if (!held.data) return <div className="h-[90vh]" aria-busy="true" />;
  return <Sheet held={held.data} key={held.data.version} />;
}

function Sheet({ held }: { held: RulesHeld }) {
  const [view] = useView();
  const status = useStatus(view.as_of);
  const { rules, draft, change, drop } = useDraft(held.rules);
  const past = view.as_of !== undefined && view.as_of !== status.data?.today;
  return (
    <div className="px-4 pt-3 pb-12 lg:grid lg:grid-cols-[minmax(0,1fr)_300px] lg:gap-x-8 lg:px-6">
      <div className="min-w-0">
        <div className="flex flex-wrap items-baseline gap-x-5">
          <h1 className="text-[30px]">House rules</h1>
          <p className="text-[15px] text-muted">
            What are your limits, and would they have warned you?
          </p>
        </div>
        {past && view.as_of && (
          <p className="mt-1 max-w-[80ch] text-[14px]">
            You are viewing {day(view.as_of)}. House rules are those of today: they judge past days
            too, by what was known then.
          </p>
        )}
        <Ledger held={held} rules={rules} onChange={change} />
        <Exceptions held={held} rules={rules} onChange={change} />
        <Settings held={held} rules={rules} onChange={change} />
        <SignalRules held={held} rules={rules} onChange={change} />
        <LookBack held={held} standing={held.rules} draft={draft} />
        <Versions held={held} onRestored={drop} />
      </div>
      <aside
        aria-label="What would change"
        className="mt-6 rounded-md bg-sunk p-4 lg:sticky lg:top-[90px] lg:mt-2 lg:max-h-[calc(100vh-110px)] lg:self-start lg:overflow-y-auto"
      >
        <Effect rules={rules} draft={draft} />
        {draft && <PriceEffects draft={draft} />}
        {draft && <Save rules={draft} onSaved={drop} onDrop={drop} />}
        {!draft && !sameRules(rules, plainRules(held)) && (
          <button
            type="button"
            className="link mt-3 text-[14px]"
            onClick={() => change(plainRules(held))}
          >
            Put all back to the house’s own
          </button>
        )}
      </aside>
    </div>
  );
}

function Save(props: { rules: RulesHeld["rules"]; onSaved: () => void; onDrop: () => void }) {
  const save = useSaveRules(props.onSaved);
  const [note, setNote] = useState("");
  return (
    <form
      className="mt-4"
      onSubmit={(e) => {
        e.preventDefault();
        save.mutate({ rules: props.rules, note });
      }}
    >
      <label className="block text-[14px] text-muted" htmlFor="rules-note">
        Why (kept with the version)
      </label>
      <input
        id="rules-note"
        className="field mt-1 w-full"
        value={note}
        maxLength={500}
        onChange={(e) => setNote(e.target.value)}
      />
      {save.error && <ErrorNote error={save.error} kept="What you typed is kept." />}
      <div className="mt-2 flex gap-3">
        <button type="submit" className="button" disabled={save.isPending}>
          Save
        </button>
        <button type="button" className="link text-[14px]" onClick={props.onDrop}>
          Drop the changes
        </button>
      </div>
    </form>
  );
}
