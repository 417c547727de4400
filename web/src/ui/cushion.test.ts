import { describe, expect, it } from "vitest";
import type { Figure, Test } from "@/api/client";
import { cushionWords, limitWords } from "./cushion";

const figure = (value: number | null, more: Partial<Figure> = {}): Figure => ({
  key: "k",
  label: "payout",
  unit: "fraction",
  value,
  notes: [],
  cautions: [],
  ...more,
});

const test = (more: Partial<Test>): Test => ({
  id: "payout",
  short: "FCF payout",
  stage: "cover",
  measure: figure(0.55),
  limit: 0.6,
  direction: "cap",
  required: true,
  cushion: figure(0.0833),
  state: "close",
  falls: "free cash flow",
  strict: false,
  exempt: null,
  beyond: null,
  ...more,
});

describe("what a cushion says", () => {
  it("names what can fall", () => {
    expect(cushionWords(test({}))).toBe("free cash flow can fall 8\u202f%");
  });
  it("says by how much a limit is passed", () => {
    const beyond = "3.6 points above your 60 %";
    const said = cushionWords(test({ cushion: figure(-0.06), state: "outside", beyond }));
    expect(said).toBe("3.6 points above your 60\u202f%");
    expect(cushionWords(test({ cushion: figure(-0.06), state: "outside" }))).toBe(
      "outside its limit",
    );
  });
  it("names a breach that has no size", () => {
    const cushion = figure(null, { breach: "cash burn", reason: "crossed: cash burn" });
    expect(cushionWords(test({ cushion, state: "outside" }))).toBe("cash burn");
  });
  it("passes or falls short where there is no size", () => {
    expect(cushionWords(test({ direction: "pass", state: "within" }))).toBe("passes");
    expect(cushionWords(test({ direction: "pass", state: "outside" }))).toBe("falls short");
  });
  it("gives the reason where nothing is known", () => {
    const measure = figure(null, { reason: "no fiscal year is held" });
    expect(cushionWords(test({ measure, state: "unknown" }))).toBe("no fiscal year is held");
  });
});

describe("how a limit reads", () => {
  it.each([
    [test({}), "≤ 60\u202f%"],
    [test({ direction: "floor", limit: 4, measure: figure(7.2, { unit: "multiple" }) }), "≥ 4.0×"],
    [test({ direction: "pass", limit: 10, measure: figure(9, { unit: "years" }) }), "≥ 10 years"],
    [test({ direction: "pass", limit: 0 }), "≥ 0"],
    [test({ direction: "pass", limit: 0, strict: true }), "> 0"],
  ])("reads as the trade writes it", (given, words) => {
    expect(limitWords(given)).toBe(words);
  });
});
