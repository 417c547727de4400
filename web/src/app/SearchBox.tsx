import { useNavigate, useRouterState } from "@tanstack/react-router";
import { Command } from "cmdk";
import { useRef, useState } from "react";
import { useFirstNames, useNames, useStatus } from "@/api/hooks";
import { useCatalogue } from "@/api/payers";
import { kindName, upperFirst } from "@/format/format";
import { MOST_COMPARED, writeCompared } from "@/state/compared";
import { keepDraft } from "@/state/drafts";
import { useSingleKey } from "@/state/keys";
import { printPage } from "@/state/printing";
import { recentPayers } from "@/state/recent";
import { openKey, useView } from "@/state/view";
import { DOINGS, isCalled, tradeOf } from "./doings";
import { switchTheme } from "./theme";

const COMPARE = "compare them";
const TRADE = "enter a trade";
const MOST_MEASURES = 8;

/** The payer whose review is open. */
function usePayerHere() {
  const path = useRouterState({ select: (s) => s.location.pathname });
  const [, exchange, symbol] = /^\/review\/([^/]+)\/([^/]+)/.exec(path) ?? [];
  return exchange && symbol
    ? { exchange: decodeURIComponent(exchange), symbol: decodeURIComponent(symbol) }
    : null;
}

/** One box for payers, places and actions. */
export function SearchBox({ onKeys, onTables }: { onKeys: () => void; onTables: () => void }) {
  const box = useRef<HTMLInputElement>(null);
  const [words, setWords] = useState("");
  const [picked, setPicked] = useState<string | null>(null);
  const [open, setOpen] = useState(false);
  const [view, change] = useView();
  const navigate = useNavigate();
  const status = useStatus(view.as_of);
  const names = useNames(words.trim(), open);
  useSingleKey("/", () => box.current?.focus());

  const done = () => {
    setWords("");
    setPicked(null);
    setOpen(false);
    box.current?.blur();
  };
  const keepDay = { as_of: view.as_of };
  const wanted = words.trim().toLowerCase().split(/\s+/).filter(Boolean);
  const here = usePayerHere();
  const recent = open ? recentPayers() : [];
  const atHand = here ?? recent[0];
  const measures = useCatalogue(view.as_of, open && wanted.length > 0).data?.measures ?? [];
  const asked =
    atHand && words.trim().length > 1
      ? measures
          .filter((m) => m.unit !== null && isCalled(m.name, "", wanted))
          .slice(0, MOST_MEASURES)
      : [];
  const openMeasure = (id: string, stage: string) => {
    if (!atHand) return;
    void navigate({
      to: "/review/$exchange/$symbol",
      params: { exchange: atHand.exchange, symbol: atHand.symbol },
      search: {
        ...keepDay,
        stage: stage === "payer" ? undefined : stage,
        open: openKey(atHand, `${stage}.${id}`),
      },
    });
  };
  const acts = [
    ...DOINGS.map((d) => ({
      ...d,
      act: () => void navigate({ to: d.to, search: { ...keepDay, ...d.search } }),
    })),
    ...(here
      ? [
          {
            name: "Record a decision",
            note: "action",
            also: "verdict buy hold memo",
            act: () => change({ stage: "decision" }),
          },
        ]
      : []),
    { name: "View today", note: "action", also: "as of", act: () => change({ as_of: undefined }) },
    {
      name: "View another day, or move the demo’s day on",
      note: "action",
      also: "as of past next week",
      act: () => document.getElementById("as-of-open")?.click(),
    },
    { name: "Print this page", note: "action", also: "paper pdf", act: () => void printPage() },
    {
      name: "Copy or save a table",
      note: "action",
      also: "csv spreadsheet",
      act: onTables,
    },
    {
      name: "Save the calendar file",
      note: "action",
      also: "ics ex-dates pay dates",
      act: () => window.location.assign("/api/calendar/file.ics"),
    },
    { name: "Switch light and dark", note: "action", also: "theme", act: () => void switchTheme() },
    { name: "Show the keys", note: "action", also: "shortcuts help", act: onKeys },
  ];
  const others = acts.filter((o) => isCalled(o.name, o.also ?? "", wanted));

  // Answers arrive while one types: those to fewer letters are narrowed here, and unless the person
  // has moved to one that is still there, the first is meant.
  const named = (names.data ?? []).filter((n) =>
    isCalled(n.name, `${n.symbol} ${n.isin ?? ""} ${kindName(n.kind)}`, wanted),
  );
  const lately = new Set(recent.map((r) => `${r.exchange}/${r.symbol}`));
  const found =
    wanted.length > 0
      ? named
      : [
          ...recent.map((r) => ({ ...r, kind: null })),
          ...named.filter((n) => !lately.has(`${n.exchange}/${n.symbol}`)),
        ];
  const several = words.includes(",")
    ? words
        .split(",")
        .map((w) => w.trim())
        .filter(Boolean)
        .slice(0, MOST_COMPARED)
    : [];
  const together = useFirstNames(several);
  const comparing = together.length >= 2;
  const trade = tradeOf(words, here);
  const items = [
    ...(trade ? [TRADE] : []),
    ...(comparing ? [COMPARE] : []),
    ...found.map((n) => `${n.exchange}/${n.symbol}`),
    ...asked.map((m) => `measure ${m.id}`),
    ...others.map((o) => o.name),
  ];
  const chosen = picked !== null && items.includes(picked) ? picked : (items[0] ?? "");
  return (
    <Command
      value={chosen}
      onValueChange={setPicked}
      shouldFilter={false}
      label="Search payers, measures and actions"
      className="relative w-full max-w-[420px]"
      onKeyDown={(e) => {
        if (e.key === "Escape") done();
      }}
      onBlur={(e) => {
        if (!e.currentTarget.contains(e.relatedTarget)) setOpen(false);
      }}
    >
      <div className="flex items-center rounded-md border border-stone bg-raised pr-2 focus-within:outline-2 focus-within:outline-action">
        <Command.Input
          ref={box}
          value={words}
          onValueChange={(text) => {
            setWords(text);
            setPicked(null);
            setOpen(true);
          }}
          onFocus={() => setOpen(true)}
          placeholder="Search payers, measures and actions"
          className="min-h-[32px] w-full bg-transparent px-3 py-1 text-[15px] outline-none placeholder:text-muted"
        />
        <kbd>/</kbd>
      </div>
      <Command.List
        hidden={!open}
        className="absolute top-full z-40 mt-1 max-h-[60vh] w-full overflow-auto rounded-md border border-line bg-raised p-1 shadow-lg"
      >
        {open && (
          <>
            {trade && (
              <Item
                value={TRADE}
                name={`Enter “${trade}”`}
                note="Holdings"
                onSelect={() => {
                  keepDraft("entry/line", trade);
                  void navigate({ to: "/holdings", search: { ...keepDay, tab: "entries" } });
                  done();
                }}
              />
            )}
            {comparing && (
              <Item
                value={COMPARE}
                name={`Compare ${together.map((p) => p.name).join(", ")}`}
                note="action"
                onSelect={() => {
                  const keys = together.map((p) => `${p.exchange}/${p.symbol}`);
                  void navigate({
                    to: "/compare",
                    search: { ...keepDay, compared: writeCompared([...new Set(keys)]) },
                  });
                  done();
                }}
              />
            )}
            {found.map((payer) => (
              <Item
                key={`${payer.exchange}/${payer.symbol}`}
                value={`${payer.exchange}/${payer.symbol}`}
                note={
                  payer.kind
                    ? `${payer.symbol} · ${kindName(payer.kind)}`
                    : `${payer.symbol} · read lately`
                }
                name={payer.name}
                onSelect={() => {
                  void navigate({
                    to: "/review/$exchange/$symbol",
                    params: { exchange: payer.exchange, symbol: payer.symbol },
                    search: keepDay,
                  });
                  done();
                }}
              />
            ))}
            {asked.map((m) => (
              <Item
                key={m.id}
                value={`measure ${m.id}`}
                name={upperFirst(m.name)}
                note={`measure of ${atHand?.symbol}`}
                onSelect={() => {
                  openMeasure(m.id, m.stage);
                  done();
                }}
              />
            ))}
            {others.map((o) => (
              <Item
                key={o.name}
                value={o.name}
                name={o.name}
                note={o.note}
                onSelect={() => {
                  void o.act();
                  done();
                }}
              />
            ))}
            {names.data && items.length === 0 && (
              <p className="px-3 py-2 text-[14px] text-muted">
                Nothing among {status.data?.payers ?? 0} payers is called that.
              </p>
            )}
          </>
        )}
      </Command.List>
    </Command>
  );
}

function Item(props: { value: string; name: string; note: string; onSelect: () => void }) {
  return (
    <Command.Item
      value={props.value}
      onSelect={props.onSelect}
      className="flex min-h-9 cursor-pointer items-center justify-between gap-4 rounded px-3 text-[15px] data-[selected=true]:bg-sunk"
    >
      <span className="truncate">{props.name}</span>
      <span className="shrink-0 text-[13px] text-muted">{props.note}</span>
    </Command.Item>
  );
}
