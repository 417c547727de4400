import { describe, expect, it } from "vitest";
import type { Limit, Rules, RulesHeld } from "@/api/rules";
import { isOfSignals, limitOf, limitWords, plainRules, sameRules, withLimit } from "./draft";

const HOUSE: Limit = { value: 0.6, required: true };
const rules = (more: Partial<Rules> = {}): Rules => ({
  settings: { close: 0.1 },
  returns: { company: 0.08 } as Rules["returns"],
  built_up: [],
  built_up_payers: {},
  withheld: {},
  limits: {},
  exemptions: [],
  signals: {},
  ...more,
});

describe("a limit", () => {
  it("is the house's until one has one's own", () => {
    expect(limitOf(rules(), HOUSE, "company", "payout")).toEqual(HOUSE);
    const own = withLimit(rules(), HOUSE, "company", "payout", { value: 0.7, required: true });
    expect(limitOf(own, HOUSE, "company", "payout").value).toBe(0.7);
    expect(limitOf(own, HOUSE, "financial", "payout")).toEqual(HOUSE);
  });
  it("that is moved back to the house's leaves no trace", () => {
    const own = withLimit(rules(), HOUSE, "company", "payout", { value: 0.7, required: true });
    const back = withLimit(own, HOUSE, "company", "payout", { ...HOUSE });
    expect(sameRules(back, rules())).toBe(true);
    expect(back.limits).toEqual({});
  });
  it("that is only advisory differs from the house's though its value is the same", () => {
    const own = withLimit(rules(), HOUSE, "company", "payout", { value: 0.6, required: false });
    expect(limitOf(own, HOUSE, "company", "payout").required).toBe(false);
    expect(sameRules(own, rules())).toBe(false);
  });
  it("of one test leaves those of others, and the rules it was changed in, as they were", () => {
    const first = withLimit(rules(), HOUSE, "company", "payout", { value: 0.7, required: true });
    const kept = JSON.stringify(first);
    const second = withLimit(first, HOUSE, "company", "cover", { value: 5, required: true });
    expect(Object.keys(second.limits.company ?? {})).toEqual(["payout", "cover"]);
    const less = withLimit(second, HOUSE, "company", "payout", { ...HOUSE });
    expect(Object.keys(less.limits.company ?? {})).toEqual(["cover"]);
    expect(JSON.stringify(first)).toBe(kept);
  });
});

describe("rules as they are written", () => {
  it("are the same in whatever order they are held", () => {
    const one = rules({ settings: { a: 1, b: 2 } });
    const other = rules({ settings: { b: 2, a: 1 } });
    expect(sameRules(one, other)).toBe(true);
    expect(sameRules(one, rules({ settings: { a: 1, b: 3 } }))).toBe(false);
    const built = rules({ built_up: ["company", "financial"] as Rules["built_up"] });
    expect(sameRules(built, rules({ built_up: ["company"] as Rules["built_up"] }))).toBe(false);
  });
  it("go back to the house's own, whole", () => {
    const held = {
      settings: [{ id: "close", default: 0.1 }],
      kinds: [{ id: "company", default_return: 0.08 }],
    } as unknown as RulesHeld;
    expect(plainRules(held)).toEqual(rules());
  });
  it("tell their limits in the trade's way", () => {
    expect(limitWords(0.6, "fraction").replace(/\s/g, " ")).toBe("60 %");
    expect(limitWords(3, "multiple")).toBe("3.0×");
    expect(limitWords(10, "years").replace(/\s/g, " ")).toBe("10 years");
    expect([isOfSignals("signal_mean"), isOfSignals("close")]).toEqual([true, false]);
  });
});
