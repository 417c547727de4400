import { describe, expect, it } from "vitest";
import {
  answer,
  isRefusedDay,
  isUnreached,
  type Problem,
  Refusal,
  type Review,
  refusalOf,
  stageOf,
} from "./client";
import { readReasons, withReason } from "./question";

const problem = (more: Partial<Problem> = {}) =>
  ({ type: "t", title: "Not so", status: 422, detail: "no", field: "as_of", ...more }) as Problem;
/** What it throws. */
const thrownBy = (call: Parameters<typeof answer>[0]) =>
  answer(call).then(
    () => expect.unreachable("it should have been refused"),
    (thrown: Refusal) => thrown,
  );
const response = (status: number) => new Response(null, { status });

describe("an answer", () => {
  it("is what the API sent, also when that is nothing", async () => {
    const call = Promise.resolve({ data: { a: 1 }, response: response(200) });
    expect(await answer(call)).toEqual({ a: 1 });
    expect(await answer(Promise.resolve({ response: response(204) }))).toBeUndefined();
  });
  it("that is a refusal is thrown in the API's own words", async () => {
    const call = Promise.resolve({ error: problem({ rule: "a day" }), response: response(422) });
    const thrown = await thrownBy(call);
    expect(thrown).toBeInstanceOf(Refusal);
    expect(thrown.problem).toMatchObject({ title: "Not so", rule: "a day", status: 422 });
    expect(thrown.message).toBe("no");
  });
  it("without words still says what came", async () => {
    const call = Promise.resolve({ error: undefined, response: response(500) });
    const thrown = await thrownBy(call);
    expect(thrown.problem).toMatchObject({ status: 500, detail: "The answer was 500." });
    expect(isUnreached(thrown)).toBe(false);
  });
  it("that never comes says that the program does not answer", async () => {
    const thrown = await thrownBy(Promise.reject(new TypeError("fetch failed")));
    expect(isUnreached(thrown)).toBe(true);
    expect(thrown.problem.detail).toContain("Is it still running?");
  });
});

describe("what was thrown", () => {
  it("is of the day viewed only where that was refused", () => {
    expect(isRefusedDay(new Refusal(problem()))).toBe(true);
    expect(isRefusedDay(new Refusal(problem({ field: "growth" })))).toBe(false);
    expect(isRefusedDay(new Refusal(problem({ status: 404 })))).toBe(false);
    expect(isRefusedDay(new Error("as_of"))).toBe(false);
  });
  it("can be shown, whatever it is", () => {
    const error = new Error("it broke");
    expect(refusalOf(error)).toBe(error);
    expect(refusalOf("words").message).toBe("words");
    expect(refusalOf(undefined).message).toBe("undefined");
  });
});

describe("the reasons in an address", () => {
  it("are put in, changed and taken out one by one", () => {
    const one = withReason(undefined, "mean_yield", "  too short a past ");
    expect(readReasons(one)).toEqual({ mean_yield: "too short a past" });
    const two = withReason(one, "fading", "no fading");
    expect(Object.keys(readReasons(two))).toEqual(["mean_yield", "fading"]);
    expect(readReasons(withReason(two, "mean_yield", " "))).toEqual({ fading: "no fading" });
    expect(withReason(one, "mean_yield", "")).toBeUndefined();
  });
  it.each(["{", "null", "3", '"x"', "", undefined])("that are %s are none", (text) => {
    expect(readReasons(text)).toEqual({});
  });
});

it("a stage is found by its name", () => {
  const review = { stages: [{ id: "record" }, { id: "worth" }] } as unknown as Review;
  expect(stageOf(review, "worth")).toBe(review.stages[1]);
});
