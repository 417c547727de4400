"""What analysts expect a measure to grow by. (docs/method.md, Estimates)"""

from __future__ import annotations

from ..estimates.newest import (
    ESTIMATE_OF,
    estimates_of,
    figure_of,
    marked,
    newest_estimate,
    year_ahead,
)
from ..estimates.outlook import ACTUALS
from ..facts.periods import fiscal_years, years_excluded
from ..figures.figure import Figure, Unit, Unknown, derive, unknown
from ..range.quantity import Quantity
from .declare import Ground

FURTHEST = 3
"""How many years ahead an estimate is read, the furthest first."""


def estimated_growth(ground: Ground, quantity: Quantity) -> Figure:
    """A year, from the newest fiscal year to the furthest that is estimated; ahead by three at
    most."""
    name, label = ESTIMATE_OF.get(quantity.id), f"estimated growth of {quantity.short}"
    if name is None:
        why = f"{quantity.short} is not estimated"
        return unknown(label, Unit.FRACTION, why)
    first = year_ahead(ground.file)
    held = [
        (n, found[-1])
        for n in range(FURTHEST)
        if (found := estimates_of(ground.file, name, first + n))
    ]
    if not held:
        return newest_estimate(ground.file, name, first).but(
            label=label, unit=Unit.FRACTION, value=None, currency=None
        )
    ahead, newest = held[-1]
    expected = marked(
        ground.file,
        figure_of(ground.file, newest, newest.mean, f"estimate of fiscal {first + ahead}"),
    )
    return _from_last_year(ground, label, name, expected, ahead + 1)


def _from_last_year(ground: Ground, label: str, name: str, expected: Figure, years: int) -> Figure:
    held = fiscal_years(ground.file)
    if not held:
        return marked(ground.file, unknown(label, Unit.FRACTION, "no fiscal year is held"))
    last = ACTUALS[name](held[-1])
    return derive(
        label,
        Unit.FRACTION,
        f"({expected.label} ÷ what {held[-1].label} brought) ^ (1/{years}) − 1",
        [expected, last.with_exclusions(years_excluded(ground.file, held))],
        lambda then, now: (
            (then / now) ** (1 / years) - 1
            if now > 0 and then > 0
            else Unknown("one of both is not positive")
        ),
        period=f"{held[-1].label} to {expected.period}",
    )
