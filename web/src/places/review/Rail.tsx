import { Link } from "@tanstack/react-router";
import { Dialog } from "radix-ui";
import { useState } from "react";
import type { Finding, Review, Worth } from "@/api/client";
import { type PayerKey, useDecisions } from "@/api/hooks";
import { type Stage, useView } from "@/app/view";
import { day, number, shortDay, upperFirst } from "@/format/format";
import { CushionList } from "@/ui/CushionList";
import { Fig } from "@/ui/Fig";
import { Sentence } from "@/ui/Sentence";
import { StateMark } from "@/ui/StateMark";

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
      {review.tests.length > 0 && <AllTests review={review} />}
      <a
        className="link mt-2 block text-[14px]"
        href={`/api/export?payers=${encodeURIComponent(`${payer.exchange}/${payer.symbol}`)}`}
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
    document.getElementById(props.stage)?.scrollIntoView();
    change({ stage: props.stage as Stage });
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

/** All tests of the payer together, tightest first. */
function AllTests({ review }: { review: Review }) {
  const [open, setOpen] = useState(false);
  const first = review.first_to_give;
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Trigger className="link mt-3 text-left text-[14px]">
        {first ? `First to give: ${first.measure.label}. ` : ""}All {review.tests.length} tests
      </Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/25" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-16 left-1/2 z-40 max-h-[84vh] w-[min(860px,96vw)] -translate-x-1/2 overflow-y-auto rounded-lg border border-line bg-paper p-6"
        >
          <div className="mb-3 flex items-baseline justify-between">
            <Dialog.Title className="text-[21px]">Every test, the tightest first</Dialog.Title>
            <Dialog.Close className="link">Close</Dialog.Close>
          </div>
          <CushionList tests={review.tests} caption="Every test of this payer" />
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
