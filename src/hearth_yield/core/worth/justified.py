"""The multiple that growth and the required return would justify. (docs/method.md, Range)"""

from __future__ import annotations

from ..figures.figure import Figure, Unit, Unknown, derive
from ..figures.ties import at_least
from ..range.quantity import YIELD
from ..range.ruler import Ruler


def justified_multiple(shown: Ruler, rate: Figure, growth: Figure, required: Figure) -> Figure:
    """payout × (1 + g) ÷ (r − g), payout being the declared rate ÷ the measure per share.

    Source: docs/method.md, Range; the CFA Institute's curriculum. 0.5, 4 %, 8 % → 13.0.
    """
    payout = derive(
        f"share of {shown.base.label} paid out",
        Unit.FRACTION,
        f"declared rate ÷ {shown.base.label}",
        [rate, shown.base],
        lambda d, x: d / x if d > 0 and x > 0 else Unknown(_why_none(d, shown)),
    )

    def compute(share: float, g: float, r: float) -> float | Unknown:
        if at_least(g, r):
            return Unknown("growth is not under the required return, so no multiple is too high")
        return share * (1 + g) / (r - g)

    return derive(
        f"justified {shown.quantity.name}",
        Unit.MULTIPLE,
        "share paid out × (1 + growth) ÷ (required return − growth)",
        [payout, growth, required],
        compute,
    )


def _why_none(rate: float, shown: Ruler) -> str:
    return YIELD.nothing if rate <= 0 else shown.quantity.nothing
