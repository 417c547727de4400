import { type PaidTable as Paid, usePaid } from "@/api/holdings";
import { monthName, number } from "@/format/format";
import { useTax } from "@/state/tax";
import { useView } from "@/state/view";
import { Amount } from "@/ui/Amount";
import { ErrorNote } from "@/ui/ErrorNote";
import { ReviewLink } from "@/ui/ReviewLink";

/** Income by month and payer: of the next twelve months, or of a year that was. */
export function PaidTable() {
  const [view, change] = useView();
  const tax = useTax();
  const year = view.year ? Number(view.year) : undefined;
  const real = view.real === true && year !== undefined;
  const found = usePaid(tax, year, real, view.as_of);
  const paid = found.data;
  return (
    <section aria-labelledby="paid" className="mt-5 min-w-0">
      <div className="flex flex-wrap items-baseline gap-x-5 gap-y-1">
        <h2 id="paid" className="text-[21px]">
          By month and payer
        </h2>
        <label className="text-[14px]">
          <span className="sr-only">Which months</span>
          <select
            className="field py-0.5"
            value={year ?? ""}
            onChange={(e) => change({ year: e.target.value || undefined })}
          >
            <option value="">the next twelve months</option>
            {[...(paid?.years ?? [])].reverse().map((y) => (
              <option key={y.year} value={y.year}>
                {y.year}
              </option>
            ))}
          </select>
        </label>
        {year !== undefined && (
          <label className="flex items-center gap-1.5 text-[14px]">
            <input
              type="checkbox"
              checked={real}
              onChange={(e) => change({ real: e.target.checked || undefined })}
            />
            in today’s money
          </label>
        )}
      </div>
      {found.error && <ErrorNote error={found.error} />}
      {paid && <Table paid={paid} />}
      {paid && year !== undefined && (
        <Years paid={paid} onYear={(y) => change({ year: String(y) })} />
      )}
    </section>
  );
}

const WIDE = "max-lg:hidden print:table-cell";

function Table({ paid }: { paid: Paid }) {
  const { months, rows, sums, total, home } = paid;
  if (rows.length === 0) return <p className="mt-1 text-[15px] text-muted">Nothing came then.</p>;
  const whole = (amount: number) => (amount === 0 ? "" : <Amount>{number(amount, 0)}</Amount>);
  return (
    <section aria-label="Income by month and payer" tabIndex={0} className="overflow-x-auto">
      <table className="rows w-full text-[13px]">
        <caption className="sr-only">
          Income by month and payer, in {home}, who pays most first
        </caption>
        <thead>
          <tr>
            <th scope="col" className="text-left!">
              Payer, {home}
            </th>
            {months.map((m) => (
              <th key={m} scope="col" className={WIDE}>
                {monthName(`${m}-01`).slice(0, 3)}
              </th>
            ))}
            <th scope="col">{paid.year ?? "Year"}</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((r) => (
            <tr key={`${r.exchange}/${r.symbol}`}>
              <th scope="row" className="max-w-[220px] truncate text-left! font-normal">
                <ReviewLink payer={r} className="hover:underline">
                  {r.name}
                </ReviewLink>
              </th>
              {r.months.map((amount, n) => (
                <td key={months[n]} className={WIDE}>
                  {whole(amount)}
                </td>
              ))}
              <td className="font-semibold">{whole(r.total)}</td>
            </tr>
          ))}
        </tbody>
        <tfoot>
          <tr>
            <th scope="row" className="text-left!">
              In all
            </th>
            {sums.map((amount, n) => (
              <td key={months[n]} className={`font-semibold ${WIDE}`}>
                {whole(amount)}
              </td>
            ))}
            <td className="font-semibold">{whole(total)}</td>
          </tr>
        </tfoot>
      </table>
    </section>
  );
}

/** What each year brought, one a link. */
function Years({ paid, onYear }: { paid: Paid; onYear: (year: number) => void }) {
  return (
    <p className="mt-2 flex flex-wrap gap-x-4 gap-y-1 text-[14px]">
      <span className="text-muted">
        Brought{paid.real && " in today’s money"}, {paid.home}:
      </span>
      {paid.years.map((y) => (
        <button
          key={y.year}
          type="button"
          className={`min-h-6 ${y.year === paid.year ? "font-semibold" : "link"}`}
          aria-pressed={y.year === paid.year}
          onClick={() => onYear(y.year)}
        >
          {y.year} <Amount>{number(y.total, 0)}</Amount>
        </button>
      ))}
      {paid.without > 0 && (
        <span className="text-muted">
          without {number(paid.without)} payments of which no rate or price index is known
        </span>
      )}
    </p>
  );
}
