import { Link } from "@tanstack/react-router";
import type { Holdings, Position } from "@/api/holdings";
import { day, number } from "@/format/format";
import { useView } from "@/state/view";
import { Amount } from "@/ui/Amount";
import { Fig } from "@/ui/Fig";
import { accountName, amount } from "./Positions";

/** The lots of one position, the first to go first. */
export function Lots({ p, held }: { p: Position; held: Holdings }) {
  const [view] = useView();
  const abroad = p.currency !== held.home;
  const lots = p.lots.map((lot, i) => ({ ...lot, key: `${lot.account}/${lot.day}/${i}` }));
  return (
    <div className="py-1 pl-4">
      <p className="flex flex-wrap gap-x-5 text-[14px]">
        {p.first_bought && (
          <span>
            bought {day(p.first_bought)}
            {p.last_bought !== p.first_bought && ` to ${day(p.last_bought ?? "")}`}
          </span>
        )}
        <span>
          last close <Fig figure={p.price} spoken />
        </span>
        <span>
          yield on own money <Fig figure={p.yield_on_own_money} digits={2} />
        </span>
        <span>
          realised gain <Fig figure={p.realised} digits={2} sign bare /> {held.home}
        </span>
      </p>
      {lots.length > 0 && (
        <table className="rows text-[14px]">
          <caption className="sr-only">Lots of {p.name}</caption>
          <thead>
            <tr>
              <th scope="col" className="text-left!">
                Bought
              </th>
              <th scope="col" className="text-left!">
                Account
              </th>
              <th scope="col">Shares</th>
              <th scope="col">Cost a share, {p.currency}</th>
              <th scope="col">Cost, {p.currency}</th>
              {abroad && <th scope="col">Cost, {held.home}</th>}
            </tr>
          </thead>
          <tbody>
            {lots.map((lot) => (
              <tr key={lot.key}>
                <td className="text-left!">
                  {lot.dated ? day(lot.day) : `before ${day(lot.day)}`}
                  {lot.by_dividend && <span className="text-muted"> by a dividend</span>}
                </td>
                <td className="text-left!">{accountName(held.accounts, lot.account)}</td>
                <td>
                  <Amount>{number(lot.shares, Number.isInteger(lot.shares) ? 0 : 4)}</Amount>
                </td>
                <td>{amount(lot.cost_a_share, 4)}</td>
                <td>
                  <Amount>{amount(lot.cost)}</Amount>
                </td>
                {abroad && (
                  <td>
                    <Amount>{amount(lot.cost_at_home)}</Amount>
                  </td>
                )}
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <Link
        to="/holdings"
        search={{ as_of: view.as_of, tab: "entries", q: `${p.exchange}/${p.symbol}` }}
        className="link inline-block min-h-6 text-[14px]"
      >
        Entries of {p.name}
      </Link>
    </div>
  );
}
