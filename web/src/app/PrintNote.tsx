import { type Query, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef } from "react";
import { catchPrintKey, missing } from "@/state/printing";

/** On paper alone, where something is not there: the browser printed by itself, or it never came. */
export function PrintNote() {
  const note = useRef<HTMLParagraphElement>(null);
  const queries = useQueryClient();
  useEffect(() => {
    const lacks = { predicate: (q: Query) => q.state.data === undefined };
    return catchPrintKey(() => queries.isFetching(lacks) > 0);
  }, [queries]);
  useEffect(() => {
    const look = () => {
      const gone = missing();
      if (!note.current) return;
      note.current.textContent = gone
        ? `Printed as it stood in the browser: ${gone}. Ctrl+P, or “Print this page” in the search box, prints all of it.`
        : "";
    };
    window.addEventListener("beforeprint", look);
    return () => window.removeEventListener("beforeprint", look);
  }, []);
  return <p ref={note} className="hidden px-4 py-2 text-[13px] print:not-empty:block" />;
}
