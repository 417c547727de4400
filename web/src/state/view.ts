/** The state of a view, all of it in the URL: reload, back and a shared link show the same. */
import { useNavigate, useSearch } from "@tanstack/react-router";
import { useCallback } from "react";
import type { Schemas } from "@/api/client";
import type { Question } from "@/api/question";

type Group = Schemas["GroupIn"];

export const WINDOWS = ["3", "5", "10", "all"] as const;
/** One of them, or two days: "2019-02-04..2020-03-31". */
export type Window = (typeof WINDOWS)[number] | `${string}..${string}`;
const isWindow = (text: string): text is Window =>
  WINDOWS.some((w) => w === text) || /^\d{4}-\d\d-\d\d\.\.\d{4}-\d\d-\d\d$/.test(text);

export interface View {
  as_of?: string;
  q?: string;
  /** Conditions on payers, as the API takes them. */
  where?: Group;
  /** The table's columns: a set's name, or measure ids. */
  cols?: string;
  /** The part of Sources, or the table of a payer's facts. */
  tab?: string;
  /** Of statements, the only span shown. */
  span?: string;
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
  real?: boolean;
  basis?: string;
  /** The view of Cover that is shown; nothing: the payout over the years. */
  cover?: string;
  /** Money in total, where it stands per share else. */
  total?: boolean;
  /** The view of Footing that is shown; nothing: the first in which something is amiss. */
  footing?: string;
  window?: Window;
  /** What the ruler shows; nothing: the yield. */
  quantity?: string;
  /** What stands for its usual value, mean or median; nothing: as the quantity has it. */
  typical?: string;
  /** The view of Range that is shown; nothing: against its own past. */
  range?: string;
  /** Of the price: two days, "2019-02-04..2020-03-31". */
  between?: string;
  /** Of the price: its close, with dividends, or against the market. */
  course?: string;
  /** Payers drawn beside it: "EXCHANGE/SYMBOL,…". */
  beside?: string;
  /** The price on a linear scale. */
  linear?: boolean;
  /** The two years that keeping pace is told from: "1997,2016". */
  base_years?: string;
  aim?: number;
  /** A sum to put in, and the price below which one would, where it is not the house’s. */
  outlay?: number;
  outlay_at?: number;
  /** Of stored facts: which page of them, from 1. */
  page?: number;
  /** Inputs of Worth as the API takes them: "growth:0.05,required_return:0.09". */
  inputs?: string;
  /** A strain as the API takes it: "fall:0.2,months:6", and the part of revenue that falls. */
  strain?: string;
  strain_part?: string;
  on?: string;
  off?: string;
  /** Weights of models as the API takes them, and why some were set aside. */
  weights?: string;
  reasons?: string;
  /** The view of Worth that is shown; nothing: what it is worth. */
  worth?: string;
  /** The measure the return path goes by, and what makes it grow. */
  path_measure?: string;
  path_by?: string;
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
  "span",
  "code",
  "cols",
  "by",
  "sort",
  "basis",
  "cover",
  "record",
  "footing",
  "quantity",
  "typical",
  "range",
  "between",
  "course",
  "beside",
  "stage",
  "inputs",
  "base_years",
  "strain",
  "strain_part",
  "on",
  "off",
  "weights",
  "reasons",
  "worth",
  "peers_out",
  "path_measure",
  "path_by",
  "across",
  "down",
  "open",
  "path",
  "tables",
  "compared",
  "lines",
  "verdict",
  "outcome",
] as const;
const NUMBERS = ["aim", "page", "outlay", "outlay_at"] as const;

/** Keeps what the URL says in a form the views can use; anything else in it is dropped. */
export function readView(raw: Record<string, unknown>): View {
  const view: View = {};
  for (const name of TEXTS) {
    const held = raw[name];
    if (held === undefined || held === "") continue;
    // The router reads what looks like JSON; a view holds its text.
    view[name] = typeof held === "object" ? JSON.stringify(held) : String(held);
  }
  for (const name of NUMBERS) {
    const value = Number(raw[name]);
    if (raw[name] !== undefined && raw[name] !== "" && Number.isFinite(value)) view[name] = value;
  }
  if (isGroup(raw.where) && raw.where.parts?.length) view.where = raw.where;
  if (/^\d{4}-\d{2}-\d{2}$/.test(String(raw.as_of))) view.as_of = String(raw.as_of);
  const window = String(raw.window);
  view.window = isWindow(window) ? window : undefined;
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

/** What the API is asked for a review: the parts of the view that change its figures. */
export function questionOf(view: View): Question {
  const { as_of, window, quantity, typical, base_years, between: span } = view;
  const { inputs, on, off, weights, reasons, path_measure, path_by } = view;
  const { strain, strain_part } = view;
  const worth = { inputs, on, off, weights, reasons, path_measure, path_by };
  const ranged = { as_of, window, quantity, typical, base_years, span };
  return { ...ranged, ...worth, strain, strain_part };
}
