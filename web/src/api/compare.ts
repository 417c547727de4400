/** A few payers side by side. */
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { answer, client, type Schemas } from "./client";

export type Comparison = Schemas["CompareOut"];
export type CompareLine = Schemas["CompareLineOut"];
export type Compared = Schemas["ComparedPayerOut"];
export type Axis = Schemas["AxisOut"];

export function useComparison(payers: string[], lines: string, as_of?: string) {
  return useQuery({
    queryKey: ["facts", "compare", payers, lines, as_of, "ledger"],
    queryFn: () =>
      answer(client.GET("/api/compare", { params: { query: { payer: payers, lines, as_of } } })),
    enabled: payers.length > 0,
    placeholderData: keepPreviousData,
  });
}

export function useCompareSets() {
  return useQuery({
    queryKey: ["compare-sets"],
    queryFn: () => answer(client.GET("/api/compare/sets")),
    staleTime: Number.POSITIVE_INFINITY,
  });
}
