import { screen } from "@testing-library/react";
import { expect, test } from "vitest";
import { open, saysNot, until } from "@/testing/page";

const seeker = async () => (await screen.findByRole("searchbox")) as HTMLInputElement;

test.each(["/payers", "/sources"])("%s loses no letter, however quickly one types", async (to) => {
  const at = await open(to);
  const box = await seeker();
  await at.user.type(box, "soap");
  expect(box.value).toBe("soap");
  await until(() => expect(at.url()).toContain("q=soap"));
  await at.user.type(box, "{Backspace>4/}");
  expect(box.value).toBe("");
  await until(() => expect(at.url()).not.toContain("q="));
});

test("what the address says of itself takes the place of what was typed", async () => {
  const at = await open("/payers?q=brewing");
  const box = await seeker();
  await at.user.type(box, "x");
  await until(() => expect(at.url()).toContain("q=brewingx"));
  at.history.push("/payers?q=soap");
  await until(() => expect(box.value).toBe("soap"));
  at.history.back();
  await until(() => expect(box.value).toBe("brewingx"));
  await saysNot("Soapworks");
});
