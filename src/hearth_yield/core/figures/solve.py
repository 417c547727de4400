"""Where a function crosses nil: what no formula gives in closed form."""

from __future__ import annotations

import math
from collections.abc import Callable

STEPS = 200


def root(f: Callable[[float], float], low: float, high: float) -> float | None:
    """A point between low and high at which f is nil, by halving; None where f has one sign at both
    ends, so that there may be none.

    f must be continuous. Good to the last bits of a double.
    """
    at_low, at_high = f(low), f(high)
    if at_low == 0:
        return low
    if at_high == 0:
        return high
    if not at_low * at_high < 0:
        return None
    for _ in range(STEPS):
        middle = (low + high) / 2
        if middle in (low, high):
            break
        at = f(middle)
        if at == 0:
            return middle
        if at_low * at < 0:
            high = middle
        else:
            low, at_low = middle, at
    return (low + high) / 2


def yearly_return(paid: float, received: list[tuple[float, float]]) -> float | None:
    """R that solves Σ amount ÷ (1 + R)^years = paid; None where none is between −99.99 % and
    10,000 % a year.

    received: (years from now, amount). Source: docs/method.md, Return path.
    """

    def left(rate: float) -> float:
        worth = (amount / math.pow(1 + rate, years) for years, amount in received)
        return math.fsum(worth) - paid

    return root(left, -0.9999, 100.0)
