import { screen } from "@testing-library/react";
import { expect, test } from "vitest";
import type { Schemas } from "@/api/client";
import { answerOf } from "@/testing/api";
import {
  dialog,
  faults,
  field,
  find,
  gone,
  open,
  region,
  row,
  says,
  saysNot,
  until,
} from "@/testing/page";

type Page = Awaited<ReturnType<typeof open>>;
const LINE = "What you bought, sold or hold";
const line = () => screen.queryByRole("form", { name: "A trade in a line" });
const list = region("List of entries");
const form = () => screen.queryByRole("form", { name: "New entry" });

async function begun(): Promise<Page> {
  const me = await open("/holdings");
  await says("Nothing is entered yet");
  await me.fill("Name", "Main");
  await me.fill("Currency", "TLL");
  await me.click("button", "Add the account");
  await says("first in first out · dividends from the record");
  return me;
}

async function enter(me: Page, text: string) {
  await me.fill(LINE, text, line);
  await me.click("button", "Enter", line);
}

test("an account and a line of words make a position that opens its working", async () => {
  const me = await begun();
  await enter(me, "held 50 TRS at 32.11 on 2026-06-01");
  await says("Entered: 50 of Tallow & Reed Soapworks at 32.11 TLL");
  await me.click("button", "Positions");
  await says("You own 1 position");
  await me.click("button", /^yield on cost: \d/, () =>
    screen.queryByRole("row", { name: /Tallow/ }),
  );
  await says("Declared income a year ÷ cost", dialog);
  await me.press("{Escape}");
  await me.click("button", "TRS: lots of Tallow & Reed Soapworks");
  await row("before 1 June 2026 Main 50 32.1100 1,605.50");
  expect(me.url()).toContain("lots=ELV");
  await me.click("button", /^value: \d/, () => document.querySelector("#main p.font-serif"));
  await says("Sum over the positions", dialog);
  await me.press("{Escape}");
  expect(await faults()).toEqual([]);
});

test("what cannot be is asked, and entered when it is meant", async () => {
  const me = await begun();
  await enter(me, "bought 50 TRS at 40 on 2024-06-03");
  await says("Entered: 50");
  await enter(me, "sold 60 TRS at 60 on 2025-06-03");
  await says(/more of TRS would go from Main than was held: 10 are missing/);
  await me.click("button", "Enter it all the same", line);
  await says("Entered: 60");
  await me.click("button", "Positions");
  await says("More was sold than was held on 3 June 2025");
});

test("a line that says no entry, or nobody, says how to write it", async () => {
  const me = await begun();
  await enter(me, "TRS is dear");
  await says("Write it as “bought 50 TRS at 21.40 today”");
  await enter(me, "bought 50 zzz at 2 today");
  await says("No payer is called that.");
});

test("an entry of any kind has its own fields, is changed, deleted and put back", async () => {
  const me = await begun();
  await me.click("button", "Another kind of entry");
  await me.user.selectOptions(await field("What", form), "Dividend");
  await me.user.type(await field("Payer", form), "TRS");
  await me.click("button", "Tallow & Reed Soapworks", form);
  await me.fill("Amount, TLL", "24.75", form);
  await me.fill("Tax withheld, TLL", "30", form);
  await me.click("button", "Enter", form);
  await says("This tax withheld cannot be", form);
  await me.fill("Tax withheld, TLL", "3.71", form);
  await me.click("button", "Enter", form);
  await says("withheld 3.71", list);
  await gone("form", "New entry");
  await me.click("button", /^Edit: Dividend of/, list);
  const edit = () => screen.queryByRole("form", { name: "Edit the entry" });
  await me.fill("Amount, TLL", "25", edit);
  await me.click("button", "Save", edit);
  await says("25.00 TLL", list);
  await me.click("button", /^Delete: Dividend of/, list);
  await says(/Dividend of .* deleted/);
  await me.click("button", "Undo");
  await says("25.00 TLL", list);
});

test("what is typed of an entry is kept over a reload, and a number that reads twice is refused", async () => {
  const me = await begun();
  await me.click("button", "Another kind of entry");
  await me.fill("Shares", "1,234", form);
  await says("can be read as 1234 or as 1.234", form);
  me.reload();
  await until(async () =>
    expect(((await field("Shares", form)) as HTMLInputElement).value).toBe("1,234"),
  );
});

test("positions in groups sum to the whole", async () => {
  const me = await begun();
  for (const text of ["bought 50 TRS at 40 on 2024-06-03", "bought 70 GWK at 20 on 2024-06-03"]) {
    await enter(me, text);
    await says(`Entered: ${text.split(" ")[1]}`);
  }
  await me.click("button", "Positions");
  const names = () =>
    screen.queryAllByRole("button", { name: /: lots of/ }).map((b) => b.textContent?.slice(0, 3));
  await me.click("button", "Cost");
  await until(() => expect(names()).toEqual(["TRS", "GWK"]));
  await me.click("button", /^Cost/);
  await until(() => expect(names()).toEqual(["GWK", "TRS"]));
  expect(me.url()).toContain("sort=cost");
  await me.click("button", "sector");
  const found = await answerOf<Schemas["HoldingsOut"]>("/api/holdings?by=sector");
  for (const group of found.groups) await says(group.name as string);
  await saysNot("not known");
  expect(me.url()).toContain("by=sector");
  await find("table", "Positions by sector");
  expect(await faults()).toEqual([]);
});

test("a key hides amounts on every view, and leaves shares of the whole", async () => {
  const me = await begun();
  await enter(me, "held 50 TRS at 32.11 on 2026-06-01");
  await says("Entered: 50");
  await me.click("button", "Positions");
  await says("bought for 1,606");
  (document.activeElement as HTMLElement | null)?.blur();
  await me.press("h");
  await says("You own 1 position worth ••• TLL, bought for •••");
  await row(/Tallow.* ••• ••• ••• 100.0 /);
  await saysNot("1,606");
  await me.click("button", /^cost: •••/, () => screen.queryByRole("row", { name: /Tallow/ }));
  await says("Amounts are hidden", dialog);
  await me.press("{Escape}");
  const later = me.go("/review/ELV/TRS");
  await says(/You hold•••/);
  await later.press("h");
  await says(/You hold50/);
});

test("of a payment that did not come one says why, and it asks for nothing more", async () => {
  const me = await open("/holdings?tab=income", "demo");
  const dues = region("What has not come as due");
  await says("nothing is entered", dues);
  await me.click("button", /^Say why: Amberlough Mustard/, dues);
  await me.fill(/^Why it did not come as due/, "The bank is looking", dues);
  await me.click("button", "Keep", dues);
  await says("You said: “The bank is looking”", dues);
  expect(screen.queryByRole("button", { name: /^Enter it: Amberlough/ })).toBeNull();
  const home = me.go("/");
  await says("1 came short.");
  await saysNot(/that was due on 29 September 2025/);
  home.go("/holdings?tab=income");
  await home.click("button", /^Change: Amberlough Mustard/, dues);
  await home.click("button", "Take it back", dues);
  await says("nothing is entered", dues);
});
