"""The weekly sample: last closes of weeks, each with what a quantity was on its day."""

from __future__ import annotations

from dataclasses import dataclass, fields
from datetime import date, timedelta
from typing import NamedTuple

import numpy as np
import numpy.typing as npt

from ..facts.payer_file import PayerFile
from ..figures.arrays import Days, Floats
from .quantity import Quantity


@dataclass(frozen=True, slots=True, kw_only=True)
class Weekly:
    """The last close of each week with the quantity's value on its day; NaN where it had none.
    base_days: since when the base was known; besides: what else the value took, 0 where nothing."""

    days: Days
    closes: Floats
    bases: Floats
    base_days: Days
    besides: Floats
    values: Floats
    sources: npt.NDArray[np.int64]

    def _where(self, keep: npt.NDArray[np.bool_]) -> Weekly:
        return Weekly(**{f.name: getattr(self, f.name)[keep] for f in fields(self)})

    def last(self, weeks: int | None) -> Weekly:
        """The last complete weeks before the week of the newest close."""
        if not len(self.days):
            return self
        week = week_of(self.days)
        keep = week < week[-1]
        if weeks is not None:
            keep &= week >= week[-1] - weeks
        return self._where(keep)

    def between(self, first: date, last: date) -> Weekly:
        """The complete weeks whose close lies between two days, both included."""
        whole = self.last(None)
        days = whole.days
        return whole._where((days >= np.datetime64(first)) & (days <= np.datetime64(last)))

    def known(self) -> Weekly:
        return self._where(~np.isnan(self.values))


def week_of(days: Days) -> npt.NDArray[np.int64]:
    """Number of the Monday-to-Sunday week since the epoch's (a Thursday)."""
    return (days.astype(np.int64) + 3) // 7


def weekly_values(file: PayerFile, quantity: Quantity) -> Weekly:
    """The last close of each week and the quantity's value on its day.

    The base is the one known that day, price and base in today's shares. Weeks with an unknown base
    or one that is not positive (nothing was being paid, a loss) are gaps (NaN). Made once for each
    file.
    """
    key = f"weekly {quantity.id}"
    if key not in file.made:
        file.made[key] = _weekly_values(file, quantity)
    held: Weekly = file.made[key]
    return held


def _weekly_values(file: PayerFile, quantity: Quantity) -> Weekly:
    days, closes = file.prices.days, file.adjusted_closes
    last_of_week = np.ones(len(days), dtype=bool)
    if len(days):
        last_of_week[:-1] = week_of(days)[:-1] != week_of(days)[1:]
    days, closes = days[last_of_week], closes[last_of_week]
    on = values_on(file, quantity, days, closes)
    return Weekly(
        days=days,
        closes=closes,
        bases=on.bases,
        base_days=on.base_days,
        besides=on.besides,
        values=on.values,
        sources=file.prices.sources[last_of_week],
    )


class Valued(NamedTuple):
    """A quantity on some days, with what it was made of; NaN where it had no value."""

    bases: Floats
    base_days: Days
    besides: Floats
    values: Floats


def values_on(file: PayerFile, quantity: Quantity, days: Days, closes: Floats) -> Valued:
    """The value at each close, in today's shares, with the base that was known that day."""
    bases, base_days = _held_on(days, *quantity.steps(file))
    besides = np.zeros(len(days))
    if quantity.beside_steps is not None:
        besides, _ = _held_on(days, *quantity.beside_steps(file))
    with np.errstate(invalid="ignore", divide="ignore"):
        found = quantity.value(bases, closes, besides)
        values = np.where((bases > 0) & (closes > 0) & (found > 0), found, np.nan)
    return Valued(bases, base_days, besides, values)


def _held_on(days: Days, step_days: Days, steps: Floats) -> tuple[Floats, Days]:
    """What held on each day, and since when; nan before the first step."""
    if not len(step_days):
        return np.full(len(days), np.nan), np.full(len(days), np.datetime64("NaT", "D"))
    at = np.searchsorted(step_days, days, side="right") - 1
    place = np.maximum(at, 0)
    return np.where(at >= 0, steps[place], np.nan), step_days[place]


def past_year(file: PayerFile) -> npt.NDArray[np.bool_]:
    return file.prices.days > np.datetime64(file.day - timedelta(weeks=52))
