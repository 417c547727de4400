import { describe, expect, it } from "vitest";
import { DOINGS, isCalled, tradeOf } from "./doings";

describe("places and actions of the search box", () => {
  it("are found by what stands beside their name, in any order", () => {
    const called = (text: string) =>
      DOINGS.filter((d) => isCalled(d.name, d.also ?? "", text.split(" "))).map((d) => d.name);
    expect(called("backup")).toEqual(["Export, back up or restore"]);
    expect(called("files import")).toEqual(["Import files"]);
    expect(called("memo")).toEqual(["Journal"]);
    expect(called("nothing like it")).toEqual([]);
  });

  it("each have a name of their own", () => {
    expect(new Set(DOINGS.map((d) => d.name)).size).toBe(DOINGS.length);
  });
});

describe("a trade in words", () => {
  const here = { symbol: "TRS" };
  it("is of the payer it names, or of the one that is read", () => {
    expect(tradeOf("bought 50 GWK at 21.40 today", here)).toBe("bought 50 GWK at 21.40 today");
    expect(tradeOf("bought 50 at 21.40 today", here)).toBe("bought 50 TRS at 21.40 today");
    expect(tradeOf("Sold 1,200", here)).toBe("Sold 1,200 TRS");
  });
  it("is none without a payer, a number or a verb", () => {
    expect(tradeOf("bought 50 at 21.40 today", null)).toBeNull();
    expect(tradeOf("bought out", here)).toBeNull();
    expect(tradeOf("50 shares", here)).toBeNull();
  });
});
