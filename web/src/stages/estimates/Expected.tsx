import type { Schemas } from "@/api/client";
import { type PayerKey, useEstimates } from "@/api/hooks";
import { percent, upperFirst } from "@/format/format";
import { useView } from "@/state/view";
import { ErrorNote } from "@/ui/ErrorNote";
import { Fig } from "@/ui/Fig";

type Outlook = Schemas["OutlookOut"];

/** What analysts and the payer expect of the year ahead: how it was revised, and how far off such
 * expectations were before. rest: with what the rest of the year must bring. */
export function Expected({ payer, rest = false }: { payer: PayerKey; rest?: boolean }) {
  const [view] = useView();
  const found = useEstimates(payer, { as_of: view.as_of });
  if (found.error) return <ErrorNote error={found.error} />;
  if (!found.data) return <div className="h-[160px]" aria-busy="true" />;
  const { year, outlooks } = found.data;
  if (outlooks.length === 0) {
    return (
      <p className="mt-4 text-[14px] text-muted">
        No estimate and no guidance of fiscal {year} is held.
      </p>
    );
  }
  return (
    <div className="mt-4">
      <h3 className="text-[17px]">Expected of fiscal {year}</h3>
      <div className="relative overflow-x-auto">
        {rest ? <Rest outlooks={outlooks} /> : <Revised outlooks={outlooks} />}
      </div>
      {!rest && <Past outlooks={outlooks} />}
    </div>
  );
}

/** One measure of the year ahead in a sentence: who expects it, how it moved, how far off it was. */
export function ExpectedLine({ payer, measure }: { payer: PayerKey; measure: string }) {
  const [view] = useView();
  const found = useEstimates(payer, { as_of: view.as_of });
  if (found.isPending) return <p className="mt-1 min-h-[42px]" aria-busy="true" />;
  const o = found.data?.outlooks.find((x) => x.measure === measure);
  if (!o || !found.data || o.mean.value === null) return null;
  return (
    <p className="mt-1 max-w-[80ch] text-[14px] text-muted" data-testid={`expected-${measure}`}>
      {o.analysts === 1 ? "One analyst expects" : `${o.analysts ?? "Unnamed"} analysts expect`}{" "}
      {o.name} of <Fig figure={o.mean} /> for fiscal {found.data.year}; revised{" "}
      {o.revised.map((r, i) => (
        <span key={r.months}>
          {i > 0 && ", "}
          <Fig figure={r.figure} sign digits={1} unknown="by an unknown part" /> in {r.months}{" "}
          months
        </span>
      ))}
      ; guidance <Guided outlook={o} />
      {o.times
        .filter((t) => counted(t) > 0)
        .map((t) => (
          <span key={t.months}>
            ; met {metWords(t)} years, {t.months} months ahead
          </span>
        ))}
      .
    </p>
  );
}

