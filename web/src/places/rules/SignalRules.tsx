import type { Rules, RulesHeld } from "@/api/rules";
import { isOfSignals } from "./draft";
import { SettingField } from "./Settings";

interface Props {
  held: RulesHeld;
  rules: Rules;
  onChange: (rules: Rules) => void;
}

type Whose = RulesHeld["signal_kinds"][number]["default"];
const WHOSE: { id: Whose; name: string }[] = [
  { id: "nobody", name: "not at all" },
  { id: "followed", name: "of payers I follow" },
  { id: "held", name: "of what I hold" },
  { id: "all", name: "of all payers" },
];

/** What one wants to hear of, and of whom. */
export function SignalRules({ held, rules, onChange }: Props) {
  const said = rules.signals ?? {};
  const set = (kind: RulesHeld["signal_kinds"][number], whose: Whose) => {
    const { [kind.id]: _, ...others } = said;
    onChange({
      ...rules,
      signals: whose === kind.default ? others : { ...others, [kind.id]: whose },
    });
  };
  return (
    <section aria-labelledby="heard" className="mt-8">
      <h2 id="heard" className="text-[21px]">
        What you want to hear of
      </h2>
      <p className="max-w-prose text-[15px] text-muted">
        You follow a payer once you have decided on it, or keep an entry step.
      </p>
      <div className="mt-2 grid gap-x-8 gap-y-1 2xl:grid-cols-2">
        {held.signal_kinds.map((kind) => (
          <label
            key={kind.id}
            className="grid grid-cols-[minmax(0,1fr)_auto] items-center gap-x-4 border-b border-line py-1.5 text-[15px]"
          >
            <span>
              {kind.name}
              <span className="block text-[13px] text-muted">{kind.means}</span>
            </span>
            <select
              className="field"
              value={said[kind.id] ?? kind.default}
              onChange={(e) => set(kind, e.target.value as Whose)}
            >
              {WHOSE.filter((w) => kind.of.includes(w.id)).map((w) => (
                <option key={w.id} value={w.id}>
                  {w.name}
                </option>
              ))}
            </select>
          </label>
        ))}
      </div>
      <div className="grid gap-x-6 sm:grid-cols-2 xl:grid-cols-4">
        {held.settings
          .filter((s) => isOfSignals(s.id))
          .map((setting) => (
            <SettingField key={setting.id} setting={setting} rules={rules} onChange={onChange} />
          ))}
      </div>
    </section>
  );
}
