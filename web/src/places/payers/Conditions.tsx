import { Plus, X } from "lucide-react";
import { DropdownMenu } from "radix-ui";
import { useEffect, useRef, useState } from "react";
import { type Condition, firstMeasure, type Group, isComplete, type Measure } from "@/api/payers";
import { isPercent, number, readNumber, upperFirst } from "@/format/format";
import {
  countPlaces,
  groupsOf,
  type Measures,
  NUMBER_OPS,
  OP_WORDS,
  WORD_OPS,
  wordOf,
} from "./conditions";

interface Props {
  group: Group;
  catalogue: Measures;
  counts: number[];
  held: number;
  onChange: (group: Group) => void;
}

/** Conditions combined by all or any, one group deep; every change acts at once. */
export function Conditions({ group, catalogue, counts, held, onChange }: Props) {
  const places = countPlaces(group);
  const countOf = (c: Condition) => {
    const at = places.get(c);
    return at === undefined ? null : (counts[at] ?? null);
  };
  return (
    <section aria-label="Conditions" className="mt-3 rounded-md border border-line bg-raised p-3">
      <Parts
        group={group}
        catalogue={catalogue}
        countOf={countOf}
        held={held}
        onChange={onChange}
        nested={false}
      />
    </section>
  );
}

type Inner = Omit<Props, "counts"> & {
  countOf: (c: Condition) => number | null;
  nested: boolean;
};

function Parts({ group, catalogue, countOf, held, onChange, nested }: Inner) {
  const parts = group.parts ?? [];
  const fresh = useRef(false);
  const put = (i: number, part: Condition | Group) =>
    onChange({ ...group, parts: parts.map((p, n) => (n === i ? part : p)) });
  const drop = (i: number) => onChange({ ...group, parts: parts.filter((_, n) => n !== i) });
  const add = (part: Condition | Group) => {
    fresh.current = true;
    onChange({ ...group, parts: [...parts, part] });
  };
  const first: Condition = { id: firstMeasure(catalogue), op: "at_least", words: [] };
  return (
    <div className={nested ? "border-stone border-l-2 pl-3" : ""}>
      {parts.length > 1 && (
        <p className="mb-1 text-[15px]">
          Payers that meet{" "}
          <select
            className="field py-0.5"
            aria-label="How the conditions combine"
            value={group.join}
            onChange={(e) => onChange({ ...group, join: e.target.value as Group["join"] })}
          >
            <option value="all">all of these</option>
            <option value="any">any of these</option>
          </select>
        </p>
      )}
      <ul>
        {parts.map((part, i) => (
          <li key={i} className="py-1">
            {"join" in part ? (
              <div className="flex items-start gap-2">
                <div className="grow">
                  <Parts
                    group={part}
                    catalogue={catalogue}
                    countOf={countOf}
                    held={held}
                    nested
                    onChange={(g) => (g.parts?.length ? put(i, g) : drop(i))}
                  />
                </div>
                <Remove name="this group" onClick={() => drop(i)} />
              </div>
            ) : (
              <Row
                condition={part}
                catalogue={catalogue}
                count={countOf(part)}
                held={held}
                focus={fresh.current && i === parts.length - 1}
                onFocused={() => {
                  fresh.current = false;
                }}
                onChange={(c) => put(i, c)}
                onDrop={() => drop(i)}
              />
            )}
          </li>
        ))}
      </ul>
      <p className="mt-1 flex flex-wrap gap-x-5">
        <button type="button" className="link flex items-center gap-1" onClick={() => add(first)}>
          <Plus size={15} aria-hidden="true" /> Add a condition
        </button>
        {!nested && parts.length > 0 && (
          <button
            type="button"
            className="link flex items-center gap-1"
            onClick={() =>
              add({ join: group.join === "all" ? "any" : "all", parts: [{ ...first }] })
            }
          >
            <Plus size={15} aria-hidden="true" /> Add a group of “
            {group.join === "all" ? "any" : "all"} of these”
          </button>
        )}
      </p>
    </div>
  );
}

function Remove({ name, onClick }: { name: string; onClick: () => void }) {
  return (
    <button
      type="button"
      className="grid size-8 shrink-0 place-items-center rounded text-muted hover:text-ink"
      aria-label={`Remove ${name}`}
      onClick={onClick}
    >
      <X size={16} />
    </button>
  );
}

interface RowProps {
  condition: Condition;
  catalogue: Measures;
  count: number | null;
  held: number;
  focus: boolean;
  onFocused: () => void;
  onChange: (c: Condition) => void;
  onDrop: () => void;
}

