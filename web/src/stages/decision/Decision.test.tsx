import { screen } from "@testing-library/react";
import { expect, test } from "vitest";
import type { Schemas } from "@/api/client";
import { answerOf, lose } from "@/testing/api";
import { field, find, open, part, row, says, until } from "@/testing/page";

const decision = part("decision");
const WORDS = "In your own words";
const box = async (name: string | RegExp) => (await field(name, decision)) as HTMLInputElement;
const at = (symbol: string) => `/review/ELV/${symbol}?stage=decision&sort=name`;
const holds = (name: string | RegExp, value: string) =>
  until(async () => expect((await box(name)).value).toBe(value));

test("a draft stays with its payer, and comes back with it", async () => {
  const first = await open(at("AMLH"), "demo");
  await first.fill(WORDS, "mustard, if cheaper", decision);
  await first.fill(/^Buy below/, "12", decision);
  const second = first.go(at("ASHC"));
  await find("heading", "Ashcombe Timber");
  await holds(WORDS, "");
  await holds(/^Buy below/, "");
  await second.fill(WORDS, "timber", decision);
  second.go(at("AMLH"));
  await holds(WORDS, "mustard, if cheaper");
  await holds(/^Buy below/, "12");
});

test("a draft survives a way through the search box", async () => {
  const me = await open(at("AMLH"), "demo");
  await me.fill(WORDS, "kept", decision);
  (document.activeElement as HTMLElement).blur();
  await me.press("/");
  await me.press("ashcombe");
  await find("option", /Ashcombe/);
  await me.press("{Enter}");
  await find("heading", "Ashcombe Timber");
  await holds(WORDS, "");
  me.go(at("AMLH"));
  await holds(WORDS, "kept");
});

test.each(["{", '"x"', '{"words": 5}', "[1]"])("%s in store is no draft", async (raw) => {
  localStorage.setItem("hearth.draft/decision/ELV/AMLH", raw);
  await open(at("AMLH"));
  await holds(WORDS, "");
});

test("a decision without a verdict is refused where one wrote, and nothing is lost", async () => {
  const me = await open(at("TRS"));
  await me.fill(WORDS, "half a thought", decision);
  await me.click("button", "Record the decision", decision);
  await says("Choose a verdict", decision);
  const again = me.reload();
  await holds(WORDS, "half a thought");
  await again.click("radio", "hold", decision);
  await again.fill(/^Buy below/, "cheap", decision);
  await again.click("button", "Record the decision", decision);
  await find("alert", undefined, decision);
  await holds(/^Buy below/, "cheap");
});

test("an answer that got lost records once", async () => {
  const me = await open(at("AMLH"));
  await me.click("radio", "hold", decision);
  await me.fill(WORDS, "said once", decision);
  lose(/^POST .*\/decisions/);
  await me.click("button", "Record the decision", decision);
  await says("does not answer", decision);
  lose();
  await me.click("button", "Record the decision", decision);
  await says("Recorded.", decision);
  await until(() => expect(screen.getAllByRole("article")).toHaveLength(1));
});

test("a decision is recorded with the price from Worth, and can be undone", async () => {
  const me = await open(at("TRS"));
  await me.click("radio", "wait", decision);
  await me.fill(WORDS, "Not at this price.", decision);
  await me.click("button", /from Worth/, decision);
  await me.click("button", "Record the decision", decision);
  await says("Not at this price.", () => screen.queryByRole("article"));
  await me.click("button", "Undo", decision);
  await until(() => expect(screen.queryByText("Not at this price.")).toBeNull());
});

test("an expectation says what it wants in its own unit, and asks for what it lacks", async () => {
  const me = await open(at("TRS"));
  const how = await box("How much");
  await me.user.type(how, "{Enter}");
  await says("Say by how much.", decision);
  await me.user.type(how, "6{Enter}");
  await says(/Declared rate grows at least 6.0/, decision);
  me.reload();
  await says(/Declared rate grows at least 6.0/, decision);
});

test("a sum says what it would buy and earn, today and at one's own price", async () => {
  const me = await open(at("TRS"));
  await me.fill(/^(A sum|Sum)/, "10000", decision);
  const { now, below } = await answerOf<Schemas["OutlayOut"]>(
    "/api/payers/ELV/TRS/outlay?outlay=10000",
  );
  const whole = [now, below].map(({ price }) => Math.floor(10_000 / (price.value as number)));
  await row(`Whole shares ${whole.join(" ")}`, decision);
  await until(() => expect(me.url()).toContain("outlay=10000"));
});

test("a verdict that its own price contradicts is asked about once", async () => {
  const me = await open(at("TRS"));
  await me.click("radio", "buy", decision);
  await me.fill(WORDS, "A little at a time.", decision);
  await me.fill(/^Buy below/, "0.5", decision);
  await me.click("button", "Record the decision", decision);
  await says(/You say buy, but you would buy below 0.50 and the price is \d/, decision);
  await me.fill(/^Buy below/, "0.6", decision);
  await me.click("button", "Record it as it is", decision);
  await says(/you would buy below 0.60/, decision);
  await me.click("button", "Record it as it is", decision);
  await says("A little at a time.", () => screen.queryByRole("article"));
  await find("button", "Record the decision", decision);
});
