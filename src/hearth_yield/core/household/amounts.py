"""Shares and money of the ledger as whole numbers, and how they are rounded and shared out.
(docs/method.md, Household)

Shares are counted in units of 10⁻⁸, money in the minor unit of its currency. A sum is rounded once,
half away from zero; of parts that make a whole the last takes the rest.
"""

from __future__ import annotations

from collections.abc import Sequence
from decimal import Decimal
from fractions import Fraction

SHARE_DIGITS = 8
SHARE = 10**SHARE_DIGITS
USUAL_DIGITS = 2
OTHER_DIGITS = {
    **dict.fromkeys(("BHD", "IQD", "JOD", "KWD", "LYD", "OMR", "TND"), 3),
    **dict.fromkeys(
        ("BIF", "CLP", "DJF", "GNF", "ISK", "JPY", "KMF", "KRW", "PYG", "RWF", "UGX", "VND"), 0
    ),
    **dict.fromkeys(("VUV", "XAF", "XOF", "XPF"), 0),
}
"""Decimals of the minor unit, by ISO 4217, where they are not two."""
MOST_PARTS = 10_000


def minor_digits(currency: str) -> int:
    """Decimals of a currency's minor unit; two where nothing else is known."""
    return OTHER_DIGITS.get(currency, USUAL_DIGITS)


def rounded(numerator: int, denominator: int) -> int:
    """numerator ÷ denominator as a whole number, half away from zero."""
    if denominator < 0:
        numerator, denominator = -numerator, -denominator
    size = (2 * abs(numerator) + denominator) // (2 * denominator)
    return size if numerator >= 0 else -size


def whole(value: Fraction) -> int:
    """A fraction as a whole number, half away from zero."""
    return rounded(value.numerator, value.denominator)


def in_units(value: Decimal, digits: int) -> int:
    """A typed number in units of so many decimals.

    Raises: ValueError for one that has more decimals, or is not finite.
    """
    scaled = value.scaleb(digits)
    if not scaled.is_finite() or scaled != scaled.to_integral_value():
        raise ValueError(f"{value} has more than {digits} decimals")
    return int(scaled)


def as_decimal(units: int, digits: int) -> Decimal:
    """Units as the number they stand for."""
    return Decimal(units).scaleb(-digits)


def worth(shares: int, price: Decimal, currency: str) -> int:
    """Shares times a price, in the minor unit."""
    numerator, denominator = price.as_integer_ratio()
    return rounded(shares * numerator * 10 ** minor_digits(currency), SHARE * denominator)


def shared_out(total: int, weights: Sequence[int]) -> list[int]:
    """A total in parts by their weights (not negative); the last takes the rest.

    Parts never leave the side of nil that the total is on: what is shared out is what is left by
    the weights that are left.
    """
    left, weight = total, sum(weights)
    found = []
    for own in weights:
        part = rounded(left * own, weight) if weight else 0
        found.append(part)
        left, weight = left - part, weight - own
    return found


def exact_ratio(ratio: float) -> Fraction:
    """A split's ratio as it was meant: the nearest fraction of small numbers. The one way from the
    floats of the facts to the ledger's whole numbers, with `exact_rate`."""
    return Fraction(ratio).limit_denominator(MOST_PARTS)


def exact_rate(rate: float) -> Fraction:
    """A rate or a price of the facts as it was typed: its shortest decimal form."""
    return Fraction(repr(float(rate)))
