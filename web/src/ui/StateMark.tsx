import type { State } from "@/api/client";

/** The one map from state to tone. */
export const TONE: Record<State, string> = {
  within: "var(--within)",
  close: "var(--close)",
  outside: "var(--outside)",
  unknown: "var(--unknown)",
  paying_nothing: "var(--unknown)",
};

/** How a state is said: of a test against the person's own limit. */
export const STATE_WORDS: Record<State, string> = {
  within: "within limits",
  close: "close to a limit",
  outside: "outside a limit",
  unknown: "unknown",
  paying_nothing: "paying nothing",
};

export const STATES: State[] = ["within", "close", "outside", "unknown", "paying_nothing"];

/** A small log: whole, half, split, or a dotted outline; a dash where none is laid. */
export function StateMark({ state, label = true }: { state: State; label?: boolean }) {
  const tone = TONE[state];
  return (
    <svg
      width="18"
      height="12"
      viewBox="0 0 18 12"
      className="inline-block shrink-0"
      role={label ? "img" : undefined}
      aria-label={label ? STATE_WORDS[state] : undefined}
      aria-hidden={label ? undefined : true}
    >
      {state === "within" && <rect x="1" y="2" width="16" height="8" rx="2" fill={tone} />}
      {state === "close" && (
        <>
          <rect
            x="1.7"
            y="2.7"
            width="14.6"
            height="6.6"
            rx="2"
            fill="none"
            stroke={tone}
            strokeWidth="1.4"
          />
          <rect x="1" y="2" width="8.500" height="8" rx="2" fill={tone} />
        </>
      )}
      {state === "outside" && (
        <path
          d="M3 2h5.500L5.500 10H3a2 2 0 0 1-2-2V4a2 2 0 0 1 2-2ZM12.500 2H15a2 2 0 0 1 2 2v4a2 2 0 0 1-2 2H9.500Z"
          fill={tone}
        />
      )}
      {state === "paying_nothing" && <path d="M4 6h10" stroke={tone} strokeWidth="1.400" />}
      {state === "unknown" && (
        <rect
          x="1.700"
          y="2.700"
          width="14.600"
          height="6.600"
          rx="2"
          fill="none"
          stroke={tone}
          strokeWidth="1.400"
          strokeDasharray="2 2"
        />
      )}
    </svg>
  );
}
