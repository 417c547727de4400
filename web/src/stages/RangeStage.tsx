import { extent } from "d3-array";
import { useEffect, useState } from "react";
import { type Review, refusalOf, type Schemas } from "@/api/client";
import { askAim, type PayerKey, useAim, useRange } from "@/api/hooks";
import { ChartFrame } from "@/charts/ChartFrame";
import { aimStep, RangeRuler, RULER_HEIGHT } from "@/charts/RangeRuler";
import { day, isPercent, number, readNumber, show, upperFirst, withDates } from "@/format/format";
import { useRefused } from "@/state/refused";
import { questionOf, useView, type View, WINDOWS } from "@/state/view";
import { ErrorNote } from "@/ui/ErrorNote";
import { Fig, KeyFigure } from "@/ui/Fig";
import { Sentence } from "@/ui/Sentence";
import { Choice } from "@/ui/StageSection";
import { Drawn } from "./Drawn";
import { PriceKeys, PriceView } from "./range/PriceView";
import { StageView } from "./StageView";

type Range = Schemas["RangeSeries"];
type Aim = Schemas["AimOut"];

const VIEWS = [
  { value: "past", name: "Against its own past" },
  { value: "price", name: "Price" },
];

export function RangeStage(props: { review: Review; payer: PayerKey }) {
  const [view] = useView();
  return view.range === "price" ? <Price {...props} /> : <Past {...props} />;
}

function Views() {
  const [view, change] = useView();
  return (
    <Choice
      label="View of Range"
      options={VIEWS}
      value={view.range === "price" ? "price" : "past"}
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
          <Choice
            label="Window"
            options={WINDOWS.map((w) => ({
              value: w,
              name: w === "all" ? "all years" : `${w} years`,
            }))}
            value={view.window ?? "5"}
            onChange={(w) => change({ window: w === "5" ? undefined : w })}
          />
        </>
      }
      instead={
        found.data && found.data.quantity !== "yield" ? <Ruling range={found.data} /> : undefined
      }
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
        onChange={(q) =>
          change({ quantity: q === "yield" ? undefined : q, typical: undefined, aim: undefined })
        }
      />
    </div>
  );
}

