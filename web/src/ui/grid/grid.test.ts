import { describe, expect, it } from "vitest";
import { columnsAsRecords, lineName, putBlock, putNamed, readBlock, transpose } from "./grid";

describe("pasting", () => {
  it("reads what a spreadsheet copies, its last line end left out", () => {
    expect(readBlock("Revenue\t1,234\r\nTax\t(5)\r\n")).toEqual([
      ["Revenue", "1,234"],
      ["Tax", "(5)"],
    ]);
  });
  it("puts a block where the cursor is and grows", () => {
    expect(putBlock([["a", "b"]], [["x"], ["y"]], 0, 1)).toEqual([
      ["a", "x"],
      ["", "y"],
    ]);
  });
  it("puts named lines where their names stand, whatever their order or spelling", () => {
    const names = ["revenue", "cost_of_revenue", "tax"];
    const block = [
      ["Tax", "5"],
      ["Cost of revenue", "60"],
      ["Goodwill", "9"],
    ];
    expect(putNamed([[""], [""], [""]], block, names, 0)).toEqual([[""], ["60"], ["5"]]);
  });
  it("knows a line by its column and by how it is shown", () => {
    const names = ["depreciation_amortization", "diluted_eps"];
    const block = [
      ["Depreciation and amortization", "7"],
      ["diluted_eps", "1.2"],
    ];
    expect(putNamed([[""], [""]], block, names, 0)).toEqual([["7"], ["1.2"]]);
    expect(names.map(lineName)).toEqual(["Depreciation and amortization", "Diluted EPS"]);
  });
  it("knows other headings that people give a column", () => {
    const named = [
      ["Quantity", "10"],
      ["Trade date", "2024-01-02"],
      ["Kurs", "5"],
    ];
    const also = [["quantity"], ["trade date", "date"]];
    expect(putNamed([[""], [""]], named, ["shares", "day"], 0, also)).toEqual([
      ["10"],
      ["2024-01-02"],
    ]);
  });
  it("leaves blocks without names to be put as they are", () => {
    expect(putNamed([[""]], [["1", "2"]], ["revenue"], 0)).toBeNull();
    expect(putNamed([[""]], [["revenue"]], ["revenue"], 0)).toBeNull();
  });
});

describe("records", () => {
  it("makes one of each column that holds anything", () => {
    const cells = [
      ["2025", "", "2024"],
      ["10", "", ""],
    ];
    expect(columnsAsRecords(cells, ["year", "revenue"])).toEqual([
      { year: "2025", revenue: "10" },
      { year: "2024" },
    ]);
  });
  it("turns rows into columns and back", () => {
    expect(transpose([["a", "b"], ["c"]])).toEqual([
      ["a", "c"],
      ["b", ""],
    ]);
  });
});
