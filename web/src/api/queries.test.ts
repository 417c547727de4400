import { QueryObserver } from "@tanstack/react-query";
import { expect, test } from "vitest";
import { Queries } from "./queries";

test("a first answer on its way when something changes is asked for again", async () => {
  const queries = new Queries();
  const answers: ((words: string) => void)[] = [];
  const seen: (string | undefined)[] = [];
  const observer = new QueryObserver(queries, {
    queryKey: ["kept"],
    queryFn: () => new Promise<string>((resolve) => answers.push(resolve)),
  });
  const stop = observer.subscribe((held) => seen.push(held.data));
  const changed = queries.invalidateQueries({ queryKey: ["kept"] });
  answers[0]?.("before");
  await expect.poll(() => answers.length).toBe(2);
  answers[1]?.("after");
  await changed;
  expect(seen).not.toContain("before");
  expect(observer.getCurrentResult().data).toBe("after");
  stop();
});

test("an answer that is of another kind goes on", async () => {
  const queries = new Queries();
  let asked = 0;
  const first = queries.fetchQuery({
    queryKey: ["other"],
    queryFn: async () => {
      asked += 1;
      await new Promise((resolve) => setTimeout(resolve, 20));
      return "kept";
    },
  });
  await queries.invalidateQueries({ queryKey: ["kept"] });
  expect(await first).toBe("kept");
  expect(asked).toBe(1);
});
