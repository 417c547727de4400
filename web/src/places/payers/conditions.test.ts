import { describe, expect, it } from "vitest";
import type { Condition, Group, Measure } from "@/api/payers";
import { countPlaces, groupSentence, groupsOf, type Measures, sentence } from "./conditions";

const measure = (id: string, more: Partial<Measure>): Measure => ({
  id,
  name: id,
  stage: "range",
  group: null,
  unit: "fraction",
  words: `${id} {}`,
  turned: null,
  under: null,
  signed: false,
  digits: null,
  drawn: null,
  sort: id,
  column: true,
  currency: null,
  grows: false,
  foot: false,
  choices: null,
  ...more,
});

const DEVIATION = measure("deviation", {
  name: "Yield vs its 5-year mean",
  words: "yield above its 5-year mean by {}",
  turned: "yield below its 5-year mean by {}",
  signed: true,
});
const RAISES = measure("raises", { unit: "years", words: "raised {} running", stage: "record" });
const KIND = measure("kind", { name: "Kind", unit: null, words: "kind {}", stage: "payer" });
const CATALOGUE: Measures = new Map([DEVIATION, RAISES, KIND].map((m) => [m.id, m]));
const at = (id: string, op: Condition["op"], value?: number): Condition => ({
  id,
  op,
  value,
  words: [],
});

describe("conditions in plain words", () => {
  it("read as a person would say them", () => {
    expect(sentence(at("deviation", "at_least", 0.1), DEVIATION)).toBe(
      "yield above its 5-year mean by at least 10\u202f%",
    );
    expect(sentence(at("raises", "at_least", 10), RAISES)).toBe("raised at least 10 years running");
  });
  it("turn round under nought: at least −10 % is below by at most 10 %", () => {
    expect(sentence(at("deviation", "at_least", -0.1), DEVIATION)).toBe(
      "yield below its 5-year mean by at most 10\u202f%",
    );
    expect(sentence(at("deviation", "at_most", -0.05), DEVIATION)).toBe(
      "yield below its 5-year mean by at least 5\u202f%",
    );
  });
  it("name words, and what is unknown", () => {
    const trusts: Condition = { id: "kind", op: "is", words: ["property_trust", "company"] };
    expect(sentence(trusts, KIND)).toBe("kind is property trust or company");
    expect(sentence({ ...trusts, op: "is_not", words: ["company"] }, KIND)).toBe(
      "kind is not company",
    );
    expect(sentence(at("deviation", "unknown"), DEVIATION)).toBe(
      "Yield vs its 5-year mean is unknown",
    );
  });
  it("stand in brackets inside another group, and incomplete ones are left out", () => {
    const group: Group = {
      join: "all",
      parts: [
        at("raises", "at_least", 10),
        at("deviation", "at_least"),
        { join: "any", parts: [at("deviation", "at_least", 0.1), at("raises", "at_least", 25)] },
      ],
    };
    expect(groupSentence(group, CATALOGUE)).toBe(
      "raised at least 10 years running, and (yield above its 5-year mean by at least 10\u202f%, or raised at least 25 years running)",
    );
  });
});

describe("what the API counts", () => {
  it("is found by the place of each complete condition in reading order", () => {
    const [first, none, inner, last] = [
      at("raises", "at_least", 1),
      at("raises", "at_least"),
      at("deviation", "at_most", 0),
      at("raises", "known"),
    ] as const;
    const places = countPlaces({
      join: "all",
      parts: [first, none, { join: "any", parts: [inner] }, last],
    });
    expect([first, none, inner, last].map((c) => places.get(c))).toEqual([0, undefined, 1, 2]);
  });
});

describe("measures in their groups", () => {
  it("stand under their stage, and in Cover under their basis", () => {
    const all = [
      KIND,
      RAISES,
      measure("ffo_payout", { stage: "cover", group: "FFO" }),
      measure("payout", { stage: "cover" }),
      DEVIATION,
    ];
    expect(groupsOf(all).map((g) => [g.name, g.measures.length])).toEqual([
      ["Payer", 1],
      ["Record", 1],
      ["Cover, on FFO", 1],
      ["Cover", 1],
      ["Range", 1],
    ]);
  });
});
