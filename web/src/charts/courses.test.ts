import { describe, expect, it } from "vitest";
import { logTicks, priceOn, rebased, within } from "./courses";

const days = ["2024-01-05", "2024-01-12", "2024-01-19", "2024-01-26"];
const values = [40, null, 44, 50];

describe("within", () => {
  it("keeps both ends", () => {
    expect(within({ days, values }, "2024-01-12", "2024-01-19")).toEqual({
      days: ["2024-01-12", "2024-01-19"],
      values: [null, 44],
    });
  });
  it("takes days between those that are held", () => {
    expect(within({ days, values }, "2024-01-06", "2024-01-25").days).toEqual(days.slice(1, 3));
  });
  it("is empty beyond what is held", () => {
    expect(within({ days, values }, "2025-01-01", "2025-02-01").days).toEqual([]);
  });
});

describe("rebased", () => {
  it("begins at 100 and keeps its gaps", () => {
    expect(rebased(values)).toEqual([100, null, 110, 125]);
  });
  it("begins at the first value there is", () => {
    expect(rebased([null, 20, 30])).toEqual([null, 100, 150]);
  });
  it("holds nothing where nothing is held", () => {
    expect(rebased([])).toEqual([]);
  });
});

describe("priceOn", () => {
  const line = {
    id: 1,
    name: "",
    first_day: "2024-01-01",
    first_price: 40,
    last_day: "2024-01-11",
    last_price: 50,
  };
  it("lies on the line between its days and beyond them", () => {
    expect(priceOn(line, "2024-01-06")).toBeCloseTo(45);
    expect(priceOn(line, "2024-01-21")).toBeCloseTo(60);
    expect(priceOn(line, "2023-12-22")).toBeCloseTo(30);
  });
  it("stays where both days are one", () => {
    expect(priceOn({ ...line, last_day: line.first_day }, "2024-05-01")).toBe(40);
  });
});

describe("logTicks", () => {
  it("lie within reach, rising, and are few", () => {
    for (const [low, high] of [
      [8, 95],
      [0.4, 0.9],
      [12, 14],
      [1, 5000],
    ] as const) {
      const ticks = logTicks(low, high);
      expect(ticks).toEqual([...ticks].sort((a, b) => a - b));
      expect(ticks.every((t) => t >= low && t <= high)).toBe(true);
      expect(ticks.length).toBeLessThanOrEqual(13);
    }
  });
});
