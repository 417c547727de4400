/** The state of a view, all of it in the URL: reload, back and a shared link show the same. */
import { useNavigate, useSearch } from "@tanstack/react-router";
import { useCallback } from "react";
import type { Schemas } from "@/api/client";
import { namesOf, type Of, type Part, type Question } from "@/api/question";

type Group = Schemas["GroupIn"];

export const WINDOWS = ["3", "5", "10", "all"] as const;
/** One of them, or two days: "2019-02-04..2020-03-31". */
export type Window = (typeof WINDOWS)[number] | `${string}..${string}`;
const isWindow = (text: string): text is Window =>
  WINDOWS.some((w) => w === text) || /^\d{4}-\d\d-\d\d\.\.\d{4}-\d\d-\d\d$/.test(text);

const NUMBERED = ["aim", "outlay", "outlay_at"] as const;
type InText = Exclude<Part, (typeof NUMBERED)[number] | "window">;
const ASKED = namesOf().filter(
  (name): name is InText => name !== "window" && !NUMBERED.some((n) => n === name),
);

/** What is asked of a review, as the API writes it (api/question.json); some as numbers here. */
interface Asked extends Omit<Partial<Record<Part, string>>, (typeof NUMBERED)[number]> {
  window?: Window;
  aim?: number;
  outlay?: number;
  outlay_at?: number;
}

export interface View extends Asked {
  as_of?: string;
  q?: string;
  /** Conditions on payers, as the API takes them. */
  where?: Group;
  /** The table's columns: a set's name, or measure ids. */
  cols?: string;
  /** The part of Sources, or the table of a payer's facts. */
  tab?: string;
  /** Of statements, the only span of time shown. */
  period?: string;
  /** The series whose points are shown. */
  code?: string;
  /** What the payers are grouped by; nothing: one line each. */
  by?: string;
  sort?: string;
  descending?: boolean;
  /** The stage that is being read. */
  stage?: string;
  /** The view of Record that is shown; nothing: the years. */
  record?: string;
  /** In today's money: dividends of the record, income of a past year. */
  real?: boolean;
  basis?: string;
  /** The view of Cover that is shown; nothing: the payout over the years. */
  cover?: string;
  /** Money in total, where it stands per share else. */
  total?: boolean;
  /** The view of Footing that is shown; nothing: the first in which something is amiss. */
  footing?: string;
  /** The view of Range that is shown; nothing: against its own past. */
  range?: string;
  /** Of the price: its close, with dividends, or against the market. */
  course?: string;
  /** Payers drawn beside it: "EXCHANGE/SYMBOL,…". */
  beside?: string;
  /** The price on a linear scale. */
  linear?: boolean;
  /** Of stored facts: which page of them, from 1. */
  page?: number;
  /** The view of Worth that is shown; nothing: what it is worth. */
  worth?: string;
  /** Peers switched out: "EXCHANGE/SYMBOL,…". */
  peers_out?: string;
  /** The two inputs of the grid. */
  across?: string;
  down?: string;
  /** The payers compared, "EXCHANGE/SYMBOL,…", and the measures with their weights. */
  compared?: string;
  lines?: string;
  /** Of the journal: the only verdict, and the only outcome shown. */
  verdict?: string;
  outcome?: string;
  /** Of Holdings: the payer whose lots are shown, as EXCHANGE/SYMBOL; the entries of one account, of
   * one kind. */
  lots?: string;
  account?: string;
  kind?: string;
  /** The entry that is being written: "new", or its number. */
  entry?: string;
  /** The day from which the change of the income counts; nothing: a year before. */
  since?: string;
  /** The calendar year that is shown. */
  year?: string;
  /** Charts shown as tables, comma-separated. */
  tables?: string;
  /** Payers that are delisted are among those found. */
  delisted?: boolean;
  /** The figure whose working is open: EXCHANGE/SYMBOL/key, and the way down its inputs. */
  open?: string;
  path?: string;
}

const TEXTS = [
  "q",
  "tab",
  "period",
  "code",
  "cols",
  "by",
  "sort",
  "basis",
  "cover",
  "record",
  "footing",
  "range",
  "course",
  "beside",
  "stage",
  "worth",
  "peers_out",
  "across",
  "down",
  "open",
  "path",
  "tables",
  "compared",
  "lines",
  "verdict",
  "outcome",
  "lots",
  "account",
  "kind",
  "entry",
  "since",
  "year",
] as const;

