"""What the made-up world publishes after the demo's day: its stories walk on, from the same seed.

The world is told to its end instead of to the demo's day, and what was known by then is left out:
it is the same in both.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from datetime import date
from random import Random

from .cast import CAST
from .payments import Record
from .script import TODAY
from .world import CAST_PEERS, SEED, Extent, Records, stream

END = date(2028, 12, 29)
"""The last day of the made-up world."""
KNOWN_ON = {
    "dividends": "declared_on",
    "dividend_notices": "declared_on",
    "prices": "day",
    "statements": "published_on",
    "estimates": "published_on",
    "guidance": "published_on",
    "exposures": "published_on",
    "payer_notes": "published_on",
    "series_points": "published_on",
}
"""By table, the column of the day from which a row is known."""
MISPRINTED = 0.01
"""By what a misprinted close is off, before it is corrected the day after."""


@dataclass(frozen=True, slots=True)
class Told:
    """A row of one of the tables, and the day it is published."""

    known_on: date
    table: str
    row: Record


def tell_ahead(seed: int = SEED) -> list[Told]:
    """Everything published after the demo's day up to the end of the world, in order of days."""
    told: list[Told] = []
    for records in stream(CAST, seed, CAST_PEERS, Extent(until=END)):
        news = list(_news(records))
        prices = [t.row for t in news if t.table == "prices"]
        if prices:
            random = Random(f"{seed}:{prices[0]['symbol']}:misprint")
            news += _misprint(prices, random)
        told += news
    return sorted(told, key=lambda t: t.known_on)


def _news(records: Records) -> Iterator[Told]:
    """What of the records is published after the demo's day."""
    for table, rows in records.items():
        for row in rows if table in KNOWN_ON else ():
            known_on = row[KNOWN_ON[table]]
            if TODAY < known_on <= END:
                yield Told(known_on, table, row)


def _misprint(prices: Sequence[Record], random: Random) -> list[Told]:
    """One close a payer that was said wrong the day before and is now put right: the row of its
    day is changed to the misprint, and comes again as it should be."""
    at = random.randrange(len(prices) - 1)
    right = dict(prices[at])
    prices[at]["close"] = round(right["close"] * (1 + MISPRINTED), 4)
    return [Told(prices[at + 1]["day"], "prices", right)]
