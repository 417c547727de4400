import type { Rules, RulesHeld } from "@/api/rules";
import { isPercent, number, percent as percentOf, upperFirst } from "@/format/format";
import { NumberField } from "@/ui/NumberField";

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
        {held.settings.map((setting) => {
          const percent = isPercent(setting.unit);
          const value = rules.settings[setting.id] ?? setting.default;
          return (
            <NumberField
              key={setting.id}
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
        })}
      </div>
    </section>
  );
}

const told = (value: number, percent: boolean) =>
  percent ? percentOf(value, 1) : number(value, 0);
