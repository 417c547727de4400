"""All facts of the made-up world, from a seed: the same seed gives the same bytes."""

from __future__ import annotations

from datetime import date
from random import Random

from .books import statements
from .market import closes, market_noise, price_index_records, price_records
from .payments import Record, dividends, notices, owner, splits
from .scripts import COUNTRY, CURRENCY, SCRIPTS, SLUMPS, Script

SEED = 20260630
FIRST_NOTE = date(2001, 1, 2)


def build_world(seed: int = SEED) -> dict[str, list[Record]]:
    """Records by table, ready for the store. Each payer draws from its own generator, so a change
    to one leaves the others as they were."""
    mood = market_noise(Random(f"{seed}:market"))
    series, points = price_index_records(Random(f"{seed}:prices"))
    world: dict[str, list[Record]] = {
        name: []
        for name in (
            "payers", "payer_notes", "dividends", "dividend_notices", "splits", "prices",
            "statements",
        )
    }  # fmt: skip
    world["series"], world["series_points"] = series, points
    world["slumps"] = [{"name": n, "begins": b, "ends": e} for n, b, e, _ in SLUMPS]
    for script in SCRIPTS:
        random = Random(f"{seed}:{script.symbol}")
        paid = dividends(script, random)
        adjusted = closes(script, mood, random)
        world["payers"].append(_payer(script))
        world["payer_notes"] += _notes(script)
        world["dividends"] += paid
        world["dividend_notices"] += notices(script)
        world["splits"] += splits(script)
        world["prices"] += price_records(script, adjusted)
        world["statements"] += statements(script, paid, adjusted, random)
    return world


def _payer(script: Script) -> Record:
    return owner(script) | {
        "name": script.name,
        "kind": script.kind,
        "country": COUNTRY,
        "currency": CURRENCY,
        "fiscal_year_end_month": 12,
        "rhythm": None,
        "evenness": None,
        "description": script.description,
        "listed_on": script.listed,
        "delisted_on": None,
    }


def _notes(script: Script) -> list[Record]:
    known = script.listed or FIRST_NOTE
    return [
        owner(script) | {"field": field, "published_on": known, "value": value}
        for field, value in (("sector", script.sector), ("industry", script.industry))
    ]
