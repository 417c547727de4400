"""The arithmetic of a return path, in plain numbers. (docs/method.md, Return path)"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from ...figures.solve import yearly_return


@dataclass(frozen=True, slots=True, kw_only=True)
class Path:
    """A share bought at a price and sold after some years at a multiple of a measure.

    dividends: of each year, at its end. measures: per share, today's first, one for each year
    after. Example: price 54, dividend 2.16 growing 5 %, earnings 3.60 growing 6 %, exit 16×, five
    years: sold at 77.0818, 11.4018 % a year.
    """

    price: float
    dividends: Sequence[float]
    measures: Sequence[float]
    multiple: float

    @property
    def years(self) -> int:
        return len(self.dividends)

    @property
    def sold_at(self) -> float:
        """multiple × the last year's measure."""
        return self.multiple * self.measures[-1]

    @property
    def multiple_today(self) -> float:
        return self.price / self.measures[0]

    @property
    def yearly(self) -> float | None:
        """R that solves Σ D_t ÷ (1 + R)^t + P_n ÷ (1 + R)^n = price."""
        received = [(float(t), d) for t, d in enumerate(self.dividends, 1)]
        return yearly_return(self.price, [*received, (float(self.years), self.sold_at)])

    def price_for(self, r: float) -> float:
        """Σ D_t ÷ (1 + r)^t + P_n ÷ (1 + r)^n."""
        paid = sum(d / (1 + r) ** t for t, d in enumerate(self.dividends, 1))
        return float(paid + self.sold_at / (1 + r) ** self.years)

    @property
    def prices(self) -> list[float]:
        """At the end of each year, the multiple moving geometrically to the exit's."""
        moved = (self.multiple / self.multiple_today) ** (1 / self.years)
        return [m * self.multiple_today * moved**t for t, m in enumerate(self.measures[1:], 1)]

    @property
    def reinvested(self) -> float:
        """A year, each dividend buying shares at the year's price."""
        shares = math.prod(1 + d / p for d, p in zip(self.dividends, self.prices, strict=True))
        return float((shares * self.sold_at / self.price) ** (1 / self.years) - 1)

    def part(self, factor: float) -> float | None:
        """What a factor of the sale price (how often the measure or the multiple became itself)
        brings a year: ln(factor) ÷ n × R ÷ ln(1 + R), so that all parts sum to R."""
        r = self.yearly
        if r is None:
            return None
        return math.log(factor) / self.years * _scale(r)

    @property
    def income(self) -> float | None:
        """The rest, once the sale price is accounted for."""
        r = self.yearly
        if r is None:
            return None
        return r - math.log(self.sold_at / self.price) / self.years * _scale(r)


def _scale(r: float) -> float:
    """R ÷ ln(1 + R); 1 where nothing is returned."""
    return r / math.log1p(r) if abs(r) > 1e-12 else 1.0


def grown(start: float, growth: float, years: int) -> list[float]:
    """start × (1 + growth)^t for t = 0 … years. 3.60 at 6 % over 5 years ends at 4.8176."""
    return [start * (1 + growth) ** t for t in range(years + 1)]


def expected_then(known: Sequence[float], growth: float, years: int) -> list[float]:
    """What is known of the first years, today's first; from the last of them it grows.

    2.00, then 2.40 and 2.52 expected, then 3 % a year → 2.7537 in year five.
    """
    held = list(known[: years + 1])
    return [*held, *grown(held[-1], growth, years + 1 - len(held))[1:]]


def driven(
    start: float, revenue: float, margin: float, to: float, shares: float, years: int
) -> list[float]:
    """A measure per share as revenue grows, its margin moves in a straight line and the share count
    changes a year. 1.50; 4 %; 12 % → 13 %; −1 %; five years → 2.0790."""
    return [
        start
        * (1 + revenue) ** t
        * ((margin + (to - margin) * t / years) / margin)
        / (1 + shares) ** t
        for t in range(years + 1)
    ]
