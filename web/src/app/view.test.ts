import { describe, expect, it } from "vitest";
import { questionOf, readView } from "./view";

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
      stage: "lunch",
      as_of: "May",
      colour: "red",
    });
    expect(view.aim).toBeUndefined();
    expect(view.window).toBeUndefined();
    expect(view.stage).toBeUndefined();
    expect(view.as_of).toBeUndefined();
    expect("colour" in view).toBe(false);
  });
  it("takes a symbol made of digits as text", () => {
    expect(readView({ q: 42 }).q).toBe("42");
  });
  it("never takes an empty text for a number", () => {
    expect(readView({ growth: "" }).growth).toBeUndefined();
  });
});

describe("the question put to the API", () => {
  it("asks for five years unless told otherwise", () => {
    expect(questionOf({}).window).toBe("5");
    expect(questionOf({ window: "all" }).window).toBe("all");
  });
  it("holds what changes figures and leaves out what only changes the page", () => {
    const asked = questionOf({ growth: 0.03, q: "x", open: "ELV/TRS/price", stage: "worth" });
    expect(asked.growth).toBe(0.03);
    expect(Object.keys(asked)).not.toContain("q");
    expect(Object.keys(asked)).not.toContain("open");
  });
});
