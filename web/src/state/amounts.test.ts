import { expect, it } from "vitest";
import { isOwned } from "./amounts";

it("hides what is owned and what it pays, and no share of it or price", () => {
  const of = (key: string, unit: string) => isOwned({ key, unit });
  expect(of("held.shares", "count")).toBe(true);
  expect(of("held@3.value_at_home", "index")).toBe(true);
  expect(of("totals.income", "index")).toBe(true);
  expect(of("income.after.2025-06-30.a_year", "index")).toBe(true);
  expect(of("income.after.2025-06-30.linked", "fraction")).toBe(false);
  expect(of("held.share_of_value", "fraction")).toBe(false);
  expect(of("record.declared_rate", "per_share")).toBe(false);
  expect(of("footing.indexed.revenue", "index")).toBe(false);
});
