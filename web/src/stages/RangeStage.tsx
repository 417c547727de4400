import { useEffect, useState } from "react";
import { type Review, refusalOf, type Schemas } from "@/api/client";
import { askAim, type PayerKey, useAim } from "@/api/hooks";
import { useRefused } from "@/app/refused";
import { questionOf, useView, WINDOWS } from "@/app/view";
import { ChartFrame } from "@/charts/ChartFrame";
import { AIM_STEP, RangeRuler, RULER_HEIGHT } from "@/charts/RangeRuler";
import { day, month, number, percent, readNumber, upperFirst, withDates } from "@/format/format";
import { ErrorNote } from "@/ui/ErrorNote";
import { Fig, KeyFigure } from "@/ui/Fig";
import { Choice, StageSection } from "@/ui/StageSection";

type Range = Schemas["RangeOut"];
type Aim = Schemas["AimOut"];

export function RangeStage({ review, payer }: { review: Review; payer: PayerKey }) {
  const [view, change] = useView();
  const { range } = review;
  const [aim, setAim] = useMovingAim();
  const query = {
    as_of: view.as_of,
    window: view.window ?? "5",
    aim,
  };
  const found = useAim(payer, query);
  const refused = useRefused(found.error, view, ["aim"], () =>
    change({ aim: undefined }, { replace: true }),
  );
  const nudge = useNudge(range, aim, setAim);
  const said = found.data ? plainAim(found.data, review.payer.currency) : "";
  const can = range.price_scale.length > 0 && range.weeks.days.length > 1;
  return (
    <StageSection
      id="range"
      title="Range"
      question="Is it paying more than it usually does for the price?"
      onKeyDown={can ? nudge : undefined}
      controls={
        <Choice
          label="Window"
          options={WINDOWS.map((w) => ({
            value: w,
            name: w === "all" ? "all years" : `${w} years`,
          }))}
          value={view.window ?? "5"}
          onChange={(w) => change({ window: w === "5" ? undefined : w })}
        />
      }
    >
      {can ? (
        <>
          <ChartFrame
            name="range"
            title="Yield by week, % (band: the middle half of them), how the weeks lay, and the same heights as a price"
            summary={summaryOf(range)}
            height={RULER_HEIGHT}
            draw={(width) => (
              <RangeRuler
                range={range}
                slumps={review.slumps}
                aim={aim}
                said={said}
                width={width}
                onAim={setAim}
              />
            )}
            table={<Weeks range={range} />}
          />
          {refused ? (
            <ErrorNote error={refused.error} kept="It was left out of the address." />
          ) : (
            found.error && (
              <ErrorNote error={found.error} kept="The aim shown is the last that could be read." />
            )
          )}
          <AimLine aim={found.data ?? null} review={review} payer={payer} setAim={setAim} />
        </>
      ) : (
        <p className="my-6 max-w-prose text-muted">
          {upperFirst(withDates(range.now.reason ?? range.mean.reason ?? "there is no range yet"))}.
          Without a known yield there is no range to hold it against.
        </p>
      )}
      {can && <Quarters range={range} />}
      <Figures range={range} can={can} />
    </StageSection>
  );
}

const NUDGES: Record<string, number> = { ArrowUp: 1, ArrowDown: -1, PageUp: 10, PageDown: -10 };

