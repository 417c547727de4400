/** What the browser keeps between pages, and keys that act by themselves. */
import { fireEvent } from "@testing-library/react";
import { expect, test, vi } from "vitest";
import { mount, until } from "@/testing/page";
import {
  keepCompared,
  lastCompared,
  MOST_COMPARED,
  readCompared,
  withOneMore,
  writeCompared,
} from "./compared";
import { setSingleKeys, singleKeysOn, useSingleKey } from "./keys";
import { readStored } from "./stored";

test("one more payer is compared with the last ones, each once, the oldest making room", () => {
  const payer = (symbol: string) => ({ exchange: "ELV", symbol });
  expect(lastCompared()).toEqual([]);
  for (const symbol of "ABCDEFGB") keepCompared(withOneMore(payer(symbol)));
  const held = lastCompared();
  expect(held).toHaveLength(MOST_COMPARED);
  expect(held.map((k) => k.slice(4)).join("")).toBe("CDEFGB");
});

test("payers in an address are read back, whatever is in a symbol", () => {
  const payers = ["ELV/A,B", "ELV/C", "TRL/D%"];
  expect(readCompared(writeCompared(payers))).toEqual(payers);
  expect(readCompared(undefined)).toEqual([]);
  expect(readCompared(",,")).toEqual([]);
});

test("what is kept in another shape, or is no JSON, is as if nothing was kept", () => {
  const fits = (raw: unknown): raw is number => typeof raw === "number";
  expect(readStored(localStorage, "k", fits)).toBeNull();
  for (const [text, read] of [
    ["7", 7],
    ['"7"', null],
    ["{", null],
    ["", null],
  ] as const) {
    localStorage.setItem("k", text);
    expect(readStored(localStorage, "k", fits)).toBe(read);
  }
});

function Page({ act }: { act: () => void }) {
  useSingleKey("j", act);
  useSingleKey("?", act);
  return (
    <div>
      <input aria-label="text" />
      <textarea aria-label="long" />
      <input type="checkbox" aria-label="tick" />
      <select aria-label="list">
        <option>jay</option>
      </select>
      <button type="button">button</button>
    </div>
  );
}

test("a single key acts, but not while one types, and in a list only as a sign", async () => {
  const act = vi.fn();
  const { box } = await mount(<Page act={act} />);
  const pressed = (selector: string, key: string) => {
    act.mockClear();
    const on = box.querySelector(selector) ?? document.body;
    fireEvent.keyDown(on, { key, code: key === "j" ? "KeyJ" : "Slash", bubbles: true });
    fireEvent.keyUp(on, { key, bubbles: true });
    return act.mock.calls.length;
  };
  expect(pressed("button", "j")).toBe(1);
  expect(pressed("[type=checkbox]", "j")).toBe(1);
  for (const typing of ["input:not([type])", "textarea", "select"])
    expect(pressed(typing, "j")).toBe(0);
  expect(pressed("select", "?")).toBe(1);
  expect(pressed("input:not([type])", "?")).toBe(0);
});

test("single keys are off once the person says so, at once", async () => {
  const act = vi.fn();
  const { box } = await mount(<Page act={act} />);
  const press = () => {
    fireEvent.keyDown(box.querySelector("button") as Element, { key: "j", code: "KeyJ" });
    fireEvent.keyUp(box.querySelector("button") as Element, { key: "j", code: "KeyJ" });
  };
  setSingleKeys(false);
  await until(() => expect(singleKeysOn()).toBe(false));
  press();
  expect(act).not.toHaveBeenCalled();
  setSingleKeys(true);
  await until(() => {
    press();
    expect(act).toHaveBeenCalled();
  });
});
