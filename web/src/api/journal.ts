/** All decisions in time, and what became of them. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { answer, client, type Schemas } from "./client";

export type Journal = Schemas["JournalOut"];
export type JournalEntry = Schemas["JournalEntryOut"];

export function useJournal(as_of?: string) {
  return useQuery({
    queryKey: ["decisions", "journal", as_of, "ledger"],
    queryFn: () => answer(client.GET("/api/journal", { params: { query: { as_of } } })),
  });
}

export function useLookBack() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: ({ id, ...body }: { id: number; words: string; begun: string }) =>
      answer(
        client.PUT("/api/decisions/{id}/looked-back", {
          params: { path: { id } },
          body,
        }),
      ),
    onSettled: () => queries.invalidateQueries({ queryKey: ["decisions"] }),
  });
}
