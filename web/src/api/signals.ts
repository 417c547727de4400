/** Signals: what happened that the person wants to hear of. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { answer, client, type Schemas } from "./client";
import { useJob } from "./hooks";

export type Signal = Schemas["SignalOut"];

/** Those known on a day; what is still to be made is made beside, and asked for again. */
export function useSignals(as_of: string | undefined, unseen: boolean) {
  const found = useQuery({
    queryKey: ["decisions", "facts", "signals", as_of, unseen],
    queryFn: () => answer(client.GET("/api/signals", { params: { query: { as_of, unseen } } })),
  });
  const make = useMutation({ mutationFn: () => answer(client.POST("/api/signals")) });
  const job = useJob(make.data?.id ?? null);
  const due = (found.data?.pending ?? 0) > 0;
  const { mutate, isPending } = make;
  const busy = isPending || job.data?.state === "running";
  const stopped = job.data?.state === "failed" || job.data?.state === "cancelled";
  useEffect(() => {
    if (due && !busy && !stopped) mutate();
  }, [due, busy, stopped, mutate]);
  return { ...found, making: due && !stopped };
}

/** They were seen, or are unseen again. */
export function useSeen() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: ({ signals, seen }: { signals: Signal[]; seen: boolean }) =>
      answer(
        client.POST("/api/signals/seen", {
          body: {
            seen,
            signals: signals.map(({ exchange, symbol, kind, event }) => ({
              exchange,
              symbol,
              kind,
              event,
            })),
          },
        }),
      ),
    onSuccess: () =>
      queries.invalidateQueries({
        predicate: ({ queryKey }) => queryKey[2] === "signals" || queryKey[1] === "status",
      }),
  });
}
