/** Cases of Worth kept on a payer. */
import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { answer, client } from "./client";
import type { PayerKey } from "./hooks";
import type { Question } from "./question";

const CASES = "/api/payers/{exchange}/{symbol}/worth/cases";

export function useCases(payer: PayerKey, query: Question) {
  return useQuery({
    queryKey: ["facts", "cases", payer, query],
    queryFn: ({ signal }) => answer(client.GET(CASES, { params: { path: payer, query }, signal })),
    placeholderData: keepPreviousData,
  });
}

export function useKeepCase(payer: PayerKey) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: ({ name, asked }: { name: string; asked: Question }) =>
      answer(client.PUT(CASES, { params: { path: payer, query: asked }, body: { name } })),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["facts", "cases", payer] }),
  });
}

export function useForgetCase(payer: PayerKey) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (id: number) =>
      answer(client.DELETE("/api/worth/cases/{id}", { params: { path: { id } } })),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["facts", "cases", payer] }),
  });
}