/** Keeps what the URL says in a form the views can use; anything else in it is dropped. */
export function readView(raw: Record<string, unknown>): View {
  const view: View = {};
  for (const name of [...TEXTS, ...ASKED]) {
    const held = raw[name];
    if (held === undefined || held === "") continue;
    // The router reads what looks like JSON; a view holds its text.
    view[name] = typeof held === "object" ? JSON.stringify(held) : String(held);
  }
  for (const name of ["page", ...NUMBERED] as const) {
    const value = Number(raw[name]);
    if (raw[name] !== undefined && raw[name] !== "" && Number.isFinite(value)) view[name] = value;
  }
  if (isGroup(raw.where) && raw.where.parts?.length) view.where = raw.where;
  if (/^\d{4}-\d{2}-\d{2}$/.test(String(raw.as_of))) view.as_of = String(raw.as_of);
  const window = String(raw.window);
  if (isWindow(window)) view.window = window;
  if (raw.real === true) view.real = true;
  if (raw.total === true) view.total = true;
  if (raw.linear === true) view.linear = true;
  if (raw.descending === true) view.descending = true;
  if (raw.delisted === true) view.delisted = true;
  return view;
}

const OPS = ["at_least", "at_most", "is", "is_not", "known", "unknown"];

function isGroup(raw: unknown): raw is Group {
  const group = raw as Group | undefined;
  const join = group?.join;
  if ((join !== "all" && join !== "any") || !Array.isArray(group?.parts)) return false;
  return group.parts.every((part) =>
    "join" in part ? isGroup(part) : typeof part.id === "string" && OPS.includes(part.op),
  );
}

/** The parts of a view that say which payers stand in the table, and how. */
export function listOf(view: View): View {
  const { as_of, q, where, cols, by, sort, descending, delisted } = view;
  return { as_of, q, where, cols, by, sort, descending, delisted };
}

/** replace: the change is one of many in a row (typing, dragging), and no step for Back. */
export type Change = (change: Partial<View>, how?: { replace?: boolean }) => void;

/** A way to change parts of the view, without following it; undefined takes a part out. */
export function useChange(): Change {
  const navigate = useNavigate();
  return useCallback(
    (part, how = {}) =>
      void navigate({
        to: ".",
        search: ((before: View) => ({ ...before, ...part })) as never,
        replace: how.replace ?? false,
        resetScroll: false,
      }),
    [navigate],
  );
}

/** The current view and a way to change parts of it. */
export function useView(): [View, Change] {
  return [useSearch({ strict: false }) as View, useChange()];
}

/** What is asked for one figure alone, beside what the view asks. */
export type AskedOfOne = Pick<Question, "span" | "reach">;

/** How the URL names a figure whose working is open; a symbol may hold a slash. */
export function openKey(
  payer: { exchange: string; symbol: string },
  key: string,
  asked: AskedOfOne = {},
) {
  const parts = Object.entries(asked).map(([name, text]) => `?${name}=${text}`);
  return `${payer.exchange}/${encodeURIComponent(payer.symbol)}/${key}${parts.join("")}`;
}

export function readOpen(open: string | undefined) {
  const [exchange = "", symbol = "", ...rest] = (open ?? "").split("/");
  const asked: AskedOfOne = {};
  const key = rest.join("/").replace(/\?(span|reach)=([^?]*)/g, (_, name, text) => {
    asked[name as keyof AskedOfOne] = text;
    return "";
  });
  return { payer: { exchange, symbol: decoded(symbol) }, key, asked };
}

function decoded(text: string): string {
  try {
    return decodeURIComponent(text);
  } catch {
    return text;
  }
}

/** What Worth depends on. */
export const WORTH_PARTS: readonly Of[] = ["review", "ruler", "worth"];

/** What the API is asked for a review: the parts of the view that change its figures, or those of
 * them that change these. */
export function questionOf(view: View, of?: readonly Of[]): Question {
  const asked: Question = { as_of: view.as_of };
  for (const name of namesOf(of)) asked[name] = view[name]?.toString();
  return asked;
}

/** What the view becomes where a question that was kept is asked in the place of its own, in these
 * of its parts. */
export function viewOf(question: Record<string, string>, of: readonly Of[]): Partial<View> {
  const none = Object.fromEntries(namesOf(of).map((name) => [name, undefined]));
  return { ...none, ...readView(question) };
}
