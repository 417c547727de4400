import { useState } from "react";
import {
  type Account,
  type Holdings,
  useDeleteAccount,
  useKeepAccount,
  usePutBackAccount,
  useSetHome,
} from "@/api/holdings";
import { day, number } from "@/format/format";
import { useDraft } from "@/state/drafts";
import { Amount } from "@/ui/Amount";
import { ErrorNote, Refused } from "@/ui/ErrorNote";

type Typed = Omit<Account, "id">;
const NEW: Typed = {
  name: "",
  currency: "",
  sheltered: false,
  method: "fifo",
  keeps_cash: false,
  entered_from: null,
  closed_on: null,
};
const isTyped = (raw: unknown): raw is Typed =>
  typeof raw === "object" && raw !== null && "name" in raw && "currency" in raw;

/** The accounts with their cash; each is changed in place. */
export function Accounts({ accounts, cash, home }: Pick<Holdings, "accounts" | "cash" | "home">) {
  const [open, setOpen] = useState<number | "new" | null>(null);
  const writing = open ?? (accounts.length === 0 ? "new" : null);
  const remove = useDeleteAccount();
  const putBack = usePutBackAccount();
  return (
    <section aria-label="Accounts" className="mt-4 max-w-[900px]">
      <h2 className="text-[21px]">Accounts</h2>
      {accounts.length === 0 && (
        <p className="max-w-prose text-muted">
          Begin with an account: what you call it, and the currency it is counted in.
        </p>
      )}
      <ul className="text-[15px]">
        {accounts.map((a) =>
          writing === a.id ? (
            <li key={a.id}>
              <AccountForm id={a.id} standing={a} onClose={() => setOpen(null)} />
            </li>
          ) : (
            <li
              key={a.id}
              className="flex flex-wrap items-baseline gap-x-4 border-line border-b py-1"
            >
              <span className="font-semibold">{a.name}</span>
              <span className="text-muted">{told(a)}</span>
              <span>
                <Amount>
                  {cash
                    .filter((c) => c.account === a.id)
                    .map((c) => `${number(c.amount, 2)} ${c.currency}`)
                    .join(", ")}
                </Amount>
              </span>
              <span className="ml-auto flex gap-4 print:hidden">
                <button
                  type="button"
                  className="link min-h-6"
                  aria-label={`Edit ${a.name}`}
                  onClick={() => setOpen(a.id)}
                >
                  Edit
                </button>
                <button
                  type="button"
                  className="link min-h-6"
                  aria-label={`Delete ${a.name}`}
                  onClick={() => remove.mutate(a.id)}
                >
                  Delete
                </button>
              </span>
            </li>
          ),
        )}
      </ul>
      {accounts.length > 0 && <Home home={home} accounts={accounts} />}
      {remove.error && <ErrorNote error={remove.error} kept="Nothing was changed." />}
      {remove.isSuccess && !putBack.isSuccess && (
        <output className="flex gap-4 text-[15px]">
          Account deleted.
          <button
            type="button"
            className="link"
            onClick={() => putBack.mutate(remove.variables as number)}
          >
            Undo
          </button>
        </output>
      )}
      {writing === "new" ? (
        <AccountForm id={null} standing={NEW} onClose={() => setOpen(null)} />
      ) : (
        <button type="button" className="link mt-1 min-h-6" onClick={() => setOpen("new")}>
          Add an account
        </button>
      )}
    </section>
  );
}

/** The currency in which sums stand. */
function Home({ home, accounts }: Pick<Holdings, "home" | "accounts">) {
  const keep = useSetHome();
  const currencies = [...new Set([home, ...accounts.map((a) => a.currency)])];
  if (currencies.length < 2) return null;
  return (
    <p className="mt-1 text-[15px] print:hidden">
      <label>
        Sums stand in{" "}
        <select className="field py-0.5" value={home} onChange={(e) => keep.mutate(e.target.value)}>
          {currencies.map((c) => (
            <option key={c} value={c}>
              {c}
            </option>
          ))}
        </select>
      </label>{" "}
      <Refused error={keep.error} />
    </p>
  );
}

const told = (a: Account) =>
  [
    a.currency,
    a.method === "average" ? "average cost" : "first in first out",
    a.sheltered && "sheltered from tax at home",
    a.keeps_cash && "keeps its cash",
    a.entered_from ? `dividends entered from ${day(a.entered_from)}` : "dividends from the record",
    a.closed_on && `closed on ${day(a.closed_on)}`,
  ]
    .filter(Boolean)
    .join(" · ");

interface Props {
  id: number | null;
  standing: Typed;
  onClose: () => void;
}

function AccountForm({ id, standing, onClose }: Props) {
  const [draft, setDraft] = useDraft(`account/${id ?? "new"}`, isTyped);
  const keep = useKeepAccount();
  const typed = { ...standing, ...draft };
  const type = (part: Partial<Typed>) => setDraft({ ...typed, ...part });
  const close = () => {
    setDraft(null);
    onClose();
  };
  return (
    <form
      className="mt-2 rounded-md border border-line bg-raised p-3 text-[15px]"
      aria-label={id === null ? "New account" : `Edit ${standing.name}`}
      onSubmit={(e) => {
        e.preventDefault();
        keep.mutate({ id, body: typed }, { onSuccess: close });
      }}
    >
      <div className="flex flex-wrap gap-x-5 gap-y-2">
        <label>
          Name{" "}
          <input
            className="field w-[200px]"
            value={typed.name}
            onChange={(e) => type({ name: e.target.value })}
          />
        </label>
        <label>
          Currency{" "}
          <input
            className="field w-[80px]"
            value={typed.currency}
            maxLength={3}
            onChange={(e) => type({ currency: e.target.value })}
          />
        </label>
        <label>
          Cost{" "}
          <select
            className="field"
            value={typed.method}
            onChange={(e) => type({ method: e.target.value as Typed["method"] })}
          >
            <option value="fifo">first in first out</option>
            <option value="average">average</option>
          </select>
        </label>
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            checked={typed.keeps_cash}
            onChange={(e) => type({ keeps_cash: e.target.checked })}
          />
          keeps its cash
        </label>
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            checked={typed.sheltered}
            onChange={(e) => type({ sheltered: e.target.checked })}
          />
          sheltered from tax at home
        </label>
        <label>
          Dividends are entered from{" "}
          <input
            type="date"
            className="field"
            value={typed.entered_from ?? ""}
            onChange={(e) => type({ entered_from: e.target.value || null })}
          />{" "}
          <span className="text-[13px] text-muted">else the record’s count as received</span>
        </label>
        {id !== null && (
          <label>
            Closed on{" "}
            <input
              type="date"
              className="field"
              value={typed.closed_on ?? ""}
              onChange={(e) => type({ closed_on: e.target.value || null })}
            />
          </label>
        )}
      </div>
      {keep.error && <ErrorNote error={keep.error} kept="What you typed is still here." />}
      <div className="mt-3 flex gap-3">
        <button type="submit" className="button primary" disabled={keep.isPending}>
          {id === null ? "Add the account" : "Save"}
        </button>
        <button type="button" className="button" onClick={close}>
          Cancel
        </button>
      </div>
    </form>
  );
}
