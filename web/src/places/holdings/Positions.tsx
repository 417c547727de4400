import { Link } from "@tanstack/react-router";
import { Fragment } from "react";
import { type Account, GROUPINGS, type Group, type Holdings, type Position } from "@/api/holdings";
import { day, isPercent, kindName, number, shareDigits, upperFirst } from "@/format/format";
import { useView } from "@/state/view";
import { Amount } from "@/ui/Amount";
import { Fig, PayerContext } from "@/ui/Fig";
import { ReviewLink } from "@/ui/ReviewLink";
import { STATE_WORDS, StateMark } from "@/ui/StateMark";
import { EVERYONE, groupingOf } from "./HoldingsPage";
import { Lots } from "./Lots";
import { clicked, NAME, sorted, sortOf } from "./sorting";

/** A column: what it is called, what it says in small, and its figures. */
interface Column {
  name: string;
  unit?: string;
  of: (p: Position) => Position["value"];
  sum?: (g: Group | Holdings) => Position["value"] | null;
  digits?: number;
  sign?: boolean;
  /** Only where it is known of some: the premium to trim above is no rule at first. */
  seldom?: boolean;
}

const columns = (home: string): Column[] => [
  { name: "Shares", of: (p) => p.shares },
  { name: "Cost", unit: home, of: (p) => p.cost_at_home, sum: (g) => g.totals.cost, digits: 0 },
  { name: "Value", unit: home, of: (p) => p.value_at_home, sum: (g) => g.totals.value, digits: 0 },
  {
    name: "of value",
    unit: "%",
    of: (p) => p.share_of_value,
    sum: (g) => ("share_of_value" in g ? g.share_of_value : null),
  },
  {
    name: "Income a year",
    unit: home,
    of: (p) => p.income_at_home,
    sum: (g) => g.totals.income,
    digits: 0,
  },
  {
    name: "of income",
    unit: "%",
    of: (p) => p.share_of_income,
    sum: (g) => ("share_of_income" in g ? g.share_of_income : null),
  },
  { name: "Yield", unit: "%", of: (p) => p.current_yield, sum: (g) => g.totals.current_yield },
  { name: "on cost", unit: "%", of: (p) => p.yield_on_cost, sum: (g) => g.totals.yield_on_cost },
  { name: "Gain by price", unit: home, of: (p) => p.gain_by_price, digits: 0, sign: true },
  { name: "by currency", unit: home, of: (p) => p.gain_by_currency, digits: 0, sign: true },
  { name: "dividends", unit: home, of: (p) => p.received, digits: 0, sign: true },
  {
    name: "in all",
    unit: home,
    of: (p) => p.gain,
    sum: (g) => g.totals.gain,
    digits: 0,
    sign: true,
  },
  { name: "Price vs buy-below", unit: "%, − = under", of: (p) => p.against_buy_below, sign: true },
  {
    name: "vs trim-above",
    unit: "%, + = over",
    of: (p) => p.against_trim_above,
    sign: true,
    seldom: true,
  },
];

