"""The newest estimate of a coming year, in today's shares. (docs/method.md, Estimates)"""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date
from typing import Any

from ..facts.age import freshness
from ..facts.edits import BY_HAND
from ..facts.payer_file import PayerFile
from ..facts.periods import fiscal_years
from ..facts.records import Estimate, split_factor
from ..facts.statements import fiscal_year_of
from ..figures.figure import Figure, Touch, Unit, touch_of, unknown

NAMES = {
    "eps": "earnings per share",
    "ffo": "FFO per unit",
    "affo": "AFFO per unit",
    "dps": "dividends per share",
    "revenue": "revenue",
    "fcf": "free cash flow",
}
"""Of what estimates and guidance are, in the order they are shown."""
ESTIMATE_OF = {"earnings": "eps", "ffo": "ffo", "affo": "affo", "yield": "dps", "sales": "revenue"}
"""What of estimates and guidance speaks of a quantity, by its id."""
IN_TOTAL = frozenset({"revenue", "fcf"})


def unit_of(measure: str) -> Unit:
    return Unit.MONEY if measure in IN_TOTAL else Unit.PER_SHARE


def year_ahead(file: PayerFile) -> int:
    """The fiscal year after the newest that was reported; without one, the day's own."""
    years = fiscal_years(file)
    return fiscal_year_of(years[-1].end) + 1 if years else file.day.year


def estimates_of(file: PayerFile, measure: str, year: int) -> Sequence[Estimate]:
    """Those of one fiscal year, the oldest first; sorted out once for each file."""
    held: dict[tuple[str, int], list[Estimate]] | None = file.made.get("estimates")
    if held is None:
        held = file.made["estimates"] = {}
        for x in sorted(file.estimates, key=lambda x: x.published_on):
            held.setdefault((x.measure, x.fiscal_year), []).append(x)
    return held.get((measure, year), ())


def known_on(estimates: Sequence[Estimate], day: date) -> Estimate | None:
    """The newest that was published by a day."""
    return next((x for x in reversed(estimates) if x.published_on <= day), None)


def figure_of(file: PayerFile, x: Estimate, value: float | None, name: str) -> Figure:
    """One number of an estimate, in today's shares."""
    unit = unit_of(x.measure)
    factor = 1.0 if unit is Unit.MONEY else split_factor(file.splits, x.published_on)
    by_split = None if unit is Unit.MONEY else file.split_touch(x.published_on)
    meta: dict[str, Any] = {
        "currency": file.currency_of_statements if unit is Unit.MONEY else file.payer.currency,
        "period": f"fiscal {x.fiscal_year}",
        "known_on": x.published_on,
        "source": x.source,
        "touch": touch_of([Touch.ENTERED if x.entered else None, by_split]),
    }
    if value is None:
        return unknown(name, unit, "not told with the estimate", **meta)
    notes: tuple[str, ...] = (BY_HAND,) if x.entered else ()
    if x.analysts:
        notes += (f"of {x.analysts} analyst{'s' if x.analysts > 1 else ''}",)
    if factor != 1.0:
        notes += (f"adjusted for later splits ({factor:g} for 1)",)
    return Figure(label=name, unit=unit, value=value / factor, notes=notes, **meta)


def newest_estimate(file: PayerFile, measure: str, year: int) -> Figure:
    """The mean of the newest estimate of a fiscal year, as it may be shown as current."""
    name = f"estimate of {NAMES[measure]}"
    held = estimates_of(file, measure, year)
    if not held:
        why = f"no estimate of fiscal {year} is held"
        return marked(file, unknown(name, unit_of(measure), why, period=f"fiscal {year}"))
    newest = held[-1]
    fresh = freshness(
        "estimates", newest.published_on, file.day, "the newest estimate", file.payer.delisted_on
    )
    return marked(file, fresh.of(figure_of(file, newest, newest.mean, name)))


def marked(file: PayerFile, figure: Figure) -> Figure:
    """The figure with what a person did to what decides it: which year is ahead, and what is held
    of it."""
    years = fiscal_years(file)
    since = years[-1].end if years else date.min
    choices = (
        *file.exclusions_within("estimates", date.min, file.day),
        *file.exclusions_within("guidance", date.min, file.day),
        *file.exclusions_within("statements", since, date.max),
    )
    by_hand = bool(years) and any(s.entered for s in years[-1].statements)
    return figure.with_exclusions(choices).with_touch(Touch.ENTERED if by_hand else None)
