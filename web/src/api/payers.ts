/** What the Payers place asks of the API. */
import {
  keepPreviousData,
  useMutation,
  useQueries,
  useQuery,
  useQueryClient,
} from "@tanstack/react-query";
import { useEffect } from "react";
import { answer, client, type Schemas } from "./client";
import { fetchFile, saveFile } from "./files";

export type Measure = Schemas["MeasureOut"];
export type Catalogue = Schemas["CatalogueOut"];
export type PayerRow = Schemas["RowOut"];
export type PayersWindow = Schemas["PayersOut"];
export type Saved = Schemas["SavedOut"];
export type Condition = Schemas["ConditionIn"];
export type Group = Schemas["GroupIn"];

export const WINDOW = 100;
const POLL = 700;

/** Which payers, in which order, and grouped by what. */
export interface Search {
  as_of?: string;
  q?: string;
  where?: Group;
  sort?: string;
  descending?: boolean;
  delisted?: boolean;
  by?: string;
}

export function searchOf({ as_of, q, where, sort, descending, delisted }: Search) {
  const conditions = where && JSON.stringify(complete(where));
  return { as_of, q, where: conditions, sort, descending, delisted };
}

/** Conditions as they stand, without those that still lack a value. */
export function complete(group: Group): Group {
  const parts: (Condition | Group)[] = [];
  for (const part of group.parts ?? []) {
    if ("join" in part) {
      const inner = complete(part);
      if (inner.parts?.length) parts.push(inner);
    } else if (isComplete(part)) parts.push(part);
  }
  return { join: group.join, parts };
}

export function isComplete(c: Condition): boolean {
  if (c.op === "known" || c.op === "unknown") return true;
  if (c.op === "is" || c.op === "is_not") return (c.words ?? []).length > 0;
  return c.value !== undefined && c.value !== null;
}

/** All that payers can be searched and shown by, and the sets of columns. */
export function useCatalogue(as_of?: string, enabled = true) {
  return useQuery({
    queryKey: ["facts", "catalogue", as_of, "ledger"],
    queryFn: () => answer(client.GET("/api/catalogue", { params: { query: { as_of } } })),
    placeholderData: keepPreviousData,
    enabled,
  });
}

/** What payers are asked about and ordered by where nothing else is chosen: the first whose median
 * stands under the table. */
export function firstMeasure(catalogue: Map<string, Measure>): string {
  return [...catalogue.values()].find((m) => m.foot)?.id ?? "";
}

/** One window of the table; while measures are being made, asked again. */
function windowQuery(view: Search, columns: string, w: number) {
  const search = searchOf(view);
  return {
    queryKey: ["facts", "payers", search, columns, w, "ledger"],
    queryFn: () =>
      answer(
        client.GET("/api/payers", {
          params: { query: { ...search, columns, first: w * WINDOW, count: WINDOW } },
        }),
      ),
    refetchInterval: (query: { state: { data?: PayersWindow } }) =>
      query.state.data?.job?.state === "running" ? POLL : (false as const),
  };
}

/** The first window, which also tells what is true of all found. */
export function useFirstWindow(view: Search, columns: string, enabled: boolean) {
  return useQuery({ ...windowQuery(view, columns, 0), placeholderData: keepPreviousData, enabled });
}

/** The further windows that are in sight. */
export function useFurtherWindows(view: Search, columns: string, windows: number[]) {
  return useQueries({ queries: windows.map((w) => windowQuery(view, columns, w)) });
}

export function useKeys(view: Search, enabled: boolean) {
  const search = searchOf(view);
  return useQuery({
    queryKey: ["facts", "keys", search],
    queryFn: () => answer(client.GET("/api/payers/keys", { params: { query: search } })),
    enabled,
  });
}

/** The first of those found, as EXCHANGE/SYMBOL. */
export const firstKeys = async (view: Search, most: number) => {
  const query = searchOf(view);
  const found = await answer(client.GET("/api/payers/keys", { params: { query } }));
  return found.slice(0, most).map((k) => `${k.exchange}/${k.symbol}`);
};

export function useGroups(view: Search, columns: string) {
  const search = searchOf(view);
  return useQuery({
    queryKey: ["facts", "groups", search, columns, view.by],
    queryFn: () =>
      answer(
        client.GET("/api/payers/groups", {
          params: { query: { ...search, columns, by: view.by ?? "sector" } },
        }),
      ),
    placeholderData: keepPreviousData,
  });
}

export function useSaved() {
  return useQuery({ queryKey: ["saved"], queryFn: () => answer(client.GET("/api/saved")) });
}

export function useSave() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (body: Schemas["SavedIn"]) => answer(client.PUT("/api/saved", { body })),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["saved"] }),
  });
}

export function useForget() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (id: number) =>
      answer(client.DELETE("/api/saved/{id}", { params: { path: { id } } })),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["saved"] }),
  });
}

/** Has measures made that are missing or stale; again: also after it was cancelled or failed. */
export function useMake(as_of?: string) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (again: boolean) =>
      answer(client.POST("/api/measures", { params: { query: { as_of, again } } })),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["facts", "payers"] }),
  });
}

/** The same once something is still to be made. */
export function useMakePending(pending: number, as_of?: string) {
  const { mutate, isIdle } = useMake(as_of);
  useEffect(() => {
    if (pending > 0 && isIdle) mutate(false);
  }, [pending, isIdle, mutate]);
}

/** A Data Package of these payers, saved as a file. */
export async function exportPayers(keys: { exchange: string; symbol: string }[]) {
  const payers = keys.map((k) => `${k.exchange}/${k.symbol}`);
  saveFile(
    await fetchFile("/api/export", {
      method: "POST",
      headers: { "content-type": "application/json" },
      body: JSON.stringify({ payers }),
    }),
  );
}

/** How many payers yield more than they usually do; asked again while it is being read. The second
 * part begins the task again after it was cancelled. */
export function useBreadth(as_of?: string) {
  const queries = useQueryClient();
  const key = ["facts", "breadth", as_of];
  const found = useQuery({
    queryKey: key,
    queryFn: () => answer(client.GET("/api/breadth", { params: { query: { as_of } } })),
    refetchInterval: (query) => (query.state.data?.job?.state === "running" ? POLL : false),
  });
  const again = () =>
    void answer(client.GET("/api/breadth", { params: { query: { as_of, again: true } } })).then(
      (held) => queries.setQueryData(key, held),
    );
  return [found, again] as const;
}
