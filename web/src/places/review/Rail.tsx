import { Link } from "@tanstack/react-router";
import type { Finding, Review, Worth } from "@/api/client";
import { type PayerKey, useDecisions } from "@/api/hooks";
import { type Stage, useView } from "@/app/view";
import { day, number, shortDay, upperFirst } from "@/format/format";
import { Fig } from "@/ui/Fig";
import { Sentence } from "@/ui/Sentence";
import { StateMark } from "@/ui/StateMark";
import { AllTests } from "./AllTests";
import { goTo } from "./goTo";

interface Props {
  review: Review;
  worth: Worth;
  payer: PayerKey;
  stage: Stage;
}

/** One finding a stage; at the bottom the rail has become the decision. */
export function Rail({ review, worth, payer, stage }: Props) {
  const findings = review.findings.map((f) => (f.stage === "worth" ? worth.finding : f));
  const gap = worth.price_against_buy_below.value;
  const [view] = useView();
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
      {findings.map((f) => (
        <Entry key={f.stage} finding={f} on={f.stage === stage} />
      ))}
      <DecisionEntry review={review} payer={payer} on={stage === "decision"} />
      <div className="mt-3">
        <span>Buy below</span> <Fig figure={worth.buy_below} className="font-serif text-[22px]" />
        {worth.blend.value !== null && gap !== null && (
          <p className="text-[14px] text-muted">
            blend <Fig figure={worth.blend} /> less{" "}
            <Fig figure={worth.margin_of_safety} digits={0} />; price is{" "}
            <Fig figure={worth.price_against_buy_below} size digits={0} />{" "}
            {gap > 0 ? "over" : "under"}
          </p>
        )}
      </div>
      {review.tests.length > 0 && (
        <AllTests review={review} className="link mt-3 text-left text-[14px]">
          All {review.tests.length} tests
        </AllTests>
      )}
      <a
        className="link mt-2 block text-[14px]"
        href={`/api/export?payer=${encodeURIComponent(`${payer.exchange}/${payer.symbol}`)}`}
        download
      >
        Its facts as a Data Package
      </a>
      <Link
        to="/sources/$exchange/$symbol"
        params={payer}
        search={{ as_of: view.as_of }}
        className="link block text-[14px]"
      >
        Its facts as held
      </Link>
    </aside>
  );
}

function Frame(props: {
  stage: string;
  on: boolean;
  mark: React.ReactNode;
  children: React.ReactNode;
}) {
  const [, change] = useView();
  const go = () => {
    goTo(props.stage as Stage);
    change({ stage: props.stage as Stage }, { replace: true });
  };
  return (
    <div
      className={`grid grid-cols-[20px_minmax(0,1fr)] gap-x-2 border-line border-b py-2 ${props.on ? "-mx-[18px] border-l-[3px] border-l-action bg-raised pr-[18px] pl-[15px]" : ""}`}
    >
      <span className="pt-1">{props.mark}</span>
      <button
        type="button"
        className="min-h-6 text-left text-[13px] text-muted hover:text-ink"
        aria-current={props.on ? "step" : undefined}
        onClick={go}
      >
        {upperFirst(props.stage)}
      </button>
      <div className="col-start-2 text-[15px] leading-[1.35] [&_.figure]:min-h-0">
        {props.children}
      </div>
    </div>
  );
}

function Entry({ finding, on }: { finding: Finding; on: boolean }) {
  return (
    <Frame
      stage={finding.stage}
      on={on}
      mark={finding.state && <StateMark state={finding.state} />}
    >
      <Sentence finding={finding} />
    </Frame>
  );
}

function DecisionEntry({ review, payer, on }: { review: Review; payer: PayerKey; on: boolean }) {
  const [view] = useView();
  const last = useDecisions(payer, view.as_of).data?.[0];
  const moved = last?.changes.filter((c) => c.moved).length ?? 0;
  return (
    <Frame stage="decision" on={on} mark={null}>
      {last ? (
        <>
          {upperFirst(last.verdict)}
          {last.buy_below !== null && ` below ${number(last.buy_below, 2)}`},{" "}
          {last.as_of === review.as_of ? "today" : day(last.as_of)}
          {moved > 0 && `; ${moved} figures have changed since`}.
        </>
      ) : (
        "Not decided yet."
      )}
    </Frame>
  );
}
