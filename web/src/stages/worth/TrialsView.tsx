import type { Review, Schemas } from "@/api/client";
import { withInput } from "@/api/question";
import { useChance, useGrid, useTrials } from "@/api/trials";
import { ChartFrame } from "@/charts/ChartFrame";
import { Distribution, SPREAD_HEIGHT } from "@/charts/Distribution";
import { MoveBars, movesHeight } from "@/charts/MoveBars";
import { number, percent, show, upperFirst, withDates } from "@/format/format";
import { openKey, questionOf, useView, WORTH_PARTS } from "@/state/view";
import { ErrorNote } from "@/ui/ErrorNote";
import { Fig } from "@/ui/Fig";
import { Drawn } from "../Drawn";

type Trials = Schemas["TrialsSeries"];
type Grid = Schemas["GridSeries"];
type Chance = Schemas["ChanceSeries"];

/** What moves the combined value, what the price takes for granted, and how chance would have it. */
export function TrialsView({ review }: { review: Review }) {
  const [view] = useView();
  const payer = { exchange: review.payer.exchange, symbol: review.payer.symbol };
  const asked = questionOf(view, WORTH_PARTS);
  const trials = useTrials(payer, asked);
  const chance = useChance(payer, asked);
  const grid = useGrid(payer, { ...asked, across: view.across, down: view.down });
  const { currency } = review.payer;
  return (
    <Drawn found={trials}>
      {(found) =>
        found.combined.value === null ? (
          <p className="my-6 max-w-prose text-muted">
            {upperFirst(withDates(found.combined.reason ?? ""))}.
          </p>
        ) : (
          <>
            <div className="mt-5 grid grid-cols-[minmax(0,1fr)] gap-x-8 gap-y-5 xl:grid-cols-2">
              <Moves found={found} currency={currency} />
              <Drawn found={chance}>
                {(drawn) => <ByChance drawn={drawn} currency={currency} />}
              </Drawn>
            </div>
            <Taken found={found} />
            <Drawn found={grid}>
              {(held) => held && <TwoAtOnce grid={held} review={review} />}
            </Drawn>
            {grid.error && (
              <ErrorNote error={grid.error} kept="The grid shown is the one before." />
            )}
          </>
        )
      }
    </Drawn>
  );
}

