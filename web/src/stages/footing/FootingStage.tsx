import type { Review, Schemas } from "@/api/client";
import { type PayerKey, useFooting } from "@/api/hooks";
import { questionOf, useView } from "@/state/view";
import { Sentence } from "@/ui/Sentence";
import { Choice } from "@/ui/StageSection";
import { Drawn } from "../Drawn";
import { StageView } from "../StageView";
import { BalanceView } from "./BalanceView";
import { BusinessView } from "./BusinessView";
import { LinesView } from "./LinesView";
import { NewestView } from "./NewestView";
import { PartsView } from "./PartsView";

type ViewOut = Schemas["ViewOut"];

/** What draws a view; a view without one shows its answer and its key figures. */
const DRAWN: Record<string, React.ComponentType<{ review: Review; payer: PayerKey }>> = {
  balance: BalanceView,
  business: BusinessView,
  lines: LinesView,
  newest: NewestView,
  parts: PartsView,
};

export function FootingStage({ review, payer }: { review: Review; payer: PayerKey }) {
  const [view] = useView();
  const found = useFooting(payer, { as_of: questionOf(view).as_of });
  return (
    <Drawn review={review} id="footing" found={found}>
      {({ views }) => <Views review={review} payer={payer} views={views} />}
    </Drawn>
  );
}

function Views(props: { review: Review; payer: PayerKey; views: ViewOut[] }) {
  const { review, payer, views } = props;
  const [view, change] = useView();
  const first = views.find((v) => v.amiss) ?? views[0];
  const shown = views.find((v) => v.id === view.footing) ?? first;
  if (!shown) return null;
  const Chart = DRAWN[shown.id];
  return (
    <StageView
      review={review}
      id="footing"
      group={shown.id}
      controls={
        <Choice
          label="View"
          options={views.map((v) => ({ value: v.id, name: v.name, flag: v.amiss }))}
          value={shown.id}
          onChange={(id) => change({ footing: id === first?.id ? undefined : id })}
        />
      }
      chart={
        <>
          <p className="mb-2 max-w-[80ch] text-[16px]" aria-live="polite">
            <Sentence parts={shown.answer} />
          </p>
          {Chart && <Chart review={review} payer={payer} />}
        </>
      }
    />
  );
}
