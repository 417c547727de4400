import { describe, expect, it } from "vitest";
import type { Catalogue, Measure } from "@/api/payers";
import { asked, columnsOf, headerOf, isMoney } from "./columns";

const measure = (more: Partial<Measure>): Measure => ({
  id: "x",
  name: "Yield",
  stage: "range",
  group: null,
  unit: "yield",
  words: "yield {}",
  turned: null,
  under: null,
  signed: false,
  digits: null,
  drawn: null,
  sort: "x",
  column: true,
  currency: null,
  grows: false,
  foot: false,
  choices: null,
  ...more,
});

describe("column headers", () => {
  it("name their unit", () => {
    expect(headerOf("yield", measure({}))).toBe("Yield, %");
    expect(headerOf("raises", measure({ name: "Raises", unit: "years" }))).toBe("Raises, years");
    expect(headerOf("kind", measure({ name: "Kind", unit: null }))).toBe("Kind");
  });
  it("name the currency of amounts at home", () => {
    const held = measure({ name: "Value held", unit: "index", currency: "TLL" });
    expect(headerOf("held", held, "THK")).toBe("Value held, TLL");
  });
  it("name the currency of amounts once", () => {
    expect(headerOf("price", measure({ name: "Price", unit: "per_share" }), "TLL")).toBe(
      "Price, TLL",
    );
    expect(headerOf("left", measure({ name: "Left", unit: "money" }), "TLL")).toBe("Left, TLL m");
    expect(headerOf("left", measure({ name: "Left", unit: "money" }))).toBe("Left, m");
    expect(isMoney(measure({ unit: "per_share" }))).toBe(true);
    expect(isMoney(measure({}))).toBe(false);
  });
  it("say what a minus means where two things are held against each other", () => {
    const gap = measure({
      name: "Price vs buy-below",
      unit: "fraction",
      words: "price over your buy-below by {}",
      under: "under",
    });
    expect(headerOf("gap", gap)).toBe("Price vs buy\u2011below, % (\u2212\u00a0=\u00a0under)");
  });
});

const CATALOGUE: Catalogue = {
  measures: [],
  sets: [
    { id: "overview", name: "Overview", columns: ["kind", "yield"] },
    { id: "cover", name: "Cover", columns: ["payout", "first"] },
  ],
};

describe("column sets", () => {
  it("are chosen by name, or are the person's own", () => {
    expect(columnsOf(undefined, CATALOGUE)).toEqual(["kind", "yield"]);
    expect(columnsOf("cover", CATALOGUE)).toEqual(["payout", "first"]);
    expect(columnsOf("yield,,raises", CATALOGUE)).toEqual(["yield", "raises"]);
  });
  it("ask the API for figures and words, not for marks", () => {
    const held = [
      measure({ id: "yield" }),
      measure({ id: "first", unit: null, drawn: "first" }),
      measure({ id: "kind", unit: null, choices: [] }),
    ];
    const measures = new Map(held.map((m) => [m.id, m]));
    expect(asked(["yield", "first", "kind"], measures)).toBe("yield,kind");
  });
});
