/** Strains kept on a payer, and one strain on every payer. */
import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { answer, client } from "./client";
import type { PayerKey } from "./hooks";

export interface StrainAsked {
  as_of?: string;
  strain?: string;
  strain_part?: string;
}

export function useKeptStrains(payer: PayerKey, as_of?: string) {
  return useQuery({
    queryKey: ["facts", "strains", payer, as_of],
    queryFn: () =>
      answer(
        client.GET("/api/payers/{exchange}/{symbol}/strains", {
          params: { path: payer, query: { as_of } },
        }),
      ),
  });
}

export function useKeepStrain(payer: PayerKey) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: ({ name, asked }: { name: string; asked: StrainAsked }) =>
      answer(
        client.PUT("/api/payers/{exchange}/{symbol}/strains", {
          params: { path: payer, query: asked },
          body: { name },
        }),
      ),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["facts", "strains", payer] }),
  });
}

export function useForgetStrain(payer: PayerKey) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (id: number) =>
      answer(client.DELETE("/api/strains/{id}", { params: { path: { id } } })),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["facts", "strains", payer] }),
  });
}

const WATCH = 400;

/** Every payer under one strain; asked again while it is being made. */
export function useStrainedPayers(asked: StrainAsked) {
  return useQuery({
    queryKey: ["facts", "strained-payers", asked],
    queryFn: () => answer(client.GET("/api/strained-payers", { params: { query: asked } })),
    placeholderData: keepPreviousData,
    refetchInterval: (query) => (query.state.data?.job?.state === "running" ? WATCH : false),
  });
}

export function useStrainEveryPayer(asked: StrainAsked) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: () => answer(client.POST("/api/strained-payers", { params: { query: asked } })),
    onSettled: () => queries.invalidateQueries({ queryKey: ["facts", "strained-payers", asked] }),
  });
}
