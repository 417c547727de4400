import { screen, waitFor } from "@testing-library/react";
import { expect, test } from "vitest";
import { open, saysNot } from "@/testing/page";

const seeker = async () => (await screen.findByRole("searchbox")) as HTMLInputElement;

test.each(["/payers", "/sources"])("%s loses no letter, however quickly one types", async (to) => {
  const at = await open(to);
  const box = await seeker();
  await at.user.type(box, "materials");
  expect(box.value).toBe("materials");
  await waitFor(() => expect(at.url()).toContain("q=materials"));
  await at.user.type(box, "{Backspace>9/}");
  expect(box.value).toBe("");
  await waitFor(() => expect(at.url()).not.toContain("q="));
});

test("what the address says of itself takes the place of what was typed", async () => {
  const at = await open("/payers?q=brewing");
  const box = await seeker();
  await at.user.type(box, "x");
  await waitFor(() => expect(at.url()).toContain("q=brewingx"));
  at.history.push("/payers?q=soap");
  await waitFor(() => expect(box.value).toBe("soap"));
  at.history.back();
  await waitFor(() => expect(box.value).toBe("brewingx"));
  await saysNot("Soapworks");
});
