/** Words and marks that stand in many places: a mark is never alone, an unknown never a number. */
import { expect, test } from "vitest";
import { type Figure, Refusal, type Schemas, type State } from "@/api/client";
import { find, findAll, gone, mount, says, saysNot } from "@/testing/page";
import { CautionMark } from "./CautionMark";
import { CushionList } from "./CushionList";
import { ErrorNote } from "./ErrorNote";
import { Fig, KeyFigure } from "./Fig";
import { JobProgress } from "./JobProgress";
import { type Judged, JudgedList, saidInWords } from "./JudgedList";
import { MemoLinks } from "./MemoLinks";
import { Sentence } from "./Sentence";
import { STATE_WORDS, STATES, StateMark } from "./StateMark";
import { StrainSaid } from "./StrainSaid";
import { isTerm, Term } from "./Term";
import { TouchMark } from "./TouchMark";

const PAYER = { exchange: "ELV", symbol: "TRS" };
const figure = (more: Partial<Figure> = {}): Figure => ({
  key: "cover.payout",
  label: "payout",
  unit: "fraction",
  value: 0.552,
  notes: [],
  cautions: [],
  ...more,
});
const shown = (box: Element) => (box.textContent ?? "").replace(/\s/g, " ").trim();

test("a figure is a button that opens its working", async () => {
  const { box, user, url } = await mount(<Fig figure={figure()} />, PAYER);
  expect(shown(box)).toBe("55.2 %");
  await user.click(await find("button", /payout: 55.2/));
  expect(url()).toContain("open=ELV/TRS/cover.payout");
});

test.each([
  [{ value: null, reason: "no fiscal year is held" }, "unknown"],
  [{ value: null, breach: "loss" }, "loss"],
  [{ value: null, spared: "no interest to pay" }, "no interest to pay"],
] as [Partial<Figure>, string][])("a figure without a value says %o", async (more, words) => {
  const { box } = await mount(<Fig figure={figure(more)} />, PAYER);
  expect(shown(box)).toBe(words);
  expect((await find("button")).getAttribute("data-unknown")).toBe("true");
});

test("money names its currency where no head does, a price where it is spoken of", async () => {
  const price = figure({ unit: "per_share", value: 61.76, currency: "TLL" });
  const { box, give } = await mount(<Fig figure={price} />, PAYER);
  expect(shown(box)).toBe("61.76");
  give(<Fig figure={price} spoken />);
  expect(shown(box)).toBe("61.76 TLL");
  give(<Fig figure={figure({ unit: "money", value: 41e6, currency: "TLL" })} />);
  expect(shown(box)).toBe("41.0 m TLL");
  give(<Fig figure={figure({ unit: "money", value: 41e6, currency: "TLL" })} bare />);
  expect(shown(box)).toBe("41.0");
});

test("a key figure that is unknown gives its reason and what it was", async () => {
  const unknown = figure({ value: null, reason: "no report since 2024-03-01", was: 0.61 });
  await mount(<KeyFigure name="Payout" figure={unknown} note="a note" />, PAYER);
  await says("no report since 1 March 2024; it was 61.0 % then");
  await saysNot("a note");
});

test.each(STATES)("a state of %s has a mark of its own and a word", async (state) => {
  const { box } = await mount(<StateMark state={state} />);
  expect((await find("img", STATE_WORDS[state])).innerHTML).not.toBe("");
  const others = STATES.filter((s) => s !== state);
  const own = box.innerHTML;
  for (const other of others) {
    const { box: beside } = await mount(<StateMark state={other} />);
    expect(beside.innerHTML).not.toBe(own);
  }
});

test("a mark beside its word is not read twice", async () => {
  await mount(<StateMark state="close" label={false} />);
  await gone("img", /./);
});

const expectation = (more: Partial<Judged> = {}): Judged => ({
  measure: "payout",
  name: "Payout",
  unit: "fraction",
  currency: "TLL",
  way: "level",
  side: "at_most",
  value: 0.6,
  until: "2029-12-31",
  track: "on",
  reason: "",
  now: figure({ key: "expect.now" }),
  wanted: figure({ key: "expect.wanted", value: 0.6 }),
  // biome-ignore lint/suspicious/noThenProperty: the API's word
  then: 0.55,
  ...more,
});

