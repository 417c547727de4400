"""Products and quotients to the digit that the numbers were written to."""

from __future__ import annotations

from decimal import Decimal


def product(a: float, b: float) -> float:
    """131.2 × 1,000,000 is 131,200,000, not a hair less."""
    return a if b == 1.0 else float(Decimal(repr(a)) * Decimal(repr(b)))


def quotient(a: float, b: float) -> float:
    """1.32 ÷ 4 is 0.33."""
    return a if b == 1.0 else float(Decimal(repr(a)) / Decimal(repr(b)))
