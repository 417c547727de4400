"""What others say of a payer: its credit rating over the years, who holds it, and its peers."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from datetime import date, timedelta
from random import Random

from .payments import Record, owner
from .script import Script, at

SCALE = ("AAA", "AA+", "AA", "AA-", "A+", "A", "A-", "BBB+", "BBB", "BBB-", "BB+", "BB", "BB-")
LEAST_ANALYSTS = 4
"""Payers that fewer follow have no rating."""
MOST_PEERS = 4
Peers = Mapping[str, Sequence[str]]


def peers_of(scripts: Sequence[Script]) -> dict[str, list[str]]:
    """By symbol, the other payers of its industry that are still listed, as EXCHANGE/SYMBOL."""
    return {
        s.symbol: [
            f"{o.land.exchange}/{o.symbol}"
            for o in scripts
            if o.industry == s.industry and o is not s and not o.delisted
        ][:MOST_PEERS]
        for s in scripts
    }


def notes(script: Script, first_year: int, peers: Peers, random: Random) -> list[Record]:
    """Sector, industry, ownership, peers and ratings, each from the day it was said."""
    known = script.listed or date(first_year, 1, 2)
    lately = max(known, date(2025, 12, 31))
    told = [
        ("sector", known, script.sector),
        ("industry", known, script.industry),
        ("ownership", lately, f"{script.ownership:.2f}"),
        *(("credit_rating", day, grade) for day, grade in ratings(script, first_year, random)),
    ]
    if peers.get(script.symbol):
        told.append(("peers", lately, ", ".join(peers[script.symbol])))
    return [
        owner(script) | {"field": field, "published_on": day, "value": value}
        for field, day, value in told
    ]


def ratings(script: Script, first_year: int, random: Random) -> Iterable[tuple[date, str]]:
    """As the story says; else one early rating and, where debt or payout moved, later ones."""
    if script.ratings or script.analysts < LEAST_ANALYSTS:
        return script.ratings
    day = (script.listed or date(first_year, 1, 2)) + timedelta(days=random.randrange(400, 3000))
    found: list[tuple[date, str]] = []
    while day < script.last_day:
        grade = SCALE[_notch(script, day.year)]
        if not found or found[-1][1] != grade:
            found.append((day, grade))
        day += timedelta(days=random.randrange(900, 1500))
    return found


def _notch(script: Script, year: int) -> int:
    """Worse with debt (in years of revenue) and with the share of earnings paid out."""
    plain = 1.6 if script.kind == "company" else 0.4
    strain = plain * at(script.debt, year) + 6 * (at(script.payout, year) - 0.45)
    return round(min(max(4 + strain, 0), len(SCALE) - 1))
