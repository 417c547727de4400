import type { Schemas } from "@/api/client";
import { upperFirst } from "@/format/format";
import { CushionBar } from "@/ui/CushionList";
import { limitWords } from "@/ui/cushion";
import { Fig } from "@/ui/Fig";
import { StateMark } from "@/ui/StateMark";

type Strained = Schemas["StrainedTestOut"];

/** The tests that a worse year reaches, before and after, and where each gives. */
export function StrainedTests({ tests }: { tests: Strained[] }) {
  if (tests.length === 0) return null;
  return (
    <div className="relative mt-5 overflow-x-auto">
      <table className="rows w-full text-[15px]">
        <caption className="mb-1 text-left text-[17px]">
          Tests under the strain{" "}
          <span className="text-[13px] text-muted">outline: now · bar: then</span>
        </caption>
        <thead>
          <tr>
            <th scope="col">Test</th>
            <th scope="col">Now</th>
            <th scope="col">Then</th>
            <th scope="col">Limit</th>
            <th scope="col" className="hidden w-[212px] md:table-cell">
              <span className="sr-only">Cushion</span>
            </th>
            <th scope="col">Gives at, %</th>
          </tr>
        </thead>
        <tbody>
          {tests.map(({ before, after, gives_at }) => (
            <tr key={before.id}>
              <td className="min-w-[150px]">
                <span className="flex items-baseline gap-2">
                  <StateMark state={after.state} />
                  <span>
                    {upperFirst(before.measure.label)}
                    {!before.required && <span className="text-[13px] text-muted"> advisory</span>}
                  </span>
                </span>
              </td>
              <td>
                <Fig figure={before.measure} />
              </td>
              <td>
                <Fig
                  figure={after.measure}
                  className="font-semibold"
                  unknown={after.measure.breach ?? after.measure.spared ?? undefined}
                />
              </td>
              <td className="whitespace-nowrap text-muted">{limitWords(before)}</td>
              <td className="hidden md:table-cell">
                {after.direction === "pass" || after.state === "unknown" ? null : (
                  <CushionBar test={after} before={before} />
                )}
              </td>
              <td>
                <Fig
                  figure={gives_at}
                  bare
                  digits={1}
                  unknown={
                    before.state === "outside" ? "outside now" : gives_at.spared ? "holds" : "–"
                  }
                />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
