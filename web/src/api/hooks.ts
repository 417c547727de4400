import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { answer, client, Refusal, type Schemas } from "./client";
import type { Question } from "./question";

export interface PayerKey {
  exchange: string;
  symbol: string;
}

export function useStatus(as_of?: string) {
  return useQuery({
    queryKey: ["facts", "status", as_of],
    queryFn: () => answer(client.GET("/api/status", { params: { query: { as_of } } })),
    placeholderData: keepPreviousData,
  });
}

export function useNames(q: string, enabled: boolean) {
  return useQuery({
    queryKey: ["facts", "names", q],
    queryFn: () => answer(client.GET("/api/names", { params: { query: { q } } })),
    placeholderData: keepPreviousData,
    enabled,
  });
}

/** The answer before stays in sight while the next one comes, but never that of another payer. */
const isOf = (payer: PayerKey | null, asked?: { queryKey: readonly unknown[] }) =>
  JSON.stringify(asked?.queryKey[2]) === JSON.stringify(payer);

export function useReview(payer: PayerKey, query: Question) {
  return useQuery({
    queryKey: ["facts", "review", payer, query],
    queryFn: () =>
      answer(
        client.GET("/api/payers/{exchange}/{symbol}/review", { params: { path: payer, query } }),
      ),
    placeholderData: (last, asked) => (isOf(payer, asked) ? last : undefined),
  });
}

export function useWorth(payer: PayerKey, query: Question) {
  return useQuery({
    queryKey: ["facts", "worth", payer, query],
    queryFn: ({ signal }) =>
      answer(
        client.GET("/api/payers/{exchange}/{symbol}/worth", {
          params: { path: payer, query },
          signal,
        }),
      ),
    placeholderData: (last, asked) => (isOf(payer, asked) ? last : undefined),
    retry: false,
  });
}

export function useAim(payer: PayerKey, query: Question) {
  return useQuery({
    queryKey: ["facts", "aim", payer, query],
    queryFn: ({ signal }) => askAim(payer, query, signal),
    placeholderData: (last, asked) => (isOf(payer, asked) ? last : undefined),
    retry: false,
  });
}

export function askAim(payer: PayerKey, query: Question, signal?: AbortSignal) {
  return answer(
    client.GET("/api/payers/{exchange}/{symbol}/aim", { params: { path: payer, query }, signal }),
  );
}

export function useWorking(
  payer: PayerKey | null,
  query: Question & { key: string; path?: string },
) {
  return useQuery({
    queryKey: ["facts", "working", payer, query],
    queryFn: () =>
      answer(
        client.GET("/api/payers/{exchange}/{symbol}/working", {
          params: { path: payer as PayerKey, query },
        }),
      ),
    enabled: payer !== null,
    placeholderData: (last, asked) => (isOf(payer, asked) ? last : undefined),
    retry: false,
  });
}

export function useDecisions(payer: PayerKey, as_of?: string) {
  return useQuery({
    queryKey: ["decisions", payer, as_of],
    queryFn: () =>
      answer(
        client.GET("/api/payers/{exchange}/{symbol}/decisions", {
          params: { path: payer, query: { as_of } },
        }),
      ),
  });
}

export function useDecide(payer: PayerKey) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (body: Schemas["DecisionIn"]) =>
      answer(
        client.POST("/api/payers/{exchange}/{symbol}/decisions", { params: { path: payer }, body }),
      ),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["decisions"] }),
  });
}

export function useWithdraw() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: ({ id, back }: { id: number; back: boolean }) =>
      back
        ? answer(client.POST("/api/decisions/{id}/restore", { params: { path: { id } } }))
        : answer(client.DELETE("/api/decisions/{id}", { params: { path: { id } } })),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["decisions"] }),
  });
}

export function useSources() {
  return useQuery({
    queryKey: ["facts", "sources"],
    queryFn: () => answer(client.GET("/api/sources")),
  });
}

export function usePreview() {
  return useMutation({
    mutationFn: (files: File[]) => {
      const form = new FormData();
      for (const file of files) form.append("files", file);
      return answer(
        client.POST("/api/imports/preview", {
          body: form as never,
          bodySerializer: (body: unknown) => body as FormData,
        }),
      );
    },
  });
}

export function useCommit() {
  return useMutation({
    mutationFn: (body: Schemas["CommitIn"]) => answer(client.POST("/api/imports", { body })),
  });
}

/** The program was started again meanwhile and knows nothing of the task. */
const isGone = (error: Error) => error instanceof Refusal && error.problem.status === 404;

export function useJob(id: string | null) {
  const queries = useQueryClient();
  return useQuery({
    queryKey: ["job", id],
    queryFn: async () => {
      const job = await answer(
        client.GET("/api/jobs/{id}", { params: { path: { id: id as string } } }),
      );
      if (job.state === "done") {
        await queries.invalidateQueries({ predicate: (query) => query.queryKey[0] !== "job" });
      }
      return job;
    },
    enabled: id !== null,
    retry: false,
    refetchInterval: (query) => {
      if (query.state.error) return isGone(query.state.error) ? false : 2000;
      return query.state.data?.state === "running" ? 250 : false;
    },
  });
}

export function useRestore() {
  return useMutation({
    mutationFn: (file: File) => {
      const form = new FormData();
      form.append("file", file);
      return answer(
        client.POST("/api/restore", {
          body: form as never,
          bodySerializer: (body: unknown) => body as FormData,
        }),
      );
    },
  });
}

export const cancelJob = (id: string) =>
  answer(client.DELETE("/api/jobs/{id}", { params: { path: { id } } }));

export function useUndo() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (id: number) =>
      answer(client.POST("/api/imports/{id}/undo", { params: { path: { id } } })),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["facts"] }),
  });
}
