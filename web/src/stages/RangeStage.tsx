import { extent } from "d3-array";
import { useEffect, useState } from "react";
import type { Review, Schemas } from "@/api/client";
import { type PayerKey, useAim, useRange } from "@/api/hooks";
import { ChartFrame } from "@/charts/ChartFrame";
import { aimStep, RangeRuler, RULER_HEIGHT } from "@/charts/RangeRuler";
import { day, isPercent, number, show, upperFirst, withDates } from "@/format/format";
import { useRefused } from "@/state/refused";
import { useView, type View } from "@/state/view";
import { ErrorNote } from "@/ui/ErrorNote";
import { Fig, KeyFigure } from "@/ui/Fig";
import { Sentence } from "@/ui/Sentence";
import { Choice } from "@/ui/StageSection";
import { Drawn } from "./Drawn";
import { later } from "./later";
import { AimLine } from "./range/AimLine";
import { heading } from "./range/heading";
import { PriceKeys } from "./range/PriceTold";
import { Quarters } from "./range/Quarters";
import { Windows } from "./range/Windows";
import { StageView } from "./StageView";

const DistanceView = later(() => import("./range/DistanceView").then((m) => m.DistanceView));
const EntrySteps = later(() => import("./range/EntrySteps").then((m) => m.EntrySteps));
const PriceView = later(() => import("./range/PriceView").then((m) => m.PriceView));

type Range = Schemas["RangeSeries"];
type Aim = Schemas["AimOut"];

const VIEWS = [
  { value: "past", name: "Against its own past" },
  { value: "years", name: "Over the years" },
  { value: "price", name: "Price" },
];

export function RangeStage(props: { review: Review; payer: PayerKey }) {
  const [view] = useView();
  if (view.range === "price") return <Price {...props} />;
  return view.range === "years" ? <Years {...props} /> : <Past {...props} />;
}

function Views() {
  const [view, change] = useView();
  return (
    <Choice
      label="View of Range"
      options={VIEWS}
      value={VIEWS.find((v) => v.value === view.range)?.value ?? "past"}
      onChange={(v) => change({ range: v === "past" ? undefined : v })}
    />
  );
}

function Price({ review, payer }: { review: Review; payer: PayerKey }) {
  return (
    <StageView
      review={review}
      id="range"
      controls={<Views />}
      chart={<PriceView review={review} payer={payer} />}
      instead={<PriceKeys payer={payer} />}
    />
  );
}

function Years({ review, payer }: { review: Review; payer: PayerKey }) {
  const [view, change] = useView();
  const range = useRange(payer, rangeQuestion(view)).data;
  return (
    <StageView
      review={review}
      id="range"
      controls={
        <>
          <Views />
          {range && <Usual range={range} />}
          <Windows value={view.window ?? "10"} onChange={(window) => change({ window })} />
        </>
      }
      chart={
        <>
          {range && <Quantities range={range} />}
          <DistanceView review={review} payer={payer} />
        </>
      }
      instead={<span />}
    />
  );
}

function Past({ review, payer }: { review: Review; payer: PayerKey }) {
  const [view, change] = useView();
  const [aim, setAim] = useMovingAim();
  const found = useRange(payer, rangeQuestion(view));
  const nudge = useNudge(found.data, aim, setAim);
  return (
    <StageView
      review={review}
      id="range"
      onKeyDown={nudge}
      controls={
        <>
          <Views />
          {found.data && <Usual range={found.data} />}
          <Windows
            value={view.window ?? "5"}
            onChange={(w) => change({ window: w === "5" ? undefined : w })}
          />
        </>
      }
      instead={found.data && !isFirst(found.data) ? <Ruling range={found.data} /> : undefined}
      chart={
        <Drawn found={found}>
          {(range) => (
            <Ruled review={review} range={range} payer={payer} aim={aim} setAim={setAim} />
          )}
        </Drawn>
      }
    />
  );
}