/** The key figures of a quantity that is not the stage's first. */
function Ruling({ range }: { range: Range }) {
  const { figures, justified } = range;
  const told = (id: string, name: string, note?: React.ReactNode) => {
    const figure = figures[id];
    return figure && <KeyFigure name={name} figure={figure} note={note} />;
  };
  const on = (id: string) => {
    const known = figures[id]?.known_on;
    return known ? day(known) : undefined;
  };
  return (
    <div className="mt-2 grid grid-cols-2 content-start gap-x-5 gap-y-2 md:grid-cols-3 xl:grid-cols-4">
      {told("fair_price", `Price at the ${range.usual}`)}
      {told(range.usual === "mean" ? "median" : "mean", range.usual === "mean" ? "Median" : "Mean")}
      {told("highest", "Highest", on("highest"))}
      {told("lowest", "Lowest", on("lowest"))}
      {told("percentile", "Percentile of today")}
      {told("longest_above", "Longest above the mean", on("longest_above"))}
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
      {range.quantity !== "yield" && (
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

/** One line of text: the target as yield and price, how many weeks offered it, when last. */
function AimLine(props: {
  aim: Aim | null;
  review: Review;
  range: Range;
  payer: PayerKey;
  setAim: (to: number | undefined) => void;
}) {
  const { aim, review, range } = props;
  const [view] = useView();
  const [problem, setProblem] = useState<string>();
  const scale = isPercent(range.unit) ? 100 : 1;
  const fromYield = (v: number) =>
    v > 0 && v / scale < 1e6 ? props.setAim(v / scale) : setProblem("A target is above 0.");
  const fromPrice = async (price: number) => {
    const asked = { ...questionOf(view), aim: undefined, aim_price: price.toString() };
    const found = await askAim(props.payer, asked).catch((thrown) => {
      setProblem(`${upperFirst(refusalOf(thrown).message)}; the aim stays as it was.`);
      return null;
    });
    if (found?.target.value) props.setAim(Number(found.target.value.toFixed(6)));
  };
  const told = (act: (v: number) => void) => (typed: string) => {
    const read = readNumber(typed);
    setProblem(undefined);
    if ("error" in read) setProblem(`${read.error}; the aim stays as it was.`);
    else act(read.value);
  };
  if (!aim) return <p className="min-h-[64px]" />;
  const offered = aim.weeks_offered.value ?? 0;
  const closes = aim.closes_52.value ?? 0;
  const gap = aim.against_price.value;
  return (
    <div className="mt-1 grid gap-x-6 gap-y-2 md:grid-cols-[minmax(0,1fr)_auto]">
      <p className="min-h-[46px] text-[16px]" aria-live="polite" data-testid="aim">
        At <Fig figure={aim.target} digits={2} className="font-semibold" /> you would pay{" "}
        <Fig figure={aim.target_price} className="font-semibold" />
        {gap !== null && Math.abs(gap) >= 0.0005 && (
          <>
            , <Fig figure={aim.against_price} size digits={0} /> {gap < 0 ? "under" : "over"}{" "}
            today’s price
          </>
        )}
        . It was that cheap or cheaper in{" "}
        <b className="font-semibold">
          <Fig figure={aim.weeks_offered} bare /> of {aim.weeks_in_sample} weeks
        </b>
        {aim.last_offered && <>, last on {day(aim.last_offered)}</>};{" "}
        {closes > 0 ? (
          <>
            in the past 52 weeks it closed at that price or lower{" "}
            {closes === 1 ? "once" : <Fig figure={aim.closes_52} />}
            {closes === 1 ? "" : " times"}
          </>
        ) : offered > 0 ? (
          "not once in the past 52 weeks"
        ) : (
          "never in this window"
        )}
        .
      </p>
      <div className="flex flex-wrap gap-x-3 gap-y-1 text-[14px] md:flex-col md:items-end">
        <Exact
          label={heading(range)}
          value={number((aim.target.value ?? 0) * scale, 2)}
          onCommit={told(fromYield)}
        />
        <Exact
          label={`Price, ${review.payer.currency}`}
          value={aim.target_price.value === null ? "" : number(aim.target_price.value, 2)}
          onCommit={told((v) => void fromPrice(v))}
        />
        {problem && (
          <p role="alert" className="max-w-[220px] text-[13px] text-over md:text-right">
            {problem}
          </p>
        )}
      </div>
    </div>
  );
}

function Exact(props: { label: string; value: string; onCommit: (typed: string) => void }) {
  const [typed, setTyped] = useState<string | null>(null);
  const commit = () => {
    if (typed !== null && typed !== props.value) props.onCommit(typed);
    setTyped(null);
  };
  return (
    <label className="text-muted">
      {props.label}
      <input
        className="field ml-2 min-h-[28px]! w-[76px] py-0.5! text-right font-semibold"
        inputMode="decimal"
        value={typed ?? props.value}
        onChange={(e) => setTyped(e.target.value)}
        onBlur={commit}
        onKeyDown={(e) => e.key === "Enter" && commit()}
      />
    </label>
  );
}

function summaryOf(range: Range): string {
  const { now, typical } = range.figures;
  if (!now || !typical || typical.value === null) return withDates(typical?.reason ?? "");
  const told = (value: number | null) =>
    value === null ? "unknown" : show(value, range.unit, { digits: 2 });
  const [low, high] = extent(range.weeks.values);
  return `${upperFirst(range.name)} today ${told(now.value)}; ${range.usual} ${told(typical.value)}, lowest ${told(low ?? null)}, highest ${told(high ?? null)} over ${range.weeks.days.length} weeks.`;
}

const heading = (range: Range) => `${upperFirst(range.name)}${isPercent(range.unit) ? ", %" : ""}`;

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

const QUARTERS = ["Mar", "Jun", "Sep", "Dec"];
const YEARS_SHOWN = 6;

/** Quarter ends, a year a row, the newest first: the value, and how far it was from the usual one. */
function Quarters({ range }: { range: Range }) {
  const [all, setAll] = useState(false);
  const years = [...new Set(range.quarters.map((q) => q.day.slice(0, 4)))].reverse();
  if (years.length === 0) return null;
  const at = (year: string, quarter: number) =>
    range.quarters.find(
      (q) => q.day.startsWith(year) && Math.ceil(Number(q.day.slice(5, 7)) / 3) === quarter + 1,
    );
  const shown = all ? years : years.slice(0, YEARS_SHOWN);
  return (
    <div className="relative mt-2 overflow-x-auto">
      <table className="rows w-full text-[14px]">
        <caption className="sr-only">{upperFirst(range.name)} at quarter ends</caption>
        <thead>
          <tr>
            <td />
            <th scope="colgroup" colSpan={4}>
              {heading(range)}
            </th>
            <th scope="colgroup" colSpan={4}>
              vs {range.usual}, % (− = under)
            </th>
          </tr>
          <tr>
            <th scope="col">Quarter ends</th>
            {["value", "against"].flatMap((half) =>
              QUARTERS.map((q) => (
                <th key={`${half}-${q}`} scope="col">
                  {q}
                </th>
              )),
            )}
          </tr>
        </thead>
        <tbody>
          {shown.map((year) => (
            <tr key={year}>
              <td>{year}</td>
              {QUARTERS.map((name, q) => {
                const held = at(year, q);
                return (
                  <td key={name}>
                    {held && <Fig figure={held.value} bare digits={2} unknown="–" />}
                  </td>
                );
              })}
              {QUARTERS.map((name, q) => {
                const held = at(year, q);
                return (
                  <td key={name}>
                    {held && <Fig figure={held.against_typical} bare sign unknown="–" />}
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
      {shown.length < years.length && (
        <button type="button" className="link mt-1 text-[14px]" onClick={() => setAll(true)}>
          {number(years.length - shown.length)} earlier years
        </button>
      )}
    </div>
  );
}
