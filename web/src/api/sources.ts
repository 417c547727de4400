/** What the Sources place, and adjusting anywhere, ask of the API. */
import {
  keepPreviousData,
  useMutation,
  useQueries,
  useQuery,
  useQueryClient,
} from "@tanstack/react-query";
import { useRef } from "react";
import { answer, client, type Schemas } from "./client";
import type { PayerKey } from "./hooks";

export type PayerCoverage = Schemas["PayerCoverageOut"];
export type Held = Schemas["HeldOut"];
export type Edit = Schemas["EditOut"];
export type FactRow = Schemas["FactRowOut"];
export type Facts = Schemas["FactsOut"];
export type SeriesHeld = Schemas["SeriesOut"];
export type Column = Schemas["ColumnOut"];
export type Fault = Schemas["FaultOut"];
export type PreviewOut = Schemas["PreviewOut"];
export type TypedFacts = Schemas["TypedFactsIn"];

/** Everything computed from facts is asked for anew. */
function useFactsChanged() {
  const queries = useQueryClient();
  return () =>
    queries.invalidateQueries({
      predicate: (q) => ["facts", "decisions"].includes(String(q.queryKey[0])),
    });
}

/** So many payers are asked for at once: as many as a screen shows. */
export const COVERAGE_WINDOW = 28;

/** The windows in sight, and how many payers there are. */
export function useCoverage(q: string, windows: number[]) {
  const found = useQueries({
    queries: windows.map((w) => ({
      queryKey: ["facts", "coverage", q, w],
      queryFn: () =>
        answer(
          client.GET("/api/coverage", {
            params: { query: { q, first: w * COVERAGE_WINDOW, count: COVERAGE_WINDOW } },
          }),
        ),
    })),
  });
  const byWindow = new Map(windows.map((w, i) => [w, found[i]?.data]));
  const known = useRef<{ q: string; found: number }>(undefined);
  const now = found.find((f) => f.data)?.data?.found;
  if (now !== undefined) known.current = { q, found: now };
  return {
    found: now ?? (known.current?.q === q ? known.current.found : undefined),
    rowAt: (place: number) =>
      byWindow.get(Math.floor(place / COVERAGE_WINDOW))?.rows[place % COVERAGE_WINDOW],
    error: found.find((f) => f.error)?.error ?? null,
  };
}

export function useReport(id: number, enabled: boolean) {
  return useQuery({
    queryKey: ["facts", "report", id],
    queryFn: () => answer(client.GET("/api/sources/{id}/report", { params: { path: { id } } })),
    enabled,
  });
}

/** While more rows of a table are on their way the ones there stay; another table's never do. */
export function useFacts(payer: PayerKey, table: string, count: number, span?: string, first = 0) {
  const whose = `${payer.exchange}/${payer.symbol}/${table}/${span ?? ""}`;
  return useQuery({
    queryKey: ["facts", "rows", whose, count, first],
    queryFn: () =>
      answer(
        client.GET("/api/payers/{exchange}/{symbol}/facts/{table}", {
          params: { path: { ...payer, table }, query: { count, span, first } },
        }),
      ),
    placeholderData: (before, query) => (query?.queryKey[2] === whose ? before : undefined),
  });
}

export function useSeries() {
  return useQuery({
    queryKey: ["facts", "series"],
    queryFn: () => answer(client.GET("/api/series")),
  });
}

/** Points of one series; of none while no code is given. */
export function usePoints(code: string, count: number, first = 0) {
  return useQuery({
    queryKey: ["facts", "points", code, count, first],
    queryFn: () =>
      answer(
        client.GET("/api/series/{code}", { params: { path: { code }, query: { count, first } } }),
      ),
    enabled: code !== "",
    placeholderData: (before, query) => (query?.queryKey[2] === code ? before : undefined),
  });
}

export function useSlumps() {
  return useQuery({
    queryKey: ["facts", "slumps"],
    queryFn: () => answer(client.GET("/api/slumps")),
  });
}

export function useColumns(table: string) {
  return useQuery({
    queryKey: ["formats", table],
    queryFn: () => answer(client.GET("/api/formats/{table}", { params: { path: { table } } })),
    enabled: table !== "",
  });
}

export function useTypedPreview(entry: TypedFacts | null) {
  return useQuery({
    queryKey: ["facts", "entry", entry],
    queryFn: () => answer(client.POST("/api/typed-facts/preview", { body: entry as TypedFacts })),
    enabled: entry !== null,
    placeholderData: keepPreviousData,
    retry: false,
  });
}

interface Pasted {
  table: string;
  payer: PayerKey | null;
  text: string;
  html: string;
  unit: string;
}

/** What pasted cells say of a table, by their own headings. */
export function useReadPasted() {
  return useMutation({
    mutationFn: ({ payer, ...body }: Pasted) =>
      answer(
        client.POST("/api/typed-facts/read", {
          body: { ...body, payer: payer ? `${payer.exchange}/${payer.symbol}` : "" },
        }),
      ),
  });
}

/** What a file may look like, by example. */
export function useTemplates() {
  return useQuery({
    queryKey: ["templates"],
    queryFn: () => answer(client.GET("/api/templates")),
    staleTime: Number.POSITIVE_INFINITY,
  });
}

/** The exchange, country and currency that most stored payers have. */
export function useUsualPayer() {
  const found = useQuery({
    queryKey: ["facts", "usual"],
    queryFn: () => answer(client.GET("/api/payers-usual")),
  });
  return found.data ?? {};
}

export function useEnter() {
  const changed = useFactsChanged();
  return useMutation({
    mutationFn: (body: TypedFacts) => answer(client.POST("/api/typed-facts", { body })),
    onSuccess: changed,
  });
}

export function useEdits() {
  return useQuery({
    queryKey: ["facts", "edits"],
    queryFn: () => answer(client.GET("/api/edits")),
  });
}

export function useEdit(payer: PayerKey) {
  const changed = useFactsChanged();
  return useMutation({
    mutationFn: (body: Schemas["EditIn"]) =>
      answer(
        client.POST("/api/payers/{exchange}/{symbol}/edits", {
          params: { path: payer },
          body,
        }),
      ),
    onSuccess: changed,
  });
}

export function useExcludeYear(payer: PayerKey) {
  const changed = useFactsChanged();
  return useMutation({
    mutationFn: (body: Schemas["ExcludedYearIn"]) =>
      answer(
        client.POST("/api/payers/{exchange}/{symbol}/excluded-years", {
          params: { path: payer },
          body,
        }),
      ),
    onSuccess: changed,
  });
}

export function useExclude(payer: PayerKey) {
  const changed = useFactsChanged();
  return useMutation({
    mutationFn: (body: Schemas["ExclusionIn"]) =>
      answer(
        client.POST("/api/payers/{exchange}/{symbol}/exclusions", {
          params: { path: payer },
          body,
        }),
      ),
    onSuccess: changed,
  });
}

/** Takes an edit back, or lets it count again. */
export function useTakeBack() {
  const changed = useFactsChanged();
  return useMutation({
    mutationFn: ({ id, again }: { id: number; again: boolean }) => {
      const params = { path: { id } };
      return again
        ? answer(client.POST("/api/edits/{id}/restore", { params }))
        : answer(client.DELETE("/api/edits/{id}", { params }));
    },
    onSuccess: changed,
  });
}
