import { beforeEach, describe, expect, it, vi } from "vitest";
import { noteRecent, recentPayers } from "./recent";

const payer = (symbol: string) => ({ exchange: "ELV", symbol, name: `Payer ${symbol}` });

beforeEach(() => {
  const held = new Map<string, string>();
  vi.stubGlobal("localStorage", {
    getItem: (key: string) => held.get(key) ?? null,
    setItem: (key: string, text: string) => held.set(key, text),
  });
});

describe("payers read lately", () => {
  it("stand newest first, each once", () => {
    for (const symbol of ["A", "B", "A"]) noteRecent(payer(symbol));
    expect(recentPayers().map((p) => p.symbol)).toEqual(["A", "B"]);
  });

  it("are six at most", () => {
    for (const symbol of "ABCDEFGH") noteRecent(payer(symbol));
    expect(recentPayers().map((p) => p.symbol)).toEqual(["H", "G", "F", "E", "D", "C"]);
  });

  it("are none where what is kept is of another shape", () => {
    localStorage.setItem("hearth.recent", '[{"symbol": 3}]');
    expect(recentPayers()).toEqual([]);
    localStorage.setItem("hearth.recent", "{");
    expect(recentPayers()).toEqual([]);
  });
});
