import { extent } from "d3-array";
import { scaleLinear } from "d3-scale";
import type { Schemas } from "@/api/client";
import { show } from "@/format/format";
import { BAR, Grid, isNamed, LABEL, YearColumn, yearSlots } from "./parts";

type Year = Schemas["BalanceYearOut"];
const HEIGHT = 190;
const PAD = { left: 52, right: 8, top: 26, bottom: 22 };

interface Props {
  years: Year[];
  width: number;
  open: (year: Year) => void;
}

/** What is owned, the part of it that is owed, and net debt as a multiple of EBITDA above. */
export function BalanceYears({ years, width, open }: Props) {
  const x = yearSlots(
    years.map((y) => y.end),
    PAD.left,
    width - PAD.right,
  );
  const [low = 0, high = 1] = extent(
    years.flatMap((y) => [0, y.assets.value ?? 0, y.liabilities.value ?? 0]),
  );
  const y = scaleLinear()
    .domain([low, high || 1])
    .nice(4)
    .range([HEIGHT - PAD.bottom, PAD.top]);
  const wide = x.bandwidth();
  return (
    <svg width={width} height={HEIGHT} aria-hidden="true">
      <Grid
        ticks={y.ticks(4)}
        y={y}
        left={PAD.left}
        right={width - PAD.right}
        text={(v) => show(v, "money", { bare: true, digits: 0 })}
      />
      {years.map((year, i) => {
        const left = x(year.end) ?? 0;
        const [owned, owed] = [year.assets.value ?? 0, year.liabilities.value ?? 0];
        const named = isNamed(wide, i, years.length);
        const debt = year.debt_to_ebitda;
        return (
          <YearColumn
            key={year.end}
            left={left}
            wide={wide}
            top={PAD.top}
            bottom={HEIGHT - PAD.bottom}
            name={named ? `${year.year}` : undefined}
            onClick={() => open(year)}
          >
            <rect
              x={left + 0.5}
              y={y(owned)}
              width={wide - 1}
              height={y(0) - y(owned)}
              fill="var(--sand)"
              stroke="var(--stone)"
            />
            <rect x={left} y={y(owed)} width={wide} height={y(0) - y(owed)} fill={BAR} />
            {named && debt.value !== null && (
              <text
                x={left + wide / 2}
                y={y(Math.max(owned, owed)) - 7}
                textAnchor="middle"
                fontSize={LABEL}
                fill="var(--ink)"
              >
                {show(debt.value, "multiple", { digits: 1 })}
              </text>
            )}
          </YearColumn>
        );
      })}
    </svg>
  );
}
BalanceYears.height = HEIGHT;
