import { later } from "../later";

/** The strain, in Cover and in Footing. */
export const StrainView = later(() => import("./StrainView").then((m) => m.StrainView));
