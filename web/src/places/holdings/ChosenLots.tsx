import { useState } from "react";
import { useLotsToChoose } from "@/api/holdings";
import { day, number } from "@/format/format";
import { Amount } from "@/ui/Amount";

interface Props {
  account: string;
  exchange: string;
  symbol: string;
  on: string;
  /** The entry that is changed. */
  without: number | null;
  /** Lots as "2018-01-31 7.5; 2019-02-28 3"; empty: the first in goes first. */
  value: string;
  onChange: (value: string) => void;
}

type Chosen = Record<string, string>;

export const readChosen = (text: string): { day: string; shares: string }[] =>
  text
    .split(";")
    .map((part) => part.trim().split(/\s+/))
    .flatMap(([of, shares]) => (of && shares ? [{ day: of, shares }] : []));

const written = (chosen: Chosen) =>
  Object.entries(chosen)
    .filter(([, shares]) => shares.trim() !== "")
    .map(([of, shares]) => `${of} ${shares.trim()}`)
    .join("; ");

/** Which lots a sale or a transfer takes, where it is not the first in that goes first. */
export function ChosenLots({ value, onChange, ...of }: Props) {
  const [open, setOpen] = useState(value !== "");
  const lots = useLotsToChoose(of, open).data;
  const chosen: Chosen = Object.fromEntries(readChosen(value).map((c) => [c.day, c.shares]));
  if (!open) {
    return (
      <p className="mt-2 text-[14px]">
        The first lot in goes first.{" "}
        <button type="button" className="link min-h-6" onClick={() => setOpen(true)}>
          Choose lots
        </button>
      </p>
    );
  }
  return (
    <fieldset className="mt-2 text-[14px]">
      <legend className="text-muted">
        Shares of each lot that go; the rest of the sale takes the first in.
      </legend>
      {lots?.length === 0 && <p>Nothing of it is held in this account then.</p>}
      {lots && lots.length > 0 && (
        <table className="rows mt-1">
          <caption className="sr-only">Lots to choose from</caption>
          <thead>
            <tr>
              <th scope="col" className="text-left!">
                Bought
              </th>
              <th scope="col">Shares</th>
              <th scope="col">Cost a share</th>
              <th scope="col">Go</th>
            </tr>
          </thead>
          <tbody>
            {lots.map((lot) => (
              <tr key={lot.day}>
                <td className="text-left!">
                  {lot.dated ? day(lot.day) : `before ${day(lot.day)}`}
                </td>
                <td>
                  <Amount>{lot.shares}</Amount>
                </td>
                <td>{lot.cost_a_share === null ? "unknown" : number(lot.cost_a_share, 4)}</td>
                <td>
                  <input
                    className="field w-[96px] py-0.5 text-right"
                    inputMode="decimal"
                    aria-label={`Shares of the lot of ${day(lot.day)}`}
                    value={chosen[lot.day] ?? ""}
                    onChange={(e) => onChange(written({ ...chosen, [lot.day]: e.target.value }))}
                  />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <button
        type="button"
        className="link min-h-6"
        onClick={() => {
          onChange("");
          setOpen(false);
        }}
      >
        First in first out
      </button>
    </fieldset>
  );
}
