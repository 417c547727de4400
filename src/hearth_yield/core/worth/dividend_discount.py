"""Constant growth: the value of a dividend that grows for ever. (docs/method.md, Worth)"""

from __future__ import annotations

from ..errors import MethodError


def constant_growth_value(dividend: float, growth: float, required_return: float) -> float:
    """Present value of a growing perpetuity.

    D0 (1 + g) / (r − g)

    Args: dividend: per share a year, already declared; growth, required_return: fractions a year.
    Returns: value per share.
    Raises: MethodError when r is not above g, where the sum has no limit.
    Source: Gordon 1962. 2.40, 3 %, 8 % → 49.44.
    """
    if required_return <= growth:
        raise MethodError(
            "the required return must be above the growth rate, or the value has no limit",
            field="growth",
            value=growth,
            rule=f"growth < required return ({required_return:.4g})",
        )
    return dividend * (1 + growth) / (required_return - growth)
