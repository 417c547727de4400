/** Where cash went and what is left of earnings: on the page, too, the parts make the whole. */
import { beforeAll, expect, test } from "vitest";
import type { Figure, Schemas } from "@/api/client";
import { answerOf, begin } from "@/testing/api";
import { find, mount, says } from "@/testing/page";
import { Bridge } from "./Bridge";
import { UsesOfCash } from "./UsesOfCash";

beforeAll(() => begin("demo"));

const PAYERS = ["TRS", "MRB", "ORCF", "GWK"];
const payer = (symbol: string) => ({ exchange: "ELV", symbol });

/** Rows of a table as they are read: a name, and numbers where they are known. */
function rowsOf(table: Element): [string, (number | null)[]][] {
  return [...table.querySelectorAll("tbody tr")].map((row) => {
    const [name, ...cells] = [...row.querySelectorAll("td")].map((c) => c.textContent ?? "");
    const read = (text: string) => {
      const plain = text.replace(/[\s,%]/g, "").replace("−", "-");
      return plain === "" || plain === "–" ? null : Number(plain);
    };
    return [name ?? "", cells.map(read)];
  });
}

test.each(PAYERS)("the uses of the cash of %s make the whole of it, each year", async (symbol) => {
  const { box } = await mount(<UsesOfCash payer={payer(symbol)} />, payer(symbol));
  await find("table", /Uses of cash/);
  const [whole, ...parts] = rowsOf(box).filter(([name]) => !name.startsWith("of capital"));
  expect(whole?.[0]).toBe("Operating cash flow");
  expect(parts).toHaveLength(6);
  const columns = (whole?.[1].length ?? 0) - 1;
  expect(columns).toBeGreaterThan(3);
  for (let c = 0; c < columns; c++) {
    const held = parts.map(([, cells]) => cells[c]);
    if (held.includes(null)) continue;
    const sum = held.reduce<number>((a, b) => a + (b ?? 0), 0);
    // Six parts, each rounded to a tenth of a million.
    expect(Math.abs(sum - (whole?.[1][c] ?? 0))).toBeLessThanOrEqual(0.35);
  }
  const shares = parts.map(([, cells]) => cells.at(-1) ?? 0);
  expect(Math.abs(shares.reduce((a, b) => a + b, 0) - 100)).toBeLessThanOrEqual(3);
});

test("the sentence names what took most, and debt that was raised besides", async () => {
  const { uses } = await answerOf<Schemas["UsesSeries"]>("/api/payers/ELV/TRS/cover/uses");
  const { shares } = uses.at(-1) as Schemas["UsesOut"];
  await mount(<UsesOfCash payer={payer("TRS")} />, payer("TRS"));
  const whole = (f: Figure | undefined) => `${((f?.value ?? 0) * 100).toFixed(0)} %`;
  await says(`${whole(shares.capital_expenditure)} went into capital expenditure`);
  await says(`${whole(shares.dividends)} went into dividends`);
});

test.each(PAYERS)("the bridge of %s lands where its steps lead", async (symbol) => {
  const { box } = await mount(
    <Bridge payer={payer(symbol)} total controls={null} />,
    payer(symbol),
  );
  await find("table", /From what was earned/);
  const rows = rowsOf(box).filter(([name]) => !name.startsWith("Capital ratio"));
  const columns = rows[0]?.[1].length ?? 0;
  for (let c = 0; c < columns; c++) {
    let run: number | null = null;
    let totals = 0;
    rows.forEach(([name, cells], i) => {
      const value = cells[c] ?? null;
      if (i === 0) run = value;
      else if (name.startsWith("=")) {
        totals += 1;
        if (run !== null && value !== null) expect(Math.abs(run - value)).toBeLessThanOrEqual(0.75);
        run = value;
      } else if (run !== null)
        run = value === null ? null : run + (name.startsWith("−") ? -value : value);
    });
    expect(totals).toBeGreaterThan(0);
  }
});

test("a share of the bridge is the whole by its shares", async () => {
  const { bridges } = await answerOf<Schemas["BridgeSeries"]>("/api/payers/ELV/TRS/cover/bridge");
  const { box, give } = await mount(
    <Bridge payer={payer("TRS")} total controls={null} />,
    payer("TRS"),
  );
  await find("table", /in millions/);
  const [, whole] = rowsOf(box)[0] ?? ["", []];
  give(<Bridge payer={payer("TRS")} total={false} controls={null} />);
  await find("table", /per share/);
  const [, apiece] = rowsOf(box)[0] ?? ["", []];
  const counts = whole.map((w, i) => (w ?? 0) / (apiece[i] ?? 1));
  for (const count of counts) {
    expect(count).toBeGreaterThan(0);
    expect(Math.abs(count / (counts[0] ?? 1) - 1)).toBeLessThan(0.5);
  }
  expect(counts).toHaveLength(bridges.length);
});

test("who has no two years in a row is told what is missing", async () => {
  await mount(<UsesOfCash payer={payer("NWO")} />, payer("NWO"));
  await says(/Where cash went is told once two fiscal years|Uses of cash/);
});
