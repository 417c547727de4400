import type { Test } from "@/api/client";
import { upperFirst } from "@/format/format";
import { type Cushioned, cushionWords, limitWords } from "./cushion";
import { Fig } from "./Fig";
import { StateMark, TONE } from "./StateMark";
import { Term } from "./Term";

const WIDTH = 200;
const POST = 64;

/** The cushion to the right of the post, a breach to its left; the post is the limit. before: where
 * the test stood, in outline. */
export function CushionBar(props: { test: Cushioned; before?: Cushioned; width?: number }) {
  const { test, before, width = WIDTH } = props;
  const post = (POST / WIDTH) * width;
  const room = test.cushion.value ?? null;
  const tone = TONE[test.state];
  const sizeless = room === null && test.state === "outside" && test.direction !== "pass";
  const over = sizeless ? post : room !== null && room < 0 ? Math.min(-room, 1) * post : 0;
  const spare = room !== null && room > 0 ? Math.min(room, 1) * (width - post) : 0;
  return (
    <svg width={width} height="20" viewBox={`0 0 ${width} 20`} aria-hidden="true">
      <defs>
        <pattern
          id="breach"
          width="5"
          height="5"
          patternUnits="userSpaceOnUse"
          patternTransform="rotate(45)"
        >
          <rect width="5" height="5" fill="var(--outside)" />
          <line x1="0" x2="0" y1="0" y2="5" stroke="var(--paper)" strokeWidth="2" />
        </pattern>
      </defs>
      <rect x="0" y="8" width={width} height="4" rx="2" fill="var(--line)" />
      {over > 0 && (
        <rect
          x={post - over}
          y="5"
          width={over}
          height="10"
          rx="2"
          fill={sizeless ? "url(#breach)" : tone}
        />
      )}
      {spare > 0 && <rect x={post} y="5" width={spare} height="10" rx="2" fill={tone} />}
      {before && <Outline room={before.cushion.value ?? null} post={post} width={width} />}
      <line x1={post} x2={post} y1="1" y2="19" stroke="var(--ink)" strokeWidth="2" />
    </svg>
  );
}

function Outline({ room, post, width }: { room: number | null; post: number; width: number }) {
  if (room === null) return null;
  const end =
    room < 0 ? post - Math.min(-room, 1) * post : post + Math.min(room, 1) * (width - post);
  return (
    <rect
      x={Math.min(post, end)}
      y="2.5"
      width={Math.abs(end - post)}
      height="15"
      rx="2"
      fill="none"
      stroke="var(--stone)"
    />
  );
}

/** Tests, the smallest cushion first. */
export function CushionList(props: { tests: Test[]; caption: string; passed?: number }) {
  const { tests, caption, passed } = props;
  const bars = tests.some((t) => t.direction !== "pass");
  return (
    <div className="relative overflow-x-auto">
      <table className="rows w-full text-[15px]">
        <caption className="sr-only">{caption}</caption>
        <thead>
          <tr>
            <th scope="col">
              Tests, smallest cushion first
              {passed !== undefined && ` · ${passed} of ${tests.length} pass`}
            </th>
            <th scope="col" className="w-[84px]">
              Now
            </th>
            <th scope="col" className="w-[80px]">
              <Term id="limit" end>
                Limit
              </Term>
            </th>
            <th scope="col" className={bars ? "hidden w-[212px] md:table-cell" : "hidden"}>
              <span className="flex">
                <span style={{ width: POST + 4 }} className="text-right">
                  outside ┃
                </span>
                <span className="pl-1.5">
                  <Term id="cushion" end>
                    cushion
                  </Term>
                </span>
              </span>
            </th>
            <th scope="col" className="w-[158px]">
              <span className="sr-only">What can fall</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {tests.map((test) => (
            <tr key={test.id}>
              <td className="min-w-[150px]">
                <span className="flex items-baseline gap-2">
                  <StateMark state={test.state} />
                  <span>
                    {upperFirst(test.measure.label)}
                    {!test.required && <span className="text-[13px] text-muted"> advisory</span>}
                    {test.exempt && (
                      <span className="text-[13px] text-muted"> · {test.exempt}</span>
                    )}
                  </span>
                </span>
              </td>
              <td className="whitespace-nowrap">
                <Fig figure={test.measure} className="font-semibold" sign={test.limit === 0} />
              </td>
              <td className="whitespace-nowrap text-muted">{limitWords(test)}</td>
              <td className={bars ? "hidden md:table-cell" : "hidden"}>
                {test.direction === "pass" || test.state === "unknown" ? null : (
                  <CushionBar test={test} />
                )}
              </td>
              <td className="max-w-[220px] pr-0! text-[14px]">{cushionWords(test)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
