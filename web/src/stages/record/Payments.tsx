import { type PayerKey, usePayments } from "@/api/hooks";
import { day, kindName, upperFirst } from "@/format/format";
import { useView } from "@/state/view";
import { ErrorNote } from "@/ui/ErrorNote";
import { Fig } from "@/ui/Fig";

/** Every payment, the newest first: its three days, its kind, and what happened to it. */
export function Payments({ payer }: { payer: PayerKey }) {
  const [view] = useView();
  const found = usePayments(payer, { as_of: view.as_of });
  if (found.error) return <ErrorNote error={found.error} />;
  if (!found.data) return <div className="h-[320px]" aria-busy="true" />;
  return (
    <section
      aria-label="Every payment"
      tabIndex={0}
      className="relative max-h-[320px] overflow-auto"
    >
      <table className="rows w-full text-[14px]">
        <caption className="sr-only">Every payment, the newest first</caption>
        <thead>
          <tr>
            <th scope="col">Goes ex</th>
            <th scope="col">Declared</th>
            <th scope="col">Paid</th>
            <th scope="col">Per share, in today’s shares</th>
            <th scope="col">Kind</th>
            <th scope="col">What happened</th>
          </tr>
        </thead>
        <tbody>
          {found.data.payments.map((p) => (
            <tr key={`${p.ex_date}${p.kind}`}>
              <td>{day(p.ex_date)}</td>
              <td>{p.declared_on ? day(p.declared_on) : "–"}</td>
              <td>{p.pay_date ? day(p.pay_date) : "–"}</td>
              <td>
                <Fig figure={p.amount} digits={4} />
              </td>
              <td className={p.kind === "regular" ? "text-muted" : "font-semibold"}>
                {kindName(kindName(p.kind))}
              </td>
              <td>
                {p.outcome ? upperFirst(p.outcome) : "–"}
                {p.to_come && <span className="text-muted"> · declared, still to come</span>}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