test.each([
  [{}, "Payout is at most 60.0 % by 31 December 2029"],
  [{ way: "throughout" }, "Payout stays at most 60.0 % until 31 December 2029"],
  [
    { way: "growth", side: "at_least", name: "Declared rate", value: 0.06 },
    "Declared rate grows at least 6.0 % a year until 31 December 2029",
  ],
  [
    { unit: "per_share", side: "at_least", name: "Dividend", value: 1.09 },
    "Dividend is at least 1.09 TLL by 31 December 2029",
  ],
] as [Partial<Judged>, string][])("an expectation %o reads as a sentence", (more, words) => {
  expect(saidInWords(expectation(more)).replace(/\s/g, " ")).toBe(words);
});

test("how an expectation stands is a mark, a word and a figure", async () => {
  const { box, give } = await mount(<JudgedList judged={[expectation()]} />, PAYER);
  expect(shown(box)).toBe("◆Payout is at most 60.0 % by 31 December 2029: on track; 55.2 % now");
  const behind = { track: "off", wanted: figure({ value: 0.5 }) } as const;
  give(<JudgedList judged={[expectation(behind)]} />);
  expect(shown(box)).toContain("off track; 55.2 % now, on the way it would be 50.0 %");
  const dark = { track: "unknown", reason: "No raise before 2026-09-01" } as const;
  give(<JudgedList judged={[expectation(dark)]} />);
  expect(shown(box)).toContain("cannot be told yet (no raise before 1 September 2026)");
  give(<JudgedList judged={[]} />);
  expect(shown(box)).toBe("");
});

test("a strain that is kept says its state, what gives first and from where it is not covered", async () => {
  const said: Schemas["StrainSaidOut"] = {
    name: "A fifth",
    question: {},
    words: "revenue down a fifth",
    state: "close",
    first: "payout",
    gives_at: 0.12,
    uncovered_at: 0.31,
    refused: null,
  };
  const { box, give } = await mount(<StrainSaid said={said} />);
  expect(shown(box)).toBe(
    "close to a limit revenue down a fifth; payout gives at 12.0 %, not covered from 31.0 %",
  );
  give(<StrainSaid said={{ ...said, first: null, gives_at: null, uncovered_at: null }} />);
  expect(shown(box)).toBe("close to a limit revenue down a fifth");
  give(<StrainSaid said={{ ...said, refused: "it has no revenue" }} />);
  expect(shown(box)).toBe("It has no revenue");
});

test("a number without a working is told, and opens nothing", async () => {
  const part = { text: null, day: null, figure: null, size: false };
  const paid = figure({ key: "", label: "", value: 0.57, unit: "per_share", currency: "TLL" });
  const parts = [
    { ...part, text: "The dividend rose to " },
    { ...part, figure: paid },
    { ...part, text: " on " },
    { ...part, day: "2026-03-02" },
    { ...part, text: "." },
  ];
  const { box } = await mount(<Sentence parts={parts} />, PAYER);
  expect(shown(box)).toBe("The dividend rose to 0.57 TLL on 2 March 2026.");
  expect(box.querySelector("button")).toBeNull();
});

test("a finding is words, days and figures that open", async () => {
  const parts = [
    { text: "Payout was ", day: null, figure: null, size: false },
    { text: null, day: null, figure: figure(), size: false },
    { text: " on 2026-03-02, and ", day: null, figure: null, size: false },
    { text: null, day: null, figure: figure({ value: -0.08 }), size: true },
    { text: null, day: "2026-05-04", figure: null, size: false },
  ];
  const { box } = await mount(<Sentence parts={parts} />, PAYER);
  expect(shown(box)).toBe("Payout was 55 % on 2 March 2026, and 8.0 %4 May 2026");
  expect(await findAll("button")).toHaveLength(2);
});

test("what a person had a hand in is marked, and what needs care says why", async () => {
  const { box, give } = await mount(<TouchMark touch="edited" />);
  await find("img", "rests on a figure you edited");
  give(<TouchMark touch="entered" />);
  await find("img", "rests on a figure entered by hand");
  give(<TouchMark touch={null} />);
  expect(shown(box)).toBe("");
  give(<CautionMark cautions={["restated on 2025-02-03", "two dates"]} />);
  await find("img", "Restated on 3 February 2025. Two dates");
  give(<CautionMark cautions={[]} />);
  await gone("img", /./);
});

