"""The price and its past: what it did over the usual spans, its peak, its averages, its beta.
(docs/method.md, Range)"""

from __future__ import annotations

from dataclasses import dataclass, field
from datetime import date, timedelta
from functools import cached_property

import numpy as np

from ..facts.payer_file import PayerFile
from ..figures.arrays import Days, Floats
from ..figures.figure import Figure, Unit, derive, unknown
from ..figures.parts import HoldsFigures
from .beta import Beta, beta_of
from .performance import Grown
from .quantity import Quantity

SPANS = {"this_year": 0, "1": 1, "5": 5, "10": 10, "all": None}
"""Years of each; 0: since the year began, None: all there is."""
AVERAGES = (20, 50, 200)


@dataclass(frozen=True, kw_only=True)
class Priced(HoldsFigures):
    """The price and its past; built when it is asked for. typed: the span the person chose."""

    file: PayerFile = field(repr=False)
    quantity: Quantity

    @cached_property
    def spans(self) -> tuple[Grown, ...]:
        """This year, 1, 5 and 10 years, and all there is."""
        return tuple(self.over(id, self._first_of(years)) for id, years in SPANS.items())

    def _first_of(self, years: int | None) -> date:
        day, days = self.file.last_day, self.file.prices.days
        if years == 0:
            return date(day.year - 1, 12, 31)
        if years is None:
            return days[0].astype(date) if len(days) else day
        leap = day.month == 2 and day.day == 29
        return date(day.year - years, day.month, 28 if leap else day.day)

    def over(self, id: str, first: date, last: date | None = None) -> Grown:
        asked = (first, min(last or self.file.last_day, self.file.last_day))
        return Grown(id=id, file=self.file, quantity=self.quantity, asked=asked)

    @cached_property
    def beta(self) -> Beta:
        return beta_of(self.file)

    @cached_property
    def highest(self) -> Figure:
        """The highest close there is."""
        closes = self.file.adjusted_closes
        if not len(closes):
            return unknown("highest close", Unit.PER_SHARE, "no prices are held")
        at = int(np.argmax(closes))
        return Figure(
            label="highest close",
            unit=Unit.PER_SHARE,
            value=float(closes[at]),
            currency=self.file.payer.currency,
            **self.file.close_meta(at),
        ).with_touch(self.file.closes_touch(date.min, self.file.day))

    @cached_property
    def from_peak(self) -> Figure:
        return self._against(self.highest)

    def _against(self, level: Figure) -> Figure:
        return derive(
            f"price against {level.label}",
            Unit.FRACTION,
            f"price ÷ {level.label} − 1",
            [self.file.price, level],
            lambda p, x: p / x - 1,
        )

    @cached_property
    def averages(self) -> dict[str, Figure]:
        """Of the last 20, 50 and 200 days' closes."""
        return {str(n): self._average(n) for n in AVERAGES}

    @cached_property
    def against_averages(self) -> dict[str, Figure]:
        """How far the price stands from each."""
        return {n: self._against(average) for n, average in self.averages.items()}

    def _average(self, n: int) -> Figure:
        label, file = f"{n}-day average", self.file
        days, closes = file.prices.days[-n:], file.adjusted_closes[-n:]
        left = file.exclusions_within("prices", file.day - timedelta(days=2 * n), file.day)

        def none(why: str) -> Figure:
            return unknown(label, Unit.PER_SHARE, why).with_exclusions(left)

        if len(days) < n:
            return none(f"{len(days)} of {n} closes are held")
        if (days[-1] - days[0]).astype(int) > 2 * n:
            return none("closes are not held day by day")
        found = Figure(
            label=label,
            unit=Unit.PER_SHARE,
            value=float(closes.mean()),
            formula=f"mean of the last {n} closes",
            currency=file.payer.currency,
            period=f"{days[0]} to {days[-1]}",
            touch=file.closes_touch(days[0].astype(date), days[-1].astype(date)),
        ).with_exclusions(left)
        return file.close_age.of(found)


def average_line(days: Days, closes: Floats, n: int) -> list[float | None]:
    """The mean of the last n closes on each day; None before there are n within 2n days."""
    sums = np.cumsum(np.insert(closes, 0, 0.0))
    found: list[float | None] = [None] * len(closes)
    for at in range(n - 1, len(closes)):
        if (days[at] - days[at - n + 1]).astype(int) <= 2 * n:
            found[at] = float(sums[at + 1] - sums[at + 1 - n]) / n
    return found
