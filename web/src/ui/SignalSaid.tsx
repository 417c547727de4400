import type { Signal } from "@/api/signals";
import { day, show, upperFirst } from "@/format/format";

const IN_MONEY = ["money", "per_share"];

/** Why a signal came, in a sentence. */
export function SignalSaid({ said }: { said: Signal["said"] }) {
  return <>{upperFirst(said.map(part).join(""))}.</>;
}

function part(one: Signal["said"][number]): string {
  if (one.day) return day(one.day);
  if (typeof one.value !== "number" || !one.unit) return one.words ?? "";
  const text = show(one.value, one.unit, { spoken: true });
  return one.currency && IN_MONEY.includes(one.unit) ? `${text} ${one.currency}` : text;
}
