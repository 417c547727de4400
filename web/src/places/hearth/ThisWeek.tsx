import { Link } from "@tanstack/react-router";
import { type Income, useIncome } from "@/api/holdings";
import { useStatus } from "@/api/hooks";
import { dayAfter, number, shortDay } from "@/format/format";
import { useTax } from "@/state/tax";
import { useView } from "@/state/view";
import { Amount } from "@/ui/Amount";
import { ReviewLink } from "@/ui/ReviewLink";

const WEEK = 7;
type Payment = Income["payments"][number];

/** What pays, and what goes ex, in the next seven days, of what one holds. */
export function ThisWeek() {
  const [view] = useView();
  const tax = useTax();
  const today = useStatus(view.as_of).data?.today;
  const income = useIncome(tax, undefined, view.as_of).data;
  const from = view.as_of ?? today;
  if (!income || !from || income.payments.length === 0) return null;
  const until = dayAfter(from, WEEK);
  const within = (day: string) => day > from && day <= until;
  const pays = income.payments.filter((p) => within(p.comes));
  const goes = income.payments.filter((p) => p.stands === "declared" && within(p.ex_date));
  return (
    <section aria-labelledby="week" className="mt-4">
      <h2 id="week" className="text-[21px]">
        This week
      </h2>
      {pays.length + goes.length === 0 ? (
        <p className="text-[15px] text-muted">
          Nothing you hold pays or goes ex by {shortDay(until)}.{" "}
          <Link
            to="/holdings"
            search={{ as_of: view.as_of, tab: "income" }}
            className="link underline"
          >
            Next payments
          </Link>
        </p>
      ) : (
        <ul className="mt-1 text-[15px]">
          {pays.map((p) => (
            <Row key={key(p, "pays")} payment={p} day={p.comes}>
              {p.stands === "expected" ? "may pay" : "pays"}{" "}
              <Amount>{p.amount === null ? "" : number(p.amount, 2)}</Amount> {income.home}
            </Row>
          ))}
          {goes.map((p) => (
            <Row key={key(p, "goes")} payment={p} day={p.ex_date}>
              goes ex
            </Row>
          ))}
        </ul>
      )}
    </section>
  );
}

const key = (p: Payment, what: string) =>
  `${what}/${p.account}/${p.exchange}/${p.symbol}/${p.ex_date}`;

function Row({
  payment,
  day,
  children,
}: {
  payment: Payment;
  day: string;
  children: React.ReactNode;
}) {
  return (
    <li className="grid min-h-6 grid-cols-[72px_minmax(0,1fr)]">
      <span className="text-muted">{shortDay(day)}</span>
      <span>
        <ReviewLink payer={payment} className="font-semibold hover:underline">
          {payment.name}
        </ReviewLink>{" "}
        {children}
      </span>
    </li>
  );
}
