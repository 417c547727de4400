import { createContext, useContext } from "react";
import type { Figure } from "@/api/client";
import type { PayerKey } from "@/api/hooks";
import { type Shown, show, upperFirst, withDates } from "@/format/format";
import { HIDDEN, isOwned, useHiddenAmounts } from "@/state/amounts";
import { type AskedOfOne, openKey, useChange } from "@/state/view";
import { CautionMark } from "./CautionMark";
import { TouchMark } from "./TouchMark";

/** Whose figures these are; the drawer needs to know. */
export const PayerContext = createContext<PayerKey | null>(null);

interface Props extends Shown {
  figure: Figure;
  className?: string;
  /** Inside a table that moves its own focus. */
  tabIndex?: number;
  unknown?: string;
  /** It is an amount of what is owned, which can be hidden, though it opens nothing. */
  owned?: boolean;
  /** What it answers, where the page as a whole does not ask it. */
  asked?: AskedOfOne;
}

/** A figure as text that opens its working; one without a key has none. */
export function Fig({
  figure,
  className = "",
  tabIndex,
  unknown = "unknown",
  asked,
  owned = false,
  ...how
}: Props) {
  const payer = useContext(PayerContext);
  const change = useChange();
  const { value } = figure;
  const hidden = useHiddenAmounts() && (owned || isOwned(figure));
  const known = value !== null;
  const shown = known
    ? withCurrency(value, figure, how)
    : (figure.breach ?? figure.spared ?? unknown);
  const text = hidden && known ? HIDDEN : shown;
  if (!figure.key) return <span className={className}>{text}</span>;
  const why = known ? figure.label : `${figure.label}: ${withDates(figure.reason ?? "unknown")}`;
  return (
    <button
      type="button"
      className={`figure ${className}`}
      data-unknown={!known}
      title={upperFirst(why)}
      aria-label={`${figure.label}: ${text}`}
      tabIndex={tabIndex}
      onClick={() => payer && change({ open: openKey(payer, figure.key, asked), path: undefined })}
    >
      {text}
      <TouchMark touch={figure.touch} />
      <CautionMark cautions={figure.cautions} />
    </button>
  );
}

/** Money names its currency where no column's header does, a price where it is spoken of. */
function withCurrency(value: number, figure: Figure, how: Shown): string {
  const text = show(value, figure.unit, how);
  const spoken = how.spoken && (figure.unit === "per_share" || figure.unit === "index");
  const named = figure.unit === "money" || spoken;
  return named && !how.bare && figure.currency ? `${text} ${figure.currency}` : text;
}

/** A key figure with its name above, and the reason in small where it is unknown. */
export function KeyFigure({
  name,
  figure,
  note,
  ...how
}: Props & { name: string; note?: React.ReactNode }) {
  return (
    <div className="min-w-0">
      <div className="text-[13px] text-muted">{name}</div>
      <div className="text-[15px]">
        <Fig figure={figure} className="font-semibold" {...how} />{" "}
        {figure.value === null ? (
          <span className="text-[13px] text-muted">
            {figure.breach || figure.spared ? "" : withDates(figure.reason ?? "")}
            {figure.was != null && `; it was ${withCurrency(figure.was, figure, how)} then`}
          </span>
        ) : (
          note && <span className="text-muted">{note}</span>
        )}
      </div>
    </div>
  );
}
