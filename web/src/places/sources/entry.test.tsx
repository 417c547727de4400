/** A grid to type facts in: keys go through it, what is pasted is shown first, nothing typed is lost. */
import { fireEvent } from "@testing-library/react";
import { beforeEach, expect, test, vi } from "vitest";
import type { Facts } from "@/api/sources";
import { answerOf, asked, begin, lose } from "@/testing/api";
import { field, find, gone, isDisabled, mount, says, saysNot, until } from "@/testing/page";
import { HandGrid } from "@/ui/grid/HandGrid";
import { Warnings } from "@/ui/grid/Warnings";
import { Pager } from "./Pager";

const PAYER = { exchange: "ELV", symbol: "TRS" };
beforeEach(() => begin("demo"));

async function grid(table: string, names: string[], given: Record<string, string> = {}) {
  const facts = await answerOf<Facts>(`/api/payers/ELV/TRS/facts/${table}?count=1`);
  const columns = names.flatMap((n) => facts.columns.filter((c) => c.name === n));
  expect(columns.map((c) => c.name)).toEqual(names);
  const [onKept, onClose] = [vi.fn(), vi.fn()];
  const piece = (key: string) => (
    <HandGrid
      key={key}
      payer={PAYER}
      given={given}
      table={table}
      columns={columns}
      onKept={onKept}
      onClose={onClose}
    />
  );
  const at = await mount(piece("first"), PAYER);
  return { ...at, onKept, onClose, again: () => at.give(piece("second")) };
}
const closes = () => grid("prices", ["day", "close"]);
const cell = async (label: string) => (await field(label)) as HTMLInputElement;
const focused = (label: string) =>
  until(async () => expect(document.activeElement).toBe(await cell(label)));

test("in a list Enter goes down its column, then to the next, then to the button", async () => {
  const { user } = await closes();
  await focused("Day, 1");
  await user.keyboard("2026-06-26{Enter}");
  await focused("Close, 1");
  await user.keyboard("60{Enter}");
  await until(async () => expect(document.activeElement).toBe(await find("button", "Keep it")));
  await user.click(await find("button", "Add row"));
  (await cell("Day, 1")).focus();
  for (const next of ["Day, 2", "Close, 1", "Close, 2"]) {
    await user.keyboard("{Enter}");
    await focused(next);
  }
  await user.keyboard("{ArrowUp}");
  await focused("Close, 1");
});

test("statements lie across: Enter goes down, and on to the next year", async () => {
  const { user } = await grid("statements", ["period_end", "span", "revenue"]);
  await user.click(await find("button", "Add column"));
  (await cell("Period end, 1")).focus();
  await user.keyboard("{ArrowDown}");
  await focused("Span, 1");
  (await cell("Revenue, 1")).focus();
  await user.keyboard("{Enter}");
  await focused("Period end, 2");
});

test("what was typed comes back step by step, a cell a step", async () => {
  const { user } = await closes();
  await user.type(await cell("Close, 1"), "615");
  await user.type(await cell("Day, 1"), "2026");
  await user.keyboard("{Control>}z{/Control}");
  expect((await cell("Day, 1")).value).toBe("");
  expect((await cell("Close, 1")).value).toBe("615");
  await user.keyboard("{Control>}z{/Control}");
  expect((await cell("Close, 1")).value).toBe("");
  await user.keyboard("{Control>}y{/Control}{Control>}{Shift>}z{/Shift}{/Control}");
  expect((await cell("Close, 1")).value).toBe("615");
  expect((await cell("Day, 1")).value).toBe("2026");
});

test("what is typed stands there again after the page was left, and is gone once it is kept", async () => {
  const { user, again, onKept } = await closes();
  await user.type(await cell("Day, 1"), "2026-06-26");
  await user.type(await cell("Close, 1"), "60");
  again();
  expect((await cell("Close, 1")).value).toBe("60");
  await until(async () => expect(isDisabled(await find("button", "Keep it"))).toBe(false));
  await user.click(await find("button", "Keep it"));
  await until(() => expect(onKept).toHaveBeenCalledOnce());
  expect(sessionStorage.length).toBe(0);
});

test("a fault stands at its cell, with its rule, and nothing can be kept", async () => {
  const { user } = await closes();
  await user.type(await cell("Day, 1"), "2026-06-26");
  await user.type(await cell("Close, 1"), "-4");
  await until(async () =>
    expect((await cell("Close, 1")).getAttribute("aria-invalid")).toBe("true"),
  );
  expect((await cell("Close, 1")).title).toContain("expected a number above 0");
  expect((await cell("Day, 1")).getAttribute("aria-invalid")).toBeNull();
  expect(isDisabled(await find("button", "Keep it"))).toBe(true);
  expect(asked.filter((a) => a.startsWith("POST") && !a.includes("preview"))).toEqual([]);
});

