"""How many payers yield more than they themselves usually do, now and at past quarter ends.
(docs/method.md, Range, Breadth)"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

import numpy as np

from ..facts.payer_file import PayerFile
from ..figures.arrays import Days, Floats
from ..figures.ties import above
from ..range.quantity import YIELD
from ..range.weekly import week_of, weekly_values

YEARS = 20
WEEKS, LEAST = 260, 52
"""Of the mean: five years before each quarter end, and the fewest that make one."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Breadth:
    """days: quarter ends, oldest first, the newest day last. above, known: payers that yield more
    than their own mean of five years, and payers of which both are known. names: of those above
    now, by name."""

    days: Sequence[date]
    above: Sequence[int]
    known: Sequence[int]
    names: Sequence[tuple[str, str, str]]

    @property
    def shares(self) -> list[float | None]:
        """Of those known, day by day; None where none is."""
        return [a / k if k else None for a, k in zip(self.above, self.known, strict=True)]

    @property
    def usual(self) -> float | None:
        """The mean of the shares."""
        known = [x for x in self.shares if x is not None]
        return sum(known) / len(known) if known else None


def quarter_ends_to(day: date) -> list[date]:
    """The quarter ends of twenty years before a day, and the day."""
    found = []
    for year in range(day.year - YEARS, day.year + 1):
        for month, last in ((3, 31), (6, 30), (9, 30), (12, 31)):
            end = date(year, month, last)
            if end < day:
                found.append(end)
    return [*found, day]


def above_own_mean(file: PayerFile, days: Sequence[date]) -> Floats:
    """1 where the payer yielded more than the mean of the weeks before, as known on each day, 0
    where it did not, nan where either is unknown.

    The yield of the newest week that was over before the day's own, against the 260 weeks before.
    """
    weekly = weekly_values(file, YIELD)
    found = np.full(len(days), np.nan)
    listed_to = file.payer.delisted_on
    for n, day in enumerate(days):
        if listed_to is not None and day >= listed_to:
            continue
        found[n] = _above(weekly.days, weekly.values, day)
    return found


def _above(week_days: Days, values: Floats, day: date) -> float:
    week = week_of(np.array([day], dtype="datetime64[D]"))[0]
    at = int(np.searchsorted(week_of(week_days), week, side="left")) - 1
    if at < 0 or (np.datetime64(day) - week_days[at]).astype(int) > 14 or np.isnan(values[at]):
        return float("nan")
    before = values[max(0, at - WEEKS) : at]
    before = before[~np.isnan(before)]
    if len(before) < LEAST:
        return float("nan")
    return float(above(float(values[at]), float(before.mean())))


def breadth_of(
    days: Sequence[date], payers: Sequence[tuple[tuple[str, str, str], Floats]]
) -> Breadth:
    """payers: exchange, symbol and name, with what `above_own_mean` says of each."""
    held = np.array([v for _, v in payers]) if payers else np.empty((0, len(days)))
    return Breadth(
        days=days,
        above=np.nansum(held, axis=0).astype(int).tolist(),
        known=(~np.isnan(held)).sum(axis=0).tolist(),
        names=sorted((who for who, v in payers if v[-1] == 1), key=lambda who: who[2]),
    )
