import type { ReactNode } from "react";
import { type Review, type Stage, stageOf } from "@/api/client";
import { CushionList } from "@/ui/CushionList";
import { KeyFigures } from "@/ui/KeyFigures";
import { StageSection } from "@/ui/StageSection";

interface Props {
  review: Review;
  id: Stage["id"];
  /** The stage as it stands now, where an input moved it since the review. */
  stage?: Stage;
  controls?: ReactNode;
  /** What is drawn above the key figures. */
  chart?: ReactNode;
  /** Of measures taken on several bases, the one shown. */
  group?: string;
  /** What stands where the key figures would. */
  instead?: ReactNode;
  /** Figures of the stage's own beside the key figures. */
  keys?: ReactNode;
  /** What is its own, between the key figures and the tests. */
  children?: ReactNode;
  onKeyDown?: (event: React.KeyboardEvent) => void;
}

/** Any stage: its question, what it draws, its key figures and its tests. */
export function StageView({ review, id, stage, controls, chart, group, ...more }: Props) {
  const shown = stage ?? stageOf(review, id);
  const tests = review.tests.filter((t) => t.stage === id);
  return (
    <StageSection
      id={id}
      title={shown.name}
      question={shown.question}
      controls={controls}
      onKeyDown={more.onKeyDown}
    >
      {chart}
      {more.instead}
      {!more.instead && (shown.key_figures.length > 0 || more.keys) && (
        <KeyFigures stage={shown} group={group}>
          {more.keys}
        </KeyFigures>
      )}
      {more.children}
      {tests.length > 0 && (
        <div className="mt-3">
          <CushionList
            tests={tests}
            caption={`Tests of ${shown.name}`}
            passed={stageOf(review, id).passed}
          />
        </div>
      )}
    </StageSection>
  );
}
