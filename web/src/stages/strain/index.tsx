import { lazy, Suspense } from "react";
import type { Review } from "@/api/client";
import type { PayerKey } from "@/api/hooks";

const View = lazy(() => import("./StrainView").then((m) => ({ default: m.StrainView })));

/** The strain, in Cover and in Footing; its script is fetched when it is looked at. */
export function StrainView(props: { review: Review; payer: PayerKey }) {
  return (
    <Suspense fallback={<div className="h-[420px]" aria-busy="true" />}>
      <View {...props} />
    </Suspense>
  );
}
