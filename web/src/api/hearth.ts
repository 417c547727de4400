/** What the first page asks beside what other places do. */
import { useQuery } from "@tanstack/react-query";
import { answer, client, type Schemas } from "./client";

export type Declared = Schemas["DeclaredOut"];

/** Declared dividends that go ex or pay in the next six weeks. */
export function useComingPayments(as_of?: string) {
  return useQuery({
    queryKey: ["facts", "coming", as_of],
    queryFn: () => answer(client.GET("/api/coming-payments", { params: { query: { as_of } } })),
  });
}
