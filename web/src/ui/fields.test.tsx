/** Fields for numbers: what is typed stays, what cannot be used is said and changes nothing. */
import { expect, test, vi } from "vitest";
import type { Schemas } from "@/api/client";
import { Refusal } from "@/api/client";
import { field, find, gone, isDisabled, mount, says, saysNot, until } from "@/testing/page";
import { InputFields } from "./InputFields";
import { MeasureSelect } from "./MeasureSelect";
import { NumberField } from "./NumberField";

const value = async (label: string) => ((await field(label)) as HTMLInputElement).value;

async function growth(more: Partial<React.ComponentProps<typeof NumberField>> = {}) {
  const onChange = vi.fn();
  const piece = (also: typeof more = {}) => (
    <NumberField
      label="Growth"
      value={0.05}
      percent
      step={0.5}
      onChange={onChange}
      {...more}
      {...also}
    />
  );
  const at = await mount(piece());
  const type = async (text: string) => {
    const input = (await field("Growth")) as HTMLInputElement;
    await at.user.clear(input);
    onChange.mockClear();
    if (text) await at.user.type(input, text);
  };
  return { ...at, onChange, type, again: (also: typeof more) => at.give(piece(also)) };
}

test.each([
  ["7", 0.07],
  ["7,5", 0.075],
  ["7.25", 0.0725],
  ["−1", -0.01],
])("%s is read at once", async (typed, read) => {
  const { type, onChange } = await growth();
  await type(typed);
  expect(onChange).toHaveBeenLastCalledWith(read);
  await saysNot("nothing changed");
});

test.each(["abc", "1,234", "7%x"])(
  "%s stays, is said to be no number, and changes nothing",
  async (typed) => {
    const { type, onChange } = await growth();
    await type(typed);
    await says("nothing changed");
    expect(await value("Growth")).toBe(typed);
    expect(onChange.mock.calls.every(([v]) => v === undefined || /^\d/.test(typed))).toBe(true);
    expect((await field("Growth")).getAttribute("aria-invalid")).toBe("true");
  },
);

test("a value out of bounds names its field, the bounds and their unit", async () => {
  const { type, onChange } = await growth({ bounds: { low: -0.1, high: 0.155 } });
  await type("9");
  await type("99");
  await says("Growth: between −10 % and 15.50 %; nothing changed");
  expect(onChange.mock.calls).toEqual([[0.09]]);
  expect((await find("alert")).id).toBe((await field("Growth")).getAttribute("aria-describedby"));
});

test("an emptied field takes the default back", async () => {
  const { type, onChange, again } = await growth();
  await type("9");
  again({ value: 0.09, changed: true });
  const { user } = { user: (await import("@testing-library/user-event")).default.setup() };
  await user.click(await find("button", "reset"));
  expect(onChange).toHaveBeenLastCalledWith(undefined);
  again({ value: 0.05 });
  await until(async () => expect(await value("Growth")).toBe("5.0"));
  await gone("button", "reset");
});

test("what is typed stays as typed while it is the same number, and goes once it is another", async () => {
  const { type, again } = await growth();
  await type("7,50");
  again({ value: 0.075 });
  expect(await value("Growth")).toBe("7,50");
  again({ value: 0.08 });
  await until(async () => expect(await value("Growth")).toBe("8.0"));
});

test("arrows move it by a step from what stands there", async () => {
  const { user, onChange } = await growth();
  (await field("Growth")).focus();
  await user.keyboard("{ArrowUp}{ArrowUp}{ArrowDown}{ArrowLeft}");
  expect(onChange.mock.calls.map(([v]) => v)).toEqual([0.055, 0.06, 0.055]);
});

test("arrows leave alone what is no number", async () => {
  const { user, onChange, type } = await growth();
  await type("x");
  onChange.mockClear();
  await user.keyboard("{ArrowUp}");
  expect(onChange).not.toHaveBeenCalled();
  expect(await value("Growth")).toBe("x");
});

test("a number of something else than percent says of what", async () => {
  await growth({ percent: false, suffix: "years", value: 12, digits: 0 });
  expect(await value("Growth")).toBe("12");
  await says("years");
  await saysNot("%");
});

