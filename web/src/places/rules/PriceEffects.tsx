import type { Schemas } from "@/api/client";
import { type Rules, usePriceEffectOf } from "@/api/rules";
import { number, percent, show, signed } from "@/format/format";
import { useView } from "@/state/view";
import { ReviewLink } from "@/ui/ReviewLink";

/** What the draft would do to the prices to buy below, and to what today's prices offer. */
export function PriceEffects({ draft }: { draft: Rules }) {
  const [view] = useView();
  const found = usePriceEffectOf(draft, view.as_of);
  if (found.error || found.data === undefined) return null;
  const effect = found.data;
  if (effect === null) {
    return (
      <p className="mt-4 text-[13px] text-muted">
        With so many payers held, what this does to buy-below prices shows once it is saved.
      </p>
    );
  }
  return (
    <section className="mt-5" aria-live="polite" aria-labelledby="price-effects">
      <h2 id="price-effects" className="sr-only">
        What it would do to prices
      </h2>
      <p className="text-[15px] leading-snug" data-testid="price-effect">
        {effect.moved === 0 || effect.by === null
          ? "No buy-below price would move."
          : `Buy-below would move for ${number(effect.moved)} of ${number(effect.known)} payers, ${signed(percent(effect.by), effect.by)} at the middle one.`}
      </p>
      <table className="rows mt-2 w-full text-[14px]">
        <caption className="sr-only">What today’s prices offer</caption>
        <thead>
          <tr>
            <th scope="col">Today’s price</th>
            <th scope="col">Now</th>
            <th scope="col">Then</th>
          </tr>
        </thead>
        <tbody>
          <Row name="At or under buy-below" both={effect.in_reach} shown={number} />
          <Row name="Offers the market’s return" both={effect.beats_market} shown={number} />
          <Row name="Return after tax, middle payer" both={effect.after_tax} shown={percent} />
        </tbody>
      </table>
      {effect.crossings.length > 0 && (
        <ul className="mt-3 text-[14px]" aria-label="Payers whose price crosses buy-below">
          {effect.crossings.map((crossing) => (
            <Crossed key={`${crossing.exchange}/${crossing.symbol}`} crossing={crossing} />
          ))}
        </ul>
      )}
    </section>
  );
}

function Row(props: { name: string; both: Schemas["NowThen"]; shown: (value: number) => string }) {
  const [now, then] = [props.both.now, props.both.then].map((v) =>
    v === null ? "unknown" : props.shown(v),
  );
  return (
    <tr>
      <td>{props.name}</td>
      <td>{now}</td>
      <td className={now === then ? undefined : "font-semibold"}>{then}</td>
    </tr>
  );
}

function Crossed({ crossing: c }: { crossing: Schemas["Crossing"] }) {
  return (
    <li className="border-line border-b py-1">
      <ReviewLink payer={c} className="link block truncate">
        {c.name}
      </ReviewLink>
      <span className="block text-[13px] text-muted">
        {c.in_reach ? "Within" : "Out of"} reach at {show(c.price, "per_share")}:{" "}
        <span className="whitespace-nowrap">
          {show(c.before, "per_share")} → {show(c.after, "per_share")}
        </span>
      </span>
    </li>
  );
}
