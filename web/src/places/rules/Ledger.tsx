import type { Rules, RulesHeld, Tested } from "@/api/rules";
import { upperFirst } from "@/format/format";
import { limitOf, withLimit } from "./draft";
import { LimitCell } from "./LimitCell";

const SIGNS: Record<Tested["direction"], string> = {
  cap: "at most",
  floor: "at least",
  pass: "at least",
};

interface Props {
  held: RulesHeld;
  rules: Rules;
  onChange: (rules: Rules) => void;
}

/** Every limit: tests down, kinds of payer across. */
export function Ledger({ held, rules, onChange }: Props) {
  const stages = [...new Set(held.tests.map((t) => t.stage_name))];
  return (
    <div className="relative overflow-x-auto">
      <table className="rows w-full text-[15px]">
        <caption className="sr-only">Limits by test and kind of payer</caption>
        {stages.map((stage) => (
          <tbody key={stage}>
            <tr>
              <th scope="rowgroup" className="pt-4! font-serif text-[17px]! text-ink!">
                {stage}
              </th>
              {held.kinds.map((k) => (
                <th key={k.id} scope="col" className="pt-4!">
                  {upperFirst(k.name)}
                </th>
              ))}
            </tr>
            {held.tests
              .filter((t) => t.stage_name === stage)
              .map((test) => (
                <tr key={test.id} className="align-top">
                  <td className="min-w-[230px]">
                    {test.name}{" "}
                    <span className="text-[13px] text-muted">
                      {test.strict ? "above" : SIGNS[test.direction]}
                    </span>
                    <span className="block max-w-[46ch] text-[13px] text-muted leading-tight">
                      {test.means}
                    </span>
                  </td>
                  {held.kinds.map((kind) => {
                    const plain = test.limits[kind.id];
                    return (
                      <td key={kind.id}>
                        {plain ? (
                          <LimitCell
                            test={test}
                            whose={kind.name}
                            limit={limitOf(rules, plain, kind.id, test.id)}
                            held={plain}
                            onChange={(limit) =>
                              onChange(withLimit(rules, plain, kind.id, test.id, limit))
                            }
                          />
                        ) : (
                          <span className="text-muted">–</span>
                        )}
                      </td>
                    );
                  })}
                </tr>
              ))}
          </tbody>
        ))}
      </table>
    </div>
  );
}
