import { screen } from "@testing-library/react";
import { expect, test } from "vitest";
import { dialog, find, open, says, until } from "@/testing/page";

const box = () => screen.findByPlaceholderText("Search payers, measures and actions");
const option = (words: RegExp) => find("option", words);

test("a measure opens for the payer at hand, and for the one read lately", async () => {
  const at = await open("/review/ELV/AMLH");
  await find("heading", "Amberlough Mustard");
  await at.press("/");
  await until(async () => expect(document.activeElement).toBe(await box()));
  await at.press("interest cov");
  const offered = await option(/Interest cover.*measure of AMLH/);
  await at.user.click(offered);
  await says(/interest cover/i, dialog);
  await at.asks(/\/review\/ELV\/AMLH.*footing/);
  const later = at.go("/watch");
  await later.user.click(await box());
  await until(() => {
    const [first] = screen.getAllByRole("option");
    expect(first?.textContent).toContain("Amberlough Mustard");
    expect(first?.textContent).toContain("read lately");
  });
});

test.each([
  ["backup", /^Export, back up or restore/, "tab=export"],
  ["stress", /^Put every payer under a strain/, "/payers/strain"],
  ["notify", /^Choose what I want to hear of/, "/house-rules"],
  ["help words", /^Glossary/, "/glossary"],
])("%s finds its action", async (words, name, address) => {
  const at = await open("/");
  await at.user.type(await box(), words);
  await at.user.click(await option(name));
  await at.asks(address);
});

test("another day opens the calendar of days", async () => {
  const at = await open("/");
  await at.user.type(await box(), "another day");
  await at.quiet();
  await option(/^View another day/);
  await at.press("{Enter}");
  await screen.findByLabelText("View as of");
});

test("several names, with commas, are compared", async () => {
  const at = await open("/compare");
  await at.user.type(await box(), "tallow, amberl, corrie");
  await at.user.click(await option(/^Compare Tallow/));
  await at.asks("compared=ELV/TRS,ELV/AMLH,ELV/CRF");
});

test("escape leaves the box empty and the page where it was", async () => {
  const at = await open("/watch");
  await at.user.type(await box(), "tallow");
  await option(/Tallow/);
  await at.press("{Escape}");
  expect(((await box()) as HTMLInputElement).value).toBe("");
  expect(at.url()).toBe("/watch");
});

test("a trade in words is written into the line of Holdings", async () => {
  const at = await open("/review/ELV/TRS");
  await find("heading", "Tallow & Reed Soapworks");
  await at.user.type(await box(), "bought 50 at 21.40 today");
  await at.user.click(await option(/^Enter “bought 50 TRS at 21.40 today”/));
  await at.asks("tab=entries");
  await find("heading", "Accounts");
});

test("the theme is switched and kept", async () => {
  const at = await open("/watch");
  await at.click("button", "Dark theme");
  expect(document.documentElement.dataset.theme).toBe("dark");
  at.reload();
  await find("button", "Light theme");
});
