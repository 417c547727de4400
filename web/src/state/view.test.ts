import { describe, expect, it } from "vitest";
import { readInputs, withId, withInput } from "@/api/question";
import { openKey, questionOf, readOpen, readView } from "./view";

describe("the view in the URL", () => {
  it("keeps what the views can use", () => {
    const view = readView({
      q: "water",
      aim: "0.034",
      window: 10,
      real: true,
      as_of: "2019-05-03",
    });
    expect(view).toMatchObject({
      q: "water",
      aim: 0.034,
      window: "10",
      real: true,
      as_of: "2019-05-03",
    });
  });
  it("drops what it does not know or cannot read", () => {
    const view = readView({
      aim: "much",
      window: "7",
      as_of: "May",
      colour: "red",
    });
    expect(view.aim).toBeUndefined();
    expect(view.window).toBeUndefined();
    expect(view.as_of).toBeUndefined();
    expect("colour" in view).toBe(false);
  });
  it("takes a symbol made of digits as text", () => {
    expect(readView({ q: 42 }).q).toBe("42");
  });
  it("never takes an empty text for a number", () => {
    expect(readView({ aim: "" }).aim).toBeUndefined();
  });
});

describe("the question put to the API", () => {
  it("holds what changes figures and leaves out what only changes the page", () => {
    const asked = questionOf({
      inputs: "growth:0.03",
      base_years: "2016",
      q: "x",
      open: "ELV/TRS/payer.price",
      stage: "worth",
    });
    expect(asked).toMatchObject({ inputs: "growth:0.03", base_years: "2016" });
    expect(Object.keys(asked)).not.toContain("q");
    expect(Object.keys(asked)).not.toContain("open");
  });
});

describe("the figure whose working is open", () => {
  it("is read back as it was named", () => {
    const payer = { exchange: "ELV", symbol: "A/B?" };
    for (const key of ["payer.price", "footing.exposures.tenant/Who? Us.share"]) {
      expect(readOpen(openKey(payer, key))).toEqual({ payer, key, asked: {} });
      const asked = { reach: "buy_below:30.5", span: "2021-06-30..2026-06-30" };
      expect(readOpen(openKey(payer, key, asked))).toEqual({ payer, key, asked });
    }
  });
});

describe("inputs in the address", () => {
  it("reads what the API writes", () => {
    expect(readInputs("growth:0.05,mean_yield:0.034")).toEqual({ growth: 0.05, mean_yield: 0.034 });
    expect(readInputs("growth:,much:x,:3")).toEqual({});
  });
  it("changes one and leaves the rest", () => {
    expect(withInput("growth:0.05", "weight", 2)).toBe("growth:0.05,weight:2");
    expect(withInput("growth:0.05,weight:2", "growth", undefined)).toBe("weight:2");
    expect(withInput("growth:0.05", "growth", undefined)).toBeUndefined();
  });
  it("puts an id in a list once", () => {
    expect(withId("a,b", "b", true)).toBe("a,b");
    expect(withId("a", "a", false)).toBeUndefined();
  });
});
