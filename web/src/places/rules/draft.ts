/** Rules as they are being written: kept by the browser until they are saved or dropped. */
import type { Schemas } from "@/api/client";
import type { KindName, Limit, Rules, RulesHeld } from "@/api/rules";
import { percent, show } from "@/format/format";
import { useDraft } from "@/state/drafts";

/** version: of the rules that these were changed from. */
interface Kept {
  version: number;
  rules: Rules;
  note: string;
}

const isRules = (raw: unknown): raw is Rules => {
  const held = raw as Partial<Rules> | null;
  return (
    isHeld(held?.settings) &&
    isHeld(held.returns) &&
    isHeld(held.limits) &&
    isHeld(held.built_up_payers ?? {}) &&
    isHeld(held.withheld ?? {}) &&
    Array.isArray(held.built_up ?? []) &&
    Array.isArray(held.exemptions)
  );
};

const isHeld = (raw: unknown): raw is object => typeof raw === "object" && raw !== null;

const isKept = (raw: unknown): raw is Kept => {
  const held = raw as Partial<Kept> | null;
  return typeof held?.version === "number" && typeof held.note === "string" && isRules(held.rules);
};

/** The draft, a way to change it, and a way to drop it; draft null: nothing differs from what
 * stands. began: the version that it was changed from; rebase: it is changed from today's. */
export function useRulesDraft(held: RulesHeld) {
  const [kept, keep] = useDraft("house-rules", isKept);
  const differs = kept !== null && !sameRules(kept.rules, held.rules);
  const now = differs ? kept : { version: held.version, rules: held.rules, note: "" };
  return {
    rules: now.rules,
    draft: differs ? kept.rules : null,
    began: now.version,
    note: now.note,
    change: (rules: Rules) => keep({ ...now, rules }),
    say: (note: string) => keep({ ...now, note }),
    rebase: () => keep({ ...now, version: held.version }),
    drop: () => keep(null),
  };
}

/** What differs between rules that are being written and those that stand, each in both. */
export function differences(
  held: RulesHeld,
  mine: Rules,
): { what: string; mine: string; theirs: string }[] {
  const theirs = held.rules;
  const found = held.settings.map((s) => ({
    what: s.name,
    mine: limitWords(mine.settings[s.id] ?? s.default, s.unit),
    theirs: limitWords(theirs.settings[s.id] ?? s.default, s.unit),
  }));
  for (const kind of held.kinds) {
    const wanted = (rules: Rules) =>
      limitWords(rules.returns[kind.id] ?? kind.default_return, "fraction");
    found.push({
      what: `Required return, ${kind.name}`,
      mine: wanted(mine),
      theirs: wanted(theirs),
    });
    for (const test of held.tests) {
      const house = test.limits[kind.id];
      if (!house) continue;
      const words = (rules: Rules) => {
        const own = limitOf(rules, house, kind.id, test.id);
        return `${limitWords(own.value, test.unit)}${own.required ? ", required" : ""}`;
      };
      found.push({
        what: `${test.name}, ${kind.name}`,
        mine: words(mine),
        theirs: words(theirs),
      });
    }
  }
  const others = (rules: Rules) => ({
    exceptions: rules.exemptions.map((x) => `${x.name} ${x.limit.value}`).join(", ") || "none",
    signals:
      Object.entries(rules.signals ?? {})
        .map(([k, v]) => `${k.replaceAll("_", " ")}: ${v}`)
        .join(", ") || "as the house has them",
    "tax withheld":
      Object.entries(rules.withheld ?? {})
        .map(([country, rate]) => `${country} ${percent(rate, 1)}`)
        .join(", ") || "none",
    "built-up returns":
      [...(rules.built_up ?? []), ...Object.keys(rules.built_up_payers ?? {})].join(", ") || "none",
  });
  const [a, b] = [others(mine), others(theirs)];
  for (const what of Object.keys(a) as (keyof typeof a)[])
    found.push({ what, mine: a[what], theirs: b[what] });
  return found.filter((d) => d.mine !== d.theirs);
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
  withheld: {},
  limits: {},
  exemptions: [],
  signals: {},
});

/** Settings that say when a signal comes. */
export const isOfSignals = (id: string) => id.startsWith("signal_");

/** A limit or a setting, as it is told. */
export const limitWords = (value: number, unit: Schemas["TestedOut"]["unit"]): string =>
  show(value, unit, { digits: unit === "multiple" ? 1 : 0 });
