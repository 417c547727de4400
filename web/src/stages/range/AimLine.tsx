import { useState } from "react";
import { type Review, refusalOf, type Schemas } from "@/api/client";
import { askAim, type PayerKey } from "@/api/hooks";
import { withInput } from "@/api/question";
import { day, isPercent, number, readNumber, upperFirst } from "@/format/format";
import { questionOf, useView } from "@/state/view";
import { Fig } from "@/ui/Fig";
import { heading } from "./heading";

type Range = Schemas["RangeSeries"];
type Aim = Schemas["AimOut"];

/** One line of text: the target as yield and price, how many weeks offered it, when last. */
export function AimLine(props: {
  aim: Aim | null;
  review: Review;
  range: Range;
  payer: PayerKey;
  setAim: (to: number | undefined) => void;
}) {
  const { aim, review, range } = props;
  const [view, change] = useView();
  const [problem, setProblem] = useState<string>();
  const scale = isPercent(range.unit) ? 100 : 1;
  const exit = range.exit_input;
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
        {exit && aim.target.value !== null && (
          <button
            type="button"
            className="link"
            onClick={() =>
              change({
                stage: "worth",
                worth: "return",
                path_measure: range.quantity,
                inputs: withInput(view.inputs, exit, Number(aim.target.value?.toFixed(6))),
              })
            }
          >
            Use as the exit of the return path
          </button>
        )}
        {problem && (
          <p role="alert" className="max-w-[220px] text-[13px] text-outside md:text-right">
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
