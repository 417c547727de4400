import { scaleLinear } from "d3-scale";
import { useRef } from "react";
import type { Schemas } from "@/api/client";
import { number, percent, upperFirst } from "@/format/format";
import { Grid, Hatch, LABEL, XTicks } from "./parts";

type Drawn = Schemas["StrainMap"];
const HEIGHT = 260;
const PAD = { left: 48, right: 16, top: 10, bottom: 42 };
const STEPS = { fall: 0.01, margin: 0.005 };
const LEAST_FALL = 0.3;

interface Props {
  map: Drawn;
  /** Where the strain stands: the fall of the chosen part, and of the margin. */
  fall: number;
  margin: number;
  /** What falls, in words. */
  part: string;
  width: number;
  onMove: (fall: number, margin: number) => void;
}

/** A fall of revenue against a fall of the margin: where the first test gives, and beyond which cash
 * no longer covers the dividend. A click or the arrow keys move the strain. */
export function StrainMap({ map, fall, margin, part, width, onMove }: Props) {
  const margins = map.margins;
  const most = margins.at(-1) ?? 0.15;
  const reach = Math.max(
    LEAST_FALL,
    fall * 1.2,
    ...[map.gives[0], map.uncovered[0]].map((v) => (v ?? 0) * 1.25),
  );
  const x = scaleLinear()
    .domain([0, Math.min(1, reach)])
    .range([PAD.left, width - PAD.right])
    .clamp(true);
  const y = scaleLinear()
    .domain([0, most])
    .range([HEIGHT - PAD.bottom, PAD.top])
    .clamp(true);
  const edge = (line: (number | null)[]) => margins.map((m, i) => [x(line[i] ?? 1), y(m)] as const);
  const beyond = (line: (number | null)[]) =>
    [...edge(line), [width - PAD.right, PAD.top], [width - PAD.right, HEIGHT - PAD.bottom]]
      .map((p) => p.join(","))
      .join(" ");
  const box = useRef<SVGSVGElement>(null);
  const move = (toFall: number, toMargin: number) =>
    onMove(
      Number(Math.min(1, Math.max(0, toFall)).toFixed(3)),
      Number(Math.min(most, Math.max(0, toMargin)).toFixed(4)),
    );
  const point = (e: React.MouseEvent) => {
    const at = box.current?.getBoundingClientRect();
    if (at) move(x.invert(e.clientX - at.left), y.invert(e.clientY - at.top));
  };
  const keys: Record<string, [number, number]> = {
    ArrowRight: [STEPS.fall, 0],
    ArrowLeft: [-STEPS.fall, 0],
    ArrowUp: [0, STEPS.margin],
    ArrowDown: [0, -STEPS.margin],
  };
  const told = `${part} down ${percent(fall, 1)}, margin down ${number(margin * 100, 1)} points: ${said(map)}`;
  return (
    <div
      role="application"
      tabIndex={0}
      aria-label={`Map of a fall of revenue against a fall of the margin; arrow keys move the strain. ${told}`}
      className="rounded-sm"
      onKeyDown={(e) => {
        const by = keys[e.key];
        if (!by) return;
        e.preventDefault();
        e.stopPropagation();
        move(fall + by[0], margin + by[1]);
      }}
    >
      <svg
        ref={box}
        width={width}
        height={HEIGHT}
        aria-hidden="true"
        className="cursor-crosshair"
        onClick={point}
      >
        <defs>
          <Hatch id="strain-gives" ink="var(--line)" ground="var(--paper)" />
          <Hatch id="strain-uncovered" ink="var(--stone)" ground="var(--sunk)" />
        </defs>
        {known(map.gives) && <polygon points={beyond(map.gives)} fill="url(#strain-gives)" />}
        {known(map.uncovered) && (
          <polygon points={beyond(map.uncovered)} fill="url(#strain-uncovered)" />
        )}
        <Grid
          ticks={y.ticks(4)}
          y={y}
          left={PAD.left}
          right={width - PAD.right}
          text={(v) => number(v * 100, 0)}
        />
        <XTicks ticks={x.ticks(6)} x={x} y={HEIGHT - PAD.bottom + 16} />
        <text
          x={width - PAD.right}
          y={HEIGHT - 6}
          textAnchor="end"
          fontSize={LABEL}
          fill="var(--muted)"
        >
          fall of {part} →
        </text>
        {[map.gives, map.uncovered].map(
          (line, i) =>
            known(line) && (
              <polyline
                key={i === 0 ? "gives" : "uncovered"}
                points={edge(line)
                  .map((p) => p.join(","))
                  .join(" ")}
                fill="none"
                stroke={i === 0 ? "var(--ink)" : "var(--outside)"}
                strokeWidth="2"
                strokeDasharray={i === 0 ? undefined : "6 3"}
              />
            ),
        )}
        <line x1={x(fall)} x2={x(fall)} y1={y(margin)} y2={y(0)} stroke="var(--action)" />
        <line x1={PAD.left} x2={x(fall)} y1={y(margin)} y2={y(margin)} stroke="var(--action)" />
        <circle cx={x(fall)} cy={y(margin)} r={6} fill="var(--action)" stroke="var(--paper)" />
      </svg>
      <p className="text-[14px]" aria-live="polite">
        {upperFirst(told)}.
      </p>
    </div>
  );
}
StrainMap.height = HEIGHT + 24;

const known = (line: (number | null)[]) => line.some((v) => v !== null);

/** What the strain that was asked does, as the answer has it. */
function said(map: Drawn): string {
  if (map.not_covered) return "cash does not cover the dividend";
  if (map.given) return `${map.first ?? "a test"} has given; the dividend is covered`;
  return "the tests that hold today still hold";
}
