import {
  keepPreviousData,
  useMutation,
  useQueries,
  useQuery,
  useQueryClient,
} from "@tanstack/react-query";
import { answer, client, Refusal, type Review, type Schemas } from "./client";
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

/** The first payer that each of several words calls, where there is one; none until all words are answered. */
export function useFirstNames(words: string[]) {
  const found = useQueries({
    queries: words.map((q) => ({
      queryKey: ["facts", "names", q],
      queryFn: () => answer(client.GET("/api/names", { params: { query: { q } } })),
    })),
  });
  return found.every((f) => f.data) ? found.flatMap((f) => f.data?.[0] ?? []) : [];
}

/** The answer before stays in sight while the next one comes, but never that of another payer. */
const isOf = (payer: PayerKey | null, asked?: { queryKey: readonly unknown[] }) =>
  JSON.stringify(asked?.queryKey[2]) === JSON.stringify(payer);

export type Ask<T> = (path: PayerKey, query: Question, signal: AbortSignal) => Promise<T>;

/** What is asked of one payer. */
export function usePayer<T>(
  name: string,
  ask: Ask<T>,
  payer: PayerKey,
  query: Question,
  enabled = true,
) {
  return useQuery({
    queryKey: ["facts", name, payer, query],
    queryFn: ({ signal }) => ask(payer, query, signal),
    placeholderData: (last, asked) => (isOf(payer, asked) ? last : undefined),
    enabled,
  });
}

const askReview: Ask<Review> = (path, query, signal) =>
  answer(client.GET("/api/payers/{exchange}/{symbol}/review", { params: { path, query }, signal }));
const askRecord: Ask<Schemas["RecordSeries"]> = (path, query, signal) =>
  answer(client.GET("/api/payers/{exchange}/{symbol}/record", { params: { path, query }, signal }));
const askPayments: Ask<Schemas["PaymentsSeries"]> = (path, query, signal) =>
  answer(
    client.GET("/api/payers/{exchange}/{symbol}/record/payments", {
      params: { path, query },
      signal,
    }),
  );
const askCover: Ask<Schemas["CoverSeries"]> = (path, query, signal) =>
  answer(client.GET("/api/payers/{exchange}/{symbol}/cover", { params: { path, query }, signal }));
const askUses: Ask<Schemas["UsesSeries"]> = (path, query, signal) =>
  answer(
    client.GET("/api/payers/{exchange}/{symbol}/cover/uses", { params: { path, query }, signal }),
  );
const askBridge: Ask<Schemas["BridgeSeries"]> = (path, query, signal) =>
  answer(
    client.GET("/api/payers/{exchange}/{symbol}/cover/bridge", { params: { path, query }, signal }),
  );
const askRange: Ask<Schemas["RangeSeries"]> = (path, query, signal) =>
  answer(client.GET("/api/payers/{exchange}/{symbol}/range", { params: { path, query }, signal }));
const FOOTING = "/api/payers/{exchange}/{symbol}/footing";
const askFooting: Ask<Schemas["FootingOut"]> = (path, query, signal) =>
  answer(client.GET(FOOTING, { params: { path, query }, signal }));
const askBalance: Ask<Schemas["BalanceSeries"]> = (path, query, signal) =>
  answer(client.GET(`${FOOTING}/balance`, { params: { path, query }, signal }));
const askBusiness: Ask<Schemas["BusinessSeries"]> = (path, query, signal) =>
  answer(client.GET(`${FOOTING}/business`, { params: { path, query }, signal }));
const askLines: Ask<Schemas["LinesSeries"]> = (path, query, signal) =>
  answer(client.GET(`${FOOTING}/lines`, { params: { path, query }, signal }));
const askParts: Ask<Schemas["PartsSeries"]> = (path, query, signal) =>
  answer(client.GET(`${FOOTING}/parts`, { params: { path, query }, signal }));
const askNewest: Ask<Schemas["NewestSeries"]> = (path, query, signal) =>
  answer(client.GET(`${FOOTING}/newest`, { params: { path, query }, signal }));
const askSlumps: Ask<Schemas["SlumpsSeries"]> = (path, query, signal) =>
  answer(client.GET(`${FOOTING}/slumps`, { params: { path, query }, signal }));
const askEstimates: Ask<Schemas["EstimatesOut"]> = (path, query, signal) =>
  answer(
    client.GET("/api/payers/{exchange}/{symbol}/cover/estimates", {
      params: { path, query },
      signal,
    }),
  );
const askStrain: Ask<Schemas["StrainOut"] | Schemas["NoStrainOut"]> = (path, query, signal) =>
  answer(client.GET("/api/payers/{exchange}/{symbol}/strain", { params: { path, query }, signal }));
const askWorth: Ask<Schemas["WorthAnswer"]> = (path, query, signal) =>
  answer(client.GET("/api/payers/{exchange}/{symbol}/worth", { params: { path, query }, signal }));
const askOpinions: Ask<Schemas["OpinionsSeries"]> = (path, query, signal) =>
  answer(
    client.GET("/api/payers/{exchange}/{symbol}/worth/opinions", {
      params: { path, query },
      signal,
    }),
  );
const askOutlay = (path: PayerKey, query: Question, signal?: AbortSignal) =>
  answer(client.GET("/api/payers/{exchange}/{symbol}/outlay", { params: { path, query }, signal }));
export const askAim = (path: PayerKey, query: Question, signal?: AbortSignal) =>
  answer(client.GET("/api/payers/{exchange}/{symbol}/aim", { params: { path, query }, signal }));

export const useReview = (payer: PayerKey, query: Question) =>
  usePayer("review", askReview, payer, query);

