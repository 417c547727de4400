import type { Review, Schemas } from "@/api/client";
import { type PayerKey, useNewest } from "@/api/hooks";
import { upperFirst, withDates } from "@/format/format";
import { useView } from "@/state/view";
import { Fig } from "@/ui/Fig";
import { Expected } from "../estimates/Expected";
import { Found } from "./Found";
import { MarkWord } from "./MarkWord";

type Compared = Schemas["ComparedOut"];
type Moved = Schemas["MovedOut"];

export function NewestView({ payer }: { review: Review; payer: PayerKey }) {
  const [view] = useView();
  const found = useNewest(payer, { as_of: view.as_of });
  return (
    <>
      <Found found={found}>
        {({ compared }) =>
          compared.length === 0 ? (
            <p className="my-6 max-w-prose text-muted">
              Neither a quarter nor twelve months are held together with the same of a year before.
            </p>
          ) : (
            <Table compared={compared} />
          )
        }
      </Found>
      <Expected payer={payer} rest />
    </>
  );
}

/** The newest period line by line, and what the same line did over twelve months. */
function Table({ compared }: { compared: Compared[] }) {
  const [lead, year] = compared as [Compared, Compared | undefined];
  const beside = new Map((year?.lines ?? []).map((l) => [l.id, l]));
  return (
    <div className="relative overflow-x-auto">
      <table className="rows w-full text-[14px] leading-tight">
        <caption className="sr-only">
          {withDates(`${lead.now} against ${lead.before}`)}, what moved most first
        </caption>
        <thead>
          <tr>
            <th scope="col">What moved most first; money in m, margins in points</th>
            <th scope="col">{upperFirst(withDates(lead.before))}</th>
            <th scope="col">{upperFirst(withDates(lead.now))}</th>
            <th scope="col">Moved by</th>
            <th scope="col">%</th>
            {year && <th scope="col">12 months, %</th>}
            <th scope="col">Speaks</th>
          </tr>
        </thead>
        <tbody>
          {lead.lines.map((line) => (
            <tr key={line.id}>
              <td className="whitespace-nowrap">{upperFirst(line.name)}</td>
              <td>
                <Fig figure={line.before} bare />
              </td>
              <td>
                <Fig figure={line.now} bare className="font-semibold" />
              </td>
              <td>
                <Fig figure={line.amount} bare sign />
              </td>
              <td>{line.change ? <Fig figure={line.change} bare sign unknown="–" /> : ""}</td>
              {year && <td>{share(beside.get(line.id))}</td>}
              <td>
                <MarkWord mark={line.mark} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

function share(moved: Moved | undefined) {
  if (!moved) return "–";
  const figure = moved.change ?? moved.amount;
  return <Fig figure={figure} bare sign unknown="–" />;
}
