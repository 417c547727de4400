import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client } from "@/api/client";
import { useHiddenAmounts } from "@/state/amounts";
import { Download } from "@/ui/Download";
import { ErrorNote } from "@/ui/ErrorNote";

const KEY = ["calendar"];

/** Ex-dates, pay dates and next looks for a calendar program: a file, or an address it asks. */
export function CalendarLinks() {
  const [open, setOpen] = useState(false);
  const hidden = useHiddenAmounts();
  return (
    <div className="mt-2 text-[15px]">
      <div className="flex flex-wrap items-baseline gap-x-5">
        <Download className="link" href={`/api/calendar/file.ics?owned=${!hidden}`}>
          Calendar file of what I hold and follow
        </Download>
        <Download className="link" href={`/api/calendar/file.ics?everyone=true&owned=${!hidden}`}>
          of all payers
        </Download>
        <button type="button" className="link" aria-expanded={open} onClick={() => setOpen(!open)}>
          Subscribe
        </button>
      </div>
      {open && <Subscription />}
    </div>
  );
}

function Subscription() {
  const queries = useQueryClient();
  const held = useQuery({
    queryKey: KEY,
    queryFn: () => answer(client.GET("/api/calendar/subscription")),
  });
  const onSuccess = () => queries.invalidateQueries({ queryKey: KEY });
  const make = useMutation({
    mutationFn: () => answer(client.POST("/api/calendar/subscription")),
    onSuccess,
  });
  const end = useMutation({
    mutationFn: () => answer(client.DELETE("/api/calendar/subscription")),
    onSuccess,
  });
  const path = held.data?.path;
  const address = path ? `${window.location.origin}${path}` : undefined;
  const error = held.error ?? make.error ?? end.error;
  return (
    <div className="mt-2 max-w-prose rounded-md bg-sunk px-4 py-3">
      <p className="text-muted">
        A calendar program on this machine can ask for the days itself, while Hearth Yield runs.
        Whoever knows the address can read them, with what you are paid.
      </p>
      {address && (
        <label className="mt-2 block text-muted">
          Address
          <input
            readOnly
            className="field mt-1 w-full text-ink"
            value={address}
            onFocus={(e) => e.target.select()}
          />
        </label>
      )}
      <div className="mt-2 flex gap-3">
        <button type="button" className="button" onClick={() => make.mutate()}>
          {address ? "Another address" : "Make an address"}
        </button>
        {address && (
          <button type="button" className="button" onClick={() => end.mutate()}>
            End it
          </button>
        )}
      </div>
      {error && <ErrorNote error={error} kept="Nothing was changed." />}
    </div>
  );
}
