/** The page has floors: nothing imports from a floor above its own, nor from its neighbour. */
import { describe, expect, it } from "vitest";

const FLOORS = [["app"], ["places", "stages"], ["charts", "ui"], ["state"], ["format"], ["api"]];
const ALLOWED: [string, string][] = [
  ["places", "stages"], // the review puts the stages together
  ["ui", "charts"],
  ["charts", "ui"],
];
// Tests stand above the whole page, as app does.
const sources = import.meta.glob(["./*/**/*.{ts,tsx}", "!./testing/**", "!./**/*.test.tsx"], {
  query: "?raw",
  import: "default",
  eager: true,
});

const floorOf = (folder: string) => FLOORS.findIndex((f) => f.includes(folder));

function crossings(): string[] {
  const found: string[] = [];
  for (const [path, text] of Object.entries(sources)) {
    const from = path.split("/")[1] ?? "";
    for (const [, to = ""] of String(text).matchAll(/from "@\/(\w+)|import\("@\/(\w+)/g)) {
      const down = floorOf(from) < floorOf(to) || from === to;
      const allowed = ALLOWED.some(([a, b]) => a === from && b === to);
      if (to && !down && !allowed) found.push(`${path} imports ${to}`);
    }
  }
  return found;
}

describe("the floors of the page", () => {
  it("know every folder", () => {
    for (const path of Object.keys(sources)) expect(floorOf(path.split("/")[1] ?? "")).not.toBe(-1);
  });
  it("lead down only", () => {
    expect(crossings()).toEqual([]);
  });
});