test("cells that cannot be kept stay, and say so", async () => {
  const { user, onKept } = await closes();
  await user.type(await cell("Day, 1"), "2026-06-26");
  await user.type(await cell("Close, 1"), "60");
  await until(async () => expect(isDisabled(await find("button", "Keep it"))).toBe(false));
  lose(/^POST/);
  await user.click(await find("button", "Keep it"));
  await says("What you typed is still here.");
  expect((await cell("Close, 1")).value).toBe("60");
  expect(onKept).not.toHaveBeenCalled();
});

const paste = async (label: string, text: string) =>
  fireEvent.paste(await cell(label), {
    clipboardData: { getData: (kind: string) => (kind === "text/plain" ? text : "") },
  });

test("a pasted block shows where it goes before it is there", async () => {
  const { user } = await closes();
  await paste("Day, 1", "2026-06-25\t61\n2026-06-26\t62");
  await find("button", "Put them in");
  expect((await cell("Close, 2")).value).toBe("62");
  expect((await cell("Close, 2")).readOnly).toBe(true);
  await user.click(await find("button", "Put them in"));
  expect((await cell("Close, 2")).readOnly).toBe(false);
  expect((await cell("Day, 2")).value).toBe("2026-06-26");
});

test("a pasted block that is not wanted leaves all as it was", async () => {
  const { user } = await closes();
  await user.type(await cell("Close, 1"), "60");
  await paste("Day, 1", "2026-06-25\t61\n2026-06-26\t62");
  await user.click(await find("button", "Cancel"));
  expect((await cell("Close, 1")).value).toBe("60");
  await gone("textbox", "Close, 2");
});

test("one pasted value is simply typed", async () => {
  await closes();
  expect(await paste("Close, 1", "60")).toBe(true);
  await saysNot("Put them in");
});

const fault = (value: string, more = {}) => ({
  file: "prices.csv",
  line: 2,
  column: "close_price",
  value,
  expected: "near the closes around it",
  warning: true,
  mend: null,
  ...more,
});

test("warnings are accepted one by one or together; errors between them keep their places", async () => {
  const accept = vi.fn();
  const faults = [fault("1"), fault("x", { warning: false }), fault("3")] as never;
  const piece = (accepted: number[]) => (
    <Warnings faults={faults} accepted={accepted} onAccept={accept} />
  );
  const { user, give } = await mount(piece([]));
  await says("2 warnings");
  await user.click(await find("checkbox", "Accept: prices.csv, line 2, close price, 3"));
  expect(accept).toHaveBeenLastCalledWith([2]);
  await user.click(await find("button", "Accept all"));
  expect(accept).toHaveBeenLastCalledWith([0, 2]);
  give(piece([0, 2]));
  await user.click(await find("button", "Accept none"));
  expect(accept).toHaveBeenLastCalledWith([]);
  await user.click(await find("checkbox", /, 1$/));
  expect(accept).toHaveBeenLastCalledWith([2]);
});

test("figures that cannot stand together are not accepted with the others", async () => {
  const accept = vi.fn();
  const faults = [fault("1"), fault("455", { grave: true }), fault("3")] as never;
  const { user, box } = await mount(<Warnings faults={faults} accepted={[]} onAccept={accept} />);
  await says(/One holds figures that cannot stand together/);
  expect(box.querySelector("tbody tr")?.textContent).toContain("455");
  await user.click(await find("button", "Accept all others"));
  expect(accept).toHaveBeenLastCalledWith([0, 2]);
  await user.click(await find("checkbox", /, 455$/));
  expect(accept).toHaveBeenLastCalledWith([1]);
});

test("a slip that is likely can be mended from its warning", async () => {
  const mended = vi.fn();
  const mend = { name: "Read as pence", setting: "unit", value: "pence" };
  const { user } = await mount(
    <Warnings
      faults={[fault("6150", { mend })] as never}
      accepted={[]}
      onAccept={() => {}}
      onMend={mended}
    />,
  );
  await user.click(await find("button", "Read as pence"));
  expect(mended).toHaveBeenCalledExactlyOnceWith(mend);
  await says("1 warning");
});

test("of many facts a page is shown, and the way through all of them", async () => {
  const { user, url, give } = await mount(<Pager found={230} size={100} />);
  await says(/1 to 100 of 230/);
  expect(isDisabled(await find("button", "Newer"))).toBe(true);
  await user.click(await find("button", "Oldest"));
  await says(/201 to 230 of 230/);
  expect(url()).toContain("page=3");
  expect(isDisabled(await find("button", "Older"))).toBe(true);
  await user.click(await find("button", "Newest"));
  expect(url()).not.toContain("page");
  give(<Pager found={100} size={100} />);
  await gone("navigation", "Pages");
});