function Revised({ outlooks }: { outlooks: Outlook[] }) {
  return (
    <table className="rows w-full text-[14px]">
      <caption className="sr-only">Estimates, their revisions, guidance, and past years</caption>
      <thead>
        <tr>
          <th scope="col">Money in m</th>
          <th scope="col">Estimate</th>
          <th scope="col">Lowest to highest</th>
          <th scope="col">Analysts</th>
          <th scope="col">Revised 3 months, %</th>
          <th scope="col">6 months, %</th>
          <th scope="col">Guidance</th>
          <th scope="col">Met, 12 months ahead</th>
          <th scope="col">24 months ahead</th>
        </tr>
      </thead>
      <tbody>
        {outlooks.map((o) => (
          <tr key={o.measure}>
            <td className="whitespace-nowrap">{upperFirst(o.name)}</td>
            <td>
              <Fig figure={o.mean} bare className="font-semibold" unknown="–" />
            </td>
            <td className="whitespace-nowrap">
              <Fig figure={o.low} bare unknown="–" /> to <Fig figure={o.high} bare unknown="–" />
            </td>
            <td>{o.analysts ?? "–"}</td>
            {o.revised.map((r) => (
              <td key={r.months}>
                <Fig figure={r.figure} bare sign digits={1} unknown="–" />
              </td>
            ))}
            <td className="whitespace-nowrap">
              <Guided outlook={o} />
            </td>
            {o.times.map((t) => (
              <td key={t.months} className="whitespace-nowrap">
                {metWords(t)}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Guided({ outlook }: { outlook: Outlook }) {
  if (outlook.guided_low.value === null) return <span className="text-muted">none</span>;
  return (
    <>
      <Fig figure={outlook.guided_low} bare /> to <Fig figure={outlook.guided_high} bare />
    </>
  );
}

const REST = [
  "so_far",
  "mean",
  "part_of_estimate",
  "rest_of_estimate",
  "guided_middle",
  "part_of_guidance",
  "rest_of_guidance",
] as const;

/** What the year has brought so far, and what the rest of it must bring. */
function Rest({ outlooks }: { outlooks: Outlook[] }) {
  return (
    <table className="rows w-full text-[14px]">
      <caption className="sr-only">The year so far against estimate and guidance</caption>
      <thead>
        <tr>
          <th scope="col">Money in m</th>
          <th scope="col">So far</th>
          <th scope="col">Estimate</th>
          <th scope="col">Earned, %</th>
          <th scope="col">The rest must bring</th>
          <th scope="col">Guidance, middle</th>
          <th scope="col">Earned, %</th>
          <th scope="col">The rest must bring</th>
        </tr>
      </thead>
      <tbody>
        {outlooks.map((o) => (
          <tr key={o.measure}>
            <td className="whitespace-nowrap">{upperFirst(o.name)}</td>
            {REST.map((id) => (
              <td key={id}>
                <Fig
                  figure={o[id]}
                  bare
                  digits={id.startsWith("part") ? 0 : undefined}
                  unknown="–"
                  className={id === "so_far" ? "font-semibold" : ""}
                />
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

const counted = (t: Outlook["times"][number]) => t.beat + t.met + t.missed;

const metWords = (t: Outlook["times"][number]) =>
  counted(t) === 0 ? "–" : `${t.met} of ${counted(t)}${t.missed > 0 ? `, ${t.missed} missed` : ""}`;

/** Past years against what was expected of them 12 and 24 months ahead. */
function Past({ outlooks }: { outlooks: Outlook[] }) {
  const tracked = outlooks.filter((o) => o.past.length > 0);
  const bands = tracked[0]?.times ?? [];
  if (tracked.length === 0) return null;
  return (
    <details className="mt-2 text-[14px]">
      <summary className="link inline-block">Past years, expected and actual</summary>
      <p className="text-muted">
        Met:{" "}
        {bands
          .map((t) => `within ±${percent(t.band, 0)} of what was expected ${t.months} months ahead`)
          .join(", ")}
        .
      </p>
      {tracked.map((o) => (
        <Years key={o.measure} outlook={o} />
      ))}
    </details>
  );
}

function Years({ outlook }: { outlook: Outlook }) {
  return (
    <div className="relative overflow-x-auto">
      <table className="rows my-1 w-full max-w-[760px] text-[14px]">
        <caption className="text-left font-semibold">{upperFirst(outlook.name)}</caption>
        <thead>
          <tr>
            <th scope="col">Fiscal year</th>
            <th scope="col">24 months ahead</th>
            <th scope="col">12 months ahead</th>
            <th scope="col">Actual</th>
            <th scope="col">Off after 24, %</th>
            <th scope="col">Off after 12, %</th>
          </tr>
        </thead>
        <tbody>
          {outlook.past.map((g) => (
            <tr key={g.year}>
              <td>{g.year}</td>
              <td>
                <Fig figure={g.expected_24} bare unknown="–" />
              </td>
              <td>
                <Fig figure={g.expected_12} bare unknown="–" />
              </td>
              <td>
                <Fig figure={g.actual} bare className="font-semibold" />
              </td>
              <td>
                <Fig figure={g.off_24} bare sign digits={1} unknown="–" />{" "}
                {g.turned_24 && g.turned_24 !== "met" && g.turned_24}
              </td>
              <td>
                <Fig figure={g.off_12} bare sign digits={1} unknown="–" />{" "}
                {g.turned_12 && g.turned_12 !== "met" && g.turned_12}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
