"""When the dividend would overtake what pays for it, at the present slopes of both.
(docs/method.md, Cover)"""

from __future__ import annotations

from collections.abc import Sequence
from math import ceil

from ..facts.robust import TREND_YEARS, theil_sen, years_since
from ..facts.statements import fiscal_year_of, words
from ..figures.figure import Figure, Unit, Unknown, derive, unknown
from .bases import Basis, CoverPeriod

FURTHEST = 50
LAST_DAYS = 0.01


def crossing(basis: Basis, row: Sequence[CoverPeriod]) -> Figure:
    """In how many years from the last fiscal year's end dividend per share meets basis per share,
    both going on along their Theil–Sen lines over the last five fiscal years in a row.

    Unknown where they do not approach, or would take more than fifty years; a breach where the
    dividend is above already. Source: docs/method.md, Cover.
    """
    label = f"years until the dividend would overtake {words(basis)} per share"
    parts = [f for y in row for f in (y.per_share, y.dividend_per_share)]
    if len(row) < TREND_YEARS or not all(p.known for p in parts):
        return unknown(label, Unit.YEARS, f"fewer than {TREND_YEARS} fiscal years in a row known")
    axis = years_since([y.end for y in row])

    def compute(*v: float) -> float | Unknown:
        has = theil_sen(list(zip(axis, v[::2], strict=True)))
        pays = theil_sen(list(zip(axis, v[1::2], strict=True)))
        room = (has[0] * axis[-1] + has[1]) - (pays[0] * axis[-1] + pays[1])
        closing = pays[0] - has[0]
        if room <= 0:
            return Unknown("the dividend is above it already", breach="overtaken already")
        if closing <= 0 or room / closing > FURTHEST:
            return Unknown("at the present slopes they do not meet within fifty years")
        return room / closing

    return derive(
        label,
        Unit.YEARS,
        "where the median lines through both meet (Theil–Sen)",
        parts,
        compute,
        period=f"{row[0].label} to {row[-1].label}",
    )


def crossing_year(row: Sequence[CoverPeriod], years: Figure) -> int | None:
    """The fiscal year that the crossing falls in; years are of 365.25 days, so that its last days
    are its own."""
    if years.value is None or not row:
        return None
    return fiscal_year_of(row[-1].end) + ceil(years.value - LAST_DAYS)
