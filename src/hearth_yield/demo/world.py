"""All facts of the made-up world, from a seed: the same seed gives the same bytes.

Payers go by one at a time, so that a world of any size is never held whole.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass, replace
from datetime import date
from random import Random

from hearth_yield.core.facts.isin import with_check_digit

from .accounts import Quarter
from .books import quarter_ends, quarters
from .cast import CAST
from .economy import Economy, Weather
from .exposures import exposures
from .forecasts import Analysts, estimates, guidance
from .indices import Market, Pair, exchange_rate, price_index, yields
from .market import DAILY_FROM, closes, price_records, trading_days
from .operations import Operation, operations
from .opinions import Peers, notes, peers_of
from .payments import Record, dividends, notices, owner, splits
from .reports import Reported, reported, statements
from .script import FIRST_YEAR, LANDS, SLUMPS, TODAY, Script

SEED = 20260630
CAST_PEERS = peers_of(CAST)
QUARTERS_FROM = 2014
Records = dict[str, list[Record]]


@dataclass(frozen=True, slots=True, kw_only=True)
class Extent:
    """How much of the world is told: from when, from when by the day and by the quarter, and to
    when."""

    first_year: int = FIRST_YEAR
    daily_from: date = DAILY_FROM
    quarters_from: int = QUARTERS_FROM
    until: date = TODAY


DEMO = Extent()


@dataclass(frozen=True, slots=True, kw_only=True)
class Life:
    """What a story comes to: the business, the dividends, the closes in today's shares, the
    books and the days on which they are published."""

    script: Script
    business: list[Operation]
    reported: list[Reported]
    paid: list[Record]
    closes: dict[date, float]
    books: list[Quarter]


class World:
    """What the payers share; the payers go by one at a time."""

    def __init__(self, seed: int, peers: Peers, extent: Extent = DEMO) -> None:
        self.seed, self.peers, self.extent = seed, peers, extent
        self.economy = Economy(seed)
        days = trading_days(extent.first_year, extent.daily_from, extent.until)
        self.weather = Weather(seed, days)
        self.market = Market()

    def life(self, story: Script) -> Life:
        """How one fares, to the last day. It draws from generators of its own, in the order of
        days: a change to one payer leaves the others as they were, and a world that is told further
        leaves what was known before as it was."""
        first_year = self.extent.first_year
        script = replace(story, until=self.extent.until)
        ends = quarter_ends(first_year, script)
        business = operations(script, self.economy, ends, self._draw(script, "business"))
        paid = dividends(script, first_year, self._draw(script, "dividends"))
        paid = [p for p in paid if p["ex_date"] <= script.last_day or not script.delisted]
        days = reported(script, ends, self._draw(script, "reports"))
        adjusted = closes(script, self.weather, business, days, self._draw(script, "prices"))
        books = quarters(script, business, paid, adjusted, self._draw(script, "books"))
        return Life(
            script=script, business=business, reported=days, paid=paid, closes=adjusted, books=books
        )

    def _draw(self, script: Script, what: str) -> Random:
        return Random(f"{self.seed}:{script.symbol}:{what}")

    def payer(self, story: Script) -> Records:
        """All that is known of one by the last day; adds it to the market."""
        life = self.life(story)
        script, books = life.script, life.books
        analysts = Analysts(script, life.business, books, life.reported, life.paid)
        self.market.add(script, life.closes, life.paid)
        first, quarterly = self.extent.first_year, self.extent.quarters_from
        return {
            "payers": [_payer(script)],
            "payer_notes": notes(script, first, self.peers, self._draw(script, "notes")),
            "dividends": life.paid,
            "dividend_notices": notices(script),
            "splits": splits(script),
            "prices": price_records(script, life.closes),
            "statements": statements(script, books, life.reported, quarterly),
            "estimates": estimates(script, analysts, self._draw(script, "estimates")),
            "guidance": guidance(script, self.economy, analysts, self._draw(script, "guidance")),
            "exposures": exposures(script, life.reported, self._draw(script, "exposures")),
        }


def stream(
    scripts: Iterable[Script] = CAST,
    seed: int = SEED,
    peers: Peers = CAST_PEERS,
    extent: Extent = DEMO,
) -> Iterator[Records]:
    """Records by table, ready for the store: what is shared, each payer, and last the market made
    from them. scripts are gone through once, so whose peers are whose must be known before."""
    yield shared(seed, extent.until)
    world = World(seed, peers, extent)
    for script in scripts:
        yield world.payer(script)
    yield as_records([world.market.series()])


def build_world(seed: int = SEED) -> Records:
    """The demo's world whole."""
    world: Records = {}
    for part in stream(seed=seed):
        for name, rows in part.items():
            world.setdefault(name, []).extend(rows)
    return world


def shared(seed: int, until: date = TODAY) -> Records:
    """Series of the made-up world as they are known by a day, and its slumps."""
    pairs = [exchange_rate(Random(f"{seed}:exchange"), until)]
    for land in LANDS:
        pairs.append(price_index(land, Random(f"{seed}:{land.index_code}"), until))
        pairs.append(yields(land, Random(f"{seed}:{land.currency}:yields"), until))
    slumps = [{"name": n, "begins": b, "ends": e} for n, b, e, _ in SLUMPS]
    return as_records(pairs) | {"slumps": slumps}


def shared_series() -> list[Record]:
    """What the series of the world are, the market's among them."""
    return shared(SEED)["series"] + as_records([Market().series()])["series"]


def as_records(pairs: list[Pair]) -> Records:
    return {
        "series": [s for series, _ in pairs for s in series],
        "series_points": [p for _, points in pairs for p in points],
    }


def _isin(script: Script) -> str:
    """Of a made-up country: ISO leaves its code to whoever wants one."""
    own = "".join(c for c in script.symbol.upper() if c.isascii() and c.isalnum())
    return with_check_digit(f"{script.land.isin}{own[:9]:0>9}")


def _payer(script: Script) -> Record:
    return owner(script) | {
        "name": script.name,
        "isin": _isin(script),
        "kind": script.kind,
        "country": script.land.name,
        "currency": script.land.currency,
        "fiscal_year_end_month": 12,
        "rhythm": None,
        "evenness": None,
        "description": script.description,
        "listed_on": script.listed,
        "delisted_on": script.delisted,
    }
