import { Link } from "@tanstack/react-router";
import type { Review } from "@/api/client";
import { useView } from "@/app/view";
import { day, kindName, rhythmName, upperFirst, withDates } from "@/format/format";
import { Fig } from "@/ui/Fig";
import { StateMark } from "@/ui/StateMark";
import { TouchMark } from "@/ui/TouchMark";
import { AllTests } from "./AllTests";

/** Who it is, what it costs, what it pays, and what would give first. */
export function Head({ review }: { review: Review }) {
  const { payer, record, range, first_to_give: first } = review;
  const rating = payer.credit_rating;
  const rhythm = record.rhythm.value;
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
            <StateMark state={review.state} label={false} /> {review.state}
          </span>
        )}
      </div>
      <p className="max-w-[90ch] text-[14px] text-muted">{payer.description}</p>
      <dl className="mt-1.5 flex flex-wrap gap-x-7 gap-y-1 text-[15px]">
        <Fact name="Price">
          <Fig figure={review.price} className="font-semibold" />
        </Fact>
        <Fact name="Pays">
          <Fig
            figure={record.declared_rate}
            unknown={withDates(record.declared_rate.reason ?? "unknown")}
            className="font-semibold"
          />
          {record.declared_rate.value ? (
            <span className="text-muted"> a year{rhythm ? `, ${rhythmName(rhythm)}` : ""}</span>
          ) : null}
        </Fact>
        {range.now.value !== null && (
          <Fact name="Yield">
            <Fig figure={range.now} className="font-semibold" />
          </Fact>
        )}
        {first && (
          <Fact name="First to give">
            <AllTests review={review} className="figure font-semibold">
              {first.measure.label}
            </AllTests>
          </Fact>
        )}
        {record.next_payment && (
          <Fact name="Goes ex">
            <b className="font-semibold">{day(record.next_payment.ex_date)}</b>
            {record.next_payment.pay_date && (
              <span className="text-muted"> pays {day(record.next_payment.pay_date)}</span>
            )}
          </Fact>
        )}
      </dl>
      {review.left_out.length > 0 && <LeftOut review={review} />}
    </div>
  );
}

/** Facts that do not count because the person says so. */
function LeftOut({ review }: { review: Review }) {
  const [first, ...more] = review.left_out;
  const [view] = useView();
  return (
    <p className="mt-1 text-[14px]">
      {upperFirst(withDates(first?.note ?? ""))}.{" "}
      <Link to="/sources" search={{ as_of: view.as_of, tab: "adjusted" }} className="link">
        {more.length > 0 ? `${more.length} more left out` : "Adjusted by you"}
      </Link>
    </p>
  );
}

function Fact({ name, children }: { name: string; children: React.ReactNode }) {
  return (
    <div className="flex items-baseline gap-1.5">
      <dt className="text-muted">{name}</dt>
      <dd>{children}</dd>
    </div>
  );
}
