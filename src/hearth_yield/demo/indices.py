"""Series of the made-up world: price indices, yields, the exchange rate, and the market's own
index, made from the payers."""

from __future__ import annotations

import math
from collections.abc import Iterator
from datetime import date, timedelta
from itertools import pairwise
from random import Random

from .payments import Record, split_ratio_after
from .script import FIRST_YEAR, ISLES, THORNMARK, TODAY, Land, Script, at

Pair = tuple[list[Record], list[Record]]
MARKET = "SUNDREY-MARKET"
MARKET_TOTAL = "SUNDREY-MARKET-TOTAL"
RATE = "THK-IN-TLL"


def _series(code: str, kind: str, name: str, currency: str, of: str | None = None) -> Record:
    return {"code": code, "kind": kind, "name": name, "currency": currency, "of_currency": of}


def _point(code: str, day: date, published: date, value: float) -> Record:
    return {"code": code, "day": day, "published_on": published, "value": value}


def _months(first_year: int, until: date) -> Iterator[tuple[date, date]]:
    """The first day of every month that has ended by a day, and of the month after."""
    month = date(first_year, 1, 1)
    following = date(first_year, 2, 1)
    while following - timedelta(days=1) <= until:
        yield month, following
        month, following = following, (following + timedelta(days=32)).replace(day=1)


def price_index(land: Land, random: Random, until: date = TODAY) -> Pair:
    """Monthly, published in the middle of the month after."""
    value, own, points = 100.0, 0.0, []
    for month, following in _months(FIRST_YEAR - 1, until):
        yearly = at(land.inflation, max(month.year, FIRST_YEAR))
        season = 0.0015 * math.sin(month.month * math.pi / 6)
        own = 0.35 * own + random.gauss(0, 0.0013)
        value *= (1 + yearly) ** (1 / 12) * math.exp(own)
        published = following + timedelta(days=16 + random.randrange(4))
        if published <= until:
            points.append(_point(land.index_code, month, published, round(value * (1 + season), 1)))
    return [_series(land.index_code, "price_index", land.index_name, land.currency)], points


def yields(land: Land, random: Random, until: date = TODAY) -> Pair:
    """Risk-free and AAA yields at the end of every month, known the same day."""
    codes = (f"{land.currency}-RISK-FREE", f"{land.currency}-AAA")
    series = [
        _series(codes[0], "risk_free_yield", f"{land.name} ten-year bond", land.currency),
        _series(codes[1], "aaa_yield", f"{land.name} AAA companies", land.currency),
    ]
    points, own = [], 0.0
    for month, following in _months(FIRST_YEAR, until):
        own = 0.9 * own + random.gauss(0, 0.0012)
        share = month.month / 12
        base = at(land.risk_free, month.year) * (1 - share) + share * at(
            land.risk_free, month.year + 1
        )
        end = following - timedelta(days=1)
        free = round(base + own, 4)
        points.append(_point(codes[0], end, end, free))
        points.append(_point(codes[1], end, end, round(free + land.aaa_spread, 4)))
    return series, points


def exchange_rate(random: Random, until: date = TODAY) -> Pair:
    """What one unit of the mainland's money costs in the isles', on the last day of each week."""
    points, level = [], math.log(1.42)
    day = date(FIRST_YEAR, 1, 5)
    while day <= until:
        level += 0.004 * (math.log(1.42) - level) + random.gauss(0, 0.006)
        points.append(_point(RATE, day, day, round(math.exp(level), 4)))
        day += timedelta(weeks=1)
    name = "One Thornmark krone of account in Sundrey tallers"
    return [_series(RATE, "exchange_rate", name, ISLES.currency, THORNMARK.currency)], points


class Market:
    """The isles' market: every week the mean of its payers' returns, as prices and with dividends,
    gathered while the payers go by."""

    def __init__(self) -> None:
        self._sums: dict[date, tuple[float, float, int]] = {}

    def add(self, script: Script, adjusted: dict[date, float], paid: list[Record]) -> None:
        """One payer's closes in today's shares and its payments."""
        if script.land is not ISLES:
            return
        weeks = [(d, c) for d, c in adjusted.items() if d.weekday() == 4]
        income = sorted(
            (p["ex_date"], p["amount"] / split_ratio_after(script, p["ex_date"])) for p in paid
        )
        at = 0
        for (d0, c0), (d1, c1) in pairwise(weeks):
            received = 0.0
            while at < len(income) and income[at][0] <= d1:
                received += income[at][1] if income[at][0] > d0 else 0.0
                at += 1
            price, total, n = self._sums.get(d1, (0.0, 0.0, 0))
            self._sums[d1] = (price + c1 / c0 - 1, total + (c1 + received) / c0 - 1, n + 1)

    def series(self) -> Pair:
        listed = [
            _series(MARKET, "market_index", "Sundrey market, all payers alike", ISLES.currency),
            _series(
                MARKET_TOTAL, "market_total_return", "Sundrey market with dividends", ISLES.currency
            ),
        ]
        points, price, total = [], 1000.0, 1000.0
        for day in sorted(self._sums):
            p, t, n = self._sums[day]
            price, total = price * (1 + p / n), total * (1 + t / n)
            points.append(_point(MARKET, day, day, round(price, 2)))
            points.append(_point(MARKET_TOTAL, day, day, round(total, 2)))
        return listed, points