/** Every payer that is held, what it is worth and pays; lots below, ended ones on request. */
export function Positions({ held }: { held: Holdings }) {
  const [view, change] = useView();
  const by = groupingOf(view.by);
  if (held.positions === 0 && held.ended.length === 0) return null;
  const known = (c: Column) =>
    held.groups.some((g) => g.positions.some((p) => c.of(p).value !== null));
  const cols = columns(held.home).filter((c) => !c.seldom || known(c));
  const column = cols.find((c) => sortOf(c.name) === view.sort);
  const ordered = (rows: Position[]) =>
    column || view.sort === NAME
      ? sorted(rows, column?.of ?? null, view.descending ?? false)
      : rows;
  return (
    <>
      <nav
        aria-label="Positions by"
        className="mt-3 flex flex-wrap items-baseline gap-x-4 text-[15px]"
      >
        <span className="text-muted">Show</span>
        {GROUPINGS.map((g) => (
          <button
            key={g}
            type="button"
            aria-pressed={g === by}
            className={`min-h-6 ${g === by ? "font-semibold text-ink underline" : "link"}`}
            onClick={() => change({ by: g === "payer" ? undefined : g })}
          >
            {g === "payer" ? "each payer" : g}
          </button>
        ))}
        <span className="ml-auto text-[14px] text-muted">
          income before tax{held.pending > 0 && `; measures of ${held.pending} are being made`}
        </span>
      </nav>
      {held.positions > 0 && (
        <Table caption={`Positions by ${by}`} cols={cols}>
          {held.groups.map((group) => (
            <tbody key={group.name ?? "unknown"}>
              {by !== "payer" && <GroupRow group={group} by={by} cols={cols} />}
              {ordered(group.positions).map((p) => (
                <Row key={`${p.exchange}/${p.symbol}@${p.account}`} p={p} cols={cols} held={held} />
              ))}
            </tbody>
          ))}
          <tbody>
            <PayerContext value={EVERYONE}>
              <Sums name={`${held.positions} in all`} of={held} cols={cols} />
            </PayerContext>
          </tbody>
        </Table>
      )}
      <Statements held={held} />
      {held.ended.length > 0 && <Ended held={held} cols={cols} />}
    </>
  );
}

function Table(props: { caption: string; cols: Column[]; children: React.ReactNode }) {
  const { caption, cols, children } = props;
  return (
    <section aria-label={caption} tabIndex={0} className="relative mt-2 overflow-x-auto">
      <table className="rows w-full text-[14px]">
        <caption className="sr-only">{caption}</caption>
        <thead>
          <tr>
            <Heading name="Payer" className="text-left!" />
            {cols.map((c) => (
              <Heading key={c.name} {...c} className="align-bottom leading-tight" />
            ))}
          </tr>
        </thead>
        {children}
      </table>
    </section>
  );
}

/** A heading that sorts by its column. */
function Heading({ name, unit, className }: { name: string; unit?: string; className: string }) {
  const [view, change] = useView();
  const sort = sortOf(name);
  const way = view.descending ? "descending" : "ascending";
  return (
    <th scope="col" className={className} aria-sort={view.sort === sort ? way : undefined}>
      <button
        type="button"
        className="min-h-6 hover:underline"
        onClick={() => clicked(view, change, sort)}
      >
        {name}
        {view.sort === sort && <span aria-hidden>{view.descending ? " ↓" : " ↑"}</span>}
      </button>
      {unit && <span className="block font-normal text-[12px]">{unit}</span>}
    </th>
  );
}

function Cell({ figure, col }: { figure: Position["value"]; col: Column }) {
  const shares = col.name === "Shares" ? shareDigits(figure.value) : col.digits;
  return (
    <td className="whitespace-nowrap">
      <Fig
        figure={figure}
        digits={shares ?? (isPercent(figure.unit) && figure.unit === "yield" ? 2 : 1)}
        sign={col.sign}
        bare
        unknown="–"
        owned={figure.unit === "index" || figure.unit === "count"}
      />
    </td>
  );
}

function Row({ p, cols, held }: { p: Position; cols: Column[]; held: Holdings }) {
  const [view, change] = useView();
  const key = `${p.exchange}/${p.symbol}${p.account === null ? "" : `@${p.account}`}`;
  const open = view.lots === key;
  return (
    <PayerContext value={p}>
      <tr className={open ? "bg-raised" : undefined}>
        <th scope="row" className="min-w-[180px] text-left! font-normal">
          <span className="flex items-baseline gap-2">
            {p.state && <StateMark state={p.state} label={false} />}
            {p.state && <span className="sr-only">{STATE_WORDS[p.state]}</span>}
            <span>
              {p.stored ? (
                <ReviewLink
                  payer={p}
                  className="inline-block min-h-6 font-semibold text-ink hover:underline"
                >
                  {p.name}
                </ReviewLink>
              ) : (
                <span className="font-semibold">{p.name}</span>
              )}{" "}
              <button
                type="button"
                className="link min-h-6 text-[13px]"
                aria-expanded={open}
                aria-label={`${p.symbol}: lots of ${p.name}`}
                onClick={() => change({ lots: open ? undefined : key })}
              >
                {p.symbol} <span aria-hidden>{open ? "▴" : "▾"}</span>
              </button>
            </span>
          </span>
        </th>
        {p.unresolved ? (
          <td colSpan={cols.length} className="text-left! text-muted">
            More was sold than was held on {day(p.unresolved)}: unknown since. Enter what is
            missing, or an opening.
          </td>
        ) : (
          cols.map((c) => <Cell key={c.name} figure={c.of(p)} col={c} />)
        )}
      </tr>
      {open && (
        <tr className="bg-raised">
          <td colSpan={cols.length + 1} className="text-left!">
            <Lots p={p} held={held} />
          </td>
        </tr>
      )}
    </PayerContext>
  );
}

