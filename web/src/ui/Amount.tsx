import { HIDDEN, hideAmounts, useHiddenAmounts } from "@/state/amounts";

/** An amount of what is owned that is no figure. */
export function Amount({ children }: { children: React.ReactNode }) {
  const hidden = useHiddenAmounts();
  return hidden && children ? <span title="Hidden">{HIDDEN}</span> : children;
}

export function HideAmounts() {
  const hidden = useHiddenAmounts();
  return (
    <button
      type="button"
      className="link min-h-6 text-[14px] print:hidden"
      aria-pressed={hidden}
      onClick={() => hideAmounts(!hidden)}
    >
      {hidden ? "Show amounts" : "Hide amounts"} <kbd aria-hidden>h</kbd>
    </button>
  );
}
