/** The price and its past, other payers beside it, and the lines drawn on it. */
import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { answer, client, type Schemas } from "./client";
import type { PayerKey } from "./hooks";
import type { Question } from "./question";

export type PriceSeries = Schemas["PriceSeries"];
export type PriceLine = Schemas["PriceLineOut"];

const PRICE = "/api/payers/{exchange}/{symbol}/range/price";
const DISTANCE = "/api/payers/{exchange}/{symbol}/range/distance";
const LINES = "/api/payers/{exchange}/{symbol}/range/lines";

export const usePrice = (path: PayerKey, query: Question) =>
  useQuery({
    queryKey: ["facts", "price", path, query],
    queryFn: ({ signal }) => answer(client.GET(PRICE, { params: { path, query }, signal })),
    placeholderData: (held, before) =>
      JSON.stringify(before?.queryKey[2]) === JSON.stringify(path) ? held : undefined,
  });

/** How far the price stood from what is usual. */
export const useDistance = (path: PayerKey, query: Question) =>
  useQuery({
    queryKey: ["facts", "distance", path, query],
    queryFn: ({ signal }) => answer(client.GET(DISTANCE, { params: { path, query }, signal })),
    placeholderData: (held, before) =>
      JSON.stringify(before?.queryKey[2]) === JSON.stringify(path) ? held : undefined,
  });

/** The closes of other payers, EXCHANGE/SYMBOL each. */
export const useCourses = (payers: string[], as_of?: string) =>
  useQuery({
    queryKey: ["facts", "courses", payers, as_of],
    queryFn: ({ signal }) =>
      answer(client.GET("/api/price-courses", { params: { query: { payers, as_of } }, signal })),
    enabled: payers.length > 0,
    placeholderData: keepPreviousData,
    retry: false,
  });

export const useLines = (path: PayerKey, as_of?: string) =>
  useQuery({
    queryKey: ["facts", "price-lines", path, as_of],
    queryFn: () => answer(client.GET(LINES, { params: { path, query: { as_of } } })),
  });

/** Changes of lines go one after the other: a name given while a line still moves is not lost. */
const scope = { id: "price-lines" };

/** A line is drawn, or one that is held becomes another. */
export function useDraw(path: PayerKey, as_of?: string) {
  const queries = useQueryClient();
  return useMutation({
    scope,
    mutationFn: (body: Schemas["PriceLineIn"]) =>
      answer(client.PUT(LINES, { params: { path, query: { as_of } }, body, keepalive: true })),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["facts", "price-lines", path] }),
  });
}

export function useForgetLine(path: PayerKey) {
  const queries = useQueryClient();
  return useMutation({
    scope,
    mutationFn: (id: number) =>
      answer(client.DELETE("/api/price-lines/{id}", { params: { path: { id } } })),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["facts", "price-lines", path] }),
  });
}

const STEPS = "/api/payers/{exchange}/{symbol}/range/entry-steps";

/** Steps to buy in by that are kept on a payer. */
export const useEntrySteps = (path: PayerKey, as_of?: string) =>
  useQuery({
    queryKey: ["facts", "entry-steps", path, as_of],
    queryFn: () => answer(client.GET(STEPS, { params: { path, query: { as_of } } })),
  });

export function useKeepEntryStep(path: PayerKey, as_of?: string) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (body: Schemas["EntryStepIn"]) =>
      answer(client.PUT(STEPS, { params: { path, query: { as_of } }, body })),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["facts", "entry-steps", path] }),
  });
}

export function useForgetEntryStep(path: PayerKey) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (id: number) =>
      answer(client.DELETE("/api/entry-steps/{id}", { params: { path: { id } } })),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["facts", "entry-steps", path] }),
  });
}
