"""Prices of the made-up payers: Fridays at first, and every weekday later."""

from __future__ import annotations

import math
from collections.abc import Sequence
from datetime import date, timedelta
from functools import cache
from random import Random

from .economy import Weather, fat
from .operations import Operation
from .payments import Record, owner, split_ratio_after
from .reports import Reported
from .script import YEARS, Script, at

SHOCK, PULL = 0.025, 0.982
"""Of a week: what the price of a payer of beta 1 moves by itself, and how much of it stays."""
HEEDS = 0.38
"""How much of a profit above or below its plan, as a logarithm, the price shows."""
ON_RESULTS = 0.028
"""Spread of the jump on the day of results."""
ON_A_CUT = -0.12
DAILY_FROM = date(2024, 7, 1)


@cache
def trading_days(first_year: int, daily_from: date, until: date) -> tuple[date, ...]:
    """Every Friday, and every weekday from a day on."""
    day = date(first_year, 1, 1)
    every = (day + timedelta(days=n) for n in range((until - day).days + 1))
    return tuple(d for d in every if d.weekday() == 4 or (d >= daily_from and d.weekday() < 5))


def _plans(script: Script, times: Sequence[float]) -> list[float]:
    """The logarithm of the price that is planned: the dividend the market has in mind over the
    yield it asks, moving smoothly between mid-years."""
    rates = script.worth_rate or script.rate
    logs = [math.log(rates[y] / at(script.base_yield, y)) for y in YEARS]
    found = []
    for time in times:
        t = max(time - 0.5 - YEARS[0], 0.0)
        year = int(t)
        found.append(logs[year] + (t - year) * (logs[year + 1] - logs[year]))
    return found


def _heard(
    script: Script, business: Sequence[Operation], days: Sequence[Reported], random: Random
) -> list[_News]:
    """What the market learns of the payer, in order of days."""
    news: list[_News] = []
    for i, own in enumerate(days):
        if own.results in (date.max, *(d.results for d in days[i + 1 : i + 2])):
            continue
        lately = business[max(i - 3, 0) : i + 1]
        planned = sum(q.planned for q in lately)
        off = sum(q.profit for q in lately) / planned - 1
        news.append((own.results, HEEDS * min(max(off, -0.75), 0.75), ON_RESULTS * fat(random)))
    for told in (script.cut, script.suspended):
        if told is not None:
            news.append((told[0], None, ON_A_CUT))
    return sorted(news, key=lambda n: n[0])


_News = tuple[date, float | None, float]
"""A day, where the price stands for what is earned from then on, and a jump."""


def closes(
    script: Script,
    weather: Weather,
    business: Sequence[Operation],
    days: Sequence[Reported],
    random: Random,
) -> dict[date, float]:
    """Closes in today's shares: the priced dividend at a yield that wanders about its base with
    the market, the trade and the payer's own results, and is pulled back."""
    news = _heard(script, business, days, Random(random.random()))
    own, stands, at_hand = random.gauss(0, 0.12), 0.0, 0
    shock = SHOCK * (0.35 + 0.65 * script.beta)
    by_step = {w: (PULL**w, shock * math.sqrt(w)) for w in set(weather.weeks)}
    plans = _plans(script, weather.times)
    found: dict[date, float] = {}
    for day, weeks, plan, mood in zip(
        weather.days, weather.weeks, plans, weather.of(script.industry, script.beta), strict=True
    ):
        stays, moves = by_step[weeks]
        own = stays * own + moves * fat(random)
        while at_hand < len(news) and news[at_hand][0] <= day:
            _, heeded, jump = news[at_hand]
            stands, own, at_hand = stands if heeded is None else heeded, own + jump, at_hand + 1
        found[day] = math.exp(plan + own + stands + mood)
    first = script.listed or date.min
    return {d: c for d, c in found.items() if first <= d <= script.last_day}


def price_records(script: Script, adjusted: dict[date, float]) -> list[Record]:
    """Closes as traded: in the shares of their day."""
    name = owner(script)
    return [
        {
            **name,
            "day": day,
            "close": _cents(close * split_ratio_after(script, day)),
            "volume": None,
        }
        for day, close in adjusted.items()
    ]


def _cents(close: float) -> float:
    return round(close, 2 if close >= 2 else 4)
