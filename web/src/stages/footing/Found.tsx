import type { ReactNode } from "react";
import { ErrorNote } from "@/ui/ErrorNote";

/** A view's drawing once it is there; its place is kept until then. */
export function Found<T>(props: {
  found: { data?: T; error: Error | null };
  children: (data: T) => ReactNode;
}) {
  if (props.found.data !== undefined) return props.children(props.found.data);
  if (props.found.error) return <ErrorNote error={props.found.error} />;
  return <div className="h-[240px]" aria-busy="true" />;
}
