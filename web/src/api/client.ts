import createClient from "openapi-fetch";
import type { components, paths } from "./schema";

export type Schemas = components["schemas"];
export type Figure = Schemas["FigureOut"];
export type Review = Schemas["ReviewOut"];
export type Stage = Schemas["StageOut"];
export type WorthSeries = Schemas["WorthSeries"];
export type Test = Schemas["TestOut"];
export type Sentence = Schemas["PartOut"][];
export type State = NonNullable<Review["state"]>;
export type Problem = Schemas["Problem"];

export const client = createClient<paths>({ baseUrl: "" });

/** What the API refused, in its own words. */
export class Refusal extends Error {
  constructor(readonly problem: Problem) {
    super(problem.detail);
  }
}

/** Nothing answered; what was answered is not asked a second time. */
export const isUnreached = (error: unknown): boolean =>
  error instanceof Refusal && error.problem.status === 0;

/** What was asked contradicts itself: it is done once the person says that it is meant. */
export const isUnsure = (error: unknown): boolean =>
  error instanceof Refusal && error.problem.type === "about:Unsure";

/** The day viewed cannot be: every question of the page is refused for it. */
export const isRefusedDay = (error: unknown): boolean =>
  error instanceof Refusal && error.problem.status === 422 && error.problem.field === "as_of";

/** Anything thrown, as something that can be shown. */
export const refusalOf = (thrown: unknown): Error =>
  thrown instanceof Error ? thrown : new Error(String(thrown));

/** Unwraps an answer, or throws what the API said. */
export async function answer<T>(
  call: Promise<{ data?: T; error?: unknown; response: Response }>,
): Promise<T> {
  let got: Awaited<typeof call>;
  try {
    got = await call;
  } catch {
    throw new Refusal({
      type: "about:unreachable",
      title: "Hearth Yield does not answer",
      status: 0,
      detail: "The program on this machine does not answer. Is it still running?",
    });
  }
  if (got.response.ok) return got.data as T;
  const said = got.error as Partial<Problem> | undefined;
  throw new Refusal({
    type: "about:unknown",
    title: "Something went wrong",
    status: got.response.status,
    detail: `The answer was ${got.response.status}.`,
    ...said,
  });
}

/** One stage of a review, by its name. */
export const stageOf = (review: Review, id: Stage["id"]): Stage =>
  review.stages.find((s) => s.id === id) as Stage;
