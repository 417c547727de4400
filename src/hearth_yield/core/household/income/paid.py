"""What came and what comes, by month and payer, in the money of its day or in today's.
(docs/method.md, Household)"""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass
from datetime import date

from ...facts.records import Series
from ..entries import PayerKey

Came = tuple[PayerKey, date, float]
"""Of whom something came, when, and how much at home."""
Restate = Callable[[date], float | None]
"""What one unit of money of a day is in today's; None where that is not known."""


@dataclass(frozen=True, slots=True, kw_only=True)
class PaidBy:
    """What a payer paid in each of some months."""

    payer: PayerKey
    months: tuple[float, ...]

    @property
    def total(self) -> float:
        return sum(self.months)


def by_month(came: Iterable[Came], months: Sequence[str]) -> list[PaidBy]:
    """Of each payer that paid in these months (YYYY-MM), who paid most first."""
    places = {month: n for n, month in enumerate(months)}
    sums: dict[PayerKey, list[float]] = {}
    for payer, day, amount in came:
        at = places.get(day.isoformat()[:7])
        if at is not None:
            sums.setdefault(payer, [0.0] * len(places))[at] += amount
    rows = [PaidBy(payer=payer, months=tuple(of)) for payer, of in sums.items()]
    return sorted(rows, key=lambda r: (-r.total, r.payer))


def by_year(came: Iterable[Came]) -> dict[int, float]:
    """What came in each year, from the first to the last."""
    sums: dict[int, float] = {}
    for _, day, amount in came:
        sums[day.year] = sums.get(day.year, 0.0) + amount
    return {y: sums.get(y, 0.0) for y in range(min(sums), max(sums) + 1)} if sums else {}


def restated(came: Iterable[Came], restate: Restate) -> list[Came]:
    """The same in today's money; what cannot be restated is left out."""
    found = []
    for payer, day, amount in came:
        by = restate(day)
        if by is not None:
            found.append((payer, day, amount * by))
    return found


def by_index(series: Series | None) -> Restate:
    """By a price index, cut to what is known: its newest month ÷ the last one begun by the day.

    At 125 now, 100.00 of a month at 100 is 125.00; of one that is not told yet it is as it is.
    """
    points = series.points if series else ()
    days = [p.day for p in points]

    def restate(day: date) -> float | None:
        at = bisect_right(days, day)
        return points[-1].value / points[at - 1].value if at and points[at - 1].value else None

    return restate
