"""Rates between currencies as steps over time. (docs/method.md, Household)"""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Mapping, Sequence
from datetime import date
from fractions import Fraction

from .amounts import exact_rate, minor_digits, whole

Points = Sequence[tuple[date, float]]


class SeriesRates:
    """points: by currency, what one unit costs at home, the oldest first."""

    def __init__(self, home: str, points: Mapping[str, Points]) -> None:
        self.home = home
        self.points = points
        self._days = {currency: [day for day, _ in held] for currency, held in points.items()}
        self._exact: dict[tuple[str, int], Fraction] = {}

    def rate(self, currency: str, on: date) -> Fraction | None:
        """Home for one unit: of the day, else the last before it."""
        if currency == self.home:
            return Fraction(1)
        at = bisect_right(self._days.get(currency, ()), on)
        if not at:
            return None
        key = (currency, at)
        if key not in self._exact:
            self._exact[key] = exact_rate(self.points[currency][at - 1][1])
        return self._exact[key]

    def convert(self, amount: int, source: str, target: str, on: date) -> int | None:
        """In the minor unit of another currency, by way of home; None without a rate."""
        if source == target:
            return amount
        of, to = self.rate(source, on), self.rate(target, on)
        if of is None or to is None:
            return None
        scale = Fraction(10) ** (minor_digits(target) - minor_digits(source))
        return whole(amount * of / to * scale)
