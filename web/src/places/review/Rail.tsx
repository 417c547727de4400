import { Link } from "@tanstack/react-router";
import type { Review, Stage } from "@/api/client";
import { type PayerKey, useDecisions, useDisagreements } from "@/api/hooks";
import { day, number, shortDay, upperFirst } from "@/format/format";
import { withOneMore, writeCompared } from "@/state/compared";
import { useView } from "@/state/view";
import { Download } from "@/ui/Download";
import { Fig } from "@/ui/Fig";
import { Sentence } from "@/ui/Sentence";
import { StateMark } from "@/ui/StateMark";
import { Term } from "@/ui/Term";
import { AllTests } from "./AllTests";
import { Disagreement } from "./Disagreement";
import { goTo } from "./goTo";

interface Props {
  review: Review;
  /** Worth as it stands now. */
  worth: Stage;
  payer: PayerKey;
  stage: string;
}

/** One finding a stage; at the bottom the rail has become the decision. */
export function Rail({ review, worth, payer, stage }: Props) {
  const stages = review.stages.map((s) => (s.id === worth.id ? worth : s));
  const [view] = useView();
  const disagreed = useDisagreements(payer).data;
  return (
    <aside
      aria-label="Findings"
      className="border-line border-t bg-sunk px-[18px] py-3.5 lg:sticky lg:top-[var(--stuck)] lg:h-[calc(100vh-var(--stuck))] lg:overflow-y-auto lg:border-t-0 lg:border-l"
    >
      <div className="flex items-baseline justify-between">
        <h2 className="text-[21px]">Findings</h2>
        <span className="text-[14px] text-muted">
          {review.payer.symbol} · {shortDay(review.as_of)}
        </span>
      </div>
      {stages.map((s) => (
        <Entry key={s.id} stage={s} on={s.id === stage} payer={payer} said={disagreed?.[s.id]} />
      ))}
      <DecisionEntry review={review} payer={payer} on={stage === "decision"} />
      {worth.figures.buy_below && (
        <p className="mt-3">
          <Term id="buy below">Buy below</Term>{" "}
          <Fig figure={worth.figures.buy_below} spoken className="font-serif text-[22px]" />
        </p>
      )}
      {review.tests.length > 0 && (
        <AllTests review={review} className="link mt-3 text-left text-[14px]">
          All {review.tests.length} tests, {review.passed} pass
        </AllTests>
      )}
      <Link
        to="/compare"
        search={{ as_of: view.as_of, compared: writeCompared(withOneMore(payer)) }}
        className="link mt-2 block text-[14px]"
      >
        Compare with others
      </Link>
      <Download
        className="link block text-[14px]"
        href={`/api/export?payer=${encodeURIComponent(`${payer.exchange}/${payer.symbol}`)}`}
      >
        Export data
      </Download>
      <Link
        to="/sources/$exchange/$symbol"
        params={payer}
        search={{ as_of: view.as_of }}
        className="link block text-[14px]"
      >
        Stored data
      </Link>
    </aside>
  );
}

function Frame(props: {
  stage: string;
  name: string;
  on: boolean;
  mark: React.ReactNode;
  children: React.ReactNode;
}) {
  const [, change] = useView();
  const go = () => {
    goTo(props.stage);
    change({ stage: props.stage }, { replace: true });
  };
  return (
    <div
      className={`relative grid grid-cols-[20px_minmax(0,1fr)] gap-x-2 border-line border-b py-2 ${props.on ? "-mx-[18px] border-l-[3px] border-l-action bg-raised pr-[18px] pl-[15px]" : ""}`}
    >
      <span className="pt-1">{props.mark}</span>
      <button
        type="button"
        className="min-h-6 text-left text-[13px] text-muted hover:text-ink"
        aria-current={props.on ? "step" : undefined}
        onClick={go}
      >
        {props.name}
      </button>
      <div className="col-start-2 text-[15px] leading-[1.35] [&_.figure]:min-h-0">
        {props.children}
      </div>
    </div>
  );
}

interface EntryProps {
  stage: Stage;
  on: boolean;
  payer: PayerKey;
  /** The person's words, where they disagree. */
  said?: string;
}

function Entry({ stage, on, payer, said }: EntryProps) {
  return (
    <Frame
      stage={stage.id}
      name={stage.name}
      on={on}
      mark={stage.state && <StateMark state={stage.state} />}
    >
      <Sentence parts={stage.finding} />
      <Disagreement payer={payer} stage={stage} said={said} on={on} />
    </Frame>
  );
}

function DecisionEntry({ review, payer, on }: { review: Review; payer: PayerKey; on: boolean }) {
  const [view] = useView();
  const last = useDecisions(payer, view.as_of).data?.[0];
  const moved = last?.changes.filter((c) => c.moved).length ?? 0;
  return (
    <Frame stage="decision" name="Decision" on={on} mark={null}>
      {last ? (
        <>
          {upperFirst(last.verdict)}
          {last.buy_below !== null &&
            `; buy below ${number(last.buy_below, 2)} ${review.payer.currency}`}{" "}
          (decided {last.as_of === review.as_of ? "today" : `on ${day(last.as_of)}`})
          {moved > 0 && `; ${moved} figures have changed since`}.
        </>
      ) : (
        "Not decided yet."
      )}
    </Frame>
  );
}
