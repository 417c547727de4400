"""Beta: how a payer's weeks move with the market's. (docs/method.md, Required return)"""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date

import numpy as np

from ..facts.payer_file import PayerFile
from ..facts.records import DividendKind
from ..figures.arrays import Days, Floats
from ..figures.figure import Figure, Unit, touch_of, unknown
from ..figures.parts import HoldsFigures
from ..record.payments import manual_edits_between, payments_of

BETA_YEARS = 5
LEAST_WEEKS = 104
WEEK = 7
MONDAY = 3
"""Days from 1 January 1970, a Thursday, back to its week's Monday."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Beta(HoldsFigures):
    """The slope of weekly log returns on the market's, its standard error, and R²."""

    beta: Figure
    error: Figure
    r_squared: Figure


def beta_of(file: PayerFile) -> Beta:
    """Weekly log returns over five years, total where dividends are held, on the market index of
    the payer's currency; at least 104 weeks that follow one another in both.

    Returns: beta, its standard error and R² (of ordinary least squares). Source: docs/method.md.
    """
    if file.market_index is None:
        return _none("no market index is held for this currency")
    mine = _weekly(file.prices.days, file.adjusted_closes)
    points = file.market_index.points
    market = _weekly(
        np.array([p.day for p in points], dtype="datetime64[D]"),
        np.array([p.value for p in points], dtype=np.float64),
    )
    weeks = sorted(set(mine) & set(market))[-BETA_YEARS * 52 :]
    paid = _paid_by_week(file)
    pairs = [
        (np.log((mine[w] + paid.get(w, 0.0)) / mine[w - 1]), np.log(market[w] / market[w - 1]))
        for w in weeks
        if w - 1 in mine and w - 1 in market
    ]
    if len(pairs) < LEAST_WEEKS:
        return _none(f"{len(pairs)} of at least {LEAST_WEEKS} weeks are held of it and the market")
    y, x = (np.array(side, dtype=np.float64) for side in zip(*pairs, strict=True))
    return _fitted(x, y, file)


def _fitted(x: Floats, y: Floats, file: PayerFile) -> Beta:
    dx, dy = x - x.mean(), y - y.mean()
    spread = float(dx @ dx)
    if spread <= 0:
        return _none("the market did not move")
    slope = float(dx @ dy) / spread
    left = dy - slope * dx
    n = len(x)
    error = float(np.sqrt(float(left @ left) / (n - 2) / spread))
    total = float(dy @ dy)
    period = f"{n} weeks to {file.day.isoformat()}"
    by_hand = manual_edits_between(file, date.min)
    touch = touch_of([file.closes_touch(date.min, file.day), by_hand])

    def made(label: str, unit: Unit, value: float, formula: str) -> Figure:
        return Figure(
            label=label, unit=unit, value=value, formula=formula, period=period
        ).with_touch(touch)

    return Beta(
        beta=made(
            "beta",
            Unit.INDEX,
            slope,
            "slope of weekly log returns, dividends included, on the market’s",
        ),
        error=made("standard error of beta", Unit.INDEX, error, "√(Σ residual² ÷ (n − 2) ÷ Σ dx²)"),
        r_squared=made(
            "R² of beta",
            Unit.FRACTION,
            1 - float(left @ left) / total if total > 0 else 0.0,
            "1 − Σ residual² ÷ Σ dy²",
        ),
    )


def _weekly(days: Days, values: Floats) -> dict[int, float]:
    """The last value of each week, by the week's number."""
    if not len(days):
        return {}
    weeks = (days.astype(np.int64) + MONDAY) // WEEK
    last = np.append(weeks[1:] != weeks[:-1], True)
    return dict(zip(weeks[last].tolist(), values[last].tolist(), strict=True))


def _paid_by_week(file: PayerFile) -> dict[int, float]:
    """What went ex in each week, in today's shares: specials and returns of capital too."""
    found: dict[int, float] = {}
    for kind in DividendKind:
        for p in payments_of(file, kind):
            if p.fact.currency == file.payer.currency:
                day = (p.ex_date - date(1970, 1, 1)).days
                week = (day + MONDAY) // WEEK
                found[week] = found.get(week, 0.0) + p.amount
    return found


def _none(why: str) -> Beta:
    return Beta(
        beta=unknown("beta", Unit.INDEX, why),
        error=unknown("standard error of beta", Unit.INDEX, why),
        r_squared=unknown("R² of beta", Unit.FRACTION, why),
    )
