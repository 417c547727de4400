import { useEffect } from "react";
import { useStatus } from "@/api/hooks";
import { type RulesHeld, useHouseRules, useSaveRules } from "@/api/rules";
import { day } from "@/format/format";
import { useView } from "@/state/view";
import { ErrorNote } from "@/ui/ErrorNote";
import { differences, plainRules, sameRules, useRulesDraft } from "./draft";
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
  const kept = useRulesDraft(held);
  const { rules, draft, change, drop } = kept;
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
        {draft && <Save held={held} rules={draft} kept={kept} />}
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

interface SaveProps {
  held: RulesHeld;
  rules: RulesHeld["rules"];
  kept: ReturnType<typeof useRulesDraft>;
}

function Save({ held, rules, kept }: SaveProps) {
  const save = useSaveRules(kept.drop);
  const overtaken = kept.began !== held.version;
  return (
    <form
      className="mt-4"
      onSubmit={(e) => {
        e.preventDefault();
        save.mutate({ rules, note: kept.note, begun: kept.began });
      }}
    >
      <label className="block text-[14px] text-muted" htmlFor="rules-note">
        Why (kept with the version)
      </label>
      <input
        id="rules-note"
        className="field mt-1 w-full"
        value={kept.note}
        maxLength={500}
        onChange={(e) => kept.say(e.target.value)}
      />
      {overtaken ? (
        <Meanwhile held={held} rules={rules} />
      ) : (
        save.error && <ErrorNote error={save.error} kept="What you typed is kept." />
      )}
      <div className="mt-2 flex flex-wrap gap-x-3 gap-y-1">
        {overtaken ? (
          <button type="button" className="button" onClick={kept.rebase}>
            Go on with mine
          </button>
        ) : (
          <button type="submit" className="button" disabled={save.isPending}>
            Save
          </button>
        )}
        <button type="button" className="link text-[14px]" onClick={kept.drop}>
          {overtaken ? "Keep those and drop mine" : "Drop the changes"}
        </button>
      </div>
    </form>
  );
}

/** Rules were saved elsewhere since these were begun: both are shown. */
function Meanwhile({ held, rules }: { held: RulesHeld; rules: RulesHeld["rules"] }) {
  const saved = held.versions.find((v) => v.number === held.version);
  return (
    <div role="alert" className="mt-3 border-close border-l-2 pl-2 text-[14px]">
      <p>
        House rules were saved elsewhere since you began
        {saved?.note && <>, as “{saved.note}”</>}. Where yours differ from them:
      </p>
      <table className="mt-1 w-full">
        <thead className="text-left text-muted">
          <tr>
            <th scope="col" className="pr-2 font-normal">
              Rule
            </th>
            <th scope="col" className="pr-2 font-normal">
              Yours
            </th>
            <th scope="col" className="font-normal">
              Saved
            </th>
          </tr>
        </thead>
        <tbody>
          {differences(held, rules).map((d) => (
            <tr key={d.what} className="align-baseline">
              <th scope="row" className="pr-2 text-left font-normal">
                {d.what}
              </th>
              <td className="pr-2">{d.mine}</td>
              <td>{d.theirs}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
