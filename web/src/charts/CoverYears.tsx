import { extent } from "d3-array";
import { scaleLinear } from "d3-scale";
import type { Schemas } from "@/api/client";
import { number, percent } from "@/format/format";
import { BAR, Grid, Hatch, isNamed, LABEL, Slumps, YearColumn, yearSlots } from "./parts";

type Period = Schemas["CoverPeriodOut"];
const HEIGHT = 190;
const PAD = { left: 40, right: 8, top: 26, bottom: 22 };

interface Props {
  periods: { name: string; period: Period; trailing: boolean }[];
  slumps: Schemas["SlumpOut"][];
  /** In total, not per share. */
  total: boolean;
  width: number;
  open: (period: Period) => void;
}

/** Money per share, or in total, that pays for the dividend, the part paid out, and the payout ratio above. */
export function CoverYears({ periods, slumps, total, width, open }: Props) {
  const value = (p: Period) => (total ? p.driver : p.per_share).value ?? 0;
  const paid = (p: Period) => (total ? p.dividends : p.dividend_per_share).value ?? 0;
  const x = yearSlots(
    periods.map((p) => p.name),
    PAD.left,
    width - PAD.right,
  );
  const [low = 0, high = 1] = extent(periods.flatMap((p) => [0, value(p.period), paid(p.period)]));
  const y = scaleLinear()
    .domain([low, high || 1])
    .nice(4)
    .range([HEIGHT - PAD.bottom, PAD.top]);
  const wide = x.bandwidth();
  const slot = (iso: string) => {
    const year = iso.slice(0, 4);
    const left = x(year);
    return left === undefined ? null : left + (Number(iso.slice(5, 7)) / 12) * wide;
  };
  return (
    <svg width={width} height={HEIGHT} aria-hidden="true">
      <defs>
        <Hatch id="over" ink="var(--paper)" ground="var(--outside)" />
      </defs>
      <Slumps
        slumps={slumps}
        x={slot}
        top={PAD.top - 8}
        bottom={HEIGHT - PAD.bottom}
        text={false}
      />
      <Grid
        ticks={y.ticks(4)}
        y={y}
        left={PAD.left}
        right={width - PAD.right}
        text={(v) => (total ? number(v / 1e6, 0) : number(v, 2))}
      />
      {periods.map(({ name, period, trailing }, i) => {
        const left = x(name) ?? 0;
        const [has, pays] = [value(period), paid(period)];
        const within = Math.max(0, Math.min(has, pays));
        const over = period.per_share.value !== null && pays > has;
        const peak = Math.max(has, pays, 0);
        const named = isNamed(wide, i, periods.length);
        const ratio = period.payout.value;
        const words = ratio !== null ? percent(ratio, 0) : (period.payout.breach ?? "");
        return (
          <YearColumn
            key={name}
            left={left}
            wide={wide}
            top={PAD.top}
            bottom={HEIGHT - PAD.bottom}
            name={named ? name : undefined}
            onClick={() => open(period)}
            opacity={period.excluded ? 0.5 : undefined}
          >
            <rect
              x={left + 0.5}
              y={Math.min(y(has), y(0))}
              width={wide - 1}
              height={Math.abs(y(0) - y(has))}
              fill="var(--sand)"
              stroke="var(--stone)"
              strokeDasharray={trailing ? "3 2" : undefined}
            />
            <rect x={left} y={y(within)} width={wide} height={y(0) - y(within)} fill={BAR} />
            {over && (
              <rect
                x={left}
                y={y(pays)}
                width={wide}
                height={y(Math.max(has, 0)) - y(pays)}
                fill="url(#over)"
                stroke="var(--outside)"
              />
            )}
            {named && (
              <text
                x={left + wide / 2}
                y={y(peak) - 7}
                textAnchor="middle"
                fontSize={LABEL}
                fill="var(--ink)"
              >
                {words}
              </text>
            )}
            {period.freak && (
              <ellipse
                cx={left + wide / 2}
                cy={y(peak) - 11}
                rx={21}
                ry={11}
                fill="none"
                stroke="var(--ink)"
                strokeDasharray="3 2"
              />
            )}
          </YearColumn>
        );
      })}
    </svg>
  );
}
CoverYears.height = HEIGHT;
