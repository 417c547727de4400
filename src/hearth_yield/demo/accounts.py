"""What the books of a made-up payer hold: the balance sheet as it rolls, and a quarter's lines.

All amounts are whole thousands, so that sums and balances are exact.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

from hearth_yield.core.facts.statements import BALANCE_LINES

PREFERRED_RATE = 0.06
"""Dividend of preferred shares, a year."""
BALANCES = frozenset((*BALANCE_LINES, "shares"))
"""Lines that a year has of its last quarter; of the others it has the sum."""
Lines = dict[str, int]
RATIO_SCALE = 10_000
"""Occupancy and capital ratio are held as whole parts of this."""


@dataclass(slots=True)
class Books:
    """The balance sheet as it rolls forward, in thousands; shares in thousands of today's.

    stocks: with what customers owe. bought: how much larger the business is than the plan, for a
    while, after one was bought. preferred: what preferred shares have paid in. unsold: new shares
    that are due but not sold yet.
    """

    cash: int
    plant: int
    stocks: int
    payables: int
    debt: int
    equity: int
    shares: int
    preferred: int = 0
    arrears: int = 0
    bought: float = 0.0
    unsold: float = 0.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Quarter:
    """acquired: paid for businesses, less what came in for plant that was sold; no published line
    shows it."""

    end: date
    lines: Lines
    acquired: int = 0


def year_of(parts: Sequence[Quarter]) -> Lines:
    """Quarters as one period: flows summed, balances of the last."""
    names = dict.fromkeys(name for q in parts for name in q.lines)
    return {
        n: parts[-1].lines.get(n, 0) if n in BALANCES else sum(q.lines.get(n, 0) for q in parts)
        for n in names
    }
