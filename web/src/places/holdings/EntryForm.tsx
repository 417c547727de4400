import { useRef } from "react";
import { isUnsure, Refusal, type Schemas } from "@/api/client";
import {
  type Account,
  type Entry,
  type EntryField,
  type EntryIn,
  useFormer,
  useKeepEntry,
} from "@/api/holdings";
import { useStatus } from "@/api/hooks";
import { day, readNumber, upperFirst, withDates } from "@/format/format";
import { useDraft } from "@/state/drafts";
import { useIntention } from "@/state/intention";
import { useView } from "@/state/view";
import { AddPayer } from "@/ui/AddPayer";
import { Amount } from "@/ui/Amount";
import { ErrorNote } from "@/ui/ErrorNote";
import { AccountSelect } from "./AccountSelect";
import { ChosenLots, readChosen } from "./ChosenLots";
import { moreOf } from "./more";

type Kinds = Schemas["EntryKindsOut"];
export type Typed = Record<string, string>;
export const isTyped = (raw: unknown): raw is Typed =>
  typeof raw === "object" && raw !== null && Object.values(raw).every((v) => typeof v === "string");
const NUMBERS = ["shares", "price", "money", "ratio"];

interface Props {
  kinds: Kinds;
  accounts: Account[];
  /** The entry that is changed; null writes a new one. */
  standing: Entry | null;
  onClose: () => void;
}

const keyOf = (exchange: string, symbol: string) => (symbol ? `${exchange}/${symbol}` : "");

/** An entry as texts, one a field. */
function typedOf(entry: Entry): Typed {
  const { exchange, symbol, into_exchange, into_symbol, ...rest } = entry;
  const texts = Object.entries(rest).filter(
    ([, v]) => typeof v === "string" || typeof v === "number",
  );
  return {
    ...Object.fromEntries(texts.map(([name, v]) => [name, String(v)])),
    chosen: entry.chosen.map((c) => `${c.day} ${c.shares}`).join("; "),
    payer: keyOf(exchange, symbol),
    into: keyOf(into_exchange, into_symbol),
  };
}

/** A line of the ledger: the fields that its kind has. */
export function EntryForm({ kinds, accounts, standing, onClose }: Props) {
  const [view] = useView();
  const today = useStatus(view.as_of).data?.today ?? "";
  const [draft, setDraft] = useDraft(`entry/${standing?.id ?? "new"}`, isTyped);
  const keep = useKeepEntry();
  const asked = useRef("");
  const intentionOf = useIntention();
  const base: Typed = standing
    ? typedOf(standing)
    : { account: String(accounts[0]?.id ?? ""), kind: "buy", day: view.as_of ?? today };
  const typed = { ...base, ...draft };
  const type = (part: Typed) => setDraft({ ...draft, ...part });
  const kind = kinds.kinds.find((k) => k.kind === typed.kind);
  if (!kind) return null;
  const own = accounts.find((a) => String(a.id) === typed.account)?.currency ?? "";
  const fields = [...kind.needs, ...kind.either, ...kind.may]
    .filter((id, i, all) => all.indexOf(id) === i)
    .map((id) => kinds.fields.find((f) => f.id === id) as EntryField);
  const close = () => {
    setDraft(null);
    onClose();
  };
  const read = fields.map((f) => [f, saidIn(f, typed)] as const);
  const wrong = read.find(([, v]) => typeof v === "object" && v !== null && "error" in v);
  const save = () => {
    if (wrong) return;
    const body = {
      ...bodyOf(typed, read as [EntryField, string | undefined][]),
      chosen: kind.chooses ? readChosen(typed.chosen ?? "") : [],
      edits: standing?.edits,
    };
    const said = JSON.stringify(body);
    const intention = standing ? undefined : intentionOf(body);
    keep.mutate(
      { id: standing?.id ?? null, body: { ...body, intention, ask: asked.current !== said } },
      {
        onSuccess: close,
        onError: (error) => {
          asked.current = isUnsure(error) ? said : "";
        },
      },
    );
  };
  const unsure = isUnsure(keep.error);
  const named = keep.error instanceof Refusal ? keep.error.problem.field : null;
  return (
    <form
      className="mt-2 max-w-[900px] rounded-md border border-line bg-raised p-3 text-[15px] print:hidden"
      aria-label={standing ? "Edit the entry" : "New entry"}
      onSubmit={(e) => {
        e.preventDefault();
        save();
      }}
    >
      <div className="flex flex-wrap gap-x-5 gap-y-2">
        <label>
          What{" "}
          <select
            className="field"
            value={typed.kind}
            onChange={(e) => type({ kind: e.target.value })}
          >
            {kinds.kinds.map((k) => (
              <option key={k.kind} value={k.kind}>
                {k.name}
              </option>
            ))}
          </select>
        </label>
        <AccountSelect
          label="Account"
          accounts={accounts}
          value={typed.account ?? ""}
          onChange={(account) => type({ account })}
        />
        <label>
          Day{" "}
          <input
            type="date"
            className="field"
            value={typed.day}
            onChange={(e) => type({ day: e.target.value })}
          />
        </label>
      </div>
      <p className="mt-1 text-[13px] text-muted">{kind.means}</p>
      <div className="mt-2 flex flex-wrap gap-x-5 gap-y-2">
        {fields.map((f) => (
          <Field
            key={f.id}
            field={f}
            typed={typed}
            type={type}
            accounts={accounts}
            currency={f.id === "settled" ? own : typed.currency || own}
            wrong={named === f.id}
          />
        ))}
        <label>
          Currency{" "}
          <input
            className="field w-[70px]"
            maxLength={3}
            placeholder={own}
            value={typed.currency ?? ""}
            onChange={(e) => type({ currency: e.target.value })}
          />
        </label>
        <label>
          Note{" "}
          <input
            className="field w-[260px]"
            value={typed.note ?? ""}
            onChange={(e) => type({ note: e.target.value })}
          />
        </label>
      </div>
      {kind.chooses && (
        <ChosenLots
          account={typed.account ?? ""}
          exchange={parted(typed.payer)[0] ?? ""}
          symbol={parted(typed.payer)[1] ?? ""}
          on={typed.day ?? ""}
          without={standing?.id ?? null}
          value={typed.chosen ?? ""}
          onChange={(chosen) => type({ chosen })}
        />
      )}
      {standing !== null && standing.edits > 0 && <Former id={standing.id} />}
      {wrong && (
        <p role="alert" className="mt-2 text-outside">
          {wrong[0].name}: {(wrong[1] as { error: string }).error}.
        </p>
      )}
      {unsure ? (
        <p role="alert" className="mt-2">
          {upperFirst(withDates(keep.error?.message ?? ""))}. Change it, or enter it as it is.
        </p>
      ) : (
        keep.error && <ErrorNote error={keep.error} kept="What you typed is still here." />
      )}
      <div className="mt-3 flex gap-3">
        <button type="submit" className="button primary" disabled={keep.isPending || !!wrong}>
          {unsure ? "Enter it as it is" : standing ? "Save" : "Enter"}
        </button>
        <button type="button" className="button" onClick={close}>
          Cancel
        </button>
      </div>
    </form>
  );
}

