import { useIsFetching } from "@tanstack/react-query";
import { useNavigate, useParams } from "@tanstack/react-router";
import { createContext, lazy, memo, Suspense, useContext, useEffect, useMemo, useRef } from "react";
import { type Review, type Stage, stageOf } from "@/api/client";
import { type PayerKey, useReview, useStatus, useWorth } from "@/api/hooks";
import { useKeys } from "@/api/payers";
import { CoverStage } from "@/stages/CoverStage";
import { RecordStage } from "@/stages/RecordStage";
import { StageView } from "@/stages/StageView";
import { withOneMore, writeCompared } from "@/state/compared";
import { useSingleKey } from "@/state/keys";
import { noteRecent } from "@/state/recent";
import { listOf, questionOf, useView, WORTH_PARTS } from "@/state/view";
import { ErrorNote } from "@/ui/ErrorNote";
import { PayerContext } from "@/ui/Fig";
import { goTo, heading, keptAtHeading } from "./goTo";
import { Head } from "./Head";
import { Rail } from "./Rail";

// The later stages are below the fold: their script follows the first.
const FootingStage = lazy(() =>
  import("@/stages/footing/FootingStage").then((m) => ({ default: m.FootingStage })),
);
const RangeStage = lazy(() =>
  import("@/stages/RangeStage").then((m) => ({ default: m.RangeStage })),
);
const WorthStage = lazy(() =>
  import("@/stages/worth/WorthStage").then((m) => ({ default: m.WorthStage })),
);
const DecisionStage = lazy(() =>
  import("@/stages/DecisionStage").then((m) => ({ default: m.DecisionStage })),
);

/** The stages that are drawn: all of them, where nothing is said. */
export const StagesDrawn = createContext<readonly string[] | null>(null);

type Drawing = React.ComponentType<{ review: Review; payer: PayerKey }>;
/** Stages that draw more than any stage does: at once, and once their script is there. What is answered
 * to one stage draws no other anew. */
const FIRST: Partial<Record<Stage["id"], Drawing>> = {
  record: memo(RecordStage),
  cover: memo(CoverStage),
};
const LATER: Partial<Record<Stage["id"], Drawing>> = {
  footing: memo(FootingStage),
  range: memo(RangeStage),
};
const Plain = memo(StageView);
const Worth = memo(WorthStage);
const Decision = memo(DecisionStage);

export function ReviewPage() {
  const payer = useParams({ from: "/review/$exchange/$symbol" });
  const [view] = useView();
  const review = useReview(payer, questionOf(view, ["review"]));
  useNeighbours(payer.exchange, payer.symbol);
  const navigate = useNavigate();
  useSingleKey("c", () => {
    const compared = writeCompared(withOneMore(payer));
    void navigate({ to: "/compare", search: { as_of: view.as_of, compared } });
  });
  if (review.error) {
    return (
      <div className="p-6">
        <ErrorNote error={review.error} />
      </div>
    );
  }
  const key = JSON.stringify([payer.exchange, payer.symbol]);
  if (!review.data) return <div className="h-[90vh]" aria-busy="true" key={key} />;
  return (
    <PayerContext value={payer}>
      <Page review={review.data} key={key} />
    </PayerContext>
  );
}

const Page = memo(function Page({ review }: { review: Review }) {
  const [view] = useView();
  const status = useStatus(view.as_of);
  const { exchange, symbol } = review.payer;
  const payer = useMemo(() => ({ exchange, symbol }), [exchange, symbol]);
  const moved = useWorth(payer, questionOf(view, WORTH_PARTS));
  const plain = useWorth(payer, questionOf(view, ["review"]), moved.error !== null && !moved.data);
  const worth = moved.data?.stage ?? stageOf(review, "worth");
  const series = (moved.data ?? plain.data)?.series;
  const stage = useStages([...review.stages.map((s) => s.id), "decision"]);
  const later = [...review.stages.map((s) => s.id).filter((id) => !(id in FIRST)), "decision"];
  useHeading();
  const drawn = useContext(StagesDrawn);
  const draws = (id: string) => !drawn || drawn.includes(id);
  const past = Boolean(status.data && review.as_of < status.data.today);
  useEffect(() => {
    document.title = `${review.payer.name} · Hearth Yield`;
    noteRecent(review.payer);
  }, [review.payer]);
  return (
    <div
      className={past ? "[--stuck:150px] lg:[--stuck:90px]" : "[--stuck:88px] lg:[--stuck:58px]"}
    >
      <Head review={review} />
      <div className="lg:grid lg:grid-cols-[minmax(0,1fr)_300px]">
        <div className="min-w-0">
          {review.stages.map((s) => {
            const Own = FIRST[s.id];
            return Own && draws(s.id) && <Own key={s.id} review={review} payer={payer} />;
          })}
          <Suspense fallback={<Places stages={later} />}>
            {review.stages.map((s) => {
              if (s.id in FIRST || s.id === worth.id || !draws(s.id)) return null;
              const Own = LATER[s.id];
              return Own ? (
                <Own key={s.id} review={review} payer={payer} />
              ) : (
                <Plain key={s.id} review={review} id={s.id} />
              );
            })}
            {draws("worth") && (
              <Worth review={review} stage={worth} series={series} error={moved.error} />
            )}
            {draws("decision") && (
              <Decision review={review} worth={worth} payer={payer} past={past} />
            )}
            <Arrive />
          </Suspense>
        </div>
        <Rail review={review} worth={worth} payer={payer} stage={stage} />
      </div>
    </div>
  );
});

