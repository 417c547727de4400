/** What is being typed, kept by the browser under what it is for until it is saved or dropped: over
 * a reload, a closed tab and a way back, and in step with other tabs. */
import { useCallback, useMemo, useSyncExternalStore } from "react";
import { parsed } from "./stored";

const PREFIX = "hearth.draft/";
/** Where the browser keeps nothing (it is full, or told not to), a draft lives as long as the page. */
const unkept = new Map<string, string>();
const listeners = new Set<() => void>();

function textOf(key: string): string | null {
  try {
    return unkept.get(key) ?? localStorage.getItem(PREFIX + key);
  } catch {
    return null;
  }
}

function putText(key: string, text: string | null) {
  unkept.delete(key);
  try {
    if (text === null) localStorage.removeItem(PREFIX + key);
    else localStorage.setItem(PREFIX + key, text);
  } catch {
    if (text !== null) unkept.set(key, text);
  }
  for (const tell of listeners) tell();
}

type Fits<T> = (raw: unknown) => raw is T;

/** A draft; null where there is none, or in another shape. */
export const readDraft = <T>(key: string, fits: Fits<T>): T | null => parsed(textOf(key), fits);

/** null drops it. */
export function keepDraft(key: string, value: unknown) {
  const text = value === null ? null : JSON.stringify(value);
  if (textOf(key) !== text) putText(key, text);
}

/** Called when any draft changes, here or in another tab. */
export function followDrafts(tell: () => void) {
  listeners.add(tell);
  window.addEventListener("storage", tell);
  return () => {
    listeners.delete(tell);
    window.removeEventListener("storage", tell);
  };
}

/** The draft under a key, and a way to change it; null drops it. */
export function useDraft<T>(key: string, fits: Fits<T>): [T | null, (value: T | null) => void] {
  const text = useSyncExternalStore(followDrafts, () => textOf(key));
  const value = useMemo(() => parsed(text, fits), [text, fits]);
  const set = useCallback((next: T | null) => keepDraft(key, next), [key]);
  return [value, set];
}

/** Words over something that stands: `begun` is what stood there when they were begun. */
export interface WordsDraft {
  begun: string;
  words: string;
}

export const isWordsDraft = (raw: unknown): raw is WordsDraft => {
  const held = raw as Partial<WordsDraft> | null;
  return typeof held?.begun === "string" && typeof held.words === "string";
};
