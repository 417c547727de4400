import { Slider } from "radix-ui";

interface Props {
  chosen: number[];
  bases: number[];
  onBase: (place: number, year: number) => void;
  left: number;
  right: number;
  top: number;
}

/** Handles under a chart of years: from which years keeping pace with prices is told. */
export function BaseYears({ chosen, bases, onBase, left, right, top }: Props) {
  const [first = 0, last = 0] = [bases[0], bases[bases.length - 1]];
  const nearest = (year: number) =>
    bases.reduce((a, b) => (Math.abs(b - year) < Math.abs(a - year) ? b : a), first);
  return (
    <>
      {chosen.map((year, place) => (
        <Slider.Root
          key={place}
          min={first}
          max={last}
          step={1}
          value={[Math.min(last, Math.max(first, year))]}
          onValueChange={([to]) => to !== undefined && onBase(place, nearest(to))}
          className="pointer-events-none absolute h-0"
          style={{ left, width: right - left, top }}
        >
          <Slider.Thumb
            aria-label={`${place === 0 ? "First" : "Second"} year to keep pace since`}
            className="group pointer-events-auto block h-0 w-0 touch-none outline-none"
          >
            <span
              className={`-translate-x-1/2 -translate-y-1/2 absolute flex h-[24px] cursor-ew-resize items-center whitespace-nowrap rounded-full border border-action px-2 text-[12px] group-focus-visible:outline-2 group-focus-visible:outline-action group-focus-visible:outline-offset-2 ${place === 0 ? "bg-action text-paper" : "border-dashed bg-paper text-action"}`}
            >
              ⇔ {year}
            </span>
          </Slider.Thumb>
        </Slider.Root>
      ))}
    </>
  );
}
