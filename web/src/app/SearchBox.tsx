import { useNavigate } from "@tanstack/react-router";
import { Command } from "cmdk";
import { useRef, useState } from "react";
import { useFirstNames, useNames, useStatus } from "@/api/hooks";
import { kindName } from "@/format/format";
import { MOST_COMPARED, writeCompared } from "@/state/compared";
import { useSingleKey } from "@/state/keys";
import { useView } from "@/state/view";
import { switchTheme } from "./theme";

const COMPARE = "compare them";

/** One box for payers, places and actions. */
export function SearchBox({ onKeys }: { onKeys: () => void }) {
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
  const others = [
    { name: "Hearth", note: "place", act: () => navigate({ to: "/", search: keepDay }) },
    { name: "Payers", note: "place", act: () => navigate({ to: "/payers", search: keepDay }) },
    { name: "Compare", note: "place", act: () => navigate({ to: "/compare", search: keepDay }) },
    { name: "Watch", note: "place", act: () => navigate({ to: "/watch", search: keepDay }) },
    { name: "Journal", note: "place", act: () => navigate({ to: "/journal", search: keepDay }) },
    {
      name: "House rules",
      note: "place",
      act: () => navigate({ to: "/house-rules", search: keepDay }),
    },
    { name: "Sources", note: "place", act: () => navigate({ to: "/sources", search: keepDay }) },
    {
      name: "Import files",
      note: "action",
      act: () => navigate({ to: "/sources", search: { tab: "import" } }),
    },
    { name: "View today", note: "action", act: () => change({ as_of: undefined }) },
    { name: "Switch light and dark", note: "action", act: () => void switchTheme() },
    { name: "Show the keys", note: "action", act: onKeys },
  ].filter((o) => o.name.toLowerCase().includes(words.trim().toLowerCase()));

  // Answers arrive while one types: those to fewer letters are narrowed here, and unless the person
  // has moved to one that is still there, the first is meant.
  const wanted = words.trim().toLowerCase().split(/\s+/);
  const found = (names.data ?? []).filter((n) => {
    const text = `${n.name} ${n.symbol} ${kindName(n.kind)}`.toLowerCase();
    return wanted.every((w) => text.includes(w));
  });
  const several = words.includes(",")
    ? words
        .split(",")
        .map((w) => w.trim())
        .filter(Boolean)
        .slice(0, MOST_COMPARED)
    : [];
  const together = useFirstNames(several);
  const comparing = together.length >= 2;
  const items = [
    ...(comparing ? [COMPARE] : []),
    ...found.map((n) => `${n.exchange}/${n.symbol}`),
    ...others.map((o) => o.name),
  ];
  const chosen = picked !== null && items.includes(picked) ? picked : (items[0] ?? "");
  return (
    <Command
      value={chosen}
      onValueChange={setPicked}
      shouldFilter={false}
      label="Search payers, pages and actions"
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
          placeholder="Search payers, pages and actions"
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
                note={`${payer.symbol} · ${kindName(payer.kind)}`}
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
