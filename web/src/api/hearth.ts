/** What the first page asks beside what other places do. */
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { answer, client, type Schemas } from "./client";

export type Declared = Schemas["DeclaredOut"];

/** Declared dividends that go ex or pay in the next six weeks. */
export function useComingPayments(as_of?: string) {
  return useQuery({
    queryKey: ["facts", "coming", as_of],
    queryFn: () => answer(client.GET("/api/coming-payments", { params: { query: { as_of } } })),
  });
}

const POLL = 600;

/** How all payers stand; asked again while they are being measured. */
export function useStanding(as_of: string | undefined, enabled: boolean) {
  return useQuery({
    queryKey: ["facts", "standing", as_of],
    queryFn: () => answer(client.GET("/api/standing", { params: { query: { as_of } } })),
    placeholderData: keepPreviousData,
    enabled,
    refetchInterval: (query) => (query.state.data?.job?.state === "running" ? POLL : false),
  });
}
