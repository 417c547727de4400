"""What today's price takes for granted, solved for directly. (docs/method.md, Worth)"""

from __future__ import annotations

from ..figures.figure import Unknown


def implied_constant_growth(
    price: float, dividend: float, required_return: float
) -> float | Unknown:
    """The growth at which constant growth equals the price.

    g = (r P − D0) / (P + D0), from P = D0 (1 + g) / (r − g).

    Returns: a fraction a year, always below r for a positive dividend.
    Source: Gordon 1962 rearranged. 61.80, 2.40, 8 % → 3.9626 %.
    """
    if price <= 0:
        return Unknown("the price is not positive")
    if dividend <= 0:
        return Unknown("nothing is being paid, so no growth of it is implied")
    return (required_return * price - dividend) / (price + dividend)
