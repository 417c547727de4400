import { expect, it } from "vitest";
import { mapInWords } from "./told";

const map = { first: "payout", gives: [0.12], uncovered: [0.31], not_covered: false };
const said = (more: Partial<typeof map> | object) =>
  mapInWords({ ...map, ...more }).replace(/\s/g, " ");

it.each([
  [{}, "payout gives at 12.0 %, and the dividend is not covered from 31.0 %."],
  [{ uncovered: [null] }, "payout gives at 12.0 %, and the dividend stays covered whatever falls."],
  [{ uncovered: [null], not_covered: true }, "and the dividend is not covered even now."],
  [{ gives: [null], first: null }, "every test that holds today holds whatever falls, and"],
])("a map of falls %o is said without a never", (more, words) => {
  expect(said(more)).toContain(words);
  expect(said(more)).not.toContain("never");
});
