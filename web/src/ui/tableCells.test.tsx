/** A table of the page as cells: what leaves the page is what was read on it. */
import { describe, expect, it } from "vitest";
import { mount } from "@/testing/page";
import { asCsv, asHtml, asText, plainCell, readTable } from "./tableCells";

describe("a shown cell for a spreadsheet", () => {
  it.each([
    ["55.2 %", 0.552],
    ["−4.5 %", -0.045],
    ["2.6×", 2.6],
    ["1,234.5", 1234.5],
    ["0.00", 0],
    ["12", 12],
  ])("%s is a number", (text, value) => {
    expect(plainCell(text)).toBe(value);
  });
  it.each(["unknown", "2026-06-30", "24 years", "412.3 m", "–", "A1", "", "1.2.3", "+3"])(
    "%s stays a text",
    (text) => {
      expect(plainCell(text)).toBe(text);
    },
  );
});

describe("cells that leave the page", () => {
  const hostile = ["=1+1", "+A1", "-A1", "@SUM(A1)", "\tx", "\rx"];
  it("run nothing in a spreadsheet", () => {
    for (const text of hostile) expect(asCsv([[text]]).replace(/^"/, "")[0]).toBe("'");
    expect(asCsv([[-3, "=x"]])).toBe("-3,'=x");
  });
  it("quote what would break a line or a cell", () => {
    expect(asCsv([['say "so"', "a,b", "two\nlines", "plain"]])).toBe(
      '"say ""so""","a,b","two\nlines",plain',
    );
  });
  it("are no elements", () => {
    expect(asHtml([["<b>&", 2]])).toBe("<table><tr><td>&lt;b&gt;&amp;</td><td>2</td></tr></table>");
  });
  it("stand under one another where they are text", () => {
    expect(
      asText([
        ["a", 1],
        ["b", 2],
      ]),
    ).toBe("a\t1\nb\t2");
  });
});

const table = (rows: React.ReactNode) => (
  <main>
    <div>
      <table>
        <caption>Payers; click to sort</caption>
        <tbody>{rows}</tbody>
      </table>
    </div>
  </main>
);
const tableIn = (box: Element) => box.querySelector("table") as HTMLTableElement;

describe("a table that is read", () => {
  it("tells what is shown, not what is hidden or drawn", async () => {
    const { box } = await mount(
      table(
        <tr>
          <td>
            <svg role="img" aria-label="close to a limit">
              <title>a mark</title>
            </svg>
            55.2 %<span className="sr-only"> hidden words</span>
          </td>
          <td>
            <input defaultValue="typed" />
            <input type="checkbox" defaultChecked />
          </td>
          <td>
            <select defaultValue="b">
              <option value="a">first</option>
              <option value="b">second</option>
            </select>
          </td>
          <td>
            two
            <br />
            lines<span data-tool>×</span>
          </td>
        </tr>,
      ),
    );
    expect(await readTable(tableIn(box))).toEqual([[0.552, "typed", "second", "two lines"]]);
  });
  it("keeps the columns beneath a wide cell in their place", async () => {
    const { box } = await mount(
      table([
        <tr key="a">
          <th colSpan={3}>All</th>
          <th>Last</th>
        </tr>,
        <tr key="b">
          <td>1</td>
          <td>2</td>
          <td>3</td>
          <td>4</td>
        </tr>,
      ]),
    );
    expect(await readTable(tableIn(box))).toEqual([
      ["All", "", "", "Last"],
      [1, 2, 3, 4],
    ]);
  });
  it("leaves out what only fills a gap, and rows of nothing", async () => {
    const { box } = await mount(
      table([
        <tr key="a" data-gap>
          <td>…</td>
        </tr>,
        <tr key="b">
          <td />
        </tr>,
        <tr key="c">
          <td>held</td>
        </tr>,
      ]),
    );
    expect(await readTable(tableIn(box))).toEqual([["held"]]);
  });
  it("asks a long table for all of its rows, waits for them, and lets it be short again", async () => {
    const { box } = await mount(
      table(
        <tr>
          <td data-waiting>0</td>
        </tr>,
      ),
    );
    const asked: boolean[] = [];
    const cell = box.querySelector("td") as HTMLElement;
    tableIn(box).parentElement?.addEventListener("hearth:whole", (e) => {
      asked.push((e as CustomEvent<boolean>).detail);
      setTimeout(() => {
        cell.removeAttribute("data-waiting");
        cell.textContent = "7";
      }, 120);
    });
    expect(await readTable(tableIn(box))).toEqual([[7]]);
    expect(asked).toEqual([true, false]);
  });
});
