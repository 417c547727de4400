"""The weekly sample: last closes of weeks, each with what a quantity was on its day."""

from __future__ import annotations

from dataclasses import dataclass, fields
from datetime import timedelta

import numpy as np
import numpy.typing as npt

from ..facts.records import PayerFile
from ..figures.arrays import Days, Floats
from .quantity import Quantity


@dataclass(frozen=True, slots=True, kw_only=True)
class Weekly:
    """The last close of each week with the quantity's value on its day; NaN where it had none.
    base_days: since when the base was known."""

    days: Days
    closes: Floats
    bases: Floats
    base_days: Days
    values: Floats
    sources: npt.NDArray[np.int64]

    def _where(self, keep: npt.NDArray[np.bool_]) -> Weekly:
        return Weekly(**{f.name: getattr(self, f.name)[keep] for f in fields(self)})

    def last(self, weeks: int | None) -> Weekly:
        """The last complete weeks before the week of the newest close."""
        if not len(self.days):
            return self
        week = _week(self.days)
        keep = week < week[-1]
        if weeks is not None:
            keep &= week >= week[-1] - weeks
        return self._where(keep)

    def known(self) -> Weekly:
        return self._where(~np.isnan(self.values))


def _week(days: Days) -> npt.NDArray[np.int64]:
    """Number of the Monday-to-Sunday week since the epoch's (a Thursday)."""
    return (days.astype(np.int64) + 3) // 7


def weekly_values(file: PayerFile, quantity: Quantity) -> Weekly:
    """The last close of each week and the quantity's value on its day.

    The base is the one known that day, price and base in today's shares. Weeks with an unknown base
    or one that is not positive (nothing was being paid) are gaps (NaN).
    """
    days, closes = file.prices.days, file.adjusted_closes
    last_of_week = np.ones(len(days), dtype=bool)
    if len(days):
        last_of_week[:-1] = _week(days)[:-1] != _week(days)[1:]
    days, closes = days[last_of_week], closes[last_of_week]
    step_days, steps = quantity.steps(file)
    at = np.searchsorted(step_days, days, side="right") - 1
    bases, base_days = np.full(len(days), np.nan), np.full(len(days), np.datetime64("NaT", "D"))
    if len(step_days):
        bases = np.where(at >= 0, steps[np.maximum(at, 0)], np.nan)
        base_days = np.where(at >= 0, step_days[np.maximum(at, 0)], base_days)
    with np.errstate(invalid="ignore", divide="ignore"):
        values = np.where((bases > 0) & (closes > 0), quantity.value(bases, closes), np.nan)
    return Weekly(
        days=days,
        closes=closes,
        bases=bases,
        base_days=base_days,
        values=values,
        sources=file.prices.sources[last_of_week],
    )


def past_year(file: PayerFile) -> npt.NDArray[np.bool_]:
    return file.prices.days > np.datetime64(file.day - timedelta(weeks=52))
