import { describe, expect, it } from "vitest";
import { DOINGS, isCalled } from "./doings";

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
