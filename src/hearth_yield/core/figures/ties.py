"""When two numbers that were computed differently are the same: within 1e-9 relative.

A price of 35.00 and one of 1.40 ÷ 4 % differ in their last bit; nobody who looks at them would say
that one is below the other. Every comparison of prices, yields, measures and limits goes through
here. (docs/method.md, Ties)
"""

from __future__ import annotations

from typing import Any

import numpy as np
import numpy.typing as npt

from .arrays import Floats

RELATIVE = 1e-9
Mask = npt.NDArray[np.bool_]


def same(a: float, b: float) -> bool:
    """Whether two numbers are equal within 1e-9 of the larger."""
    return abs(a - b) <= RELATIVE * max(abs(a), abs(b))


def at_least(a: float, b: float) -> bool:
    """a ≥ b, a tie included."""
    return a >= b or same(a, b)


def above(a: float, b: float) -> bool:
    """a > b, and not a tie."""
    return a > b and not same(a, b)


def ties(sample: Floats, value: float) -> Mask:
    """Which of a sample equal a value; nan equals nothing, and the infinite only itself."""
    if not np.isfinite(value):
        return np.asarray(sample == value, dtype=np.bool_)
    with np.errstate(invalid="ignore"):
        near: Any = np.abs(sample - value) <= RELATIVE * np.maximum(np.abs(sample), abs(value))
    return np.asarray((near & np.isfinite(sample)) | (sample == value), dtype=np.bool_)


def all_at_least(sample: Floats, value: float) -> Mask:
    """Which of a sample are at or above a value."""
    with np.errstate(invalid="ignore"):
        return (sample >= value) | ties(sample, value)


def all_at_most(sample: Floats, value: float) -> Mask:
    """Which of a sample are at or below a value."""
    with np.errstate(invalid="ignore"):
        return (sample <= value) | ties(sample, value)
