import { useId, useState } from "react";
import type { Review, Schemas } from "@/api/client";
import { type PayerKey, useNames } from "@/api/hooks";
import { type PriceSeries, useCourses, useLines, usePrice } from "@/api/price";
import { ChartFrame } from "@/charts/ChartFrame";
import { rebased, within } from "@/charts/courses";
import { type Course, PriceChart } from "@/charts/PriceChart";
import { day, number, percent, signed } from "@/format/format";
import { useView, type View } from "@/state/view";
import { Refused } from "@/ui/ErrorNote";
import { Choice } from "@/ui/StageSection";
import { Drawn } from "../Drawn";
import { DrawnLines, useLineMoves } from "./DrawnLines";
import { Performance, PutIn, SPANS } from "./PriceTold";

type Grown = Schemas["GrownOut"];
type Line = Schemas["LineOfDays"];
const SHOWN = [
  { value: "price", name: "price" },
  { value: "total", name: "with dividends" },
  { value: "market", name: "against the market" },
] as const;
type Shown = (typeof SHOWN)[number]["value"];

/** What the price did: its course, its spans, and what a sum put in would be. */
export function PriceView({ review, payer }: { review: Review; payer: PayerKey }) {
  const [view] = useView();
  const { as_of, window, quantity, typical, span } = view;
  const found = usePrice(payer, { as_of, window, quantity, typical, span });
  return (
    <Drawn found={found}>
      {(price) => <Drawing review={review} payer={payer} price={price} />}
    </Drawn>
  );
}

function Drawing({
  review,
  payer,
  price,
}: {
  review: Review;
  payer: PayerKey;
  price: PriceSeries;
}) {
  const [view, change] = useView();
  const shown: Shown = SHOWN.find((s) => s.value === view.course)?.value ?? "price";
  const names = (view.beside ?? "").split(",").filter(Boolean);
  const beside = useCourses(names, view.as_of);
  const lines = useLines(payer, view.as_of);
  const drawn = useLineMoves(payer, lines.data ?? []);
  const [averages, setAverages] = useState(false);
  if (price.own.days.length < 2) {
    return (
      <p className="my-6 text-muted">Fewer than two closes are held, so there is no course.</p>
    );
  }
  const [first, last] = spanOf(view, price);
  const courses = coursesOf(price, shown, beside.data ?? [], first, last);
  const from100 = shown === "market" || names.length > 0;
  const plain = shown === "price" && !from100;
  const unit = from100 ? "(100 at the beginning, with dividends)" : review.payer.currency;
  const told = shown === "total" && !from100 ? "with dividends put back in" : "";
  return (
    <>
      <Spans price={price} />
      <ChartFrame
        name="price"
        title={
          from100
            ? "100 at the beginning, dividends put back in"
            : `Close, ${review.payer.currency}, in today’s shares ${told} (ticks at the foot: ex-dates)`
        }
        summary={`${price.own.days.length} closes; ${sentence(price.span ?? price.spans.at(-1))}`}
        height={PriceChart.height}
        controls={
          <>
            <Choice
              label="Shown"
              options={[...SHOWN]}
              value={shown}
              onChange={(course) =>
                change({ course: course === "price" ? undefined : course }, { replace: true })
              }
            />
            <Toggle
              on={!view.linear}
              name="log"
              onTurn={(on) => change({ linear: !on || undefined })}
            />
            {plain && <Toggle on={averages} name="averages" onTurn={setAverages} />}
          </>
        }
        draw={(width) => (
          <PriceChart
            courses={courses}
            averages={
              averages && plain
                ? price.averages.map((a) => ({
                    name: `${a.days}-day average`,
                    ...within({ days: price.own.days, values: a.line }, first, last),
                  }))
                : []
            }
            paid={price.paid}
            slumps={review.slumps}
            lines={plain ? drawn.lines : []}
            log={!view.linear}
            unit={unit}
            width={width}
            onSpan={(from, to) => change({ span: `${from}..${to}` })}
            onMoveLine={drawn.move}
          />
        )}
        table={<Closes price={price} first={first} last={last} />}
      />
      {courses.length > 1 && <Legend courses={courses} />}
      <PutIn price={price} />
      <Performance price={price} />
      <Beside names={names} error={beside.error} />
      {plain && (
        <DrawnLines
          payer={payer}
          lines={drawn.lines}
          price={price}
          error={drawn.error}
          onKeep={drawn.keep}
        />
      )}
    </>
  );
}

function Toggle(props: { on: boolean; name: string; onTurn: (on: boolean) => void }) {
  return (
    <button
      type="button"
      className="link"
      aria-pressed={props.on}
      onClick={() => props.onTurn(!props.on)}
    >
      {props.name}
    </button>
  );
}

/** The days that are shown: the span of the address, or all there are. */
function spanOf(view: View, price: PriceSeries): [string, string] {
  const [first, last] = (view.span ?? "").split("..");
  const all: [string, string] = [price.own.days[0] ?? "", price.own.days.at(-1) ?? ""];
  return price.span?.begins && first && last ? [price.span.begins, last] : all;
}

/** The payer's own course first; rebased, they begin together at 100. */
function coursesOf(
  price: PriceSeries,
  shown: Shown,
  others: Line[],
  first: string,
  last: string,
): Course[] {
  const course = (held: Line, values: number[]): Course => ({
    name: held.name,
    ...within({ days: held.days, values }, first, last),
  });
  if (shown !== "market" && others.length === 0) {
    return [course(price.own, shown === "total" ? price.own.totals : price.own.values)];
  }
  const market = shown === "market" && price.market ? [price.market] : [];
  return [price.own, ...market, ...others]
    .map((held) => course(held, held.totals))
    .filter((c) => c.values.length > 1)
    .map((c) => ({ ...c, values: rebased(c.values) }));
}

