"""How far a payer's revenue has fallen before. (docs/method.md, Strain)"""

from __future__ import annotations

from collections.abc import Sequence
from datetime import timedelta

from ..facts.periods import Period
from ..figures.figure import Figure, Unit, derive, unknown

AFTER = timedelta(days=2 * 371)
"""Two fiscal years, of 53 weeks at most: of years that are missing between nothing is known."""
LABEL = "its worst fall of revenue"


def worst_fall(years: Sequence[Period]) -> Figure:
    """The deepest fall of revenue from a fiscal year to the lowest of the two after it.

    1 − revenue of the lowest ÷ revenue of the year before the fall; years: fiscal, the oldest
    first. Returns: a fraction, 0 where it never fell; unknown under two years of revenue in one
    currency. Source: docs/method.md, Strain. 100, 90, 70, 95 → 30 %.
    """
    revenues = [y.line("revenue") for y in years]
    falls = [
        (was, now)
        for place, was in enumerate(revenues)
        for later, now in enumerate(revenues[place + 1 :], start=place + 1)
        if years[later].end - years[place].end <= AFTER and _compare(was, now)
    ]
    if not falls:
        return unknown(LABEL, Unit.FRACTION, "fewer than two fiscal years of revenue are known")
    was, now = min(falls, key=lambda pair: (pair[1].value or 0.0) / (pair[0].value or 1.0))
    return derive(
        LABEL,
        Unit.FRACTION,
        "1 − revenue of the lowest of the two years after ÷ revenue of the year before the fall",
        [now, was],
        lambda low, high: max(1 - low / high, 0.0),
        period=f"{was.period} to {now.period}",
    )


def _compare(was: Figure, now: Figure) -> bool:
    return (
        was.value is not None
        and now.value is not None
        and was.value > 0
        and was.currency == now.currency
    )