/** Arrow keys move the aim from wherever the stage has the focus, not from its handle alone. */
function useNudge(
  range: Range,
  aim: number | undefined,
  setAim: (to: number | undefined) => void,
): (event: React.KeyboardEvent) => void {
  const scale = range.price_scale;
  return (event) => {
    const steps = NUDGES[event.key];
    const target = event.target as HTMLElement;
    const from = aim ?? range.now.value;
    if (!steps || from === null || target.closest("input, select, table, [role=slider]")) return;
    event.preventDefault();
    const [low, high] = [scale[0]?.fraction ?? 0, scale[scale.length - 1]?.fraction ?? 1];
    setAim(Number(Math.min(high, Math.max(low, from + steps * AIM_STEP)).toFixed(5)));
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
  const target = percent(aim.target_yield.value ?? 0, 2);
  const price = aim.target_price.value;
  return price === null ? target : `${target}, ${number(price, 2)} ${currency}`;
}

/** One line of text: the target as yield and price, how many weeks offered it, when last. */
function AimLine(props: {
  aim: Aim | null;
  review: Review;
  payer: PayerKey;
  setAim: (to: number | undefined) => void;
}) {
  const { aim, review } = props;
  const [view] = useView();
  const [problem, setProblem] = useState<string>();
  const fromYield = (v: number) =>
    v > 0 && v < 100 ? props.setAim(v / 100) : setProblem("A yield lies between 0 and 100 %.");
  const fromPrice = async (price: number) => {
    const asked = { ...questionOf(view), aim: undefined, aim_price: price };
    const found = await askAim(props.payer, asked).catch((thrown) => {
      setProblem(`${upperFirst(refusalOf(thrown).message)}; the aim stays as it was.`);
      return null;
    });
    if (found?.target_yield.value) props.setAim(Number(found.target_yield.value.toFixed(6)));
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
        At <Fig figure={aim.target_yield} digits={2} className="font-semibold" /> you would pay{" "}
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
          label="Yield, %"
          value={number((aim.target_yield.value ?? 0) * 100, 2)}
          onCommit={told(fromYield)}
        />
        <Exact
          label={`Price, ${review.payer.currency}`}
          value={aim.target_price.value === null ? "" : number(aim.target_price.value, 2)}
          onCommit={told((v) => void fromPrice(v))}
        />
        {problem && (
          <p role="alert" className="max-w-[220px] text-[13px] text-uncovered md:text-right">
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
  if (range.mean.value === null) return withDates(range.mean.reason ?? "");
  const now = range.now.value === null ? "unknown" : percent(range.now.value, 2);
  return `Yield today ${now}; mean ${percent(range.mean.value, 2)}, lowest ${percent(range.lowest.value ?? 0, 2)}, highest ${percent(range.highest.value ?? 0, 2)} over ${range.count.value} weeks.`;
}

function Weeks({ range }: { range: Range }) {
  return (
    <table className="rows w-full text-[14px]">
      <caption className="sr-only">Yield by week</caption>
      <thead>
        <tr>
          <th scope="col">Week’s close</th>
          <th scope="col">Yield, %</th>
        </tr>
      </thead>
      <tbody>
        {range.weeks.days.toReversed().map((d, i) => (
          <tr key={d}>
            <td>{day(d)}</td>
            <td>{number((range.weeks.yields.at(-1 - i) ?? 0) * 100, 2)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Quarters({ range }: { range: Range }) {
  if (range.quarters.length === 0) return null;
  return (
    <div className="mt-2 relative overflow-x-auto">
      <table className="rows w-full text-[14px]">
        <caption className="sr-only">Yield at quarter ends</caption>
        <thead>
          <tr>
            <th scope="col">Quarter end</th>
            {range.quarters.map((q) => (
              <th key={q.day} scope="col">
                {month(q.day)}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          <tr>
            <td>Yield, %</td>
            {range.quarters.map((q) => (
              <td key={q.day}>
                <Fig figure={q.fraction} bare digits={2} unknown="–" />
              </td>
            ))}
          </tr>
          <tr>
            <td>Yield vs average, % (− = under)</td>
            {range.quarters.map((q) => (
              <td key={q.day}>
                <Fig figure={q.against_mean} bare sign unknown="–" />
              </td>
            ))}
          </tr>
        </tbody>
      </table>
    </div>
  );
}

function Figures({ range, can }: { range: Range; can: boolean }) {
  const premium = range.premium.value;
  return (
    <div className="mt-3 grid grid-cols-2 gap-x-5 gap-y-2 md:grid-cols-3 xl:grid-cols-5">
      {can && (
        <>
          <KeyFigure
            name="Price at the average yield"
            figure={range.fair_price}
            note={
              premium !== null && (
                <>
                  price <Fig figure={range.premium} size digits={0} />{" "}
                  {premium > 0 ? "over" : "under"}
                </>
              )
            }
          />
          <KeyFigure name="Median" figure={range.median} digits={2} />
          <KeyFigure
            name="Highest"
            figure={range.highest}
            digits={2}
            note={range.highest.known_on && month(range.highest.known_on)}
          />
          <KeyFigure
            name="Lowest"
            figure={range.lowest}
            digits={2}
            note={range.lowest.known_on && month(range.lowest.known_on)}
          />
          <KeyFigure
            name="Longest above average"
            figure={range.longest_above}
            note={range.longest_above.known_on && `to ${month(range.longest_above.known_on)}`}
          />
          <KeyFigure name="Percentile of today" figure={range.percentile} digits={0} />
        </>
      )}
      <KeyFigure name="52-week low" figure={range.low_52} />
      <KeyFigure name="52-week high" figure={range.high_52} />
    </div>
  );
}
