import { Outlet } from "@tanstack/react-router";
import { lazy, Suspense, useState } from "react";
import { isRefusedDay } from "@/api/client";
import { useStatus } from "@/api/hooks";
import { day, daysBetween } from "@/format/format";
import { toggleAmounts, useHiddenAmounts } from "@/state/amounts";
import { useSingleKey } from "@/state/keys";
import { useView } from "@/state/view";
import { HideAmounts } from "@/ui/Amount";
import { ErrorNote } from "@/ui/ErrorNote";
import { AsOf } from "./AsOf";
import { PrintNote } from "./PrintNote";
import { Spine } from "./Spine";

const WorkingDrawer = lazy(() =>
  import("@/places/working/WorkingDrawer").then((m) => ({ default: m.WorkingDrawer })),
);

const SearchBox = lazy(() => import("./SearchBox").then((m) => ({ default: m.SearchBox })));
const KeysDialog = lazy(() => import("./KeysDialog").then((m) => ({ default: m.KeysDialog })));
const TablesDialog = lazy(() =>
  import("./TablesDialog").then((m) => ({ default: m.TablesDialog })),
);

export function Shell() {
  const [view, change] = useView();
  const [keysOpen, showKeys] = useState(false);
  const [tablesOpen, showTables] = useState(false);
  const status = useStatus(view.as_of);
  const hidden = useHiddenAmounts();
  useSingleKey("?", () => showKeys(true));
  useSingleKey("h", toggleAmounts);
  const past = Boolean(status.data && view.as_of && view.as_of < status.data.today);
  return (
    <div className="min-h-screen print:block! lg:grid lg:grid-cols-[148px_minmax(0,1fr)]">
      <a
        href="#main"
        className="sr-only focus:not-sr-only focus:fixed focus:top-2 focus:left-2 focus:z-50 focus:bg-raised focus:p-2"
      >
        Skip to the page
      </a>
      <Spine
        unseen={status.data?.unseen ?? 0}
        onKeys={() => showKeys(true)}
        onTables={() => showTables(true)}
      />
      <div className="min-w-0">
        <header className="z-30 bg-paper lg:sticky lg:top-0">
          <div className="flex min-h-[58px] flex-wrap items-center gap-x-6 gap-y-1 border-b border-line px-4 py-2 lg:px-6">
            <Suspense
              fallback={
                <div className="min-h-[34px] w-full max-w-[420px] rounded-md border border-stone bg-raised" />
              }
            >
              <SearchBox onKeys={() => showKeys(true)} onTables={() => showTables(true)} />
            </Suspense>
            <div className="ml-auto flex flex-wrap items-center gap-x-5 text-[14px] text-muted">
              {hidden && <HideAmounts />}
              {status.data && (
                <AsOf today={status.data.today} moves={status.data.pinned && status.data.feed} />
              )}
              <PriceAge
                newest={status.data?.newest_price}
                on={status.data && (view.as_of ?? status.data.today)}
              />
            </div>
          </div>
          {past && view.as_of && (
            <output className="flex flex-wrap items-center gap-x-4 bg-[var(--band)] px-4 py-1.5 text-[14px] text-[var(--band-ink)] lg:px-6">
              <span>
                You are viewing <b>{day(view.as_of)}</b>: only what was known then is shown, under
                today’s house rules.
              </span>
              <button
                type="button"
                className="min-h-6 underline underline-offset-3"
                onClick={() => change({ as_of: undefined })}
              >
                Back to today
              </button>
            </output>
          )}
        </header>
        <PrintNote />
        <main id="main" tabIndex={-1} className="outline-none">
          {status.error ? (
            <div className="p-6">
              <ErrorNote
                error={status.error}
                way={
                  isRefusedDay(status.error)
                    ? { name: "Go to today", go: () => change({ as_of: undefined }) }
                    : { name: "Try again", go: () => void status.refetch() }
                }
              />
            </div>
          ) : (
            <Outlet />
          )}
        </main>
      </div>
      <Suspense>{view.open && <WorkingDrawer />}</Suspense>
      <Suspense>
        {keysOpen && <KeysDialog open={keysOpen} onOpenChange={showKeys} />}
        {tablesOpen && <TablesDialog open={tablesOpen} onOpenChange={showTables} />}
      </Suspense>
    </div>
  );
}

function PriceAge({ newest, on }: { newest?: string | null; on?: string }) {
  if (!on) return null;
  if (!newest) return <span>No prices held</span>;
  const age = daysBetween(newest, on);
  const words = age === 0 ? "Prices of today" : `Prices ${age} ${age === 1 ? "day" : "days"} old`;
  return <span title={`Newest price: ${day(newest)}`}>{words}</span>;
}
