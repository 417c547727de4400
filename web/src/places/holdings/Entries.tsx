import { Link } from "@tanstack/react-router";
import { useMemo, useState } from "react";
import { isUnsure } from "@/api/client";
import {
  type Account,
  type Entry,
  useDeleteEntry,
  useEntries,
  useEntryKinds,
  usePutBackEntry,
} from "@/api/holdings";
import { useUndo } from "@/api/hooks";
import { useColumns } from "@/api/sources";
import { day, upperFirst, withDates } from "@/format/format";
import { useView } from "@/state/view";
import { Amount } from "@/ui/Amount";
import { ErrorNote, Refused } from "@/ui/ErrorNote";
import { HandGrid } from "@/ui/grid/HandGrid";
import { ReviewLink } from "@/ui/ReviewLink";
import { AccountSelect } from "./AccountSelect";
import { EntryForm } from "./EntryForm";
import { exact, moreOf } from "./more";
import { accountName } from "./Positions";
import { QuickLine } from "./QuickLine";

const PAGE = 100;
const SEVERAL = "several";

/** Everything that was entered, the newest first; each is changed in place. */
export function Entries({ accounts }: { accounts: Account[] }) {
  const [view, change] = useView();
  const kinds = useEntryKinds().data;
  const [deleted, setDeleted] = useState<Deleted | null>(null);
  const [kept, setKept] = useState<{ words: string; source: number } | null>(null);
  const undo = useUndo();
  const [exchange = "", ...rest] = (view.q ?? "").split("/");
  const symbol = rest.join("/");
  const first = ((view.page ?? 1) - 1) * PAGE;
  const found = useEntries({
    account: view.account ? Number(view.account) : undefined,
    kind: kinds?.kinds.find((k) => k.kind === view.kind)?.kind,
    exchange: symbol ? exchange : undefined,
    symbol: symbol || undefined,
    first: first || undefined,
    as_of: view.as_of,
  });
  if (!kinds) return null;
  const rows = found.data?.entries ?? [];
  const close = () => change({ entry: undefined });
  return (
    <section aria-label="Entries" className="mt-5">
      <h2 className="text-[21px]">Entries</h2>
      <QuickLine accounts={accounts} />
      {view.entry === "new" && (
        <EntryForm kinds={kinds} accounts={accounts} standing={null} onClose={close} />
      )}
      {view.entry === SEVERAL && (
        <Several
          account={accounts.find((a) => String(a.id) === view.account) ?? accounts[0]}
          onClose={close}
          onKept={(words, source) => {
            close();
            setKept({ words, source });
          }}
        />
      )}
      {view.entry !== "new" && view.entry !== SEVERAL && (
        <p className="mt-1 flex flex-wrap gap-x-5 text-[15px] print:hidden">
          <button type="button" className="link min-h-6" onClick={() => change({ entry: "new" })}>
            Another kind of entry
          </button>
          <button type="button" className="link min-h-6" onClick={() => change({ entry: SEVERAL })}>
            Several entries, typed or pasted
          </button>
          <Link to="/sources" search={{ tab: "import" }} className="link min-h-6">
            Import a broker’s file
          </Link>
        </p>
      )}
      <p aria-live="polite" className="text-[15px]">
        {kept && (
          <>
            {kept.words}{" "}
            <button
              type="button"
              className="link min-h-6"
              onClick={() => undo.mutateAsync(kept.source).then(() => setKept(null))}
            >
              Undo
            </button>{" "}
            <Refused error={undo.error} />
          </>
        )}
      </p>
      <div className="mt-3 flex flex-wrap items-center gap-x-5 gap-y-2 text-[15px] print:hidden">
        <AccountSelect
          label="Account"
          accounts={accounts}
          value={view.account ?? ""}
          onChange={(id) => change({ account: id || undefined, page: undefined })}
          none="all"
        />
        <label>
          Kind{" "}
          <select
            className="field"
            value={view.kind ?? ""}
            onChange={(e) => change({ kind: e.target.value || undefined, page: undefined })}
          >
            <option value="">all</option>
            {kinds.kinds.map((k) => (
              <option key={k.kind} value={k.kind}>
                {k.name}
              </option>
            ))}
          </select>
        </label>
        {symbol && (
          <button type="button" className="link" onClick={() => change({ q: undefined })}>
            Not only {symbol}
          </button>
        )}
        {found.data && (
          <span className="text-muted">
            {found.data.found} {found.data.found === 1 ? "entry" : "entries"}
          </span>
        )}
      </div>
      {found.error && <ErrorNote error={found.error} />}
      {rows.length > 0 && (
        <section
          aria-label="List of entries"
          tabIndex={0}
          className="relative mt-2 overflow-x-auto"
        >
          <table className="rows w-full text-[14px]">
            <caption className="sr-only">Entries, the newest first</caption>
            <thead>
              <tr>
                {["Day", "Account", "What", "Payer"].map((name) => (
                  <th key={name} scope="col" className="text-left!">
                    {name}
                  </th>
                ))}
                <th scope="col">Shares</th>
                <th scope="col">Price</th>
                <th scope="col">Amount</th>
                <th scope="col" className="pl-4! text-left!">
                  More
                </th>
                <th scope="col">
                  <span className="sr-only">Change</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {rows.map((entry) =>
                view.entry === String(entry.id) ? (
                  <tr key={entry.id}>
                    <td colSpan={9} className="text-left!">
                      <EntryForm
                        kinds={kinds}
                        accounts={accounts}
                        standing={entry}
                        onClose={close}
                      />
                    </td>
                  </tr>
                ) : (
                  <Row
                    key={entry.id}
                    entry={entry}
                    accounts={accounts}
                    onDeleted={setDeleted}
                    name={kinds.kinds.find((k) => k.kind === entry.kind)?.name ?? entry.kind}
                  />
                ),
              )}
            </tbody>
          </table>
        </section>
      )}
      <Pages found={found.data?.found ?? 0} first={first} />
      {deleted && <Undone deleted={deleted} onDone={() => setDeleted(null)} />}
    </section>
  );
}

