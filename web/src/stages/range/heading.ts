import type { Schemas } from "@/api/client";
import { isPercent, upperFirst } from "@/format/format";

/** The quantity of the ruler as a column or a field is headed. */
export const heading = ({ name, unit }: Schemas["RangeSeries"]) =>
  `${upperFirst(name)}${isPercent(unit) ? ", %" : ""}`;
