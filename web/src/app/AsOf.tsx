import { Popover } from "radix-ui";
import { lazy, Suspense, useState } from "react";
import { useJob } from "@/api/hooks";
import { day } from "@/format/format";
import { useView } from "@/state/view";

const MoveOn = lazy(() => import("./MoveOn").then((m) => ({ default: m.MoveOn })));

/** The one date the whole product stands on. moves: it is a demo's, and can be moved on. */
export function AsOf({ today, moves }: { today: string; moves: boolean }) {
  const [view, change] = useView();
  const [open, setOpen] = useState(false);
  const [refused, setRefused] = useState<string>();
  const [moving, setMoving] = useState<string | null>(null);
  const job = useJob(moving);
  const on = view.as_of ?? today;
  const go = (to: string) => {
    if (!to) return;
    if (to > today) return setRefused(to);
    setRefused(undefined);
    change({ as_of: to === today ? undefined : to });
  };
  const yearsBack = (n: number) => `${Number(today.slice(0, 4)) - n}${today.slice(4)}`;
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger id="as-of-open" className="min-h-6 hover:text-ink">
        As of <b className="font-semibold text-ink">{day(on)}</b>
        {job.data?.state === "running" ? " · moving on …" : on === today && " · today"}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={8}
          aria-label="View another day"
          className="z-40 w-72 rounded-md border border-line bg-raised p-4 text-[14px] shadow-lg"
        >
          <label className="block text-muted" htmlFor="as-of">
            View as of
          </label>
          <input
            id="as-of"
            type="date"
            className="field mt-1 w-full"
            value={refused ?? on}
            aria-invalid={refused ? true : undefined}
            aria-describedby={refused ? "as-of-refused" : undefined}
            onChange={(e) => go(e.target.value)}
          />
          {refused && (
            <p id="as-of-refused" role="alert" className="mt-1 text-[13px] text-outside">
              {day(refused)} is still to come: today is {day(today)}. Nothing changed.
            </p>
          )}
          <div className="mt-3 flex flex-wrap gap-x-4">
            <button type="button" className="link" onClick={() => go(today)}>
              today
            </button>
            {[1, 5, 10, 15].map((n) => (
              <button key={n} type="button" className="link" onClick={() => go(yearsBack(n))}>
                {n} {n === 1 ? "year" : "years"} back
              </button>
            ))}
          </div>
          {moves && (
            <Suspense>
              <MoveOn
                today={today}
                id={moving}
                onBegun={(id) => {
                  setMoving(id);
                  change({ as_of: undefined });
                }}
              />
            </Suspense>
          )}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
