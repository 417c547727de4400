"""How far a price is from a price one waits for, and how often it was there.
(docs/method.md, Watch)"""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, timedelta
from enum import StrEnum

import numpy as np

from ..facts.records import PayerFile, split_factor
from ..figures.figure import Figure, Unit, derive
from ..figures.ties import at_least

YEAR = timedelta(days=365)


class Aim(StrEnum):
    """What is waited for: to buy below, a step to buy in by, to trim above."""

    BUY = "buy_below"
    STEP = "step"
    TRIM = "trim_above"


@dataclass(frozen=True, slots=True, kw_only=True)
class Reach:
    """target: a price in today's shares. distance: how far the price has still to go, as a part of
    the target: 0 and under, it is there. met: the share of the past year's closes that were there,
    with their number; last_met: the newest of them."""

    aim: Aim
    target: float
    distance: Figure
    met: float | None
    closes: int
    last_met: date | None

    @property
    def reached(self) -> bool:
        value = self.distance.value
        return value is not None and at_least(0.0, value)


def reach_of(file: PayerFile, price: Figure, aim: Aim, target: float) -> Reach:
    """target: above 0, in today's shares."""
    trims = aim is Aim.TRIM
    formula = "1 − price ÷ target" if trims else "price ÷ target − 1"
    distance = derive(
        "distance to the target",
        Unit.FRACTION,
        formula,
        [price],
        lambda p: 1 - p / target if trims else p / target - 1,
    )
    met, closes, last = _met(file, target, above=trims)
    return Reach(aim=aim, target=target, distance=distance, met=met, closes=closes, last_met=last)


def _met(file: PayerFile, target: float, *, above: bool) -> tuple[float | None, int, date | None]:
    """Of the closes of the past year, in today's shares, those at the target or beyond it."""
    days, closes = file.prices.days, file.prices.closes
    first = np.datetime64(file.day - YEAR)
    inside = days > first
    if not inside.any():
        return None, 0, None
    dates = days[inside]
    factors = np.array(
        [split_factor(file.splits, d.astype(date)) for d in dates] if file.splits else [1.0]
    )
    own = closes[inside] / factors
    there = own >= target * (1 - 1e-9) if above else own <= target * (1 + 1e-9)
    last = dates[there][-1].astype(date) if there.any() else None
    return float(there.mean()), len(dates), last