function GroupRow({ group, by, cols }: { group: Group; by: string; cols: Column[] }) {
  const named = group.name ?? "not known";
  const state = by === "state" && group.name !== null;
  const name =
    by === "kind"
      ? upperFirst(kindName(named))
      : state
        ? upperFirst(STATE_WORDS[named as keyof typeof STATE_WORDS])
        : named;
  return <Sums name={name} of={group} cols={cols} />;
}

function Sums({ name, of, cols }: { name: string; of: Group | Holdings; cols: Column[] }) {
  return (
    <tr className="font-semibold">
      <th scope="row" className="text-left! font-semibold">
        {name}
      </th>
      {cols.map((c) => {
        const sum = c.sum?.(of) ?? null;
        return sum ? <Cell key={c.name} figure={sum} col={c} /> : <td key={c.name} />;
      })}
    </tr>
  );
}

/** Where an institution says otherwise than the ledger. */
function Statements({ held }: { held: Holdings }) {
  const [view] = useView();
  const apart = held.stated.filter((s) => s.apart || s.ledger === null);
  if (held.stated.length === 0) return null;
  const agree = held.stated.length - apart.length;
  return (
    <section className="mt-4 text-[15px]" aria-labelledby="stated">
      <h2 id="stated" className="text-[17px]">
        Statements against the ledger
      </h2>
      <ul>
        {apart.map((s) => (
          <li key={s.entry}>
            {accountName(held.accounts, s.account)} on {day(s.day)}: {s.name || s.currency}, stated{" "}
            <Amount>{number(s.said, s.symbol ? shareDigits(s.said) : 2)}</Amount>,{" "}
            {s.ledger === null ? (
              s.reason
            ) : (
              <>
                in the ledger{" "}
                <b className="font-semibold">
                  <Amount>{number(s.ledger, s.symbol ? shareDigits(s.ledger) : 2)}</Amount>
                </b>
              </>
            )}{" "}
            <Link
              to="/holdings"
              search={{
                as_of: view.as_of,
                tab: "entries",
                q: s.symbol ? `${s.exchange}/${s.symbol}` : undefined,
                account: String(s.account),
              }}
              className="link"
            >
              Entries
            </Link>
          </li>
        ))}
        {agree > 0 && (
          <li className="text-muted">
            {number(agree)} {agree === 1 ? "agrees" : "agree"} with it.
          </li>
        )}
      </ul>
    </section>
  );
}

function Ended({ held, cols }: { held: Holdings; cols: Column[] }) {
  const kept = cols.filter((c) => c.name === "dividends" || c.name === "in all");
  return (
    <details className="mt-4">
      <summary className="link inline-block text-[15px]">
        {held.ended.length} {held.ended.length === 1 ? "position has" : "positions have"} ended
      </summary>
      <Table caption="Positions that have ended" cols={kept}>
        <tbody>
          {held.ended.map((p) => (
            <Fragment key={`${p.exchange}/${p.symbol}`}>
              <Row p={p} cols={kept} held={held} />
            </Fragment>
          ))}
        </tbody>
      </Table>
    </details>
  );
}

export const accountName = (accounts: Account[], id: number) =>
  accounts.find((a) => a.id === id)?.name ?? "";

export const amount = (value: number | null, digits = 2) =>
  value === null ? "unknown" : number(value, digits);
