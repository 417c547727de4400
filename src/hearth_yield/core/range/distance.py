"""How far the price stood from what the usual multiple would pay, over the years, and what the
measure behind it did meanwhile. (docs/method.md, Range)"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from datetime import date
from functools import cached_property
from itertools import pairwise

import numpy as np

from ..estimates.newest import ESTIMATE_OF, IN_TOTAL, estimates_of, figure_of, marked, year_ahead
from ..facts.payer_file import PayerFile
from ..facts.periods import Period, fiscal_years, years_excluded
from ..facts.statements import fiscal_year_of
from ..figures.arrays import Floats
from ..figures.figure import Figure, Unit, Unknown, derive
from ..figures.parts import HoldsFigures
from ..record.history import Record
from .multiples import PER_SHARE
from .quantity import YIELD
from .ruler import Ruler

AHEAD = 3
"""How many years ahead an estimate is drawn."""


@dataclass(frozen=True, slots=True, kw_only=True)
class GrowthYear(HoldsFigures):
    """What a measure per share did against the year before. estimated: analysts expect it."""

    year: int
    ends: date
    growth: Figure
    estimated: bool

    @property
    def key(self) -> str:
        return str(self.year)


@dataclass(frozen=True, kw_only=True)
class Distance(HoldsFigures):
    """Of the quantity and window of a ruler; built when it is asked for."""

    file: PayerFile = field(repr=False)
    record: Record = field(repr=False)
    ruler: Ruler = field(repr=False)

    @cached_property
    def weeks(self) -> Floats:
        """Close ÷ the price at the usual value on the week's own base − 1, week by week."""
        weeks, usual = self.ruler.weeks, self.ruler.typical.value
        if usual is None or usual <= 0:
            return np.full(len(weeks.days), np.nan)
        fair = self.ruler.quantity.price(weeks.bases, usual, weeks.besides)
        with np.errstate(invalid="ignore", divide="ignore"):
            return np.where(fair > 0, weeks.closes / fair - 1, np.nan)

    @cached_property
    def years(self) -> tuple[GrowthYear, ...]:
        """Year by year within the window, and those that are estimated."""
        held = self._held()
        days = self.ruler.weeks.days
        first = days[0].astype(date) if len(days) else date.min
        found = [
            GrowthYear(
                year=year, ends=ends, growth=self._growth(year, now, then), estimated=estimated
            )
            for (before, _, then, _), (year, ends, now, estimated) in pairwise(held)
            if year == before + 1
        ]
        return tuple(y for y in found if y.ends >= first)

    def _held(self) -> list[tuple[int, date, Figure, bool]]:
        """Fiscal years (of the dividend, calendar years) with the measure, then estimates."""
        if self.ruler.quantity is YIELD:
            full = [y for y in self.record.years if y.full]
            return [(y.year, date(y.year, 12, 31), y.total, False) for y in full]
        measure, years = PER_SHARE[self.ruler.quantity.id], fiscal_years(self.file)
        left = years_excluded(self.file, years)
        told = [
            (fiscal_year_of(p.end), p.end, measure.of(p).with_exclusions(left), False)
            for p in years
        ]
        return [*told, *self._estimates(years)]

    def _estimates(self, years: Sequence[Period]) -> list[tuple[int, date, Figure, bool]]:
        """Of what is estimated per share."""
        name = ESTIMATE_OF.get(self.ruler.quantity.id)
        if name is None or name in IN_TOTAL or not years:
            return []
        first, end, found = year_ahead(self.file), years[-1].end, []
        for n in range(AHEAD):
            held = estimates_of(self.file, name, first + n)
            if not held:
                break
            label = f"estimate of fiscal {first + n}"
            figure = marked(self.file, figure_of(self.file, held[-1], held[-1].mean, label))
            day = min(end.day, 28) if end.month == 2 else end.day
            ends = end.replace(year=end.year + n + 1, day=day)
            found.append((first + n, ends, figure, True))
        return found

    def _growth(self, year: int, now: Figure, then: Figure) -> Figure:
        return derive(
            f"{self.ruler.quantity.base_name}, {year} against the year before",
            Unit.FRACTION,
            "this year ÷ the year before − 1",
            [now, then],
            lambda a, b: a / b - 1 if b > 0 else Unknown("the year before was not positive"),
            period=str(year),
        )
