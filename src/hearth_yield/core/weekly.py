"""The weekly sample: last closes of weeks, each with the yield it gave on its day."""

from __future__ import annotations

from dataclasses import dataclass, fields
from datetime import timedelta

import numpy as np
import numpy.typing as npt

from .declared_rate import rate_steps
from .facts import Days, Floats, PayerFile


@dataclass(frozen=True, slots=True, kw_only=True)
class WeeklyYields:
    """The last close of each week with the yield it gave on its day; NaN where nothing was being
    paid. rate_days: since when the rate was known."""

    days: Days
    closes: Floats
    rates: Floats
    rate_days: Days
    yields: Floats
    sources: npt.NDArray[np.int64]

    def _kept(self, keep: npt.NDArray[np.bool_]) -> WeeklyYields:
        return WeeklyYields(**{f.name: getattr(self, f.name)[keep] for f in fields(self)})

    def last(self, weeks: int | None) -> WeeklyYields:
        """The last complete weeks before the week of the newest close."""
        if not len(self.days):
            return self
        week = _week(self.days)
        keep = week < week[-1]
        if weeks is not None:
            keep &= week >= week[-1] - weeks
        return self._kept(keep)

    def paying(self) -> WeeklyYields:
        return self._kept(~np.isnan(self.yields))


def _week(days: Days) -> npt.NDArray[np.int64]:
    """Number of the Monday-to-Sunday week since the epoch's (a Thursday)."""
    return (days.astype(np.int64) + 3) // 7


def weekly_yields(file: PayerFile) -> WeeklyYields:
    """The last close of each week and the yield it gave on its day.

    Yield on a day = declared rate known that day ÷ price that day, both in today's shares. Weeks
    with an unknown rate, or in which nothing was being paid, are gaps (NaN).
    """
    days, closes = file.prices.days, file.adjusted_closes
    last_of_week = np.ones(len(days), dtype=bool)
    if len(days):
        last_of_week[:-1] = _week(days)[:-1] != _week(days)[1:]
    days, closes = days[last_of_week], closes[last_of_week]
    step_days, step_rates = rate_steps(file)
    at = np.searchsorted(step_days, days, side="right") - 1
    rates, rate_days = np.full(len(days), np.nan), np.full(len(days), np.datetime64("NaT", "D"))
    if len(step_days):
        rates = np.where(at >= 0, step_rates[np.maximum(at, 0)], np.nan)
        rate_days = np.where(at >= 0, step_days[np.maximum(at, 0)], rate_days)
    with np.errstate(invalid="ignore"):
        yields = np.where((rates > 0) & (closes > 0), rates / closes, np.nan)
    return WeeklyYields(
        days=days,
        closes=closes,
        rates=rates,
        rate_days=rate_days,
        yields=yields,
        sources=file.prices.sources[last_of_week],
    )


def past_year(file: PayerFile) -> npt.NDArray[np.bool_]:
    return file.prices.days > np.datetime64(file.day - timedelta(weeks=52))