test("what is unknown stands empty", async () => {
  await growth({ value: null });
  expect(await value("Growth")).toBe("");
});

const given: Schemas["FieldOut"] = {
  id: "growth",
  label: "Dividend growth",
  unit: "fraction",
  low_bound: -0.1,
  high_bound: 0.2,
  step: 0.005,
  digits: 1,
  shown: "always",
  asked_as: "number",
  suffix: "",
  spread: "",
  origin: "the lower of five and ten years",
  offers: [{ name: "latest raise", value: 0.062 }],
  advice: "above the trend of earnings",
  low: 0.03,
  high: 0.05,
  figure: { key: "g", label: "growth", unit: "fraction", value: 0.04, notes: [], cautions: [] },
};

async function inputs(
  text?: string,
  more: Partial<Schemas["FieldOut"]> = {},
  error: unknown = null,
) {
  const onText = vi.fn();
  const piece = (now: string | undefined, wrong: unknown) => (
    <InputFields
      fields={[{ ...given, ...more }]}
      text={now}
      onText={onText}
      error={wrong}
      columns=""
      sides
    />
  );
  const at = await mount(piece(text, error));
  return {
    ...at,
    onText,
    again: (now: string | undefined, wrong: unknown = null) => at.give(piece(now, wrong)),
  };
}

test("an assumption says where its default comes from, and offers others", async () => {
  const { user, onText } = await inputs();
  await says("the lower of five and ten years");
  await says("Above the trend of earnings.");
  await user.click(await find("button", /latest raise 6.2/));
  expect(onText).toHaveBeenCalledExactlyOnceWith("growth:0.062");
});

test("what is typed stands in the address, its sides by themselves", async () => {
  const { user, onText } = await inputs("growth:0.06,weight:2");
  expect(await value("Dividend growth")).toBe("6.0");
  const low = (await field("Dividend growth, low")) as HTMLInputElement;
  expect(low.value).toBe("3.0");
  await user.clear(low);
  await user.type(low, "2");
  expect(onText).toHaveBeenLastCalledWith("growth:0.06,weight:2,growth.low:0.02");
});

test("a default that nobody knows asks for one's own", async () => {
  const reason = "one year on record";
  await inputs(undefined, { figure: { ...given.figure, value: null, reason } });
  await says("unknown: one year on record; type your own");
  expect(await value("Dividend growth")).toBe("");
});

test("what the API refuses goes out of the address and is said where it was typed", async () => {
  const { onText, again } = await inputs("growth:0.19");
  const problem = {
    type: "t",
    title: "Not so",
    status: 422,
    detail: "growth is above the rate",
    field: "growth",
  };
  again("growth:0.19", new Refusal(problem as never));
  await says("Growth is above the rate; it was left out of the address");
  expect(onText).toHaveBeenCalledExactlyOnceWith(undefined);
  again(undefined);
  await says("Growth is above the rate");
  again("growth:0.05");
  await saysNot("Growth is above the rate");
});

test("another error stands under the assumptions and says which figures are shown", async () => {
  const { again } = await inputs("growth:0.05");
  again("growth:0.05", new Error("no answer"));
  await says("The figures shown are the last that could be computed.");
});

test("measures stand under their stage, in the order of the job", async () => {
  const measure = (id: string, stage: string) => ({ id, name: id.toUpperCase(), stage }) as never;
  const onChoose = vi.fn();
  const { user, box } = await mount(
    <MeasureSelect
      measures={[measure("a", "record"), measure("b", "cover"), measure("c", "record")]}
      value=""
      label="Measure"
      className=""
      none="choose one"
      onChoose={onChoose}
    />,
  );
  const groups = [...box.querySelectorAll("optgroup")].map((g) => [g.label, g.textContent]);
  expect(groups).toEqual([
    ["Record", "AC"],
    ["Cover", "B"],
  ]);
  const select = (await field("Measure")) as HTMLSelectElement;
  expect(isDisabled(select)).toBe(false);
  await user.selectOptions(select, "b");
  expect(onChoose).toHaveBeenCalledExactlyOnceWith("b");
});
