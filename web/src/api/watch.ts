/** What the person waits for, the nearest first. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { answer, client, type Schemas } from "./client";

export type Watched = Schemas["WatchedOut"];
export type Reach = Schemas["ReachOut"];

export function useWatched(as_of?: string) {
  return useQuery({
    queryKey: ["decisions", "facts", "watch", as_of, "ledger"],
    queryFn: () => answer(client.GET("/api/watch", { params: { query: { as_of } } })),
  });
}

interface Said {
  exchange: string;
  symbol: string;
  /** null: it is watched no more for its own sake. */
  said: Schemas["WatchNoteIn"] | null;
}

/** A note and a group on a payer that is watched. */
export function useWatchNote() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: ({ exchange, symbol, said }: Said) => {
      const params = { path: { exchange, symbol } };
      return said === null
        ? answer(client.DELETE("/api/watch/{exchange}/{symbol}", { params }))
        : answer(client.PUT("/api/watch/{exchange}/{symbol}", { params, body: said }));
    },
    onSettled: () =>
      queries.invalidateQueries({ predicate: (query) => query.queryKey[2] === "watch" }),
  });
}
