/** Single keys: off while typing, and off altogether when the person says so. */
import { useSyncExternalStore } from "react";
import { useHotkeys } from "react-hotkeys-hook";

const KEY = "hearth.single-keys";
const listeners = new Set<() => void>();

export const KEYS: { key: string; does: string }[] = [
  { key: "/", does: "Search payers, measures and actions" },
  { key: "j", does: "Next stage of the review" },
  { key: "k", does: "Previous stage of the review" },
  { key: "n", does: "Next payer in the list you came from" },
  { key: "p", does: "Previous payer in the list you came from" },
  { key: "c", does: "In a review: add the payer to the comparison" },
  { key: "h", does: "Hide or show amounts of what you own" },
  { key: "?", does: "This list" },
];

export const singleKeysOn = () => localStorage.getItem(KEY) !== "off";

export function setSingleKeys(on: boolean) {
  localStorage.setItem(KEY, on ? "on" : "off");
  for (const tell of listeners) tell();
}

export function useSingleKeys(): boolean {
  return useSyncExternalStore((tell) => {
    listeners.add(tell);
    return () => listeners.delete(tell);
  }, singleKeysOn);
}

export function useSingleKey(key: string, act: () => void) {
  const on = useSingleKeys();
  useHotkeys(
    key,
    (event) => {
      event.preventDefault();
      act();
    },
    { enabled: on, useKey: true, enableOnFormTags: true, ignoreEventWhen: (e) => isTyping(e) },
    [act],
  );
}

const NOT_TYPED = ["checkbox", "radio", "button", "submit", "file", "range", "color"];

/** Whether a key press writes something: in a list letters choose, but a sign does not. */
function isTyping(event: KeyboardEvent): boolean {
  const at = event.target;
  if (at instanceof HTMLInputElement) return !NOT_TYPED.includes(at.type);
  if (at instanceof HTMLSelectElement) return /^[\p{L}\p{N}]$/u.test(event.key);
  return at instanceof HTMLTextAreaElement || (at instanceof HTMLElement && at.isContentEditable);
}
