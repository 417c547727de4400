import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { answer, client, type Schemas } from "./client";
import { type Ask, type PayerKey, usePayer } from "./hooks";
import type { Question } from "./question";

const AGAIN = 1000;
const WORTH = "/api/payers/{exchange}/{symbol}/worth";
const askTrials: Ask<Schemas["TrialsSeries"]> = (path, query, signal) =>
  answer(client.GET(`${WORTH}/trials`, { params: { path, query }, signal }));
const askChance: Ask<Schemas["ChanceSeries"]> = (path, query, signal) =>
  answer(client.GET(`${WORTH}/chance`, { params: { path, query }, signal }));
const askGrid: Ask<Schemas["GridSeries"] | null> = (path, query, signal) =>
  answer(client.GET(`${WORTH}/grid`, { params: { path, query }, signal }));

const askPath: Ask<Schemas["PathSeries"]> = (path, query, signal) =>
  answer(client.GET(`${WORTH}/path`, { params: { path, query }, signal }));

/** What others pay for its peers; asked again while measures of others are being made. */
export function usePeersWorth(payer: PayerKey, query: Question & { out?: string }) {
  return useQuery({
    queryKey: ["facts", "peers-worth", payer, query],
    queryFn: ({ signal }) =>
      answer(client.GET(`${WORTH}/peers`, { params: { path: payer, query }, signal })),
    placeholderData: keepPreviousData,
    refetchInterval: (held) => (held.state.data?.pending ? AGAIN : false),
  });
}

/** What moves the combined value, and what the price takes for granted. */
export const useTrials = (payer: PayerKey, query: Question) =>
  usePayer("trials", askTrials, payer, query);
export const useChance = (payer: PayerKey, query: Question) =>
  usePayer("chance", askChance, payer, query);
/** What holding the shares to a chosen year would return. */
export const usePath = (payer: PayerKey, query: Question) =>
  usePayer("path", askPath, payer, query);
export const useGrid = (payer: PayerKey, query: Question & { across?: string; down?: string }) =>
  usePayer("grid", askGrid, payer, query);