function Moves({ found, currency }: { found: Trials; currency: string }) {
  const first = found.moves[0];
  const told = (m: Trials["moves"][number]) =>
    `${m.name}: ${number(m.low.value ?? 0, 2)} to ${m.high.value === null ? "no limit" : number(m.high.value, 2)}`;
  if (!first) return <p className="text-muted">No input of these models is taken to two sides.</p>;
  return (
    <ChartFrame
      name="moves"
      title={`Combined value, ${currency}, with one input at a time at its low and its high`}
      summary={`${found.moves.map(told).join("; ")}.`}
      height={movesHeight(found.moves.length)}
      draw={(width) => (
        <MoveBars moves={found.moves} combined={found.combined.value ?? 0} width={width} />
      )}
      table={
        <table className="rows w-full text-[14px]">
          <caption className="sr-only">What each input moves the combined value to</caption>
          <thead>
            <tr>
              <th scope="col">Input</th>
              <th scope="col">At its low</th>
              <th scope="col">Value</th>
              <th scope="col">At its high</th>
              <th scope="col">Value</th>
            </tr>
          </thead>
          <tbody>
            {found.moves.map((m) => (
              <tr key={m.id}>
                <th scope="row">{m.name}</th>
                <td>
                  <Fig figure={m.low_input} digits={2} />
                </td>
                <td>
                  <Fig figure={m.low} />
                </td>
                <td>
                  <Fig figure={m.high_input} digits={2} />
                </td>
                <td>
                  <Fig figure={m.high} unknown="no limit" />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      }
    />
  );
}

function ByChance({ drawn, currency }: { drawn: Chance; currency: string }) {
  const { low, median, high, above } = drawn;
  if (low == null || median == null || high == null) {
    return <p className="text-muted">Not drawn by chance: {withDates(drawn.reason ?? "")}.</p>;
  }
  const told = `In ${number(drawn.draws)} draws of growth, required return and exit the combined value lies between ${number(low, 2)} and ${number(high, 2)} ${currency} in 8 of 10; the middle is ${number(median, 2)}.`;
  const chance =
    above == null ? "" : ` The chance that it exceeds the price is ${percent(above, 0)}.`;
  return (
    <div>
      <ChartFrame
        name="chance"
        title={`Combined value, ${currency}, as chance has it (line: the price; shaded: 8 of 10 draws)`}
        summary={told + chance}
        height={SPREAD_HEIGHT}
        draw={(width) => <Distribution drawn={drawn} width={width} />}
        table={
          <table className="rows w-full text-[14px]">
            <caption className="sr-only">Draws by value</caption>
            <thead>
              <tr>
                <th scope="col">From</th>
                <th scope="col">To</th>
                <th scope="col">Draws</th>
              </tr>
            </thead>
            <tbody>
              {drawn.counts.map((n, i) => (
                <tr key={drawn.edges[i]}>
                  <td>{number(drawn.edges[i] ?? 0, 2)}</td>
                  <td>{number(drawn.edges[i + 1] ?? 0, 2)}</td>
                  <td>{number(n)}</td>
                </tr>
              ))}
            </tbody>
          </table>
        }
      />
      <p className="mt-1 max-w-[68ch] text-[15px]">
        {told}
        {chance}
        <span className="text-[13px] text-muted">
          {" "}
          Drawn from triangles through low, middle and high; the exit tends to fall as growth does.
        </span>
      </p>
    </div>
  );
}

/** Model by model, what would have to be true for the price to be fair. */
function Taken({ found }: { found: Trials }) {
  const held = found.implied.filter((i) => i.takes || i.offers);
  if (held.length === 0) return null;
  return (
    <section aria-labelledby="taken" className="mt-6">
      <h3 id="taken" className="text-[17px]">
        For today’s price to be fair
      </h3>
      {found.grown.value !== null && (
        <p className="text-[14px] text-muted">
          Over the past ten years dividends grew <Fig figure={found.grown} /> a year
          {found.expected.map((e) => (
            <span key={e.name}>
              ; analysts expect {e.name} to grow <Fig figure={e.growth} /> a year
            </span>
          ))}
          .
        </p>
      )}
      <div className="relative overflow-x-auto">
        <table className="rows mt-1 w-full text-[14px]">
          <thead>
            <tr>
              <th scope="col">By the model</th>
              <th scope="col">it takes</th>
              <th scope="col">of</th>
              <th scope="col">you take</th>
              <th scope="col">return at the price</th>
              <th scope="col">you ask</th>
            </tr>
          </thead>
          <tbody>
            {held.map((i) => (
              <tr key={i.id}>
                <th scope="row">{i.model}</th>
                <td>{i.takes_name}</td>
                <td>{i.takes && <Reasoned figure={i.takes} />}</td>
                <td>{i.takes_against && <Fig figure={i.takes_against} digits={2} />}</td>
                <td>{i.offers && <Reasoned figure={i.offers} />}</td>
                <td>{i.offers_against && <Fig figure={i.offers_against} digits={2} />}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  );
}

function Reasoned({ figure }: { figure: NonNullable<Trials["combined"]> }) {
  return <Fig figure={figure} digits={2} unknown="none" />;
}

/** The combined value over two inputs; where it crosses the price a line is drawn between cells. */
function TwoAtOnce({ grid, review }: { grid: Grid; review: Review }) {
  const [view, change] = useView();
  const { currency } = review.payer;
  const take = (r: number, c: number) => {
    const [x, y] = [grid.across_values[c] ?? 0, grid.down_values[r] ?? 0];
    const first = withInput(view.inputs, grid.across.id, Number(x.toFixed(6)));
    change({
      inputs: withInput(first, grid.down.id, Number(y.toFixed(6))),
      open: openKey(review.payer, "worth.combined"),
      path: undefined,
    });
  };
  const price = grid.price ?? null;
  const middle = {
    across: (grid.across_values.length - 1) / 2,
    down: (grid.down_values.length - 1) / 2,
  };
  const over = (r: number, c: number) => {
    const value = grid.values[r]?.[c];
    return price === null || value == null ? null : value >= price;
  };
  const edge = (r: number, c: number) => {
    const here = over(r, c);
    const differs = (there: boolean | null) => here !== null && there !== null && here !== there;
    return {
      borderLeft: differs(over(r, c - 1)) ? "2px solid var(--action)" : undefined,
      borderTop: differs(over(r - 1, c)) ? "2px solid var(--action)" : undefined,
    };
  };
  const pick = (id: "across" | "down") => (
    <label className="text-[14px]">
      {upperFirst(id)}{" "}
      <select
        className="field"
        value={grid[id].id}
        onChange={(e) =>
          change({ across: grid.across.id, down: grid.down.id, [id]: e.target.value })
        }
      >
        {grid.movable
          .filter(
            (m) => m.id === grid[id].id || m.id !== grid[id === "across" ? "down" : "across"].id,
          )
          .map((m) => (
            <option key={m.id} value={m.id}>
              {m.name}
            </option>
          ))}
      </select>
    </label>
  );
  return (
    <section aria-labelledby="grid" className="mt-6">
      <div className="flex flex-wrap items-baseline gap-x-6">
        <h3 id="grid" className="text-[17px]">
          Two inputs at once
        </h3>
        {pick("across")}
        {pick("down")}
      </div>
      <p className="text-[13px] text-muted">
        Combined value, {currency}.
        {price !== null &&
          ` At or over today’s price of ${number(price, 2)} in bold; the line is where it would be fair.`}
        {grid.limitless && ` “–”: ${withDates(grid.limitless)}.`}
      </p>
      <div className="relative overflow-x-auto">
        <table className="mt-1 border-collapse text-[14px]">
          <caption className="sr-only">
            {grid.across.name} across, {grid.down.name} down
          </caption>
          <thead>
            <tr>
              <th scope="col" className="pr-3 text-left text-muted">
                {grid.down.name} ↓ {grid.across.name} →
              </th>
              {grid.across_values.map((v, c) => (
                <th
                  scope="col"
                  key={v}
                  className={`px-3 py-1 text-right ${c === middle.across ? "" : "font-normal text-muted"}`}
                >
                  {show(v, grid.across_unit, { digits: 2 })}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {grid.values.map((row, r) => (
              <tr key={grid.down_values[r]}>
                <th
                  scope="row"
                  className={`pr-3 text-right ${r === middle.down ? "" : "font-normal text-muted"}`}
                >
                  {show(grid.down_values[r] ?? 0, grid.down_unit, { digits: 2 })}
                </th>
                {row.map((value, c) => (
                  <td
                    key={grid.across_values[c]}
                    style={edge(r, c)}
                    className={`px-3 py-1 text-right ${over(r, c) ? "font-semibold" : ""} ${r === middle.down && c === middle.across ? "bg-sunk" : ""}`}
                  >
                    {value === null ? (
                      "–"
                    ) : (
                      <button
                        type="button"
                        className="figure"
                        title="Take these two inputs, and open the working"
                        onClick={() => take(r, c)}
                      >
                        {number(value, 2)}
                      </button>
                    )}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  );
}
