"""What the made-up world publishes after the demo's day: its stories walk on, from the same seed.

What was known by the demo's day stands as it is; each payer goes on from its last price and books
with a generator of its own.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta
from random import Random
from typing import Any

from .books import quarters, statements
from .cast import CAST
from .forecasts import actuals, estimates, exposures, guidance
from .indices import Market
from .market import closes, closes_after, fridays, market_noise, price_records, weeks
from .opinions import notes
from .payments import Record, dividends, notices
from .script import FIRST_YEAR, TODAY, Script, path
from .world import CAST_PEERS, SEED, Records, as_records, shared

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
TURNS: Mapping[str, Mapping[str, Any]] = {
    "WKTG": {
        "cut": (date(2026, 10, 22), date(2026, 12, 10), 0.40),
        "worth_rate": path(0.9, {1997: 0.004, 2026: -0.22, 2027: -0.18, 2028: 0.0}),
    },
    "HRWO": {"suspended": (date(2027, 2, 18), date(2028, 3, 16))},
    "PKRC": {"fortunes": {2026: 0.72, 2027: 0.64}},
    "BRDM": {"specials": {2026: 0.35}},
}
"""What becomes of some of them, in the words of a Script."""
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
    days = fridays(FIRST_YEAR)
    later_days = weeks(TODAY + timedelta(days=1), END)
    noise = market_noise(days, Random(f"{seed}:market"))
    later_noise = market_noise(later_days, Random(f"{seed}:market:ahead"))
    market = Market()
    told: list[Told] = []
    for script in CAST:
        if script.delisted:
            continue
        told += _payer(script, seed, (days, noise), (later_days, later_noise), market)
    series = shared(seed, END)["series_points"] + as_records([market.series()])["series_points"]
    told += _news({"series_points": series})
    return sorted(told, key=lambda t: t.known_on)


Weeks = tuple[Sequence[date], tuple[list[float], list[float]]]


def _payer(script: Script, seed: int, past: Weeks, ahead: Weeks, market: Market) -> list[Told]:
    """One payer's; adds it to the market."""
    random = Random(f"{seed}:{script.symbol}")
    later = Random(f"{seed}:{script.symbol}:ahead")
    paid = dividends(script, FIRST_YEAR, random)
    adjusted = closes(script, *past, random)
    told = replace(script, until=END, **TURNS.get(script.symbol, {}))
    paid = paid + _payments(told, paid, later)
    last = max(adjusted)
    onward = closes_after(told, (last, adjusted[last]), *ahead, later)
    books = quarters(told, paid, adjusted | onward, FIRST_YEAR, random)
    known = actuals(told, books)
    market.add(script, adjusted | onward, paid)
    prices = price_records(told, onward)
    found = _news(
        {
            "dividends": paid,
            "dividend_notices": notices(told),
            "prices": prices,
            "statements": statements(told, books, later),
            "estimates": estimates(told, known, later),
            "guidance": guidance(told, known),
            "exposures": exposures(told, books),
            "payer_notes": [
                n
                for n in notes(
                    told, FIRST_YEAR, CAST_PEERS, Random(f"{seed}:{script.symbol}:notes")
                )
                if n["field"] == "credit_rating"
            ],
        }
    )
    return [*found, *_misprint(prices, later)]


def _payments(told: Script, paid: Sequence[Record], random: Random) -> list[Record]:
    """Those declared after the demo's day; a slot that is declared already stands as it is."""
    held = {(p["kind"], p["ex_date"].year, p["ex_date"].month) for p in paid}
    return [
        p
        for p in dividends(told, TODAY.year, random)
        if p["declared_on"] > TODAY
        and (p["kind"], p["ex_date"].year, p["ex_date"].month) not in held
    ]


def _news(records: Records) -> Iterator[Told]:
    """What of the records is published after the demo's day."""
    for table, rows in records.items():
        for row in rows:
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
