import { useEffect, useState } from "react";
import type { Review, Schemas, WorthSeries } from "@/api/client";
import { readInputs, withId, withInput } from "@/api/question";
import { useWidth } from "@/charts/useWidth";
import { type Mark, ValueAxis, ValueBar } from "@/charts/ValueAxis";
import { lowerFirst, number, withDates } from "@/format/format";
import { useView, type View } from "@/state/view";
import { Fig } from "@/ui/Fig";
import { NumberField } from "@/ui/NumberField";
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

export type Model = WorthSeries["models"][number];
type Answer = WorthSeries["answers"][number];
type Opinions = Schemas["OpinionsSeries"];
export type QuestionId = Answer["id"];

const QUESTIONS: Record<QuestionId, string> = {
  dividends: "Its dividends",
  past: "Its own past",
  cash: "Its cash",
  others: "Other opinions",
};
export const ASKED = Object.keys(QUESTIONS) as QuestionId[];

/** Questions in which the person has changed what counts, or how much. */
export function touchedQuestions(view: View, worth: WorthSeries): QuestionId[] {
  const switched = [...(view.on ?? "").split(","), ...(view.off ?? "").split(",")];
  const weighed = Object.keys(readInputs(view.weights));
  const changed = new Set([...switched, ...weighed]);
  const models = worth.models.filter((m) => changed.has(m.id)).map((m) => m.answers);
  return ASKED.filter((id) => models.includes(id) || changed.has(id));
}

interface ModelsProps {
  review: Review;
  worth: WorthSeries;
  /** Second opinions that do not count. */
  others: Model[];
  /** Questions whose models are shown. */
  open: QuestionId[];
  onOpen: (id: QuestionId) => void;
  /** Models whose details are shown. */
  opened: string[];
  onDetails: (id: string) => void;
}

const AXIS = "relative hidden md:table-cell";

export function Models(props: ModelsProps) {
  const { review, worth, others, open, onOpen } = props;
  const models = [
    ...worth.models,
    ...others.filter((o) => worth.models.every((m) => m.id !== o.id)),
  ];
  const [box, width] = useWidth();
  const marks = marksOf(worth);
  const shown = models.filter((m) => m.on || open.includes(m.answers));
  const drawn = [...worth.answers, ...shown].flatMap((m) => [m.low, m.middle, m.high]);
  const values = [
    ...marks.map((m) => m.value),
    ...drawn.flatMap((f) => (f.value === null ? [] : [f.value])),
  ];
  const [low, high] = values.length ? [Math.min(...values), Math.max(...values)] : [0, 1];
  const pad = (high - low || high || 1) * 0.08;
  const domain: [number, number] = [Math.max(0, low - pad), high + pad];
  const axis = Math.max(120, width - 230 - 62 - 76 - 84 - 12);
  const drawing: Drawing = { marks, domain, width: axis };
  const answered = ASKED.filter(
    (id) => id !== "others" || open.includes(id) || worth.answers.some((a) => a.id === id),
  );
  return (
    <div ref={box}>
      <table className="w-full text-[15px]">
        <caption className="sr-only">
          Three questions: value per share, low, middle and high, with their weights
        </caption>
        <thead>
          <tr className="align-bottom">
            <th scope="col" className="border-line border-b pb-1 md:w-[230px]">
              Three questions, {review.payer.currency} a share
            </th>
            <th scope="col" className="w-[62px] border-line border-b pb-1">
              weight
            </th>
            <th scope="col" className="hidden border-line border-b p-0 pl-3 md:table-cell">
              <span className="sr-only">On one price axis</span>
              {values.length > 0 && width > 0 && <ValueAxis {...drawing} />}
            </th>
            <th scope="col" className="w-[76px] border-line border-b pb-1">
              middle
            </th>
            <th scope="col" className="hidden w-[84px] border-line border-b pb-1 md:table-cell">
              without it
            </th>
          </tr>
        </thead>
        {answered.map((id) => (
          <Rows
            key={id}
            {...props}
            id={id}
            answer={worth.answers.find((a) => a.id === id)}
            models={models.filter((m) => m.answers === id)}
            drawing={drawing}
            onOpen={() => onOpen(id)}
          />
        ))}
        {worth.answers.length > 0 && (
          <tbody>
            <tr className="border-line border-b">
              <th scope="row" className="py-1.5 text-left font-semibold text-[15px] text-ink">
                Combined{" "}
                <span className="font-normal text-[13px] text-muted">all low to all high</span>
              </th>
              <td>{worth.combined.value === null ? "" : "100 %"}</td>
              <td className={AXIS}>
                <Bar
                  drawing={drawing}
                  of={{
                    low: worth.combined_low,
                    middle: worth.combined,
                    high: worth.combined_high,
                  }}
                />
              </td>
              <td>
                <Fig figure={worth.combined} className="font-semibold" />
              </td>
              <td className="hidden md:table-cell" />
            </tr>
          </tbody>
        )}
      </table>
      <More models={models} open={open} onOpen={onOpen} />
    </div>
  );
}