function Row({ condition, catalogue, count, held, focus, onFocused, onChange, onDrop }: RowProps) {
  const measure = catalogue.get(condition.id);
  const select = useRef<HTMLSelectElement>(null);
  useEffect(() => {
    if (focus) {
      select.current?.focus();
      onFocused();
    }
  }, [focus, onFocused]);
  const pick = (id: string) => {
    const next = catalogue.get(id);
    const words = next?.unit === null;
    onChange(words ? { id, op: "is", words: [] } : { id, op: "at_least", words: [] });
  };
  const ops = measure?.unit === null ? WORD_OPS : NUMBER_OPS;
  return (
    <div className="flex flex-wrap items-center gap-2 text-[15px]">
      <select
        ref={select}
        className="field max-w-[260px]"
        aria-label="Measure"
        value={condition.id}
        onChange={(e) => pick(e.target.value)}
      >
        {!measure && <option value={condition.id}>{condition.id} (not known)</option>}
        <MeasureOptions catalogue={catalogue} />
      </select>
      <select
        className="field"
        aria-label="Relation"
        value={condition.op}
        onChange={(e) => onChange({ ...condition, op: e.target.value as Condition["op"] })}
      >
        {ops.map((op) => (
          <option key={op} value={op}>
            {OP_WORDS[op]}
          </option>
        ))}
      </select>
      {measure?.unit !== null && measure && !measure.choices && condition.op.startsWith("at_") && (
        <Value key={condition.id} condition={condition} measure={measure} onChange={onChange} />
      )}
      {measure?.choices && (condition.op === "is" || condition.op === "is_not") && (
        <Words condition={condition} measure={measure} onChange={onChange} />
      )}
      <span className="text-[14px] text-muted" aria-live="polite">
        {isComplete(condition)
          ? count !== null &&
            `${number(count)} of ${number(held)} ${count === 1 ? "meets" : "meet"} it`
          : measure?.unit === null
            ? "choose at least one"
            : "type a number"}
      </span>
      <span className="ml-auto">
        <Remove name={`the condition on ${measure?.name ?? condition.id}`} onClick={onDrop} />
      </span>
    </div>
  );
}

/** Every measure, by stage, and in Cover by the basis it is taken on. */
export function MeasureOptions({ catalogue }: { catalogue: Measures }) {
  return (
    <>
      {groupsOf([...catalogue.values()]).map(({ name, measures }) => (
        <optgroup key={name} label={name}>
          {measures.map((m) => (
            <option key={m.id} value={m.id}>
              {m.name}
            </option>
          ))}
        </optgroup>
      ))}
    </>
  );
}

const UNIT_WORDS: Record<string, string> = {
  fraction: "%",
  yield: "%",
  multiple: "×",
  money: "m",
  shares: "m",
  years: "years",
  weeks: "weeks",
};

const scaleOf = (measure: Measure) => {
  if (isPercent(measure.unit ?? "count")) return 100;
  return measure.unit === "money" || measure.unit === "shares" ? 1e-6 : 1;
};

/** A number in the unit a person thinks in; what is typed stays while it is no number. */
function Value({
  condition,
  measure,
  onChange,
}: {
  condition: Condition;
  measure: Measure;
  onChange: (c: Condition) => void;
}) {
  const scale = scaleOf(measure);
  const shown = (v: number | null | undefined) =>
    v === null || v === undefined ? "" : String(+(v * scale).toFixed(6));
  const [typed, setTyped] = useState(shown(condition.value));
  const read = readNumber(typed);
  const same = "value" in read && read.value / scale === condition.value;
  const text = same || condition.value == null ? typed : shown(condition.value);
  return (
    <span className="flex items-center gap-1.5">
      <input
        className="field w-[92px] text-right"
        inputMode="decimal"
        aria-label={`Value${UNIT_WORDS[measure.unit ?? ""] ? `, ${UNIT_WORDS[measure.unit ?? ""]}` : ""}`}
        aria-invalid={typed.trim() !== "" && "error" in read ? true : undefined}
        value={text}
        onChange={(e) => {
          const raw = e.target.value;
          setTyped(raw);
          const now = readNumber(raw);
          onChange({ ...condition, value: "value" in now ? now.value / scale : undefined });
        }}
      />
      <span className="text-muted">{UNIT_WORDS[measure.unit ?? ""]}</span>
    </span>
  );
}

function Words({
  condition,
  measure,
  onChange,
}: {
  condition: Condition;
  measure: Measure;
  onChange: (c: Condition) => void;
}) {
  const words = condition.words ?? [];
  const toggle = (word: string) =>
    onChange({
      ...condition,
      words: words.includes(word) ? words.filter((w) => w !== word) : [...words, word],
    });
  const gone = words.filter((w) => !measure.choices?.some((c) => c.word === w));
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger className="field max-w-[300px] truncate text-left">
        {words.length ? words.map((w) => wordOf(w, measure)).join(" or ") : "choose…"}
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="start"
          className="z-50 max-h-[50vh] overflow-auto rounded-md border border-line bg-raised p-1 shadow-lg"
        >
          {[...(measure.choices ?? []), ...gone.map((word) => ({ word, payers: 0 }))].map((c) => (
            <DropdownMenu.CheckboxItem
              key={c.word}
              checked={words.includes(c.word)}
              onCheckedChange={() => toggle(c.word)}
              onSelect={(e) => e.preventDefault()}
              className="flex min-h-8 cursor-pointer items-center gap-2 rounded px-2 text-[15px] outline-none data-[highlighted]:bg-sunk"
            >
              <span className="w-4 text-action" aria-hidden="true">
                {words.includes(c.word) ? "✓" : ""}
              </span>
              <span className="grow">{upperFirst(wordOf(c.word, measure))}</span>
              <span className="text-[13px] text-muted">{c.payers}</span>
            </DropdownMenu.CheckboxItem>
          ))}
          {measure.choices?.length === 0 && (
            <p className="px-3 py-2 text-[14px] text-muted">None is on record.</p>
          )}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
