/** Amounts of income are after tax, or before it: one switch for all screens. */
import { choice } from "./choice";

export type Tax = "after" | "before";
const tax = choice<Tax>("hearth.tax", "after", ["before"]);

export const setTax = tax.choose;
export const useTax = tax.useChoice;
