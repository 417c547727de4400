import { describe, expect, it } from "vitest";
import { daysBetween, number, percent, readNumber, show, signed, withDates } from "./format";

describe("numbers as text", () => {
  it("reads ratios as percent with a thin space", () => {
    expect(percent(0.0395, 2)).toBe("3.95\u202f%");
  });
  it("uses a true minus sign and never a negative zero", () => {
    expect(number(-4.56, 1)).toBe("\u22124.6");
    expect(number(-0.004, 2)).toBe("0.00");
  });
  it("shows the direction of a difference on request", () => {
    expect(show(0.122, "fraction", { sign: true })).toBe("+12.2\u202f%");
    expect(signed("0.0", 0.00001)).toBe("0.0");
  });
  it("drops the sign where the words tell the direction", () => {
    expect(show(-0.08, "fraction", { size: true, digits: 0 })).toBe("8\u202f%");
  });
  it("puts money in millions and names years", () => {
    expect(show(412_340_000, "money")).toBe("412.3 m");
    expect(show(1, "years")).toBe("1 year");
    expect(show(24, "years", { bare: true })).toBe("24");
  });
});

describe("dates", () => {
  it("counts days", () => {
    expect(daysBetween("2026-06-26", "2026-06-30")).toBe(4);
  });
  it("turns dates inside a sentence into words", () => {
    expect(withDates("reduced on 2026-05-20, within")).toMatch(/May/);
  });
});

describe("numbers as typed", () => {
  it.each([
    ["7,5", 7.5],
    ["7.5", 7.5],
    ["\u22123", -3],
    ["1 234,5", 1234.5],
    ["0,125", 0.125],
    ["1,234.5", 1234.5],
    ["1.234,5", 1234.5],
    ["1234", 1234],
    ["1.234", 1.234],
  ])("reads %s", (typed, value) => {
    expect(readNumber(typed)).toMatchObject({ value });
  });
  it.each([
    ["1'234,50", "1234.50"],
    ["\u22120,10", "-0.10"],
    ["12345678901234567890.12", "12345678901234567890.12"],
  ])("keeps every digit of %s", (typed, text) => {
    expect(readNumber(typed)).toMatchObject({ text });
  });
  it.each(["1,234", "12,345", "abc", "", "1,2,3", "7%x"])("refuses %s", (typed) => {
    expect(readNumber(typed)).toHaveProperty("error");
  });
});
