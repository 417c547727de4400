import { Fragment, useEffect, useState } from "react";
import type { Review, Schemas, WorthSeries } from "@/api/client";
import { withId } from "@/api/question";
import { useWidth } from "@/charts/useWidth";
import { type Mark, ValueAxis, ValueBar } from "@/charts/ValueAxis";
import { lowerFirst, number, withDates } from "@/format/format";
import { useView, type View } from "@/state/view";
import { Fig } from "@/ui/Fig";
import { ModelDetails } from "./ModelDetails";

const TONES: Record<string, string> = { price: "var(--action)" };

const marksOf = (worth: WorthSeries): Mark[] =>
  worth.marks.flatMap(({ name, kind, figure }) =>
    figure.value === null
      ? []
      : [
          {
            name,
            value: figure.value,
            tone: TONES[kind] ?? "var(--ink)",
            dashed: kind === "bound",
            band: name.endsWith("buy below"),
          },
        ],
  );

const ANSWERS = {
  dividends: "From its dividends",
  cash: "From its cash",
  assets: "From what it owns",
  others: "From what others pay",
};
export type Model = WorthSeries["models"][number];
type Opinions = Schemas["OpinionsSeries"];

interface ModelsProps {
  review: Review;
  worth: WorthSeries;
  /** Second opinions that do not count. */
  others: Model[];
  /** Models whose assumptions are shown though they do not count. */
  opened: string[];
  onOpen: (id: string) => void;
}

export function Models({ review, worth, others, opened, onOpen }: ModelsProps) {
  const models = [
    ...worth.models,
    ...others.filter((o) => worth.models.every((m) => m.id !== o.id)),
  ];
  const [box, width] = useWidth();
  const marks = marksOf(worth);
  const values = [
    ...marks.map((m) => m.value),
    ...models.flatMap((m) => [m.low.value, m.middle.value, m.high.value]),
  ].filter((v): v is number => v !== null);
  const [low, high] = values.length ? [Math.min(...values), Math.max(...values)] : [0, 1];
  const pad = (high - low || high || 1) * 0.08;
  const domain: [number, number] = [Math.max(0, low - pad), high + pad];
  const [view, change] = useView();
  const [flipped, setFlipped] = useState<Record<string, boolean>>({});
  // biome-ignore lint/correctness/useExhaustiveDependencies: a new answer settles every switch
  useEffect(() => setFlipped({}), [worth]);
  const flip = (m: Model, on: boolean) => {
    setFlipped({ ...flipped, [m.id]: on });
    change(switched(view, m.id, on, m.suits && m.lead));
    if (!on && m.lead && !opened.includes(m.id)) onOpen(m.id);
  };
  const leading = models.filter((m) => m.lead);
  const groups = Object.entries(ANSWERS).flatMap(([answers, name]) => {
    const held = models.filter((m) => !m.lead && m.answers === answers);
    return held.length > 0 ? [{ name, held }] : [];
  });
  const axis = Math.max(120, width - 220 - 88);
  return (
    <div ref={box}>
      <table className="w-full text-[15px]">
        <caption className="sr-only">Models: value per share, low, middle and high</caption>
        <thead>
          <tr className="align-bottom">
            <th scope="col" className="w-[220px] border-line border-b pb-1">
              Model, low to high, {review.payer.currency}
            </th>
            <th scope="col" className="hidden border-line border-b p-0 md:table-cell">
              <span className="sr-only">On one price axis</span>
              {values.length > 0 && width > 0 && (
                <ValueAxis marks={marks} domain={domain} width={axis} />
              )}
            </th>
            <th scope="col" className="w-[88px] border-line border-b pb-1">
              middle
            </th>
          </tr>
        </thead>
        {[{ name: "", held: leading }, ...groups].map((group) => (
          <tbody key={group.name}>
            {group.name && (
              <tr>
                <th
                  scope="rowgroup"
                  colSpan={3}
                  className="border-line border-b pt-3 pb-0.5 text-left text-[13px] text-muted"
                >
                  Second opinions: {lowerFirst(group.name)}
                </th>
              </tr>
            )}
            {group.held.map((m) => (
              <Fragment key={m.id}>
                <tr className={opened.includes(m.id) ? "" : "border-line border-b"}>
                  <td className={m.lead ? "py-1.5" : "py-0.5"}>
                    <label className="flex items-start gap-2">
                      <input
                        type="checkbox"
                        className="mt-0.5 size-5 shrink-0 accent-action"
                        checked={flipped[m.id] ?? m.on}
                        onChange={(e) => flip(m, e.target.checked)}
                      />
                      {m.name}
                    </label>
                    <div className="ml-7 text-[13px] text-muted">
                      {m.on || !m.lead ? rangeWords(m) : withDates(m.why_off ?? "")}
                      {m.on && !(m.suits && m.lead) && " · switched on by you"}{" "}
                      <button
                        type="button"
                        className="link"
                        aria-expanded={opened.includes(m.id)}
                        onClick={() => onOpen(m.id)}
                      >
                        {opened.includes(m.id) ? "Close" : "Details"}
                        <span className="sr-only"> ({m.name})</span>
                      </button>
                    </div>
                  </td>
                  <td className="hidden p-0 md:table-cell">
                    {width > 0 && (
                      <ValueBar
                        marks={marks}
                        domain={domain}
                        width={axis}
                        low={m.low.value}
                        middle={m.middle.value}
                        high={m.high.value}
                        faint={!m.on}
                      />
                    )}
                  </td>
                  <td>
                    <Fig figure={m.middle} className={m.on ? "font-semibold" : "text-muted"} />
                  </td>
                </tr>
                {opened.includes(m.id) && (
                  <tr className="border-line border-b">
                    <td colSpan={3}>
                      <ModelDetails model={m} />
                    </td>
                  </tr>
                )}
              </Fragment>
            ))}
          </tbody>
        ))}
      </table>
    </div>
  );
}

/** The models that do not suit the payer, each with its reason. */
export function Unsuited({ opinions }: { opinions: Opinions }) {
  if (opinions.unsuited.length === 0) return null;
  return (
    <details className="mt-2 text-[14px]">
      <summary className="link inline-block">
        {number(opinions.unsuited.length)} more models, and why they do not suit
      </summary>
      <ul className="mt-1">
        {opinions.unsuited.map((m) => (
          <li key={m.id}>
            {m.name}: <span className="text-muted">{withDates(m.why)}</span>
          </li>
        ))}
      </ul>
    </details>
  );
}

const rangeWords = (m: WorthSeries["models"][number]) =>
  m.low.value === m.high.value
    ? ""
    : m.low.value !== null && m.high.value !== null
      ? `${number(m.low.value, 2)} to ${number(m.high.value, 2)}`
      : m.low.value !== null
        ? `from ${number(m.low.value, 2)}; the high case has no limit`
        : "";

/** Keeps in the URL only what differs from what counts by itself. */
const switched = (view: View, id: string, on: boolean, itself: boolean): Partial<View> => ({
  on: withId(view.on, id, on && !itself),
  off: withId(view.off, id, !on && itself),
});
