import { useEffect, useState } from "react";
import type { Review, Worth } from "@/api/client";
import { useRefused } from "@/app/refused";
import { useView, type View, WORTH_INPUTS, type WorthInput } from "@/app/view";
import { useWidth } from "@/charts/useWidth";
import { type Mark, ValueAxis, ValueBar } from "@/charts/ValueAxis";
import { number, upperFirst, withDates } from "@/format/format";
import { ErrorNote } from "@/ui/ErrorNote";
import { Fig } from "@/ui/Fig";
import { NumberField } from "@/ui/NumberField";
import { StageSection } from "@/ui/StageSection";

interface Props {
  review: Review;
  worth: Worth;
  error: unknown;
}

export function WorthStage({ review, worth, error }: Props) {
  const price = review.price.value;
  return (
    <StageSection
      id="worth"
      title="Worth"
      question={
        price === null
          ? "What is it worth?"
          : `What is it worth, and what does a price of ${number(price, 2)} take for granted?`
      }
    >
      <Models review={review} worth={worth} />
      <Inputs worth={worth} error={error} />
      <Words review={review} worth={worth} />
    </StageSection>
  );
}

function marksOf(review: Review, worth: Worth): Mark[] {
  const all: [string, number | null, string, boolean][] = [
    ["price", review.price.value, "var(--action)", false],
    ["blend", worth.blend.value, "var(--ink)", false],
    ["buy below", worth.buy_below.value, "var(--ink)", true],
  ];
  return all.flatMap(([name, value, tone, dashed]) =>
    value === null ? [] : [{ name, value, tone, dashed }],
  );
}

function Models({ review, worth }: { review: Review; worth: Worth }) {
  const [box, width] = useWidth();
  const marks = marksOf(review, worth);
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

const rangeWords = (m: Worth["models"][number]) =>
  m.low.value !== null && m.high.value !== null
    ? `${number(m.low.value, 2)} to ${number(m.high.value, 2)}`
    : m.low.value !== null
      ? `from ${number(m.low.value, 2)}; the high case has no limit`
      : "";

/** Keeps in the URL only what differs from what the models' own suitability says. */
function switched(view: View, id: string, on: boolean, suits: boolean): Partial<View> {
  const without = (list?: string) => (list ?? "").split(",").filter((x) => x && x !== id);
  const onList = without(view.on);
  const offList = without(view.off);
  if (on && !suits) onList.push(id);
  if (!on && suits) offList.push(id);
  return { on: onList.join(",") || undefined, off: offList.join(",") || undefined };
}

function Words({ review, worth }: { review: Review; worth: Worth }) {
  const gap = worth.price_against_buy_below.value;
  const grown = review.record.growth.find((g) => g.years === 10)?.nominal;
  return (
    <div className="mt-4 max-w-[68ch] text-[16px]">
      {worth.blend.value !== null ? (
        <p>
          The blend is <Fig figure={worth.blend} className="font-semibold" />; less a margin of{" "}
          <Fig figure={worth.margin_of_safety} digits={0} /> that is a buy-below price of{" "}
          <Fig figure={worth.buy_below} className="font-serif text-[22px]" />
          {gap !== null && (
            <>
              , and the price is <Fig figure={worth.price_against_buy_below} size digits={0} />{" "}
              {gap > 0 ? "over" : "under"} it
            </>
          )}
          .
        </p>
      ) : (
        <p>Blended value unknown: {withDates(worth.blend.reason ?? "")}.</p>
      )}
      <p className="mt-2">
        {worth.implied_growth.value !== null ? (
          <>
            At today’s price the market counts on dividends growing{" "}
            <Fig figure={worth.implied_growth} className="font-semibold" /> a year for ever, at a
            return of <Fig figure={worth.required_return} />
            {grown?.value != null && (
              <>
                ; over ten years they have grown <Fig figure={grown} />
              </>
            )}
            .
          </>
        ) : (
          <>Implied growth unknown: {withDates(worth.implied_growth.reason ?? "")}.</>
        )}
      </p>
      {worth.spread.value !== null && (
        <p className="mt-2 text-muted">
          The models lie <Fig figure={worth.spread} digits={0} /> apart
          {worth.spread_called_out && ", more than 60 %: do not lean on their mean"}
          {worth.moves_most && `; ${worth.moves_most} moves the blend most`}.
        </p>
      )}
    </div>
  );
}

function Inputs({ worth, error }: { worth: Worth; error: unknown }) {
  const [view, change] = useView();
  const refused = useRefused(error, view, WORTH_INPUTS, (name) =>
    change({ [name]: undefined }, { replace: true }),
  );
  const field = (name: WorthInput, label: string, step: number, digits: number) => (
    <NumberField
      label={label}
      note={worth[name].value === null ? "unknown; type your own" : worth.origins[name]}
      bounds={worth.bounds[name]}
      value={view[name] ?? worth[name].value}
      percent
      digits={digits}
      step={step}
      changed={view[name] !== undefined}
      error={
        refused?.name === name
          ? `${upperFirst(refused.error.problem.detail)}; it was left out of the address`
          : undefined
      }
      onChange={(value) =>
        change(
          { [name]: value === undefined ? undefined : Number(value.toFixed(6)) },
          { replace: true },
        )
      }
    />
  );
  return (
    <div className="mt-5 rounded-md bg-sunk px-4 pt-2 pb-3">
      <h3 className="text-[17px]">What it rests on</h3>
      <div className="grid gap-x-6 sm:grid-cols-2 xl:grid-cols-5">
        {field("growth", "Dividends grow", 0.1, 2)}
        {field("later_growth", "Later, for ever", 0.1, 2)}
        {field("required_return", "Return wanted", 0.1, 2)}
        {field("mean_yield", "Yield it returns to", 0.05, 2)}
        {field("margin_of_safety", "Margin of safety", 1, 0)}
      </div>
      <p className="mt-2 text-[13px] text-muted">
        Low and high: growth ∓ 1 point, return ± ½ point, yield ± 10 %.{" "}
        {(worth.growth.notes ?? [])
          .slice(1)
          .map((note) => `${upperFirst(withDates(note))}.`)
          .join(" ")}
      </p>
      {error != null && !refused && (
        <ErrorNote error={error} kept="The figures shown are the last that could be computed." />
      )}
    </div>
  );
}
