import { useEffect, useRef, useState } from "react";
import { refusalOf } from "@/api/client";
import type { PayerKey } from "@/api/hooks";
import { type PriceLine, type PriceSeries, useDraw, useForgetLine } from "@/api/price";
import { number, readNumber, upperFirst } from "@/format/format";
import { useView } from "@/state/view";

const REST = 300;

/** Lines as they are being moved: they follow the hand at once, and are kept when it rests. */
export function useLineMoves(
  payer: PayerKey,
  held: PriceLine[],
): [PriceLine[], (line: PriceLine) => void] {
  const [view] = useView();
  const draw = useDraw(payer, view.as_of);
  const [moving, setMoving] = useState<Record<number, PriceLine>>({});
  const timers = useRef<Record<number, ReturnType<typeof setTimeout>>>({});
  useEffect(() => {
    const waiting = timers.current;
    return () => Object.values(waiting).forEach(clearTimeout);
  }, []);
  const move = (line: PriceLine) => {
    setMoving((before) => ({ ...before, [line.id]: line }));
    clearTimeout(timers.current[line.id]);
    timers.current[line.id] = setTimeout(() => {
      draw.mutate(line, {
        onSettled: () => setMoving(({ [line.id]: _, ...others }) => others),
      });
    }, REST);
  };
  return [held.map((l) => moving[l.id] ?? l), move];
}

interface Props {
  payer: PayerKey;
  lines: PriceLine[];
  price: PriceSeries;
  onMove: (line: PriceLine) => void;
}

/** The levels and lines drawn on the price: named, typed, taken away; new ones begin at today's
 * price. */
export function DrawnLines({ payer, lines, price, onMove }: Props) {
  const [view] = useView();
  const draw = useDraw(payer, view.as_of);
  const forget = useForgetLine(payer);
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
        {draw.error && (
          <span role="alert" className="text-outside">
            {upperFirst(refusalOf(draw.error).message)}
          </span>
        )}
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
                onCommit={(name) => onMove({ ...l, name })}
              />
              <Price
                label={l.first_price === l.last_price ? "at" : `on ${l.first_day}`}
                value={l.first_price}
                onCommit={(p) =>
                  onMove({
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
                  onCommit={(p) => onMove({ ...l, last_price: p })}
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
        onCommit={(typed) => {
          const read = readNumber(typed);
          if ("value" in read && read.value > 0) props.onCommit(read.value);
        }}
      />
    </span>
  );
}

function Typed(props: {
  label: string;
  value: string;
  wide?: boolean;
  onCommit: (typed: string) => void;
}) {
  const [typed, setTyped] = useState<string | null>(null);
  const commit = () => {
    if (typed !== null && typed !== props.value) props.onCommit(typed);
    setTyped(null);
  };
  return (
    <input
      aria-label={props.label}
      className={`field min-h-[28px]! py-0.5! ${props.wide ? "w-[180px]" : "w-[84px] text-right"}`}
      value={typed ?? props.value}
      onChange={(e) => setTyped(e.target.value)}
      onBlur={commit}
      onKeyDown={(e) => e.key === "Enter" && commit()}
    />
  );
}
