"""Values from a payer's own past pricing. (docs/method.md, Worth)"""

from __future__ import annotations

from ..ranges import price_at_yield


def yield_reversion_value(declared_rate: float, mean_yield: float) -> float:
    """The price at which the declared rate would yield what it usually has.

    declared rate ÷ mean yield; both a year, yield as a fraction, above 0 (MethodError).
    Source: docs/method.md, Worth. 1.40 at 3.5 % → 40.00.
    """
    return price_at_yield(declared_rate, mean_yield)
