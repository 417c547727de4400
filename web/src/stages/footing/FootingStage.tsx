import type { Review, Schemas } from "@/api/client";
import { type PayerKey, useFooting } from "@/api/hooks";
import { useView } from "@/state/view";
import { Sentence } from "@/ui/Sentence";
import { Choice } from "@/ui/StageSection";
import { Drawn } from "../Drawn";
import { StageView } from "../StageView";
import { StrainView } from "../strain";
import { BalanceView } from "./BalanceView";
import { BusinessView } from "./BusinessView";
import { LinesView } from "./LinesView";
import { NewestView } from "./NewestView";
import { PartsView } from "./PartsView";
import { PeersView } from "./PeersView";
import { SlumpsView } from "./SlumpsView";

type ViewOut = Schemas["ViewOut"];

/** What draws a view; a view without one shows its answer and its key figures. */
const DRAWN: Record<string, React.ComponentType<{ review: Review; payer: PayerKey }>> = {
  balance: BalanceView,
  business: BusinessView,
  lines: LinesView,
  newest: NewestView,
  parts: PartsView,
  peers: PeersView,
  slumps: SlumpsView,
  strain: StrainView,
};

export function FootingStage({ review, payer }: { review: Review; payer: PayerKey }) {
  const [view, change] = useView();
  const found = useFooting(payer, { as_of: view.as_of });
  const views = found.data?.views ?? [];
  const first = views.find((v) => v.amiss) ?? views[0];
  const shown = views.find((v) => v.id === view.footing) ?? first;
  return (
    <StageView
      review={review}
      id="footing"
      group={shown?.id}
      controls={
        <Choice
          label="View"
          options={views.map((v) => ({ value: v.id, name: v.name, flag: v.amiss }))}
          value={shown?.id ?? ""}
          onChange={(id) => change({ footing: id === first?.id ? undefined : id })}
        />
      }
      chart={
        <Drawn found={found}>
          {() => shown && <Shown review={review} payer={payer} shown={shown} />}
        </Drawn>
      }
    />
  );
}

function Shown({ review, payer, shown }: { review: Review; payer: PayerKey; shown: ViewOut }) {
  const Chart = DRAWN[shown.id];
  return (
    <>
      {shown.answer.length > 0 && (
        <p className="mb-2 max-w-[80ch] text-[16px]" aria-live="polite">
          <Sentence parts={shown.answer} />
        </p>
      )}
      {Chart && <Chart review={review} payer={payer} />}
    </>
  );
}
