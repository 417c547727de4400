import { scaleLinear } from "d3-scale";
import { useState } from "react";
import type { Schemas } from "@/api/client";
import { show } from "@/format/format";
import { LABEL } from "./parts";

type Strip = Schemas["Strip"];
type Dot = Schemas["Dot"];
const HEIGHT = 34;
const PAD = 12;

interface Props {
  strip: Strip;
  width: number;
  open: (dot: Dot) => void;
}

/** A dot a payer of the sector, ours large and named, the median a tick. Arrow keys go along the dots;
 * Enter opens the payer that is named. */
export function PeerStrip({ strip, width, open }: Props) {
  const { dots } = strip;
  const own = dots.findIndex((d) => d.mine);
  const [at, setAt] = useState<number | null>(null);
  const x = scaleLinear()
    .domain([dots[0]?.value ?? 0, dots.at(-1)?.value ?? 1])
    .range([PAD, width - PAD]);
  const place = at ?? (own >= 0 ? own : 0);
  const shown = dots[place];
  const told = (d: Dot) => `${d.mine ? "this payer" : d.name}, ${show(d.value, strip.unit)}`;
  const go = (to: number) => setAt(Math.min(dots.length - 1, Math.max(0, to)));
  const keys: Record<string, number> = {
    ArrowRight: place + 1,
    ArrowLeft: place - 1,
    Home: 0,
    End: dots.length - 1,
  };
  if (!shown) return null;
  const mine = dots[own];
  const inOrder = [...dots.keys()].filter((i) => i !== own).concat(own >= 0 ? [own] : []);
  const left = x(shown.value);
  return (
    <div className="relative" style={{ width }}>
      <div
        role="slider"
        tabIndex={0}
        aria-label={`${strip.name}: payers of the sector by value`}
        aria-valuemin={1}
        aria-valuemax={dots.length}
        aria-valuenow={place + 1}
        aria-valuetext={told(shown)}
        className="rounded-sm"
        onKeyDown={(e) => {
          const to = keys[e.key];
          if (to !== undefined) go(to);
          else if (e.key === "Enter") open(shown);
          else return;
          e.preventDefault();
        }}
        onBlur={() => setAt(null)}
      >
        <svg width={width} height={HEIGHT} aria-hidden="true">
          <line x1={PAD} x2={width - PAD} y1={22} y2={22} stroke="var(--line)" />
          {strip.median !== null && (
            <line
              x1={x(strip.median)}
              x2={x(strip.median)}
              y1={14}
              y2={30}
              stroke="var(--stone)"
              strokeWidth="2"
            />
          )}
          {inOrder.map((i) => {
            const d = dots[i] as Dot;
            const named = i === place && at !== null;
            return (
              <circle
                key={`${d.exchange}/${d.symbol}`}
                cx={x(d.value)}
                cy={22}
                r={d.mine ? 7 : 4.5}
                fill={d.mine ? "var(--action)" : "var(--stone)"}
                stroke={named ? "var(--ink)" : "var(--paper)"}
                strokeWidth={named ? 2 : 1}
              />
            );
          })}
          {mine && at === null && (
            <text
              x={x(mine.value)}
              y={11}
              textAnchor="middle"
              fontSize={LABEL}
              fill="var(--action)"
              className="halo"
            >
              {mine.symbol}
            </text>
          )}
          {dots.map((d, i) => (
            <rect
              key={`${d.exchange}/${d.symbol}`}
              x={x(d.value) - 12}
              y={10}
              width={24}
              height={24}
              fill="transparent"
              className="cursor-pointer"
              onMouseEnter={() => go(i)}
              onMouseLeave={() => setAt(null)}
              onClick={() => open(d)}
            />
          ))}
        </svg>
      </div>
      {at !== null && (
        <span
          className="pointer-events-none absolute top-[-6px] whitespace-nowrap bg-paper px-1 text-[12px]"
          style={left > width / 2 ? { right: width - left - 8 } : { left: left - 8 }}
        >
          {told(shown)}
        </span>
      )}
    </div>
  );
}
