import type { Figure, Schemas } from "@/api/client";
import { type PayerKey, useUses } from "@/api/hooks";
import { useView } from "@/state/view";
import { ErrorNote } from "@/ui/ErrorNote";
import { Fig } from "@/ui/Fig";

type Uses = Schemas["UsesOut"];
const PARTS = [
  "capital_expenditure",
  "dividends",
  "net_buybacks",
  "debt_repaid",
  "kept",
  "other",
] as const;

/** Where operating cash flow went, year by year and together; the parts sum to it exactly. */
export function UsesOfCash({ payer }: { payer: PayerKey }) {
  const [view] = useView();
  const found = useUses(payer, { as_of: view.as_of });
  if (found.error) return <ErrorNote error={found.error} />;
  if (!found.data) return <div className="h-[240px]" aria-busy="true" />;
  const { uses } = found.data;
  if (uses.length === 0) {
    return (
      <p className="my-8 max-w-prose text-muted">
        Where cash went is told once two fiscal years that follow one another are held.
      </p>
    );
  }
  const last = uses.at(-1) as Uses;
  return (
    <>
      <Told uses={last} />
      <div className="relative overflow-x-auto">
        <table className="rows w-full text-[14px]">
          <caption className="sr-only">Uses of cash by fiscal year, in millions</caption>
          <thead>
            <tr>
              <th scope="col">Uses of cash, m</th>
              {uses.map((u) => (
                <th key={u.id} scope="col">
                  {u.label.replace("fiscal ", "")}
                </th>
              ))}
              <th scope="col">Share</th>
            </tr>
          </thead>
          <tbody>
            <Row name="Operating cash flow" uses={uses} id="operating_cash_flow" strong />
            {PARTS.map((id) => (
              <Row key={id} name={NAMES[id]} uses={uses} id={id} />
            ))}
            {uses.some((u) => u.maintenance.value !== null) && (
              <Row name="of capital expenditure: maintenance" uses={uses} id="maintenance" quiet />
            )}
          </tbody>
        </table>
      </div>
    </>
  );
}

const NAMES: Record<(typeof PARTS)[number], string> = {
  capital_expenditure: "Capital expenditure",
  dividends: "Dividends",
  net_buybacks: "Buybacks less issuance",
  debt_repaid: "Debt repaid (− raised)",
  kept: "Kept as cash (− drawn on)",
  other: "Everything else",
};
const INTO = [
  ["capital_expenditure", "into capital expenditure"],
  ["dividends", "into dividends"],
  ["net_buybacks", "into buybacks"],
  ["debt_repaid", "into paying off debt"],
] as const;

/** The parts that took most, in a sentence; debt that was raised instead is said. */
function Told({ uses }: { uses: Uses }) {
  const went = INTO.filter(([id]) => (uses.shares[id]?.value ?? 0) >= LEAST_TOLD);
  const debt = uses.shares.debt_repaid;
  const raised = debt?.value != null && debt.value <= -LEAST_TOLD;
  if (went.length === 0) return null;
  return (
    <p className="mb-2 max-w-[80ch] text-[16px]">
      Of the operating cash flow of {uses.together ? uses.label : uses.label.replace("fiscal ", "")}{" "}
      {went.map(([id, words], i) => (
        <span key={id}>
          {i > 0 && (i === went.length - 1 ? " and " : ", ")}
          <Fig figure={uses.shares[id] as Figure} digits={0} /> went {words}
        </span>
      ))}
      {raised && (
        <>
          ; debt of <Fig figure={debt as Figure} size digits={0} /> of it was raised besides
        </>
      )}
      .
    </p>
  );
}

/** A smaller share is left to the table. */
const LEAST_TOLD = 0.01;

function Row(props: {
  name: string;
  uses: Uses[];
  id: "operating_cash_flow" | "maintenance" | (typeof PARTS)[number];
  strong?: boolean;
  quiet?: boolean;
}) {
  const { uses, id } = props;
  const last = uses.at(-1) as Uses;
  return (
    <tr className={props.quiet ? "text-muted" : ""}>
      <td className={props.strong ? "font-semibold" : props.quiet ? "pl-4!" : ""}>{props.name}</td>
      {uses.map((u) => (
        <td key={u.id}>
          <Fig
            figure={u[id]}
            bare
            unknown="–"
            className={props.strong || u.together ? "font-semibold" : ""}
          />
        </td>
      ))}
      <td>
        {last.shares[id] ? (
          <Fig figure={last.shares[id]} digits={0} unknown="–" />
        ) : (
          <span className="text-muted">100 %</span>
        )}
      </td>
    </tr>
  );
}
