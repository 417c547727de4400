import { useEffect, useState } from "react";
import { WINDOWS, type Window } from "@/state/view";
import { Choice } from "@/ui/StageSection";

/** The window of the ruler: so many years, or between two days. */
export function Windows(props: { value: Window; onChange: (window: Window) => void }) {
  return (
    <>
      <Choice
        label="Window"
        options={WINDOWS.map((w) => ({ value: w, name: w === "all" ? "all years" : `${w} years` }))}
        value={props.value as (typeof WINDOWS)[number]}
        onChange={props.onChange}
      />
      <Between {...props} />
    </>
  );
}

/** A window of one's own: two days that can be typed; dragging over the history sets them too. */
function Between({ value, onChange }: { value: Window; onChange: (window: Window) => void }) {
  const own = value.includes("..");
  const [open, setOpen] = useState(false);
  const [first = "", last = ""] = own ? value.split("..") : [];
  const [typed, setTyped] = useState<[string, string]>([first, last]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: a new window settles what was typed
  useEffect(() => setTyped([first, last]), [value]);
  const type = (from: string, to: string) => {
    setTyped([from, to]);
    if (from && to && from < to) onChange(`${from}..${to}`);
  };
  if (!own && !open) {
    return (
      <button type="button" className="link" onClick={() => setOpen(true)}>
        between two days
      </button>
    );
  }
  return (
    <span className="flex flex-wrap items-baseline gap-x-2 text-muted">
      {(["from", "to"] as const).map((name, i) => (
        <label key={name}>
          {name}{" "}
          <input
            type="date"
            className="field min-h-[28px]! py-0.5!"
            aria-label={`Window ${name}`}
            value={typed[i]}
            onChange={(e) =>
              i === 0 ? type(e.target.value, typed[1]) : type(typed[0], e.target.value)
            }
          />
        </label>
      ))}
    </span>
  );
}
