/** What the person waits for, the nearest first. */
import { useQuery } from "@tanstack/react-query";
import { answer, client, type Schemas } from "./client";

export type Watched = Schemas["WatchedOut"];
export type Reach = Schemas["ReachOut"];

export function useWatched(as_of?: string) {
  return useQuery({
    queryKey: ["decisions", "facts", "watch", as_of],
    queryFn: () => answer(client.GET("/api/watch", { params: { query: { as_of } } })),
  });
}
