/** Amounts of what the person owns can be hidden at a key: shares of the whole, yields and prices
 * stay. What is hidden is not on the page: not on paper, nor in a table that is copied. */
import { choice } from "./choice";

const amounts = choice("hearth.amounts", "shown", ["hidden"]);
/** Stands where an amount is hidden. */
export const HIDDEN = "•••";

export const hideAmounts = (hide: boolean) => amounts.choose(hide ? "hidden" : "shown");
export const toggleAmounts = () => hideAmounts(amounts.held() !== "hidden");
export const useHiddenAmounts = () => amounts.useChoice() === "hidden";

/** Whether a figure is an amount of what is owned. */
export const isOwned = (figure: { key: string; unit: string }) =>
  /^(held|totals|income)\b/.test(figure.key) && ["index", "count"].includes(figure.unit);