/** Where the later stages will stand, so that one can go to them before their script is there. */
function Places({ stages }: { stages: string[] }) {
  return stages.map((id) => <div key={id} id={id} className="min-h-screen" aria-busy="true" />);
}

/** Follows which stage is being read, keeps it in the URL, and moves with j and k. */
function useStages(stages: string[]): string {
  const [view, change] = useView();
  const first = stages[0] ?? "";
  const current = view.stage ?? first;
  // biome-ignore lint/correctness/useExhaustiveDependencies: one listener a page, reading the newest view
  useEffect(() => {
    const onScroll = () => {
      if (keptAtHeading()) return;
      const seen = stages.filter((s) => {
        const top = document.getElementById(s)?.getBoundingClientRect().top;
        return top !== undefined && top < window.innerHeight * 0.4;
      });
      const at = seen[seen.length - 1] ?? first;
      if (at !== current) change({ stage: at === first ? undefined : at }, { replace: true });
    };
    window.addEventListener("scroll", onScroll, { passive: true });
    return () => window.removeEventListener("scroll", onScroll);
  }, [current]);
  const move = (by: number) => {
    const next = stages[stages.indexOf(current) + by];
    if (!next) return;
    goTo(next);
    change({ stage: next === first ? undefined : next }, { replace: true });
  };
  useSingleKey("j", () => move(1));
  useSingleKey("k", () => move(-1));
  return current;
}

const DRAWN = new Set(["record", "cover", "footing", "balance", "range", "worth"]);
const ACTS = ["pointerdown", "keydown", "wheel", "touchstart"] as const;

/** Goes to the stage one is on the way to once the later stages are there, and when all is drawn. */
function Arrive() {
  const drawing = useIsFetching({ predicate: (q) => DRAWN.has(q.queryKey[1] as string) }) > 0;
  const began = useRef(false);
  useEffect(() => {
    if (heading.stage && !heading.drawn) goTo(heading.stage);
    if (!drawing && began.current) heading.drawn = true;
    began.current ||= drawing;
  }, [drawing]);
  return null;
}

/** On the way to the stage the URL names, or there, until the person does anything. */
function useHeading() {
  const [view] = useView();
  const start = useRef(view.stage);
  useEffect(() => {
    heading.stage = start.current;
    heading.drawn = false;
    const stay = () => {
      heading.stage = undefined;
    };
    for (const act of ACTS) window.addEventListener(act, stay, { passive: true, capture: true });
    return () => {
      for (const act of ACTS) window.removeEventListener(act, stay, { capture: true });
    };
  }, []);
}

/** n and p: the next and the previous payer of the list one came from. */
function useNeighbours(exchange: string, symbol: string) {
  const [view] = useView();
  const navigate = useNavigate();
  const rows = useKeys(view, true).data ?? [];
  const at = rows.findIndex((r) => r.exchange === exchange && r.symbol === symbol);
  const go = (by: number) => {
    const next = rows[at + by];
    if (at < 0 || !next) return;
    void navigate({
      to: "/review/$exchange/$symbol",
      params: { exchange: next.exchange, symbol: next.symbol },
      search: { ...listOf(view), stage: view.stage },
    });
  };
  useSingleKey("n", () => go(1));
  useSingleKey("p", () => go(-1));
}
