import { Link } from "@tanstack/react-router";
import type { ReactNode } from "react";
import { useView, type View } from "@/state/view";

interface Props {
  payer: { exchange: string; symbol: string };
  /** What the review is opened with, in place of the day that is viewed. */
  search?: View;
  className?: string;
  children: ReactNode;
}

/** A payer's review, on the day that is viewed. */
export function ReviewLink({ payer, search, className = "link", children }: Props) {
  const [view] = useView();
  return (
    <Link
      to="/review/$exchange/$symbol"
      params={{ exchange: payer.exchange, symbol: payer.symbol }}
      search={search ?? { as_of: view.as_of }}
      className={className}
    >
      {children}
    </Link>
  );
}
