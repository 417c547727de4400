/** What is kept from two tabs: the one that comes later is told, both are shown, and nothing that was
 * typed is lost. */
import { expect, test } from "vitest";
import { client, type Schemas } from "@/api/client";
import { answerOf, begin } from "@/testing/api";
import { field, find, gone, mount, open, says, saysNot, until, visit } from "@/testing/page";
import { HandGrid } from "@/ui/grid/HandGrid";

const PATH = { exchange: "ELV", symbol: "TRS" };
const value = async (label: RegExp | string) => ((await field(label)) as HTMLInputElement).value;

/** Saved in another tab. */
async function elsewhere(answered: Promise<{ response: Response }>) {
  expect((await answered).response.ok).toBe(true);
}

test("house rules saved in one tab are shown beside those of another, and neither is undone", async () => {
  const at = await open("/house-rules");
  await at.fill("Net debt to EBITDA, companies", "1");
  await at.fill(/^Why/, "Less debt");
  const { rules } = await answerOf<Schemas["HouseRulesOut"]>("/api/house-rules");
  const theirs = { ...rules, limits: { company: { payout: { value: 0.5, required: false } } } };
  const body = { rules: theirs, note: "Half at most" } as Schemas["RulesIn"];
  await elsewhere(client.PUT("/api/house-rules", { body }));
  await at.click("button", "Save");
  await says(/saved elsewhere since you began, as “Half at most”/);
  expect(await value(/^Why/)).toBe("Less debt");
  await find("row", /Payout, leading basis, companies 60\s%, required 50\s%/);
  await find("row", /Net debt to EBITDA, companies 1.0×, required 3.0×, required/);
  const again = at.reload();
  await says(/saved elsewhere since you began/);
  await again.click("button", "Go on with mine");
  await again.click("button", "Save");
  await gone("button", "Save");
  await find("button", "Restore the version “Half at most”");
});

test("a note on a payer that is watched is kept while it is typed, and held against another", async () => {
  await begin("twenty");
  const put = (note: string) =>
    elsewhere(
      client.PUT("/api/watch/{exchange}/{symbol}", {
        params: { path: PATH },
        body: { note, group: "" },
      }),
    );
  await put("Wait.");
  const at = visit("/watch");
  await at.click("button", "Edit the note: Tallow & Reed Soapworks");
  await at.fill("Note on Tallow & Reed Soapworks", "Wait for autumn.");
  await put("Buy at once.");
  const again = at.reload();
  await says(/changed elsewhere meanwhile/);
  await says("Buy at once.");
  expect(await value("Note on Tallow & Reed Soapworks")).toBe("Wait for autumn.");
  await again.click("button", "Keep that and drop mine");
  await says("Buy at once.");
  await gone("textbox", "Note on Tallow & Reed Soapworks");
});

test("a disagreement that is being written outlives its page, and another tab’s is shown", async () => {
  const at = await open("/review/ELV/TRS?stage=cover");
  await at.click("button", "Disagree with what Cover found");
  await at.fill("Why you disagree", "The year is a freak.");
  const again = at.reload();
  await until(async () => expect(await value("Why you disagree")).toBe("The year is a freak."));
  await elsewhere(
    client.PUT("/api/payers/{exchange}/{symbol}/disagreements/{stage}", {
      params: { path: { ...PATH, stage: "cover" } },
      body: { words: "From elsewhere." },
    }),
  );
  await again.click("button", "Save");
  await says(/changed elsewhere meanwhile/);
  await says("From elsewhere.");
  await again.click("button", "Save mine in its place");
  await says("You disagree: The year is a freak.");
  await saysNot(/changed elsewhere/);
});

test("a note on how a decision turned out is held against another tab’s", async () => {
  await begin("twenty");
  const made = await client.POST("/api/payers/{exchange}/{symbol}/decisions", {
    params: { path: PATH },
    body: { verdict: "hold", words: "Steady.", as_of: "2026-06-30" } as Schemas["DecisionIn"],
  });
  const params = { path: { id: made.data?.id ?? 0 } };
  const put = (words: string) =>
    elsewhere(client.PUT("/api/decisions/{id}/looked-back", { params, body: { words } }));
  const NOTE = "What you see, looking back";
  const at = visit("/journal");
  await at.click("button", /^Note on looking back: Tallow & Reed Soapworks/);
  await at.fill(NOTE, "It held.");
  await put("It did not hold.");
  await at.click("button", "Save the note");
  await says(/changed elsewhere meanwhile/);
  await says("It did not hold.");
  const again = at.reload();
  await says(/changed elsewhere meanwhile/);
  expect(await value(NOTE)).toBe("It held.");
  await again.click("button", "Save mine in its place");
  await gone("textbox", NOTE);
  await says("It held.");
  await saysNot("It did not hold.");
});

test("a grid for one payer never shows what was typed for another", async () => {
  await begin("demo");
  const facts = await answerOf<Schemas["FactsOut"]>("/api/payers/ELV/TRS/facts/prices?count=1");
  const columns = facts.columns.filter((c) => ["day", "close"].includes(c.name));
  const grid = (symbol: string) => (
    <HandGrid
      payer={{ exchange: "ELV", symbol }}
      given={{}}
      table="prices"
      columns={columns}
      onKept={() => undefined}
      onClose={() => undefined}
    />
  );
  const at = await mount(grid("TRS"));
  await at.user.type(await field("Close, 1"), "12.5");
  at.give(grid("GWK"));
  await until(async () => expect(await value("Close, 1")).toBe(""));
  at.give(grid("TRS"));
  await until(async () => expect(await value("Close, 1")).toBe("12.5"));
});