const NONE = { value: null };
const NOTHING = { low: NONE, middle: NONE, high: NONE };

interface Drawing {
  marks: Mark[];
  domain: [number, number];
  width: number;
}

function Bar(props: {
  drawing: Drawing;
  of: Record<"low" | "middle" | "high", { value: number | null }>;
  faint?: boolean;
}) {
  const { low, middle, high } = props.of;
  return (
    <div className="absolute inset-y-0 left-3">
      <ValueBar
        {...props.drawing}
        low={low.value}
        middle={middle.value}
        high={high.value}
        faint={props.faint ?? false}
      />
    </div>
  );
}

interface RowsProps extends Omit<ModelsProps, "onOpen"> {
  id: QuestionId;
  answer: Answer | undefined;
  models: Model[];
  drawing: Drawing;
  onOpen: () => void;
}

/** A question: its answer, and the models that give it once it is opened. */
function Rows({ id, answer, models, drawing, open, onOpen, ...rest }: RowsProps) {
  const isOpen = open.includes(id);
  const on = models.filter((m) => m.on).length;
  const none = models.find((m) => m.lead)?.why_off ?? "none of its models suits";
  return (
    <tbody>
      <tr className={isOpen ? "" : "border-line border-b"}>
        <th scope="row" className="py-1.5 text-left font-normal text-[15px] text-ink">
          <button
            type="button"
            className="flex items-baseline gap-1.5 text-left"
            aria-expanded={isOpen}
            onClick={onOpen}
          >
            <span aria-hidden="true" className="w-3 text-action">
              {isOpen ? "▾" : "▸"}
            </span>
            <span>
              <b className="font-semibold">{QUESTIONS[id]}</b>{" "}
              <span className="text-[13px] text-muted">
                {on === 1 ? "1 model" : on > 1 ? `${on} models` : ""}
              </span>
            </span>
          </button>
          <div className="ml-[18px] text-[13px] text-muted leading-tight">
            {answer ? answer.why : withDates(none)}
          </div>
        </th>
        <td>{answer ? <Fig figure={answer.share} digits={0} unknown="–" /> : "–"}</td>
        <td className={AXIS}>
          <Bar drawing={drawing} of={answer ?? NOTHING} faint={!answer?.share.value} />
        </td>
        <td>{answer ? <Fig figure={answer.middle} className="font-semibold" /> : "–"}</td>
        <td className="hidden md:table-cell">
          {answer ? <Fig figure={answer.without} className="text-muted" unknown="–" /> : null}
        </td>
      </tr>
      {isOpen &&
        models.map((m, i) => (
          <ModelRows
            key={m.id}
            {...rest}
            model={m}
            drawing={drawing}
            last={!answer && i === models.length - 1}
          />
        ))}
      {isOpen && answer && (
        <tr className="border-line border-b">
          <td colSpan={2} className="pb-2 pl-[18px]">
            <Vote answer={answer} />
          </td>
          <td className={AXIS}>
            <Bar drawing={drawing} of={NOTHING} />
          </td>
          <td />
          <td className="hidden md:table-cell" />
        </tr>
      )}
    </tbody>
  );
}

interface ModelRowsProps {
  worth: WorthSeries;
  model: Model;
  drawing: Drawing;
  last: boolean;
  opened: string[];
  onDetails: (id: string) => void;
}

