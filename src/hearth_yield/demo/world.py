"""All facts of the made-up world, from a seed: the same seed gives the same bytes.

Payers go by one at a time, so that a world of any size is never held whole.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from datetime import date
from random import Random

from hearth_yield.core.facts.isin import with_check_digit

from .books import quarters, statements
from .cast import CAST
from .forecasts import actuals, estimates, exposures, guidance
from .indices import Market, Pair, exchange_rate, price_index, yields
from .market import closes, fridays, market_noise, price_records
from .opinions import Peers, notes, peers_of
from .payments import Record, dividends, notices, owner, splits
from .script import FIRST_YEAR, LANDS, SLUMPS, TODAY, Script

SEED = 20260630
CAST_PEERS = peers_of(CAST)
Records = dict[str, list[Record]]


def stream(
    scripts: Iterable[Script] = CAST,
    seed: int = SEED,
    first_year: int = FIRST_YEAR,
    peers: Peers = CAST_PEERS,
) -> Iterator[Records]:
    """Records by table, ready for the store: what is shared, each payer, and last the market made
    from them. Each payer draws from its own generator, so a change to one leaves the others as
    they were. scripts are gone through once, so whose peers are whose must be known before."""
    yield shared(seed)
    days = fridays(first_year)
    noise = market_noise(days, Random(f"{seed}:market"))
    market = Market()
    for script in scripts:
        random = Random(f"{seed}:{script.symbol}")
        paid = dividends(script, first_year, random)
        adjusted = closes(script, days, noise, random)
        paid = [p for p in paid if p["ex_date"] <= script.last_day or not script.delisted]
        books = quarters(script, paid, adjusted, first_year, random)
        known = actuals(script, books)
        market.add(script, adjusted, paid)
        yield {
            "payers": [_payer(script)],
            "payer_notes": notes(
                script, first_year, peers, Random(f"{seed}:{script.symbol}:notes")
            ),
            "dividends": paid,
            "dividend_notices": notices(script),
            "splits": splits(script),
            "prices": price_records(script, adjusted),
            "statements": statements(script, books, random),
            "estimates": estimates(script, known, random),
            "guidance": guidance(script, known),
            "exposures": exposures(script, books),
        }
    yield as_records([market.series()])


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
