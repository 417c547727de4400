"""Weekly prices and the price index of the made-up world."""

from __future__ import annotations

import math
from datetime import date, timedelta
from random import Random

from .payments import Record, owner, split_ratio_after
from .scripts import CURRENCY, INFLATION, SLUMPS, TODAY, YEARS, Script

FIRST_FRIDAY = date(2001, 7, 6)
PULL = 0.975
SHOCK = 0.021


def fridays() -> list[date]:
    weeks = (TODAY - FIRST_FRIDAY).days // 7
    return [FIRST_FRIDAY + timedelta(weeks=i) for i in range(weeks + 1)]


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


def market_noise(random: Random) -> dict[date, float]:
    """One wandering mood shared by all payers."""
    level, found = 0.0, {}
    for day in fridays():
        level = 0.985 * level + random.gauss(0, 0.012)
        found[day] = level
    return found


def _priced_rate(script: Script, day: date) -> float:
    """The dividend the market has in mind, moving smoothly between mid-years."""
    rates = script.worth_rate or script.rate
    t = day.year + (day.timetuple().tm_yday - 1) / 365.25 + 0.5
    year = int(t)
    first = rates[min(max(year - 1, YEARS[0]), YEARS[-1])]
    second = rates[min(max(year, YEARS[0]), YEARS[-1])]
    return math.exp(math.log(first) + (t - year) * (math.log(second) - math.log(first)))


def closes(script: Script, mood: dict[date, float], random: Random) -> dict[date, float]:
    """Friday closes in today's shares: the priced dividend at a yield that wanders about its
    base, rises in slumps and is pulled back."""
    own, found = random.gauss(0, 0.08), {}
    for day in fridays():
        own = PULL * own + random.gauss(0, SHOCK)
        drop = min(slump_depth(day) * script.beta, 0.75)
        fair = _priced_rate(script, day) / script.base_yield
        found[day] = fair * math.exp(own + script.beta * mood[day]) * (1 - drop)
    if script.listed is not None:
        return {d: c for d, c in found.items() if d >= script.listed}
    return found


def price_records(script: Script, adjusted: dict[date, float]) -> list[Record]:
    """Closes as traded: in the shares of their day."""
    return [
        owner(script)
        | {
            "day": day,
            "close": round(close * split_ratio_after(script, day), 2),
            "volume": None,
        }
        for day, close in adjusted.items()
    ]


def price_index_records(random: Random) -> tuple[list[Record], list[Record]]:
    code = "SUNDREY-PRICES"
    series = {
        "code": code,
        "kind": "price_index",
        "name": "Sundrey Isles price index",
        "currency": CURRENCY,
        "of_currency": None,
    }
    value, points = 100.0, []
    month = date(2000, 1, 1)
    while month < date(TODAY.year, 6, 1):
        following = (month + timedelta(days=32)).replace(day=1)
        yearly = INFLATION.get(month.year, 0.024)
        season = 0.0015 * math.sin(month.month * math.pi / 6)
        value *= (1 + yearly) ** (1 / 12)
        points.append(
            {
                "code": code,
                "day": month,
                "published_on": following + timedelta(days=16 + random.randrange(4)),
                "value": round(value * (1 + season), 1),
            }
        )
        month = following
    return [series], points