/** What a stage draws beside its figures; the stage asks for it itself. */
export const useRecord = (payer: PayerKey, query: Question) =>
  usePayer("record", askRecord, payer, query);
export const usePayments = (payer: PayerKey, query: Question) =>
  usePayer("payments", askPayments, payer, query);
export const useCover = (payer: PayerKey, query: Question) =>
  usePayer("cover", askCover, payer, query);
export const useUses = (payer: PayerKey, query: Question) =>
  usePayer("uses", askUses, payer, query);
export const useBridge = (payer: PayerKey, query: Question) =>
  usePayer("bridge", askBridge, payer, query);
export const useRange = (payer: PayerKey, query: Question) =>
  usePayer("range", askRange, payer, query);
export const useOpinions = (payer: PayerKey, query: Question) =>
  usePayer("opinions", askOpinions, payer, query);
export const useFooting = (payer: PayerKey, query: Question) =>
  usePayer("footing", askFooting, payer, query);
export const useBalance = (payer: PayerKey, query: Question) =>
  usePayer("balance", askBalance, payer, query);
export const useBusiness = (payer: PayerKey, query: Question) =>
  usePayer("business", askBusiness, payer, query);
export const useLines = (payer: PayerKey, query: Question) =>
  usePayer("lines", askLines, payer, query);
export const useParts = (payer: PayerKey, query: Question) =>
  usePayer("parts", askParts, payer, query);
export const useNewest = (payer: PayerKey, query: Question) =>
  usePayer("newest", askNewest, payer, query);
export const useSlumps = (payer: PayerKey, query: Question) =>
  usePayer("slumps", askSlumps, payer, query);

/** The payer among its sector; asked again while measures of others are being made. */
export function usePeers(payer: PayerKey, query: { as_of?: string }) {
  return useQuery({
    queryKey: ["facts", "peers", payer, query],
    queryFn: ({ signal }) =>
      answer(client.GET(`${FOOTING}/peers`, { params: { path: payer, query }, signal })),
    placeholderData: (last, asked) => (isOf(payer, asked) ? last : undefined),
    refetchInterval: (asked) => ((asked.state.data?.pending ?? 0) > 0 ? PEERS_AGAIN : false),
  });
}
const PEERS_AGAIN = 800;

export const useEstimates = (payer: PayerKey, query: Question) =>
  usePayer("estimates", askEstimates, payer, query);
export const useStrain = (payer: PayerKey, query: Question) =>
  usePayer("strain", askStrain, payer, query);
export const useWorth = (payer: PayerKey, query: Question, enabled = true) =>
  usePayer("worth", askWorth, payer, query, enabled);
export const useOutlay = (payer: PayerKey, query: Question, enabled: boolean) =>
  usePayer("outlay", askOutlay, payer, query, enabled);
export const useAim = (payer: PayerKey, query: Question) => usePayer("aim", askAim, payer, query);

export function useWorking(
  payer: PayerKey | null,
  query: Question & { key: string; path?: string },
) {
  const { key, path, as_of } = query;
  return useQuery({
    queryKey: ["facts", "working", payer, query, "ledger"],
    queryFn: () =>
      payer?.symbol === ""
        ? answer(client.GET("/api/holdings/working", { params: { query: { key, path, as_of } } }))
        : answer(
            client.GET("/api/payers/{exchange}/{symbol}/working", {
              params: { path: payer as PayerKey, query },
            }),
          ),
    enabled: payer !== null,
    placeholderData: (last, asked) => (isOf(payer, asked) ? last : undefined),
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

/** Findings the person disagrees with: their words by stage. */
export function useDisagreements(payer: PayerKey) {
  return useQuery({
    queryKey: ["disagreements", payer],
    queryFn: () =>
      answer(
        client.GET("/api/payers/{exchange}/{symbol}/disagreements", { params: { path: payer } }),
      ),
  });
}

export function useDisagree(payer: PayerKey) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: ({ stage, ...body }: { stage: string; words: string; begun: string }) =>
      answer(
        client.PUT("/api/payers/{exchange}/{symbol}/disagreements/{stage}", {
          params: { path: { ...payer, stage } },
          body,
        }),
      ),
    onSettled: () => queries.invalidateQueries({ queryKey: ["disagreements", payer] }),
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

interface Dropped {
  files: File[];
  settled?: unknown;
  /** A name under which the reading can be looked at, and stopped. */
  task: string;
}

export function usePreview() {
  return useMutation({
    mutationFn: ({ files, settled, task }: Dropped) => {
      const form = new FormData();
      for (const file of files) form.append("files", file);
      if (settled) form.append("settled", JSON.stringify(settled));
      form.append("task", task);
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

/** How far the reading of files is; it is known only while it goes on. */
export function useReading(task: string | null) {
  return useQuery({
    queryKey: ["job", "reading", task],
    queryFn: () =>
      answer(client.GET("/api/jobs/{id}", { params: { path: { id: task as string } } })),
    enabled: task !== null,
    retry: false,
    refetchInterval: 400,
  });
}

/** What the feed has published up to a day comes in; none: up to today. */
export function useFeed() {
  return useMutation({
    mutationFn: (until?: string) =>
      answer(client.POST("/api/feed", { body: { until: until ?? null } })),
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

/** What is often expected of a payer in a decision. */
export function useOftenExpected(payer: PayerKey, as_of?: string) {
  return useQuery({
    queryKey: ["facts", "often-expected", payer, as_of],
    queryFn: () =>
      answer(
        client.GET("/api/payers/{exchange}/{symbol}/often-expected", {
          params: { path: payer, query: { as_of } },
        }),
      ),
  });
}