test("a word of our own is described by its sentence", async () => {
  const { box } = await mount(<Term id="cushion">cushion</Term>);
  const word = box.querySelector(".term") as HTMLElement;
  expect(word.tabIndex).toBe(0);
  const tip = document.getElementById(word.getAttribute("aria-describedby") ?? "");
  expect(tip?.textContent?.length).toBeGreaterThan(20);
  expect([isTerm("cushion"), isTerm("no such word")]).toEqual([true, false]);
});

test("what was refused says what happened, the rule, what was kept and the way on", async () => {
  let gone_on = 0;
  const problem = {
    type: "t",
    title: "No such day",
    status: 422,
    detail: "nothing is held on 1990-01-01",
    rule: "a day from 1996-03-13",
  };
  const note = (error: unknown, way = true) => (
    <ErrorNote
      error={error}
      kept="What you typed is still here."
      way={way ? { name: "Go on", go: () => gone_on++ } : undefined}
    />
  );
  const { box, user, give } = await mount(note(new Refusal(problem as never)));
  expect(shown(await find("alert"))).toBe(
    "No such dayNothing is held on 1 January 1990 (expected: a day from 13 March 1996)What you typed is still here.Go on",
  );
  await user.click(await find("button", "Go on"));
  expect(gone_on).toBe(1);
  give(note(new Error("it broke")));
  await says("Something went wrong");
  // The frame tells of a day that cannot be viewed, once.
  give(note(new Refusal({ ...problem, field: "as_of" } as never), false));
  expect(shown(box)).toBe("");
});

const job = (more: Partial<Schemas["JobOut"]>) =>
  ({ id: "1", step: "reading_files", done: 3, total: 0, ...more }) as Schemas["JobOut"];

test("a task says how far it is, and no length while it has none", async () => {
  const { box, give } = await mount(<JobProgress job={job({})} />);
  expect(shown(box)).toBe("reading files 3Cancel");
  expect(box.querySelector("progress")?.hasAttribute("value")).toBe(false);
  give(<JobProgress job={job({ total: 12_000, done: 6_000 })} />);
  expect(shown(box)).toBe("reading files 6,000 of 12,000Cancel");
  give(<JobProgress job={job({})} error={new Error("gone")} />);
  await says("It is looked for again until the program answers.");
  await gone("button", "Cancel");
  give(<JobProgress />);
  expect(shown(box)).toBe("");
});

test("each memo names its day, as there are many on a page", async () => {
  await mount(<MemoLinks id={7} made="2026-05-04" />);
  const print = await find("link", "Memo, to print: 4 May 2026");
  expect(print.getAttribute("href")).toBe("/api/decisions/7/memo");
  const save = await find("link", /^Save as a file/);
  expect(save.getAttribute("href")).toBe("/api/decisions/7/memo?save=true");
});

const test_of = (id: string, state: State, cushion: number | null, more = {}) => ({
  id,
  short: id,
  stage: "cover" as const,
  measure: figure({ label: id }),
  limit: 0.6,
  direction: "cap" as const,
  required: true,
  cushion: figure({ value: cushion }),
  state,
  falls: "free cash flow",
  strict: false,
  exempt: null,
  beyond: null,
  ...more,
});

test("a cushion lies right of its post, a breach left of it, one without a size is hatched", async () => {
  const { box } = await mount(
    <CushionList
      caption="Tests"
      passed={1}
      tests={[
        test_of("spare", "within", 0.5),
        test_of("breach", "outside", -0.25),
        test_of("burn", "outside", null),
        test_of("dark", "unknown", null),
      ]}
    />,
    PAYER,
  );
  await says("1 of 4 pass");
  const bars = [...box.querySelectorAll("tbody tr")].map((row) => {
    const bar = row.querySelector("svg[width='200'] rect[height='10']");
    const post = Number(
      row.querySelector("svg[width='200'] line[stroke='var(--ink)']")?.getAttribute("x1"),
    );
    const [x, width] = [Number(bar?.getAttribute("x")), Number(bar?.getAttribute("width"))];
    return bar ? { from: x - post, to: x + width - post, fill: bar.getAttribute("fill") } : null;
  });
  expect(bars[0]).toEqual({ from: 0, to: 68, fill: "var(--within)" });
  expect(bars[1]).toEqual({ from: -16, to: 0, fill: "var(--outside)" });
  expect(bars[2]).toEqual({ from: -64, to: 0, fill: "url(#breach)" });
  expect(bars[3]).toBeNull();
});
