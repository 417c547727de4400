/** Rules as they are being written: kept by the browser until they are saved or dropped. */
import { useState } from "react";
import type { Schemas } from "@/api/client";
import type { KindName, Limit, Rules, RulesHeld } from "@/api/rules";
import { show } from "@/format/format";
import { readStored } from "@/state/stored";

const KEY = "hearth.house-rules";

const isRules = (raw: unknown): raw is Rules => {
  const held = raw as Partial<Rules> | null;
  return (
    typeof held?.settings === "object" &&
    typeof held.returns === "object" &&
    typeof held.limits === "object" &&
    Array.isArray(held.exemptions)
  );
};

/** The draft, a way to change it, and a way to drop it; null: nothing differs from what stands. */
export function useDraft(standing: Rules) {
  const [draft, setDraft] = useState<Rules | null>(() => readStored(sessionStorage, KEY, isRules));
  const differs = draft !== null && !sameRules(draft, standing);
  const change = (next: Rules) => {
    sessionStorage.setItem(KEY, JSON.stringify(next));
    setDraft(next);
  };
  const drop = () => {
    sessionStorage.removeItem(KEY);
    setDraft(null);
  };
  return { rules: draft ?? standing, draft: differs ? draft : null, change, drop };
}

/** Whether two say the same, in whatever order they hold it. */
export const sameRules = (a: Rules, b: Rules): boolean => inOrder(a) === inOrder(b);

const inOrder = (rules: Rules): string =>
  JSON.stringify(rules, (_, held: unknown) =>
    held !== null && typeof held === "object" && !Array.isArray(held)
      ? Object.fromEntries(Object.entries(held).sort(([a], [b]) => (a < b ? -1 : 1)))
      : held,
  );

/** The limit of a kind on a test: the person's own, or the house's. */
export const limitOf = (rules: Rules, held: Limit, kind: KindName, id: string): Limit =>
  rules.limits[kind]?.[id] ?? held;

/** The same rules with one limit changed; the house's own goes out of them. */
export function withLimit(
  rules: Rules,
  held: Limit,
  kind: KindName,
  id: string,
  limit: Limit,
): Rules {
  const { [id]: _, ...others } = rules.limits[kind] ?? {};
  const plain = limit.value === held.value && limit.required === held.required;
  const mine = plain ? others : { ...others, [id]: limit };
  const { [kind]: __, ...kinds } = rules.limits;
  return {
    ...rules,
    limits: Object.keys(mine).length ? { ...kinds, [kind]: mine } : (kinds as Rules["limits"]),
  };
}

/** The house's own rules: what a reset goes back to. */
export const plainRules = (held: RulesHeld): Rules => ({
  settings: Object.fromEntries(held.settings.map((s) => [s.id, s.default])),
  returns: Object.fromEntries(held.kinds.map((k) => [k.id, k.default_return])) as Rules["returns"],
  built_up: [],
  built_up_payers: {},
  limits: {},
  exemptions: [],
  signals: {},
});

/** Settings that say when a signal comes. */
export const isOfSignals = (id: string) => id.startsWith("signal_");

/** A limit or a setting, as it is told. */
export const limitWords = (value: number, unit: Schemas["TestedOut"]["unit"]): string =>
  show(value, unit, { digits: unit === "multiple" ? 1 : 0 });
