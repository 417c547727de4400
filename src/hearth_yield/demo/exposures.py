"""Where the money comes from: shares of revenue or rent by segment, region and tenant."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date
from random import Random

from .payments import Record, owner
from .reports import Reported
from .script import LAST_YEAR, YEARS, Script

EXPOSED_YEARS = 5
PARTS = 10_000
"""Shares are whole parts of this, so that they sum to one."""


def exposures(script: Script, days: Sequence[Reported], random: Random) -> list[Record]:
    """Of the last fiscal years; each part goes its own way a little, about what the story says of
    the last year."""
    home = ((script.land.name, 0.8), ("Elsewhere", 0.2))
    published_in = {d.end.year: d.full for d in days if d.end.month == 12}
    found = []
    for basis, parts in (
        ("segment", script.segments or ((script.industry, 0.85), ("Other trades", 0.15))),
        ("region", script.regions or home),
        ("tenant", script.tenants),
    ):
        trends = [random.uniform(-0.03, 0.03) for _ in parts]
        for year in range(LAST_YEAR - EXPOSED_YEARS + 1, YEARS[-1] + 1):
            chances = [random.gauss(0, 0.012) * (year != LAST_YEAR) for _ in parts]
            published = published_in.get(year, date.max)
            if not (script.listed or published) <= published <= script.last_day:
                continue
            weights = [
                share * (1 + trend * (year - LAST_YEAR) + chance)
                for (_, share), trend, chance in zip(parts, trends, chances, strict=True)
            ]
            for (name, _), share in zip(parts, _whole(weights), strict=True):
                found.append(
                    owner(script)
                    | {
                        "fiscal_year": year,
                        "basis": basis,
                        "name": name,
                        "published_on": published,
                        "share": share,
                    }
                )
    return found


def _whole(weights: Sequence[float]) -> list[float]:
    """As shares that sum to one; what rounding leaves falls on the last."""
    parts = [round(PARTS * w / sum(weights)) for w in weights]
    parts = [*parts[:-1], PARTS - sum(parts[:-1])] if parts else parts
    return [p / PARTS for p in parts]
