"""Prices of the made-up payers: Fridays throughout, and every weekday of the last two years."""

from __future__ import annotations

import math
from collections.abc import Sequence
from datetime import date, timedelta
from functools import cache
from random import Random

from .payments import Record, owner, split_ratio_after
from .script import SLUMPS, TODAY, YEARS, Script, at

PULL = 0.975
SHOCK = 0.021
DAY_SHOCK = 0.006
DAILY_FROM = date(2024, 7, 1)


@cache
def fridays(first_year: int) -> tuple[date, ...]:
    return weeks(date(first_year, 1, 5), TODAY)


def weeks(first: date, last: date) -> tuple[date, ...]:
    """Every Friday from one day to another."""
    first += timedelta(days=(4 - first.weekday()) % 7)
    return tuple(first + timedelta(weeks=i) for i in range((last - first).days // 7 + 1))


def slump_depth(day: date) -> float:
    """How far the market stands below its level, 0 outside slumps; worst at two thirds, then
    healing over as long again."""
    depth = 0.0
    for _, begins, ends, worst in SLUMPS:
        t = (day - begins).days / (ends - begins).days
        if 0 <= t < 2 / 3:
            depth = max(depth, worst * t * 1.5)
        elif 2 / 3 <= t < 2:
            depth = max(depth, worst * (2 - t) * 0.75)
    return depth


def market_noise(days: Sequence[date], random: Random) -> tuple[list[float], list[float]]:
    """One wandering mood shared by all payers, and the depth of the slumps, for each day."""
    level, mood = 0.0, []
    for _ in days:
        level = 0.985 * level + random.gauss(0, 0.012)
        mood.append(level)
    return mood, [slump_depth(d) for d in days]


def _priced_rates(script: Script, days: Sequence[date]) -> list[float]:
    """The yearly price plan: the dividend the market has in mind over the yield it asks, moving
    smoothly between mid-years."""
    rates = script.worth_rate or script.rate
    logs = [math.log(rates[y] / at(script.base_yield, y)) for y in YEARS]
    found = []
    for day in days:
        t = day.year + (day.timetuple().tm_yday - 1) / 365.25 + 0.5
        year = int(t)
        first = logs[min(max(year - 1 - YEARS[0], 0), len(logs) - 1)]
        second = logs[min(max(year - YEARS[0], 0), len(logs) - 1)]
        found.append(math.exp(first + (t - year) * (second - first)))
    return found


def closes(
    script: Script, days: Sequence[date], noise: tuple[list[float], list[float]], random: Random
) -> dict[date, float]:
    """Closes in today's shares, on Fridays, and on weekdays from DAILY_FROM: the priced dividend
    at a yield that wanders about its base, rises in slumps and is pulled back."""
    weekly = _weekly(script, days, noise, random.gauss(0, 0.08), random)
    found: dict[date, float] = {}
    before: tuple[date, float] | None = None
    for day, close in weekly.items():
        if before is not None and day > DAILY_FROM:
            found |= _weekdays(before, (day, close), random)
        found[day] = close
        before = (day, close)
    if before is not None and before[0] < TODAY:
        found |= _weekdays(before, (TODAY + timedelta(days=1), before[1]), random)
    first = script.listed or date.min
    return {d: c for d, c in found.items() if first <= d <= script.last_day}


def closes_after(
    script: Script,
    last: tuple[date, float],
    days: Sequence[date],
    noise: tuple[list[float], list[float]],
    random: Random,
) -> dict[date, float]:
    """Closes of every weekday after the last known one, which the price walks on from. noise: of
    the days, the mood beginning anew."""
    plan = _priced_rates(script, [last[0]])[0]
    found: dict[date, float] = {}
    before = last
    for friday in _weekly(script, days, noise, math.log(last[1] / plan), random).items():
        found |= _weekdays(before, friday, random)
        found[friday[0]] = friday[1]
        before = friday
    return found


def _weekly(
    script: Script,
    days: Sequence[date],
    noise: tuple[list[float], list[float]],
    own: float,
    random: Random,
) -> dict[date, float]:
    """own: by what the price stands off its plan before the first day, as a logarithm."""
    found = {}
    for day, plan, mood, depth in zip(days, _priced_rates(script, days), *noise, strict=True):
        own = PULL * own + random.gauss(0, SHOCK)
        drop = min(depth * script.beta, 0.75)
        found[day] = plan * math.exp(own + script.beta * mood) * (1 - drop)
    return found


def _weekdays(
    before: tuple[date, float], after: tuple[date, float], random: Random
) -> dict[date, float]:
    """Closes strictly between two days: on the line between them, shaken."""
    span = (after[0] - before[0]).days
    found = {}
    for n in range(1, span):
        day = before[0] + timedelta(days=n)
        if day.weekday() < 5:
            line = before[1] * (after[1] / before[1]) ** (n / span)
            found[day] = line * math.exp(random.gauss(0, DAY_SHOCK))
    return found


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