/** Buttons for the usual spans, and two days that can be typed. */
function Spans({ price }: { price: PriceSeries }) {
  const [view, change] = useView();
  const last = price.own.days.at(-1) ?? "";
  const chosen = price.spans.find((s) => view.span === `${s.begins}..${last}`)?.id;
  const [from = "", to = ""] = (view.span ?? "").split("..");
  const typed = (first: string, end: string) => {
    if (first && end && first < end) change({ span: `${first}..${end}` });
  };
  return (
    <div className="mb-2 flex flex-wrap items-baseline gap-x-5 gap-y-1 text-[14px]">
      <Choice
        label="Span"
        options={price.spans
          .filter((s) => s.begins)
          .map((s) => ({ value: s.id, name: SPANS[s.id] ?? s.id }))}
        value={view.span ? (chosen ?? "") : "all"}
        onChange={(id) => {
          const begins = price.spans.find((s) => s.id === id)?.begins;
          change({ span: id === "all" ? undefined : `${begins}..${last}` });
        }}
      />
      <span className="flex items-baseline gap-2 text-muted">
        <label>
          from{" "}
          <input
            type="date"
            className="field min-h-[28px]! py-0.5!"
            value={from || price.own.days[0]}
            min={price.own.days[0]}
            max={last}
            onChange={(e) => typed(e.target.value, to || last)}
          />
        </label>
        <label>
          to{" "}
          <input
            type="date"
            className="field min-h-[28px]! py-0.5!"
            value={to || last}
            min={price.own.days[0]}
            max={last}
            onChange={(e) => typed(from || (price.own.days[0] ?? ""), e.target.value)}
          />
        </label>
      </span>
    </div>
  );
}

function Legend({ courses }: { courses: Course[] }) {
  return (
    <p className="text-[13px] text-muted">
      {courses.map((c, i) => {
        const end = c.values.at(-1);
        return (
          <span key={c.name} className="mr-4 whitespace-nowrap">
            <b className="font-semibold text-ink">{["—", "– –", "· ·", "–·–", "- -", "·  ·"][i]}</b>{" "}
            {c.name} {end != null && number(end, 0)}
          </span>
        );
      })}
    </p>
  );
}

function sentence(span: Grown | null | undefined): string {
  if (!span || span.total.value === null) return "no span is known";
  return `with dividends ${signed(percent(span.total.value), span.total.value)} from ${day(span.begins ?? "")} to ${day(span.ends ?? "")}.`;
}

const keyOf = (payer: PayerKey) => `${payer.exchange}/${payer.symbol}`;

/** Other payers to draw beside it. */
function Beside({ names, error }: { names: string[]; error: Error | null }) {
  const [, change] = useView();
  const [typed, setTyped] = useState("");
  const put = (next: string[]) => change({ beside: next.join(",") || undefined });
  const found = useNames(typed, typed.trim().length > 1).data ?? [];
  const list = useId();
  return (
    <form
      className="mt-3 flex flex-wrap items-baseline gap-x-3 gap-y-1 text-[14px]"
      onSubmit={(e) => {
        e.preventDefault();
        const wanted = typed.trim();
        const named = found.find((f) => f.name === wanted || keyOf(f) === wanted.toUpperCase());
        const only = found.length === 1 ? found[0] : undefined;
        const key = named ?? only;
        const name = key ? keyOf(key) : wanted.toUpperCase();
        if (name && !names.includes(name)) put([...names, name].slice(-5));
        setTyped("");
      }}
    >
      <label className="text-muted">
        Beside another payer{" "}
        <input
          className="field min-h-[28px]! w-[230px] py-0.5!"
          placeholder="its name or EXCHANGE/SYMBOL"
          list={list}
          value={typed}
          onChange={(e) => setTyped(e.target.value)}
        />
      </label>
      <datalist id={list}>
        {found.map((f) => (
          <option key={keyOf(f)} value={f.name}>
            {keyOf(f)}
          </option>
        ))}
      </datalist>
      <button type="submit" className="link">
        Draw it
      </button>
      {names.map((name) => (
        <button
          key={name}
          type="button"
          className="link"
          onClick={() => put(names.filter((n) => n !== name))}
        >
          {name} ×<span className="sr-only"> take away</span>
        </button>
      ))}
      {names.length > 0 && <Refused error={error} />}
    </form>
  );
}

function Closes({ price, first, last }: { price: PriceSeries; first: string; last: string }) {
  const own = within({ days: price.own.days, values: price.own.values }, first, last);
  const totals = within({ days: price.own.days, values: price.own.totals }, first, last);
  const traded = new Map(price.own.days.map((d, i) => [d, price.volumes[i]]));
  const told = price.volumes.length > 0;
  return (
    <table className="rows w-full text-[14px]">
      <caption className="sr-only">Closes</caption>
      <thead>
        <tr>
          <th scope="col">Day</th>
          <th scope="col">Close</th>
          <th scope="col">With dividends put back in</th>
          {told && <th scope="col">Shares traded, as traded</th>}
        </tr>
      </thead>
      <tbody>
        {own.days.toReversed().map((d, i) => (
          <tr key={d}>
            <td>{day(d)}</td>
            <td>{number(own.values.at(-1 - i) ?? 0, 2)}</td>
            <td>{number(totals.values.at(-1 - i) ?? 0, 2)}</td>
            {told && (
              <td>{typeof traded.get(d) === "number" ? number(traded.get(d) ?? 0) : "–"}</td>
            )}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