/** What of the view the ruler depends on. */
const rangeQuestion = ({ as_of, window, quantity, typical }: View) => ({
  as_of,
  window,
  quantity,
  typical,
});

/** What stands for the usual value. */
function Usual({ range }: { range: Range }) {
  const [, change] = useView();
  return (
    <Choice
      label="Held against"
      options={[
        { value: "mean", name: "mean" },
        { value: "median", name: "median" },
      ]}
      value={range.usual}
      onChange={(typical) => change({ typical })}
    />
  );
}

/** The quantities that suit the payer; another one takes the aim out, which was one of the first. */
function Quantities({ range }: { range: Range }) {
  const [, change] = useView();
  return (
    <div className="mb-2 text-[14px]">
      <Choice
        label="Price against"
        options={range.quantities.map((q) => ({ value: q.id, name: q.short }))}
        value={range.quantity}
        onChange={(q) => change({ quantity: q, typical: undefined, aim: undefined })}
      />
    </div>
  );
}

/** What the stage shows unless another quantity is chosen. */
const isFirst = (range: Range) => range.quantity === range.quantities[0]?.id;

/** The key figures of a quantity that is not the stage's first. */
function Ruling({ range }: { range: Range }) {
  const { justified } = range;
  return (
    <div className="mt-2 grid grid-cols-2 content-start gap-x-5 gap-y-2 md:grid-cols-3 xl:grid-cols-4">
      {range.key_figures.map(({ name, figure, note }) => (
        <KeyFigure key={name} name={name} figure={figure} note={note ? day(note) : undefined} />
      ))}
      {justified && (
        <KeyFigure
          name="Justified by growth and required return"
          figure={justified}
          note={
            range.implied_growth.value !== null && (
              <>
                today’s takes growth of <Fig figure={range.implied_growth} /> a year for granted
              </>
            )
          }
        />
      )}
    </div>
  );
}

const drawable = (range: Range) => range.price_scale.length > 0 && range.weeks.days.length > 1;

interface RuledProps {
  review: Review;
  range: Range;
  payer: PayerKey;
  aim: number | undefined;
  setAim: (to: number | undefined) => void;
}

function Ruled({ review, range, payer, aim, setAim }: RuledProps) {
  const [view, change] = useView();
  const query = { ...rangeQuestion(view), aim: aim?.toString() };
  const found = useAim(payer, query);
  const refused = useRefused(found.error, view, ["aim"], () =>
    change({ aim: undefined }, { replace: true }),
  );
  if (!drawable(range)) {
    const why = range.figures.now?.reason ?? range.figures.typical?.reason;
    return (
      <>
        <Quantities range={range} />
        <p className="my-6 max-w-prose text-muted">
          {upperFirst(withDates(why ?? "nothing is known yet"))}. Without a known {range.name} there
          is no range to hold it against.
        </p>
      </>
    );
  }
  return (
    <>
      <Quantities range={range} />
      {!isFirst(range) && (
        <p className="mb-1 text-[16px]" data-testid="range-finding">
          <Sentence parts={range.finding} />
        </p>
      )}
      <Ruler review={review} range={range} aim={aim} answer={found.data} onAim={setAim} />
      {refused ? (
        <ErrorNote error={refused.error} kept="It was left out of the address." />
      ) : (
        found.error && (
          <ErrorNote error={found.error} kept="The aim shown is the last that could be read." />
        )
      )}
      <AimLine
        aim={found.data ?? null}
        review={review}
        range={range}
        payer={payer}
        setAim={setAim}
      />
      <EntrySteps
        review={review}
        payer={payer}
        quantity={range.quantity}
        target={found.data?.target.value ?? null}
      />
      {range.figures.count?.notes.map((note) => (
        <p key={note} className="text-[13px] text-muted">
          Gaps: {withDates(note)}; a {range.name} needs one that is positive.
        </p>
      ))}
      <Quarters range={range} />
    </>
  );
}

