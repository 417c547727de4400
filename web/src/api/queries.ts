/** What is held of the server's answers. */
import { type InvalidateQueryFilters, type Query, QueryClient } from "@tanstack/react-query";
import { isUnreached } from "./client";

/** A change makes every answer asked for before it stale, also one that is still on its way: the
 * library waits for that one and takes it for new, so a first answer would tell of what was. */
export class Queries extends QueryClient {
  override async invalidateQueries(
    filters: InvalidateQueryFilters = {},
    options?: Parameters<QueryClient["invalidateQueries"]>[1],
  ) {
    const predicate = (query: Query) =>
      query.state.data === undefined && (filters.predicate?.(query) ?? true);
    await this.cancelQueries({ ...filters, fetchStatus: "fetching", predicate });
    await super.invalidateQueries(filters, options);
  }
}

export const newQueries = () =>
  new Queries({
    defaultOptions: {
      queries: {
        staleTime: 30_000,
        refetchOnWindowFocus: false,
        retry: (times, error) => times < 1 && isUnreached(error),
      },
    },
  });
