/** What is chosen once for all screens and tabs of this browser. */
import { useSyncExternalStore } from "react";

export function choice<T extends string>(key: string, usual: T, others: readonly T[]) {
  const listeners = new Set<() => void>();
  const held = (): T => others.find((o) => o === localStorage.getItem(key)) ?? usual;
  const choose = (value: T) => {
    localStorage.setItem(key, value);
    for (const tell of listeners) tell();
  };
  const useChoice = (): T =>
    useSyncExternalStore((tell) => {
      listeners.add(tell);
      window.addEventListener("storage", tell);
      return () => {
        listeners.delete(tell);
        window.removeEventListener("storage", tell);
      };
    }, held);
  return { held, choose, useChoice };
}
