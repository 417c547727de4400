import { useState } from "react";
import type { Schemas } from "@/api/client";
import { number, upperFirst } from "@/format/format";
import { Fig } from "@/ui/Fig";
import { heading } from "./heading";

type Range = Schemas["RangeSeries"];

const QUARTERS = ["Mar", "Jun", "Sep", "Dec"];
const YEARS_SHOWN = 6;

/** Quarter ends, a year a row, the newest first: the value, and how far it was from the usual one. */
export function Quarters({ range }: { range: Range }) {
  const [all, setAll] = useState(false);
  const years = [...new Set(range.quarters.map((q) => q.day.slice(0, 4)))].reverse();
  if (years.length === 0) return null;
  const at = (year: string, quarter: number) =>
    range.quarters.find(
      (q) => q.day.startsWith(year) && Math.ceil(Number(q.day.slice(5, 7)) / 3) === quarter + 1,
    );
  const shown = all ? years : years.slice(0, YEARS_SHOWN);
  return (
    <div className="relative mt-2 overflow-x-auto">
      <table className="rows w-full text-[14px]">
        <caption className="sr-only">{upperFirst(range.name)} at quarter ends</caption>
        <thead>
          <tr>
            <td />
            <th scope="colgroup" colSpan={4}>
              {heading(range)}
            </th>
            <th scope="colgroup" colSpan={4}>
              vs {range.usual}, % (− = under)
            </th>
          </tr>
          <tr>
            <th scope="col">Quarter ends</th>
            {["value", "against"].flatMap((half) =>
              QUARTERS.map((q) => (
                <th key={`${half}-${q}`} scope="col">
                  {q}
                </th>
              )),
            )}
          </tr>
        </thead>
        <tbody>
          {shown.map((year) => (
            <tr key={year}>
              <td>{year}</td>
              {QUARTERS.map((name, q) => {
                const held = at(year, q);
                return (
                  <td key={name}>
                    {held && <Fig figure={held.value} bare digits={2} unknown="–" />}
                  </td>
                );
              })}
              {QUARTERS.map((name, q) => {
                const held = at(year, q);
                return (
                  <td key={name}>
                    {held && <Fig figure={held.against_typical} bare sign unknown="–" />}
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
      {shown.length < years.length && (
        <button type="button" className="link mt-1 text-[14px]" onClick={() => setAll(true)}>
          {number(years.length - shown.length)} earlier years
        </button>
      )}
    </div>
  );
}