function ModelRows({ worth, model: m, drawing, last, opened, onDetails }: ModelRowsProps) {
  const [view, change] = useView();
  const [flipped, setFlipped] = useState<boolean>();
  // biome-ignore lint/correctness/useExhaustiveDependencies: a new answer settles every switch
  useEffect(() => setFlipped(undefined), [worth]);
  const flip = (on: boolean) => {
    setFlipped(on);
    change(switched(view, m.id, on, m.suits && m.lead));
    if (!on && m.lead && !opened.includes(m.id)) onDetails(m.id);
  };
  const detailed = opened.includes(m.id);
  return (
    <>
      <tr className={last && !detailed ? "border-line border-b" : ""}>
        <td colSpan={2} className="py-0.5 pl-[18px]">
          <label className="flex items-start gap-2">
            <input
              type="checkbox"
              className="mt-0.5 size-5 shrink-0 accent-action"
              checked={flipped ?? m.on}
              onChange={(e) => flip(e.target.checked)}
            />
            {m.name}
          </label>
          <div className="ml-7 whitespace-normal text-[13px] text-muted">
            {m.on || !m.lead ? rangeWords(m) : withDates(m.why_off ?? "")}
            {m.on && !(m.suits && m.lead) && " · switched on by you"}{" "}
            <button
              type="button"
              className="link"
              aria-expanded={detailed}
              onClick={() => onDetails(m.id)}
            >
              {detailed ? "Close" : "Details"}
              <span className="sr-only"> ({m.name})</span>
            </button>
          </div>
        </td>
        <td className={AXIS}>
          <Bar drawing={drawing} of={m} faint />
        </td>
        <td>
          <Fig figure={m.middle} className={m.on ? "" : "text-muted"} />
        </td>
        <td className="hidden md:table-cell" />
      </tr>
      {detailed && (
        <tr className={last ? "border-line border-b" : ""}>
          <td colSpan={5}>
            <ModelDetails model={m} />
          </td>
        </tr>
      )}
    </>
  );
}

/** What a question weighs against the others; its own past is 1 as the method has it. */
function Vote({ answer }: { answer: Answer }) {
  const [view, change] = useView();
  const set = (value: number | undefined) =>
    change({ weights: withInput(view.weights, answer.id, value) }, { replace: true });
  return (
    <div className="max-w-[220px]">
      <NumberField
        label={`Weight of ${lowerFirst(answer.name)}`}
        note={
          answer.typed ? (
            <button type="button" className="link" onClick={() => set(undefined)}>
              as the method has it
            </button>
          ) : (
            "its own past weighs 1"
          )
        }
        value={answer.weight.value}
        digits={2}
        step={0.05}
        bounds={{ low: 0, high: 100 }}
        changed={answer.typed}
        onChange={set}
      />
    </div>
  );
}

/** Second opinions that do not count, by the question they answer, with their range. */
function More(props: { models: Model[]; open: QuestionId[]; onOpen: (id: QuestionId) => void }) {
  const groups = ASKED.filter((id) => !props.open.includes(id)).flatMap((id) => {
    const held = props.models
      .filter((m) => m.answers === id && !m.on && !m.lead)
      .flatMap((m) => m.middle.value ?? []);
    return held.length ? [{ id, low: Math.min(...held), high: Math.max(...held) }] : [];
  });
  if (groups.length === 0) return null;
  return (
    <p className="mt-2 flex flex-wrap gap-x-4 text-[14px]">
      <span className="text-muted">Second opinions:</span>
      {groups.map(({ id, low, high }) => (
        <button key={id} type="button" className="link" onClick={() => props.onOpen(id)}>
          <span aria-hidden="true">▸ </span>
          {id === "others" ? "others" : lowerFirst(QUESTIONS[id])},{" "}
          {low === high ? number(low, 2) : `${number(low, 2)} to ${number(high, 2)}`}
        </button>
      ))}
    </p>
  );
}

/** The models that do not suit the payer, each with its reason. */
export function Unsuited({ opinions }: { opinions: Opinions }) {
  if (opinions.unsuited.length === 0) return null;
  return (
    <details className="text-[14px]">
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

const rangeWords = (m: Model) =>
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