/** What it said before it was changed. */
function Former({ id }: { id: number }) {
  const former = useFormer(id).data ?? [];
  return (
    <details className="mt-2 text-[14px]">
      <summary className="link inline-block">What it said before</summary>
      <ul>
        {former.map(({ until, entry }) => (
          <li key={until}>
            until {day(until)}: {day(entry.day)},{" "}
            <Amount>
              {[
                entry.shares && `${entry.shares} shares`,
                entry.price && `at ${entry.price}`,
                entry.comes_to && `${entry.comes_to} ${entry.currency}`,
                ...moreOf(entry, []),
              ]
                .filter(Boolean)
                .join("; ")}
            </Amount>
          </li>
        ))}
      </ul>
    </details>
  );
}

/** What a field says to the server: nothing, a text, or why it cannot be read. */
function saidIn(field: EntryField, typed: Typed): string | undefined | { error: string } {
  const text = (typed[field.id] ?? "").trim();
  if (!text || !NUMBERS.includes(field.type)) return text || undefined;
  const read = readNumber(text);
  return "error" in read ? read : read.text;
}

const parted = (key: string | undefined) => {
  const at = (key ?? "").indexOf("/");
  return at < 0 ? ["", key ?? ""] : [(key ?? "").slice(0, at), (key ?? "").slice(at + 1)];
};

function bodyOf(typed: Typed, read: readonly [EntryField, string | undefined][]): EntryIn {
  const plain = read.filter(([f, v]) => v !== undefined && !["payer", "account"].includes(f.type));
  const has = (id: string) => read.some(([f, v]) => f.id === id && v !== undefined);
  const [exchange, symbol] = has("payer") ? parted(typed.payer) : ["", ""];
  const [into_exchange, into_symbol] = has("into") ? parted(typed.into) : ["", ""];
  return {
    account: Number(typed.account),
    kind: typed.kind,
    day: typed.day,
    currency: typed.currency ?? "",
    note: typed.note ?? "",
    exchange,
    symbol,
    into_exchange,
    into_symbol,
    to: has("to") ? Number(typed.to) : null,
    ...Object.fromEntries(plain.map(([f, v]) => [f.id, v])),
  } as EntryIn;
}

interface FieldProps {
  field: EntryField;
  typed: Typed;
  type: (part: Typed) => void;
  accounts: Account[];
  currency: string;
  wrong: boolean;
}

function Field({ field, typed, type, accounts, currency, wrong }: FieldProps) {
  const { id, name } = field;
  const value = typed[id] ?? "";
  const on = (text: string) => type({ [id]: text });
  if (field.type === "payer") {
    return (
      <div className="w-full">
        {value ? (
          <span>
            {name} <span className="font-semibold">{parted(value)[1]}</span>{" "}
            <button type="button" className="link" onClick={() => on("")}>
              Change
            </button>
          </span>
        ) : (
          <AddPayer
            label={name}
            taken={[]}
            onAdd={(key, found) =>
              type(id === "payer" ? { payer: key, currency: found.currency } : { [id]: key })
            }
          />
        )}
      </div>
    );
  }
  if (field.type === "account") {
    return (
      <AccountSelect
        label={name}
        accounts={accounts.filter((a) => String(a.id) !== typed.account)}
        value={value}
        onChange={on}
        none="outside"
      />
    );
  }
  const money = field.type === "money" || field.type === "price";
  return (
    <label title={field.means || undefined}>
      {name}
      {money && currency && `, ${currency}`}{" "}
      <input
        type={field.type === "day" ? "date" : "text"}
        inputMode={field.type === "day" ? undefined : "decimal"}
        className={`field ${field.type === "day" ? "" : "w-[120px] text-right"}`}
        aria-invalid={wrong || undefined}
        value={value}
        onChange={(e) => on(e.target.value)}
      />
    </label>
  );
}
