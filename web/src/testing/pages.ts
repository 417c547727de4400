/** The pages that are open; a module of its own, as the set-up needs it before the page is there. */
import type { Root } from "react-dom/client";

export const pages = new Set<Root>();

export function leave(page: Root) {
  page.unmount();
  pages.delete(page);
}

/** Every page is closed, and nothing is left of it. */
export function leaveAll() {
  for (const page of pages) leave(page);
  document.body.replaceChildren();
}