interface Deleted {
  id: number;
  told: string;
}

/** The entry deleted last, to be put back. */
function Undone({ deleted, onDone }: { deleted: Deleted; onDone: () => void }) {
  const putBack = usePutBackEntry();
  const undo = () => void putBack.mutateAsync(deleted.id).then(onDone);
  return (
    <output className="mt-2 flex gap-4 text-[15px]">
      {deleted.told} deleted.
      <button type="button" className="link" onClick={undo}>
        Undo
      </button>
      {putBack.error && <Refused error={putBack.error} />}
    </output>
  );
}

function Pages({ found, first }: { found: number; first: number }) {
  const [, change] = useView();
  if (found <= PAGE) return null;
  const page = first / PAGE + 1;
  return (
    <p className="mt-2 flex gap-4 text-[15px]">
      {page > 1 && (
        <button type="button" className="link" onClick={() => change({ page: page - 1 })}>
          Newer
        </button>
      )}
      <span className="text-muted">
        {first + 1} to {Math.min(first + PAGE, found)} of {found}
      </span>
      {first + PAGE < found && (
        <button type="button" className="link" onClick={() => change({ page: page + 1 })}>
          Older
        </button>
      )}
    </p>
  );
}

interface RowProps {
  entry: Entry;
  accounts: Account[];
  name: string;
  onDeleted: (deleted: Deleted) => void;
}

function Row({ entry, accounts, name, onDeleted }: RowProps) {
  const [, change] = useView();
  const remove = useDeleteEntry();
  const [asked, setAsked] = useState(false);
  const told = `${name} of ${day(entry.day)}`;
  // The row may be gone before the answer is told to it.
  const drop = () =>
    void remove
      .mutateAsync({ id: entry.id, ask: !asked })
      .then(() => onDeleted({ id: entry.id, told }))
      .catch((error) => setAsked(isUnsure(error)));
  const more = moreOf(entry, accounts);
  return (
    <tr className="align-top">
      <td className="whitespace-nowrap text-left!">{day(entry.day)}</td>
      <td className="text-left!">{accountName(accounts, entry.account)}</td>
      <td className="text-left!">{name}</td>
      <td className="text-left!">
        {entry.name ? (
          <ReviewLink payer={entry} className="link">
            {entry.name}
          </ReviewLink>
        ) : (
          entry.symbol
        )}
      </td>
      <td>
        <Amount>{exact(entry.shares)}</Amount>
      </td>
      <td>{exact(entry.price)}</td>
      <td className="whitespace-nowrap">
        <Amount>{exact(entry.comes_to)}</Amount> {entry.comes_to && entry.currency}
      </td>
      <td className="max-w-[220px] pl-4! text-left! text-muted">
        <Amount>{more.join("; ")}</Amount>
      </td>
      <td className="whitespace-nowrap print:hidden">
        <button
          type="button"
          className="link min-h-6"
          aria-label={`Edit: ${told}`}
          onClick={() => change({ entry: String(entry.id) })}
        >
          Edit
        </button>{" "}
        <button
          type="button"
          className="link ml-2 min-h-6"
          aria-label={`Delete: ${told}`}
          onClick={drop}
        >
          {asked ? "Delete it all the same" : "Delete"}
        </button>
        {remove.error && (
          <span
            role="alert"
            className="block max-w-[260px] whitespace-normal text-left text-[13px]"
          >
            {upperFirst(withDates(remove.error.message))}.
          </span>
        )}
      </td>
    </tr>
  );
}

interface SeveralProps {
  account: Account | undefined;
  onKept: (words: string, source: number) => void;
  onClose: () => void;
}

/** Many entries at once, in a grid: kept together, and undone together under Sources. */
function Several({ account, onKept, onClose }: SeveralProps) {
  const columns = useColumns("entries");
  const given = useMemo(
    (): Record<string, string> => (account ? { account: account.name } : {}),
    [account],
  );
  if (!columns.data) return null;
  return (
    <HandGrid
      payer={null}
      given={given}
      table="entries"
      title="Several entries"
      columns={columns.data}
      onKept={onKept}
      onClose={onClose}
    />
  );
}
