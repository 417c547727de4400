/** Amounts of income are after tax, or before it: one switch for all screens. */
import { useSyncExternalStore } from "react";

const KEY = "hearth.tax";
const listeners = new Set<() => void>();
export type Tax = "after" | "before";

const held = (): Tax => (localStorage.getItem(KEY) === "before" ? "before" : "after");

export function setTax(tax: Tax) {
  localStorage.setItem(KEY, tax);
  for (const tell of listeners) tell();
}

export function useTax(): Tax {
  return useSyncExternalStore((tell) => {
    listeners.add(tell);
    window.addEventListener("storage", tell);
    return () => {
      listeners.delete(tell);
      window.removeEventListener("storage", tell);
    };
  }, held);
}
