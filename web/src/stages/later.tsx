import { type ComponentType, lazy, Suspense } from "react";

/** A part of a stage whose script is fetched when it is looked at; its place is kept until then. */
export function later<P extends object>(
  load: () => Promise<ComponentType<P>>,
): (props: P) => React.ReactElement {
  const Part = lazy(() => load().then((found) => ({ default: found }))) as ComponentType<P>;
  return function Later(props: P) {
    return (
      <Suspense fallback={<div className="h-[420px]" aria-busy="true" />}>
        <Part {...props} />
      </Suspense>
    );
  };
}
