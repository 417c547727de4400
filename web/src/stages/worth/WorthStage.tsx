import { useState } from "react";
import type { Review, Stage, WorthSeries } from "@/api/client";
import { useOpinions } from "@/api/hooks";
import type { Question } from "@/api/question";
import { usePrinting } from "@/state/printing";
import { questionOf, useView, WORTH_PARTS } from "@/state/view";
import { Download } from "@/ui/Download";
import { Sentence } from "@/ui/Sentence";
import { Choice } from "@/ui/StageSection";
import { Drawn } from "../Drawn";
import { later } from "../later";
import { StageView } from "../StageView";
import { Assumptions } from "./Assumptions";
import { ASKED, Models, type QuestionId, touchedQuestions, Unsuited } from "./Models";

const CasesView = later(() => import("./CasesView").then((m) => m.CasesView));
const PeersView = later(() => import("./PeersView").then((m) => m.PeersView));
const PathView = later(() => import("./PathView").then((m) => m.PathView));
const TrialsView = later(() => import("./TrialsView").then((m) => m.TrialsView));

interface Props {
  review: Review;
  /** Worth as the inputs in the address have it. */
  stage: Stage;
  series: WorthSeries | undefined;
  error: Error | null;
}

const VIEWS = [
  { value: "value", name: "What it is worth" },
  { value: "trials", name: "What moves it" },
  { value: "return", name: "What it returns" },
  { value: "peers", name: "Peers" },
  { value: "cases", name: "Cases" },
];
/** What stands below the assumptions in place of the models. */
const DRAWN: Record<string, React.ComponentType<{ review: Review }>> = {
  trials: TrialsView,
  return: PathView,
  peers: PeersView,
  cases: CasesView,
};
/** Views that have assumptions of their own. */
const OWN = ["return", "peers"];

export function WorthStage({ review, stage, series, error }: Props) {
  const [view, change] = useView();
  const shown = VIEWS.find((v) => v.value === view.worth)?.value ?? "value";
  return (
    <StageView
      review={review}
      id="worth"
      stage={stage}
      controls={
        <Choice
          label="View of Worth"
          options={VIEWS}
          value={shown}
          onChange={(worth) => change({ worth: worth === "value" ? undefined : worth })}
        />
      }
    >
      <Drawn found={{ data: series, error }}>
        {(worth) => <Valued review={review} worth={worth} error={error} shown={shown} />}
      </Drawn>
    </StageView>
  );
}

interface ValuedProps {
  review: Review;
  worth: WorthSeries;
  error: Error | null;
  shown: string;
}

/** Where the workbook of what is shown is fetched from. */
function bookOf(review: Review, asked: Question): string {
  const { exchange, symbol } = review.payer;
  const given = Object.entries(asked).filter(([, text]) => text !== undefined && text !== "");
  const query = new URLSearchParams(given.map(([name, text]) => [name, String(text)]));
  return `/api/payers/${encodeURIComponent(exchange)}/${encodeURIComponent(symbol)}/worth/workbook?${query}`;
}

function Valued({ review, worth, error, shown }: ValuedProps) {
  const [view] = useView();
  const [opened, setOpened] = useState<string[]>([]);
  const [asks, setAsks] = useState<Partial<Record<QuestionId, boolean>>>({});
  const touched = touchedQuestions(view, worth);
  const printing = usePrinting();
  const open = ASKED.filter((id) => printing || (asks[id] ?? touched.includes(id)));
  const asked = questionOf(view, WORTH_PARTS);
  const opinions = useOpinions(
    { exchange: review.payer.exchange, symbol: review.payer.symbol },
    asked,
  ).data;
  const assumptions = (
    <Assumptions worth={worth} opinions={opinions} error={error} opened={opened} open={open} />
  );
  const Other = DRAWN[shown];
  if (Other) {
    return (
      <>
        {!OWN.includes(shown) && assumptions}
        <Other review={review} />
      </>
    );
  }
  return (
    <>
      <p className="mb-3 font-serif text-[19px] leading-snug">
        <Sentence parts={worth.answered} />
      </p>
      <Models
        review={review}
        worth={worth}
        others={opinions?.models ?? []}
        open={open}
        onOpen={(id) => setAsks({ ...asks, [id]: !open.includes(id) })}
        opened={opened}
        onDetails={(id) =>
          setOpened(opened.includes(id) ? opened.filter((x) => x !== id) : [...opened, id])
        }
      />
      {assumptions}
      <div className="mt-3 max-w-[68ch] text-[15px]">
        {worth.said.map((sentence, i) => (
          <p key={i} className="mt-1">
            <Sentence parts={sentence} />
          </p>
        ))}
        {opinions?.said.map((sentence, i) => (
          <p key={i} className="mt-1 text-[14px] text-muted">
            <Sentence parts={sentence} />
          </p>
        ))}
      </div>
      <div className="mt-2 flex flex-wrap gap-x-5">
        {opinions && <Unsuited opinions={opinions} />}
        <Download className="link text-[14px]" href={bookOf(review, asked)}>
          Export as a workbook with live formulas
        </Download>
      </div>
    </>
  );
}