interface RulerProps {
  review: Review;
  range: Range;
  aim: number | undefined;
  answer: Aim | null | undefined;
  onAim: (to: number | undefined) => void;
}

function Ruler({ review, range, aim, answer, onAim }: RulerProps) {
  const [, change] = useView();
  const said = answer ? plainAim(answer, review.payer.currency) : "";
  return (
    <ChartFrame
      name="range"
      title={`${upperFirst(range.name)} by week${isPercent(range.unit) ? ", %" : ""} (band: the middle half of them), how the weeks were distributed, and the same heights as a price`}
      summary={summaryOf(range)}
      height={RULER_HEIGHT}
      draw={(width) => (
        <RangeRuler
          range={range}
          currency={review.payer.currency}
          slumps={review.slumps}
          aim={aim}
          said={said}
          width={width}
          onAim={onAim}
          onSpan={(from, to) => change({ window: `${from}..${to}` })}
        />
      )}
      table={<Weeks range={range} />}
    />
  );
}

const NUDGES: Record<string, number> = { ArrowUp: 1, ArrowDown: -1, PageUp: 10, PageDown: -10 };

/** Arrow keys move the aim from wherever the stage has the focus, not from its handle alone. */
function useNudge(
  range: Range | undefined,
  aim: number | undefined,
  setAim: (to: number | undefined) => void,
): (event: React.KeyboardEvent) => void {
  return (event) => {
    if (!range || !drawable(range)) return;
    const scale = range.price_scale;
    const steps = NUDGES[event.key];
    const target = event.target as HTMLElement;
    const from = aim ?? range.figures.now?.value ?? null;
    if (!steps || from === null || target.closest("input, select, table, [role=slider]")) return;
    event.preventDefault();
    const [low, high] = [scale[0]?.value ?? 0, scale[scale.length - 1]?.value ?? 1];
    setAim(Number(Math.min(high, Math.max(low, from + steps * aimStep(range))).toFixed(5)));
  };
}

/** The handle moves at once; the URL follows when it rests. */
function useMovingAim(): [number | undefined, (to: number | undefined) => void] {
  const [view, change] = useView();
  const [moving, setMoving] = useState<number | undefined>(view.aim);
  useEffect(() => setMoving(view.aim), [view.aim]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: only a moved handle writes the URL
  useEffect(() => {
    if (moving === view.aim) return;
    const rest = setTimeout(() => change({ aim: moving }, { replace: true }), 200);
    return () => clearTimeout(rest);
  }, [moving]);
  return [moving, setMoving];
}

function plainAim(aim: Aim, currency: string): string {
  const target = show(aim.target.value ?? 0, aim.target.unit, { digits: 2 });
  const price = aim.target_price.value;
  return price === null ? target : `${target}, ${number(price, 2)} ${currency}`;
}

function summaryOf(range: Range): string {
  const { now, typical } = range.figures;
  if (!now || !typical || typical.value === null) return withDates(typical?.reason ?? "");
  const told = (value: number | null) =>
    value === null ? "unknown" : show(value, range.unit, { digits: 2 });
  const [low, high] = extent(range.weeks.values);
  return `${upperFirst(range.name)} today ${told(now.value)}; ${range.usual} ${told(typical.value)}, lowest ${told(low ?? null)}, highest ${told(high ?? null)} over ${range.weeks.days.length} weeks.`;
}

function Weeks({ range }: { range: Range }) {
  return (
    <table className="rows w-full text-[14px]">
      <caption className="sr-only">{upperFirst(range.name)} by week</caption>
      <thead>
        <tr>
          <th scope="col">Week’s close</th>
          <th scope="col">{heading(range)}</th>
        </tr>
      </thead>
      <tbody>
        {range.weeks.days.toReversed().map((d, i) => (
          <tr key={d}>
            <td>{day(d)}</td>
            <td>
              {show(range.weeks.values.at(-1 - i) ?? 0, range.unit, { digits: 2, bare: true })}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
