/** Amounts of what the person owns can be hidden at a key: shares of the whole, yields and prices
 * stay. What is hidden is not on the page: not on paper, nor in a table that is copied. */
import { useSyncExternalStore } from "react";

const KEY = "hearth.amounts";
const listeners = new Set<() => void>();
/** Stands where an amount is hidden. */
export const HIDDEN = "•••";

const areHidden = () => localStorage.getItem(KEY) === "hidden";

export function hideAmounts(hide: boolean) {
  localStorage.setItem(KEY, hide ? "hidden" : "shown");
  for (const tell of listeners) tell();
}

export const toggleAmounts = () => hideAmounts(!areHidden());

export function useHiddenAmounts(): boolean {
  return useSyncExternalStore((tell) => {
    listeners.add(tell);
    window.addEventListener("storage", tell);
    return () => {
      listeners.delete(tell);
      window.removeEventListener("storage", tell);
    };
  }, areHidden);
}

/** Whether a figure is an amount of what is owned. */
export const isOwned = (figure: { key: string; unit: string }) =>
  /^(held|totals)\b/.test(figure.key) && ["index", "count"].includes(figure.unit);
