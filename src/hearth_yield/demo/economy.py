"""The weather all payers share: how the economy and each trade went, quarter by quarter, and the
moods of the market, day by day."""

from __future__ import annotations

import math
from collections.abc import Sequence
from datetime import date, timedelta
from functools import cached_property
from itertools import pairwise
from random import Random

from .script import SLUMPS, YEARS, Land, at
from .trades import TRADES

QUARTER_ENDS = ((3, 31), (6, 30), (9, 30), (12, 31))
ENDS = tuple(date(y, m, d) for y in YEARS for m, d in QUARTER_ENDS)
RESULTS_LAG = timedelta(days=75)
"""By which results follow prices into a slump."""
HEALING = 1.3
"""Lengths of a slump until its results have healed."""
LENT_FOR = 6
"""Years that a loan at a fixed rate runs."""
SPREAD = 0.016
COMMON = 0.6
"""How much of a trade's cycle is the economy's."""


def wandering(random: Random, pull: float, steps: int) -> list[float]:
    """A first-order autoregression that keeps to a spread of one."""
    level, found = random.gauss(0, 1), []
    for _ in range(steps):
        level = pull * level + math.sqrt(1 - pull * pull) * random.gauss(0, 1)
        found.append(level)
    return found


class Economy:
    """The same to the end of the world, whatever day the stories are told to."""

    def __init__(self, seed: int) -> None:
        self._seed = seed
        self._trades: dict[str, tuple[list[float], list[float]]] = {}

    @cached_property
    def _common(self) -> list[float]:
        return wandering(Random(f"{self._seed}:economy"), 0.88, len(ENDS))

    def _trade(self, industry: str) -> tuple[list[float], list[float]]:
        """Its cycle and its input costs, by quarter."""
        if industry not in self._trades:
            random = Random(f"{self._seed}:trade:{industry}")
            own = wandering(random, 0.87, len(ENDS))
            rest = math.sqrt(1 - COMMON * COMMON)
            cycle = [COMMON * e + rest * t for e, t in zip(self._common, own, strict=True)]
            self._trades[industry] = (cycle, wandering(random, 0.86, len(ENDS)))
        return self._trades[industry]

    def demand(self, industry: str, quarter: int) -> float:
        """By what a quarter's revenue stands off its plan, as a logarithm. quarter: among ENDS."""
        trade = TRADES[industry]
        lost = sum(
            worst * _slump_share(begins, ends, ENDS[quarter])
            for worst, (_, begins, ends, _) in zip(trade.lost, SLUMPS, strict=True)
        )
        return trade.cycle * self._trade(industry)[0][quarter] - lost

    def costs(self, industry: str, quarter: int) -> float:
        """The trade's own input costs against plan, spread one."""
        return self._trade(industry)[1][quarter]


def _slump_share(begins: date, ends: date, day: date) -> float:
    """How much of a slump's loss stands in the results of a quarter, from 0 to 1."""
    t = (day - RESULTS_LAG - begins) / (ends - begins)
    if t <= 0:
        return 0.0
    return t if t < 1 else max(1 - (t - 1) / HEALING, 0.0)


def borrowing_rates(land: Land, day: date) -> tuple[float, float]:
    """What old loans at a fixed rate cost, and what floating ones cost now, a year."""
    free = [at(land.risk_free, max(day.year - back, YEARS[0])) for back in range(LENT_FOR)]
    return sum(free) / LENT_FOR + SPREAD, max(free[0], 0.0) + SPREAD


MARKET_SHOCK, MARKET_PULL = 0.0215, 0.991
TRADE_SHOCK, TRADE_PULL = 0.012, 0.985


def fat(random: Random) -> float:
    """A shock with fat tails and a spread of one: seldom three times as large."""
    return random.gauss(0, 1) * (2.6 if random.random() < 0.07 else 0.79)


def moods(weeks: Sequence[float], shock: float, pull: float, random: Random) -> list[float]:
    """A level that wanders and is pulled back, as a logarithm. weeks: since the day before; shock,
    pull: of a week."""
    by_step = {w: (pull**w, shock * math.sqrt(w)) for w in set(weeks)}
    level, found = 0.0, []
    for step in weeks:
        stays, moves = by_step[step]
        level = stays * level + moves * fat(random)
        found.append(level)
    return found


def trading_weeks(days: Sequence[date]) -> list[float]:
    """Before each day, in weeks of five trading days: prices come weekly or daily."""
    return [1.0, *(1.0 if (b - a).days >= 7 else 0.2 for a, b in pairwise(days))]


class Weather:
    """Moods of the market and of its trades on the days that have prices."""

    def __init__(self, seed: int, days: Sequence[date]) -> None:
        self.days = days
        self.times = [d.year + (d.timetuple().tm_yday - 1) / 365.25 for d in days]
        self.weeks = trading_weeks(days)
        self._seed = seed
        self._market = moods(self.weeks, MARKET_SHOCK, MARKET_PULL, Random(f"{seed}:everyone"))
        self._depths = [[_depth(*slump[1:], day) for slump in SLUMPS] for day in days]
        self._trades: dict[str, tuple[list[float], list[float]]] = {}

    def of(self, industry: str, beta: float) -> list[float]:
        """What the market and the trade add to each day's price, as a logarithm."""
        trade, falls = self._of_trade(industry)
        return [
            beta * market + mood + (math.log(1 - min(fall * beta, 0.8)) if fall else 0.0)
            for market, mood, fall in zip(self._market, trade, falls, strict=True)
        ]

    def _of_trade(self, industry: str) -> tuple[list[float], list[float]]:
        if industry not in self._trades:
            random = Random(f"{self._seed}:moods:{industry}")
            fall = TRADES[industry].fall
            falls = [sum(d * f for d, f in zip(depth, fall, strict=True)) for depth in self._depths]
            self._trades[industry] = (moods(self.weeks, TRADE_SHOCK, TRADE_PULL, random), falls)
        return self._trades[industry]


def _depth(begins: date, ends: date, worst: float, day: date) -> float:
    """How far a slump has the market below its level: worst at two thirds, then healing over twice
    as long."""
    t = (day - begins) / (ends - begins)
    if 0 <= t < 2 / 3:
        return worst * t * 1.5
    return worst * (2 - t) * 0.75 if 2 / 3 <= t < 2 else 0.0
