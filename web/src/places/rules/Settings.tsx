import { useState } from "react";
import type { KindName, Rules, RulesHeld } from "@/api/rules";
import { isPercent, number, percent as percentOf, upperFirst } from "@/format/format";
import { NumberField } from "@/ui/NumberField";
import { isOfSignals } from "./draft";

interface Props {
  held: RulesHeld;
  rules: Rules;
  onChange: (rules: Rules) => void;
}

/** What one asks of a price, and what is called close. */
export function Settings({ held, rules, onChange }: Props) {
  return (
    <section aria-labelledby="asked" className="mt-8">
      <h2 id="asked" className="text-[21px]">
        What you ask of a price
      </h2>
      <div className="grid gap-x-6 sm:grid-cols-2 xl:grid-cols-4">
        {held.kinds.map((kind) => (
          <NumberField
            key={kind.id}
            label={`Required return, ${kind.name}`}
            note={`The house’s own: ${told(kind.default_return, true)}.`}
            value={rules.returns[kind.id] ?? kind.default_return}
            percent
            digits={1}
            step={0.5}
            bounds={{ low: held.lowest_return, high: held.highest_return }}
            changed={(rules.returns[kind.id] ?? kind.default_return) !== kind.default_return}
            onChange={(value) =>
              onChange({
                ...rules,
                returns: { ...rules.returns, [kind.id]: value ?? kind.default_return },
              })
            }
          />
        ))}
        <BuiltUp held={held} rules={rules} onChange={onChange} />
        {held.settings
          .filter((s) => !isOfSignals(s.id))
          .map((setting) => (
            <SettingField key={setting.id} setting={setting} rules={rules} onChange={onChange} />
          ))}
        <Withheld held={held} rules={rules} onChange={onChange} />
      </div>
    </section>
  );
}

interface FieldProps extends Omit<Props, "held"> {
  setting: RulesHeld["settings"][number];
}

/** One number for all payers. */
export function SettingField({ setting, rules, onChange }: FieldProps) {
  const percent = isPercent(setting.unit);
  const value = rules.settings[setting.id] ?? setting.default;
  return (
    <NumberField
      label={upperFirst(setting.name)}
      note={`${setting.means} The house’s own: ${told(setting.default, percent)}.`}
      value={value}
      percent={percent}
      digits={percent ? 1 : 0}
      step={percent ? setting.step * 100 : setting.step}
      bounds={{ low: setting.low, high: setting.high }}
      changed={value !== setting.default}
      onChange={(next) =>
        onChange({
          ...rules,
          settings: { ...rules.settings, [setting.id]: next ?? setting.default },
        })
      }
    />
  );
}

/** What a payer's country takes of a dividend before it comes. */
function Withheld({ held, rules, onChange }: Props) {
  const own = rules.withheld ?? {};
  return (
    <fieldset className="py-1.5 sm:col-span-2 xl:col-span-4">
      <legend className="text-[15px]">Tax withheld, by the payer’s country</legend>
      <div className="mt-1 flex flex-wrap gap-x-6">
        {held.countries.map((country) => (
          <NumberField
            key={country}
            label={country}
            note=""
            value={own[country] ?? 0}
            percent
            digits={1}
            step={1}
            bounds={{ low: 0, high: 1 }}
            changed={(own[country] ?? 0) !== 0}
            onChange={(value) =>
              onChange({ ...rules, withheld: { ...own, [country]: value ?? 0 } })
            }
          />
        ))}
      </div>
    </fieldset>
  );
}

/** Whether required returns are flat, or built up from the risk-free yield and beta. */
function BuiltUp({ held, rules, onChange }: Props) {
  const [typed, setTyped] = useState("");
  const own = rules.built_up_payers ?? {};
  const kinds = rules.built_up ?? [];
  const flip = (kind: KindName, on: boolean) =>
    onChange({ ...rules, built_up: on ? [...kinds, kind] : kinds.filter((k) => k !== kind) });
  const add = () => {
    const name = typed.trim();
    if (!/^[^/]+\/.+$/.test(name)) return;
    onChange({ ...rules, built_up_payers: { ...own, [name]: true } });
    setTyped("");
  };
  const without = (name: string) => {
    const { [name]: _, ...rest } = own;
    onChange({ ...rules, built_up_payers: rest });
  };
  return (
    <fieldset className="py-1.5 sm:col-span-2 xl:col-span-4">
      <legend className="text-[15px]">Built up instead: risk-free yield + beta × premium</legend>
      <div className="mt-1 flex flex-wrap gap-x-5">
        {held.kinds.map((kind) => (
          <label key={kind.id} className="flex min-h-6 items-center gap-2">
            <input
              type="checkbox"
              checked={kinds.includes(kind.id)}
              onChange={(e) => flip(kind.id, e.target.checked)}
            />
            {kind.name}
          </label>
        ))}
      </div>
      <p className="text-[13px] text-muted">
        Where beta or the risk-free yield is unknown, the flat return stands and says so. A payer
        may go its own way:
      </p>
      <div className="mt-1 flex flex-wrap items-center gap-3 text-[14px]">
        {Object.entries(own).map(([name, on]) => (
          <span key={name} className="flex items-center gap-2">
            {name}:
            <select
              aria-label={`Required return of ${name}`}
              className="field min-h-[26px]! py-0!"
              value={on ? "built" : "flat"}
              onChange={(e) =>
                onChange({
                  ...rules,
                  built_up_payers: { ...own, [name]: e.target.value === "built" },
                })
              }
            >
              <option value="built">built up</option>
              <option value="flat">flat</option>
            </select>
            <button
              type="button"
              className="link"
              aria-label={`Remove ${name}`}
              onClick={() => without(name)}
            >
              Remove
            </button>
          </span>
        ))}
        <input
          aria-label="Payer with a choice of its own, EXCHANGE/SYMBOL"
          placeholder="EXCHANGE/SYMBOL"
          className="field w-[180px]"
          value={typed}
          onChange={(e) => setTyped(e.target.value)}
          onKeyDown={(e) => e.key === "Enter" && add()}
        />
        <button type="button" className="link" onClick={add}>
          Add payer
        </button>
      </div>
    </fieldset>
  );
}

const told = (value: number, percent: boolean) =>
  percent ? percentOf(value, 1) : number(value, 0);
