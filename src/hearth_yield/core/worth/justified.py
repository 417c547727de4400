"""The multiple that growth and the required return would justify. (docs/method.md, Range)"""

from __future__ import annotations

from ..figures.figure import Figure, Unit, Unknown, derive
from ..range.quantity import YIELD
from ..range.ruler import Ruler
from .dividend_discount import constant_growth_value
from .growth import too_fast


def justified_multiple(shown: Ruler, rate: Figure, growth: Figure, required: Figure) -> Figure:
    """payout × (1 + g) ÷ (r − g), payout being the declared rate ÷ the measure per share.

    Source: docs/method.md, Range; the CFA Institute's curriculum. 0.5, 4 %, 8 % → 13.0.
    growth: that which goes on for ever.
    """
    payout = derive(
        f"share of {shown.base.label} paid out",
        Unit.FRACTION,
        f"declared rate ÷ {shown.base.label}",
        [rate, shown.base],
        lambda d, x: d / x if d > 0 and x > 0 else Unknown(_why_none(d, shown)),
    )

    fast = too_fast(growth, required)

    def compute(share: float, g: float, r: float) -> float | Unknown:
        return fast or constant_growth_value(share, g, r)

    return derive(
        f"justified {shown.quantity.name}",
        Unit.MULTIPLE,
        "share paid out × (1 + growth) ÷ (required return − growth)",
        [payout, growth, required],
        compute,
    )


def _why_none(rate: float, shown: Ruler) -> str:
    return YIELD.nothing if rate <= 0 else shown.quantity.nothing
