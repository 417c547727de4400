import { Link } from "@tanstack/react-router";
import type { Review } from "@/api/client";
import { useHeldOf } from "@/api/holdings";
import { day, kindName, shareDigits, upperFirst, withDates } from "@/format/format";
import { useView } from "@/state/view";
import { Fig } from "@/ui/Fig";
import { Sentence } from "@/ui/Sentence";
import { STATE_WORDS, StateMark } from "@/ui/StateMark";
import { Term } from "@/ui/Term";
import { TouchMark } from "@/ui/TouchMark";
import { AllTests } from "./AllTests";

/** Who it is, what it costs, what it pays, and what would give first. */
export function Head({ review }: { review: Review }) {
  const { payer, first_to_give: first } = review;
  const { coming } = review;
  const rating = payer.credit_rating;
  return (
    <div className="border-line border-b px-4 pt-3 pb-3 lg:px-6">
      <div className="flex flex-wrap items-baseline gap-x-4">
        <h1 className="text-[30px] leading-[1.1]">{payer.name}</h1>
        <span className="text-[15px] text-muted">
          {payer.symbol}
          <TouchMark touch={payer.touch} />
          {payer.industry && ` · ${payer.industry.value}`}
          <TouchMark touch={payer.industry?.touch} />
          {` · ${kindName(payer.kind)} · ${payer.currency}`}
          {rating && ` · rated ${rating.value}`}
          <TouchMark touch={rating?.touch} />
          {payer.delisted_on && ` · delisted ${day(payer.delisted_on)}`}
        </span>
        {review.state && (
          <span className="ml-auto flex items-baseline gap-2 text-[15px]">
            <StateMark state={review.state} label={false} />{" "}
            <Term id="state" end>
              {STATE_WORDS[review.state]}
            </Term>
          </span>
        )}
      </div>
      <p className="max-w-[90ch] text-[14px] text-muted">{payer.description}</p>
      <dl className="mt-1.5 flex flex-wrap gap-x-7 gap-y-1 text-[15px]">
        {review.head.map((h) => (
          <Fact key={h.name} name={h.name}>
            <Fig
              figure={h.figure}
              unknown={withDates(h.figure.reason ?? "unknown")}
              className="font-semibold"
            />
            {h.note.length > 0 && (
              <span className="text-muted">
                {" "}
                <Sentence parts={h.note} />
              </span>
            )}
          </Fact>
        ))}
        {first && (
          <Fact name={<Term id="first to give">First to give</Term>}>
            <AllTests review={review} className="figure font-semibold">
              {first.measure.label}
            </AllTests>
          </Fact>
        )}
        <Held review={review} />
        {coming && (
          <Fact name={coming.projected ? "Next ex-date, projected" : "Goes ex"}>
            <b className="font-semibold">
              {coming.projected && "about "}
              {day(coming.ex_date)}
            </b>
            <span className="text-muted">
              {" "}
              <Fig figure={coming.amount} />
              {coming.pay_date && ` on ${day(coming.pay_date)}`}
            </span>
          </Fact>
        )}
      </dl>
      {review.exclusions.length > 0 && <Excluded review={review} />}
    </div>
  );
}

/** What the person holds of it. */
function Held({ review }: { review: Review }) {
  const [view] = useView();
  const { exchange, symbol } = review.payer;
  const held = useHeldOf({ exchange, symbol }, { as_of: view.as_of }).data?.position;
  if (!held || held.exchange !== exchange || held.symbol !== symbol) return null;
  if (held.lots.length === 0 && !held.unresolved) return null;
  return (
    <Fact name="You hold">
      <Fig figure={held.shares} digits={shareDigits(held.shares.value)} className="font-semibold" />{" "}
      <span className="text-muted">shares,</span>
      {held.yield_on_cost.value !== null && (
        <span className="text-muted">
          {" "}
          <Fig figure={held.yield_on_cost} /> on cost
        </span>
      )}
    </Fact>
  );
}

/** Facts that do not count because the person says so. */
function Excluded({ review }: { review: Review }) {
  const [first, ...more] = review.exclusions;
  const [view] = useView();
  return (
    <p className="mt-1 text-[14px]">
      {upperFirst(withDates(first?.note ?? ""))}.{" "}
      <Link to="/sources" search={{ as_of: view.as_of, tab: "edits" }} className="link">
        {more.length > 0 ? `${more.length} more excluded` : "Edits"}
      </Link>
    </p>
  );
}

function Fact({ name, children }: { name: React.ReactNode; children: React.ReactNode }) {
  return (
    <div className="flex items-baseline gap-1.5">
      <dt className="text-muted">{name}</dt>
      <dd>{children}</dd>
    </div>
  );
}
