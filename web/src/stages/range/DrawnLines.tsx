import { useCallback, useEffect, useId, useRef, useState } from "react";
import type { PayerKey } from "@/api/hooks";
import { type PriceLine, type PriceSeries, useDraw, useForgetLine } from "@/api/price";
import { number, readNumber, upperFirst } from "@/format/format";
import { useView } from "@/state/view";
import { Refused } from "@/ui/ErrorNote";

const REST = 300;

/** Lines as they are being moved: they follow the hand at once, and are kept when it rests, or when
 * the person leaves before. `keep` does not wait. */
export function useLineMoves(payer: PayerKey, held: PriceLine[]) {
  const [view] = useView();
  const { mutateAsync: draw, error } = useDraw(payer, view.as_of);
  const [moving, setMoving] = useState<Record<number, PriceLine>>({});
  const resting = useRef(new Map<number, { line: PriceLine; timer: number }>());
  const keep = useCallback(
    (line: PriceLine) => {
      clearTimeout(resting.current.get(line.id)?.timer);
      resting.current.delete(line.id);
      setMoving((before) => ({ ...before, [line.id]: line }));
      const settled = () =>
        setMoving((now) => {
          const { [line.id]: shown, ...others } = now;
          return shown === line ? others : now;
        });
      draw(line).then(settled, settled);
    },
    [draw],
  );
  const move = (line: PriceLine) => {
    clearTimeout(resting.current.get(line.id)?.timer);
    setMoving((before) => ({ ...before, [line.id]: line }));
    const timer = window.setTimeout(() => keep(line), REST);
    resting.current.set(line.id, { line, timer });
  };
  useEffect(() => {
    const waiting = resting.current;
    const leave = () => {
      for (const { line } of [...waiting.values()]) keep(line);
    };
    window.addEventListener("pagehide", leave);
    return () => {
      window.removeEventListener("pagehide", leave);
      leave();
    };
  }, [keep]);
  return { lines: held.map((l) => moving[l.id] ?? l), move, keep, error };
}

interface Props {
  payer: PayerKey;
  lines: PriceLine[];
  price: PriceSeries;
  /** What became of the last one that was moved or typed. */
  error: Error | null;
  onKeep: (line: PriceLine) => void;
}

/** The levels and lines drawn on the price: named, typed, taken away; new ones begin at today's
 * price. */
export function DrawnLines({ payer, lines, price, error, onKeep }: Props) {
  const [view] = useView();
  const draw = useDraw(payer, view.as_of);
  const forget = useForgetLine(payer);
  const refused = error ?? draw.error ?? forget.error;
  const days = price.own.days;
  const [first, last] = [
    price.span?.begins ?? days[0] ?? "",
    price.span?.ends ?? days.at(-1) ?? "",
  ];
  const at = (day: string) => price.own.values[days.findLastIndex((d) => d <= day)] ?? 1;
  const level = () =>
    draw.mutate({
      id: 0,
      name: "level",
      first_day: first,
      last_day: last,
      first_price: at(last),
      last_price: at(last),
    });
  const sloping = () =>
    draw.mutate({
      id: 0,
      name: "line",
      first_day: first,
      last_day: last,
      first_price: at(first),
      last_price: at(last),
    });
  return (
    <section aria-label="Lines drawn on the price" className="mt-3 text-[14px]">
      <div className="flex flex-wrap items-baseline gap-x-4">
        <span className="text-muted">Draw</span>
        <button type="button" className="link" onClick={level}>
          a level
        </button>
        <button type="button" className="link" onClick={sloping}>
          a sloping line
        </button>
        <Refused error={refused} />
      </div>
      {lines.length > 0 && (
        <ul>
          {lines.map((l) => (
            <li
              key={l.id}
              className="flex flex-wrap items-baseline gap-x-3 border-line border-b py-1"
            >
              <Typed
                label={`Name of ${l.name || "the line"}`}
                value={l.name}
                wide
                onCommit={(name) => onKeep({ ...l, name })}
              />
              <Price
                label={l.first_price === l.last_price ? "at" : `on ${l.first_day}`}
                value={l.first_price}
                onCommit={(p) =>
                  onKeep({
                    ...l,
                    first_price: p,
                    last_price: l.first_price === l.last_price ? p : l.last_price,
                  })
                }
              />
              {l.first_price !== l.last_price && (
                <Price
                  label={`on ${l.last_day}`}
                  value={l.last_price}
                  onCommit={(p) => onKeep({ ...l, last_price: p })}
                />
              )}
              <button type="button" className="link" onClick={() => forget.mutate(l.id)}>
                Take away<span className="sr-only"> {l.name}</span>
              </button>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

function Price(props: { label: string; value: number; onCommit: (price: number) => void }) {
  return (
    <span className="text-muted">
      {props.label}{" "}
      <Typed
        label={`Price ${props.label}`}
        value={number(props.value, 2)}
        wrong={(typed) => {
          const read = readNumber(typed);
          if ("error" in read) return read.error;
          return read.value > 0 ? null : `“${typed}” is no price: a number above 0`;
        }}
        onCommit={(typed) => {
          const read = readNumber(typed);
          if ("value" in read) props.onCommit(read.value);
        }}
      />
    </span>
  );
}

/** What is typed acts with Enter, or when the field is left; what cannot be used stays, with why. */
function Typed(props: {
  label: string;
  value: string;
  wide?: boolean;
  wrong?: (typed: string) => string | null;
  onCommit: (typed: string) => void;
}) {
  const id = useId();
  const [typed, setTyped] = useState<string | null>(null);
  const [wrong, setWrong] = useState<string | null>(null);
  const commit = () => {
    const fault = typed === null || typed === props.value ? null : (props.wrong?.(typed) ?? null);
    setWrong(fault);
    if (fault !== null) return;
    if (typed !== null && typed !== props.value) props.onCommit(typed);
    setTyped(null);
  };
  return (
    <>
      <input
        aria-label={props.label}
        aria-invalid={wrong !== null || undefined}
        aria-describedby={wrong === null ? undefined : id}
        className={`field min-h-[28px]! py-0.5! ${props.wide ? "w-[180px]" : "w-[84px] text-right"}`}
        value={typed ?? props.value}
        onChange={(e) => setTyped(e.target.value)}
        onBlur={commit}
        onKeyDown={(e) => e.key === "Enter" && commit()}
      />
      {wrong !== null && (
        <span id={id} role="alert" className="ml-1 text-outside">
          {upperFirst(wrong)}
        </span>
      )}
    </>
  );
}
