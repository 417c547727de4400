import type { ReactNode } from "react";
import type { Review, Stage } from "@/api/client";
import { ErrorNote } from "@/ui/ErrorNote";
import { StageView } from "./StageView";

interface Props<T> {
  review: Review;
  id: Stage["id"];
  /** What the stage draws beside its figures, once it is there. */
  found: { data?: T; error: Error | null };
  children: (drawn: T) => ReactNode;
}

/** A stage whose drawing has an answer of its own: its figures and tests do not wait for it. */
export function Drawn<T>({ review, id, found, children }: Props<T>) {
  if (found.data !== undefined) return children(found.data);
  return (
    <StageView
      review={review}
      id={id}
      chart={
        found.error ? (
          <ErrorNote error={found.error} />
        ) : (
          <div className="h-[420px]" aria-busy="true" />
        )
      }
    />
  );
}
