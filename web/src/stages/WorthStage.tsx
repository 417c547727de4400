import { useEffect, useState } from "react";
import type { Review, Stage, WorthSeries } from "@/api/client";
import { withId } from "@/api/question";
import { useWidth } from "@/charts/useWidth";
import { type Mark, ValueAxis, ValueBar } from "@/charts/ValueAxis";
import { number, upperFirst, withDates } from "@/format/format";
import { useView, type View } from "@/state/view";
import { Fig } from "@/ui/Fig";
import { InputFields } from "@/ui/InputFields";
import { Sentence } from "@/ui/Sentence";
import { Drawn } from "./Drawn";
import { StageView } from "./StageView";

interface Props {
  review: Review;
  /** Worth as the inputs in the address have it. */
  stage: Stage;
  series: WorthSeries | undefined;
  error: Error | null;
}

export function WorthStage({ review, stage, series, error }: Props) {
  return (
    <StageView review={review} id="worth" stage={stage}>
      <Drawn found={{ data: series, error }}>
        {(worth) => <Valued review={review} worth={worth} error={error} />}
      </Drawn>
    </StageView>
  );
}

interface ValuedProps {
  review: Review;
  worth: WorthSeries;
  error: Error | null;
}

function Valued({ review, worth, error }: ValuedProps) {
  return (
    <>
      <Models review={review} worth={worth} />
      <Inputs worth={worth} error={error} />
      <div className="mt-4 max-w-[68ch] text-[16px]">
        {worth.said.map((sentence, i) => (
          <p key={i} className="mt-2">
            <Sentence parts={sentence} />
          </p>
        ))}
      </div>
    </>
  );
}

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
          },
        ],
  );

function Models({ review, worth }: { review: Review; worth: WorthSeries }) {
  const [box, width] = useWidth();
  const marks = marksOf(worth);
  const values = [
    ...marks.map((m) => m.value),
    ...worth.models.flatMap((m) => [m.low.value, m.middle.value, m.high.value]),
  ].filter((v): v is number => v !== null);
  const [low, high] = values.length ? [Math.min(...values), Math.max(...values)] : [0, 1];
  const pad = (high - low || high || 1) * 0.08;
  const domain: [number, number] = [Math.max(0, low - pad), high + pad];
  const [view, change] = useView();
  const [flipped, setFlipped] = useState<Record<string, boolean>>({});
  // biome-ignore lint/correctness/useExhaustiveDependencies: a new answer settles every switch
  useEffect(() => setFlipped({}), [worth]);
  const flip = (id: string, on: boolean, suits: boolean) => {
    setFlipped({ ...flipped, [id]: on });
    change(switched(view, id, on, suits));
  };
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
        <tbody>
          {worth.models.map((m) => (
            <tr key={m.id} className="border-line border-b">
              <td className="py-1.5">
                <label className="flex items-start gap-2">
                  <input
                    type="checkbox"
                    className="mt-0.5 size-5 shrink-0 accent-action"
                    checked={flipped[m.id] ?? m.on}
                    onChange={(e) => flip(m.id, e.target.checked, m.suits)}
                  />
                  <span>
                    {m.name}
                    <span className="block text-[13px] text-muted">
                      {m.on ? rangeWords(m) : withDates(m.why_off ?? "")}
                      {m.on && !m.suits && " · switched on by you"}
                    </span>
                  </span>
                </label>
                {m.years.length > 0 && <Years model={m} />}
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
          ))}
        </tbody>
      </table>
    </div>
  );
}

/** The yearly working of a model, in the middle case. */
function Years({ model }: { model: WorthSeries["models"][number] }) {
  return (
    <details className="ml-7 text-[13px]">
      <summary className="link inline-block">Year by year</summary>
      <table className="rows mt-1 w-full">
        <caption className="sr-only">{model.name}, year by year</caption>
        <thead>
          <tr>
            <th scope="col">Year</th>
            <th scope="col">Dividend</th>
            <th scope="col">Worth today</th>
          </tr>
        </thead>
        <tbody>
          {model.years.map((y) => (
            <tr key={y.year}>
              <td>{y.year}</td>
              <td>{number(y.dividend, 2)}</td>
              <td>{number(y.present_value, 2)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </details>
  );
}

const rangeWords = (m: WorthSeries["models"][number]) =>
  m.low.value !== null && m.high.value !== null
    ? `${number(m.low.value, 2)} to ${number(m.high.value, 2)}`
    : m.low.value !== null
      ? `from ${number(m.low.value, 2)}; the high case has no limit`
      : "";

/** Keeps in the URL only what differs from what the models' own suitability says. */
const switched = (view: View, id: string, on: boolean, suits: boolean): Partial<View> => ({
  on: withId(view.on, id, on && !suits),
  off: withId(view.off, id, !on && suits),
});

function Inputs({ worth, error }: { worth: WorthSeries; error: unknown }) {
  const [view, change] = useView();
  const notes = worth.inputs.flatMap((i) => (i.figure.notes ?? []).slice(1));
  return (
    <InputFields
      fields={worth.inputs}
      text={view.inputs}
      onText={(inputs) => change({ inputs }, { replace: true })}
      error={error}
      columns="xl:grid-cols-5"
    >
      <p className="mt-2 text-[13px] text-muted">
        Low and high: {worth.inputs.flatMap((i) => i.spread || []).join(", ")}.{" "}
        {notes.map((note) => `${upperFirst(withDates(note))}.`).join(" ")}
      </p>
    </InputFields>
  );
}
