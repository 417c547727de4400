import type { ReactNode } from "react";
import { ErrorNote } from "@/ui/ErrorNote";

interface Props<T> {
  /** What a stage draws, once it is there: its figures and tests do not wait for it. */
  found: { data?: T; error: Error | null };
  children: (drawn: T) => ReactNode;
}

/** The drawing of a stage, in a place kept for it until its own answer is there. */
export function Drawn<T>({ found, children }: Props<T>) {
  if (found.data !== undefined) return children(found.data);
  if (found.error) return <ErrorNote error={found.error} />;
  return <div className="h-[420px]" aria-busy="true" />;
}
