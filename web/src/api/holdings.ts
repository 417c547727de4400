/** What the person owns: positions, accounts and what is entered in them. */
import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { answer, client, type Schemas } from "./client";
import type { PayerKey } from "./hooks";
import type { Question } from "./question";

export type Holdings = Schemas["HoldingsOut"];
export type Position = Schemas["PositionOut"];
export type Group = Schemas["HeldGroupOut"];
export type Account = Schemas["AccountOut"];
export type Entry = Schemas["EntryOut"];
type Whole = Schemas["EntryIn"];
/** What is not said is as the server has it. */
export type EntryIn = Pick<Whole, "account" | "kind" | "day"> & Partial<Whole>;
export type KindOfEntry = Schemas["EntryKindOut"];
export type EntryField = Schemas["EntryFieldOut"];
export const GROUPINGS = [
  "payer",
  "account",
  "sector",
  "country",
  "currency",
  "kind",
  "state",
] as const;
export type Grouping = (typeof GROUPINGS)[number];

/** Milliseconds until it is looked for again whether measures are made. */
const AGAIN = 1500;

export function useHoldings(by: Grouping, as_of?: string) {
  return useQuery({
    queryKey: ["facts", "ledger", "holdings", by, as_of],
    queryFn: () => answer(client.GET("/api/holdings", { params: { query: { by, as_of } } })),
    placeholderData: keepPreviousData,
    refetchInterval: ({ state }) => ((state.data?.pending ?? 0) > 0 ? AGAIN : false),
  });
}

/** What is held of one payer, and what the sum that is asked would make of it. */
export const useHeldOf = (payer: PayerKey, question: Question) =>
  useQuery({
    queryKey: ["facts", "held", payer, question, "ledger"],
    queryFn: () =>
      answer(
        client.GET("/api/payers/{exchange}/{symbol}/held", {
          params: { path: payer, query: question },
        }),
      ),
    placeholderData: keepPreviousData,
  });

export interface EntriesAsked {
  account?: number;
  kind?: Schemas["EntryIn"]["kind"];
  exchange?: string;
  symbol?: string;
  first?: number;
  as_of?: string;
}

export function useEntries({ kind, ...asked }: EntriesAsked) {
  const query = { ...asked, kind: kind ? [kind] : undefined };
  return useQuery({
    queryKey: ["facts", "ledger", "entries", query],
    queryFn: () => answer(client.GET("/api/entries", { params: { query } })),
    placeholderData: keepPreviousData,
  });
}

export type Income = Schemas["IncomeOut"];
export type Due = Schemas["DueOut"];

export function useIncome(tax: "after" | "before", since?: string, as_of?: string) {
  return useQuery({
    queryKey: ["facts", "ledger", "income", tax, since, as_of],
    queryFn: () =>
      answer(client.GET("/api/holdings/income", { params: { query: { tax, since, as_of } } })),
    placeholderData: keepPreviousData,
  });
}

export type Year = Schemas["HouseholdYearOut"];

export function useYear(year: number | undefined, as_of?: string) {
  return useQuery({
    queryKey: ["facts", "ledger", "year", year, as_of],
    queryFn: () => answer(client.GET("/api/holdings/year", { params: { query: { year, as_of } } })),
    placeholderData: keepPreviousData,
  });
}

export interface LotsAsked {
  account: string;
  exchange: string;
  symbol: string;
  on: string;
  without: number | null;
}

/** What a sale or a transfer of a day can take. */
export function useLotsToChoose({ account, on, without, ...of }: LotsAsked, wanted: boolean) {
  const query = { ...of, day: on, without: without ?? undefined };
  return useQuery({
    queryKey: ["facts", "ledger", "lots", account, query],
    enabled: wanted && account !== "" && of.symbol !== "" && on !== "",
    queryFn: () =>
      answer(
        client.GET("/api/accounts/{id}/lots", {
          params: { path: { id: Number(account) }, query },
        }),
      ),
  });
}

/** What an entry said before it was changed. */
export function useFormer(id: number) {
  return useQuery({
    queryKey: ["facts", "ledger", "former", id],
    queryFn: () => answer(client.GET("/api/entries/{id}/former", at(id))),
  });
}

export function useEntryKinds() {
  return useQuery({
    queryKey: ["entry-kinds"],
    queryFn: () => answer(client.GET("/api/entry-kinds")),
    staleTime: Number.POSITIVE_INFINITY,
  });
}

/** What a line of words says, once asked. */
export const readLine = (text: string) =>
  answer(client.GET("/api/entry-line", { params: { query: { text } } }));

/** A change of the ledger; all that rests on it is asked again. */
function useLedger<Said, Told>(mutationFn: (said: Said) => Promise<Told>) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn,
    onSuccess: () =>
      queries.invalidateQueries({ predicate: (query) => query.queryKey.includes("ledger") }),
  });
}

const at = (id: number) => ({ params: { path: { id } } });

export type PaidTable = Schemas["IncomePaidOut"];

/** What came in a year, or comes in the next twelve months, by month and payer. */
export function usePaid(
  tax: "after" | "before",
  year: number | undefined,
  real: boolean,
  as_of?: string,
) {
  return useQuery({
    queryKey: ["facts", "ledger", "paid", tax, year, real, as_of],
    queryFn: () =>
      answer(
        client.GET("/api/holdings/income/paid", { params: { query: { tax, year, real, as_of } } }),
      ),
    placeholderData: keepPreviousData,
  });
}

/** Says why a payment did not come as due; empty words take it back. */
export const useExplain = () =>
  useLedger((body: Schemas["ExplainIn"]) => answer(client.PUT("/api/holdings/due", { body })));

/** id: of the entry that is changed; null adds one. */
export const useKeepEntry = () =>
  useLedger(async ({ id, body }: { id: number | null; body: EntryIn }) =>
    id === null
      ? answer(client.POST("/api/entries", { body: body as Whole }))
      : answer(client.PUT("/api/entries/{id}", { ...at(id), body: body as Whole })),
  );

export const useDeleteEntry = () =>
  useLedger(({ id, ask }: { id: number; ask: boolean }) =>
    answer(client.DELETE("/api/entries/{id}", { params: { path: { id }, query: { ask } } })),
  );

export const usePutBackEntry = () =>
  useLedger((id: number) => answer(client.POST("/api/entries/{id}/restore", at(id))));

/** id: of the account that is changed; null opens one. */
export const useKeepAccount = () =>
  useLedger(async ({ id, body }: { id: number | null; body: Schemas["AccountIn"] }) =>
    id === null
      ? answer(client.POST("/api/accounts", { body }))
      : answer(client.PUT("/api/accounts/{id}", { ...at(id), body })),
  );

/** The currency in which sums stand. */
export const useSetHome = () =>
  useLedger((currency: string) => answer(client.PUT("/api/home-currency", { body: { currency } })));

export const useDeleteAccount = () =>
  useLedger((id: number) => answer(client.DELETE("/api/accounts/{id}", at(id))));

export const usePutBackAccount = () =>
  useLedger((id: number) => answer(client.POST("/api/accounts/{id}/restore", at(id))));
