/** House rules: as they stand, what a change would do, and its way into a new version. */
import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { answer, client, type Schemas } from "./client";

/** How often an effect is asked for again while measures are being made. */
const POLL = 800;

export type Rules = Schemas["RulesIO"];
export type RulesHeld = Schemas["HouseRulesOut"];
export type Tested = Schemas["TestedOut"];
export type Limit = Schemas["LimitIO"];
export type KindName = Schemas["KindOut"]["id"];
export type Exemption = Schemas["ExemptionIO"];

export function useHouseRules(as_of?: string) {
  return useQuery({
    queryKey: ["facts", "rules", as_of],
    queryFn: () => answer(client.GET("/api/house-rules", { params: { query: { as_of } } })),
    placeholderData: keepPreviousData,
  });
}

/** What rules that are not saved yet would change; asked while they are typed. */
export function useEffectOf(rules: Rules | null, as_of?: string) {
  return useQuery({
    queryKey: ["facts", "rules", "preview", as_of, rules],
    queryFn: ({ signal }) =>
      answer(
        client.POST("/api/house-rules/preview", {
          params: { query: { as_of } },
          body: rules as Rules,
          signal,
        }),
      ),
    enabled: rules !== null,
    placeholderData: keepPreviousData,
    refetchInterval: (query) => ((query.state.data?.pending ?? 0) > 0 ? POLL : false),
  });
}

/** What rules that are not saved yet would do to what payers are worth. */
export function usePriceEffectOf(rules: Rules | null, as_of?: string) {
  return useQuery({
    queryKey: ["facts", "rules", "prices", as_of, rules],
    queryFn: ({ signal }) =>
      answer(
        client.POST("/api/house-rules/preview-prices", {
          params: { query: { as_of } },
          body: rules as Rules,
          signal,
        }),
      ),
    enabled: rules !== null,
    placeholderData: keepPreviousData,
  });
}

/** onDone: at once, before what stands is asked for anew. */
export function useSaveRules(onDone: () => void) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (body: Schemas["RulesIn"]) => answer(client.PUT("/api/house-rules", { body })),
    onSuccess: onDone,
    onSettled: () => queries.invalidateQueries(),
  });
}

export function useRestoreRules(onDone: () => void) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (version: number) =>
      answer(client.POST("/api/house-rules/{version}/restore", { params: { path: { version } } })),
    onSuccess: () => {
      onDone();
      return queries.invalidateQueries();
    },
  });
}

/** Looking back: whether it was done on these facts, and the task that does it. */
export function useLookBack(as_of?: string) {
  return useQuery({
    queryKey: ["facts", "look-back", as_of],
    queryFn: () => answer(client.GET("/api/look-back", { params: { query: { as_of } } })),
  });
}

export function useStartLookBack(as_of?: string) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: () => answer(client.POST("/api/look-back", { params: { query: { as_of } } })),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["facts", "look-back"] }),
  });
}

export function useVerdict(rules: Rules, ready: boolean, as_of?: string) {
  return useQuery({
    queryKey: ["facts", "look-back", "verdict", as_of, rules],
    queryFn: ({ signal }) =>
      answer(
        client.POST("/api/look-back/verdict", {
          params: { query: { as_of } },
          body: rules,
          signal,
        }),
      ),
    enabled: ready,
    placeholderData: keepPreviousData,
  });
}

export function useCurve(
  rules: Rules,
  measure: string,
  kind: KindName,
  ready: boolean,
  as_of?: string,
) {
  return useQuery({
    queryKey: ["facts", "look-back", "curve", as_of, rules, measure, kind],
    queryFn: ({ signal }) =>
      answer(
        client.POST("/api/look-back/curve", {
          params: { query: { as_of } },
          body: { rules, measure, kind },
          signal,
        }),
      ),
    enabled: ready,
    placeholderData: keepPreviousData,
  });
}
