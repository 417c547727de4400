/** The print form of a place: all of it is loaded and drawn before it goes to paper. */
import { useSyncExternalStore } from "react";

const WAIT = 60;
/** So many looks in a row at which nothing is on its way make a place whole. */
const QUIET = 5;
const PATIENCE = 60_000;
const listeners = new Set<() => void>();
let printing = false;

function set(on: boolean) {
  printing = on;
  for (const tell of listeners) tell();
}

/** Whether the place is being printed: what is otherwise drawn in part, or on request, is drawn. */
export const usePrinting = (): boolean =>
  useSyncExternalStore(
    (tell) => {
      listeners.add(tell);
      return () => listeners.delete(tell);
    },
    () => printing,
  );

const PARTLY = "main [aria-busy='true'], main [data-waiting]";
let asking = () => false;
/** Also before the script of a place is there, and with it its name. */
const onItsWay = () =>
  asking() || document.querySelector(PARTLY) !== null || document.querySelector("main h1") === null;

async function whole() {
  const until = Date.now() + PATIENCE;
  for (let quiet = 0; quiet < QUIET && Date.now() < until; ) {
    await new Promise((done) => setTimeout(done, WAIT));
    quiet = onItsWay() ? 0 : quiet + 1;
  }
}

/** Loads all of the place in its print form, then prints it. */
export async function printPage() {
  if (printing) return;
  set(true);
  await whole();
  window.addEventListener("afterprint", () => set(false), { once: true });
  window.print();
}

/** Ctrl+P is caught, so that it prints all of the place. asks: whether answers are on their way.
 * Returns how to let it go. */
export function catchPrintKey(asks: () => boolean): () => void {
  asking = asks;
  const onKey = (event: KeyboardEvent) => {
    if (!(event.ctrlKey || event.metaKey) || event.altKey || event.shiftKey) return;
    if (event.key.toLowerCase() !== "p") return;
    event.preventDefault();
    void printPage();
  };
  window.addEventListener("keydown", onKey);
  return () => window.removeEventListener("keydown", onKey);
}

/** What is not there when the browser prints by itself, in words; null: nothing is missing. */
export function missing(): string | null {
  const rows = [
    ...document.querySelectorAll<HTMLTableElement>("main table[aria-rowcount]"),
  ].flatMap((table) => {
    const all = Number(table.getAttribute("aria-rowcount")) - 1;
    const drawn = [...(table.tBodies[0]?.rows ?? [])].filter((r) => !r.hasAttribute("data-gap"));
    return drawn.length < all ? [`${drawn.length} of ${all} rows`] : [];
  });
  const parts = onItsWay() ? ["parts that were not loaded are left out"] : [];
  const said = [...rows, ...parts].join("; ");
  return said || null;
}
