/** Reading a chart of days, the same way everywhere: pointer and arrow keys read a day; dragging, or
 * Shift with the arrows and Enter, chooses a span. */
import { bisectLeft } from "d3-array";
import type { ScaleTime } from "d3-scale";
import { type RefObject, useState } from "react";
import { time } from "./courses";

/** A drag shorter than this is a click. */
const NEAR = 6;
const READ: Record<string, number> = { ArrowLeft: -1, ArrowRight: 1, PageUp: 20, PageDown: -20 };

export function useDays(
  days: string[],
  x: ScaleTime<number, number>,
  box: RefObject<SVGSVGElement | null>,
  onSpan: (first: string, last: string) => void,
) {
  const [held, setAt] = useState<number | null>(null);
  const [anchor, setAnchor] = useState<number | null>(null);
  // A day that was read by the keyboard stays when the pointer leaves.
  const [keyed, setKeyed] = useState(false);
  const end = days.length - 1;
  const at = held === null ? null : Math.min(held, end);
  const placeOf = (n: number) => x(time(days[n] ?? days[0] ?? "2000-01-01"));
  const dayAt = (clientX: number) => {
    const left = box.current?.getBoundingClientRect().left ?? 0;
    const iso = x
      .invert(clientX - left)
      .toISOString()
      .slice(0, 10);
    return Math.min(end, Math.max(0, bisectLeft(days, iso)));
  };
  const choose = (a: number, b: number) => {
    const [from, to] = [days[Math.min(a, b)], days[Math.max(a, b)]];
    setAnchor(null);
    if (from && to && from < to) onSpan(from, to);
  };
  const onKeyDown = (e: React.KeyboardEvent) => {
    const by = READ[e.key];
    const now = at ?? end;
    if (e.key === "Escape") setAnchor(null);
    else if (e.key === "Enter" && anchor !== null) choose(anchor, now);
    else if (e.key === "Home" || e.key === "End") setAt(e.key === "Home" ? 0 : end);
    else if (by) {
      if (e.shiftKey && anchor === null) setAnchor(now);
      setAt(Math.min(end, Math.max(0, now + by)));
    } else return;
    e.preventDefault();
    e.stopPropagation();
  };
  return {
    at,
    anchor,
    keys: {
      onKeyDown,
      onFocus: () => {
        setKeyed(true);
        if (at === null) setAt(end);
      },
      onBlur: () => setKeyed(false),
    },
    pointer: {
      onPointerDown: (e: React.PointerEvent) => {
        if (e.button === 0) setAnchor(dayAt(e.clientX));
      },
      onPointerMove: (e: React.PointerEvent) => setAt(dayAt(e.clientX)),
      onPointerUp: (e: React.PointerEvent) => {
        if (anchor === null) return;
        const to = dayAt(e.clientX);
        if (Math.abs(placeOf(to) - placeOf(anchor)) > NEAR) choose(anchor, to);
        else setAnchor(null);
      },
      onPointerLeave: () => {
        setAnchor(null);
        if (!keyed) setAt(null);
      },
    },
  };
}
