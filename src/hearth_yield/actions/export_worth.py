"""Take the worth of a payer out as a workbook with live formulas."""

from __future__ import annotations

from hearth_yield.core.review import Review
from hearth_yield.exchange.workbook.worth import worth_workbook

XLSX = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"


def export_worth(review: Review) -> tuple[str, bytes]:
    """The name of the file and what is in it."""
    symbol = "".join(c if c.isascii() and c.isalnum() else "-" for c in review.payer.symbol)
    return f"worth-{symbol}-{review.as_of.isoformat()}.xlsx", worth_workbook(review)
