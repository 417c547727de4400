"""Draw a level or a sloping line on a payer's price, move it, take it away."""

from __future__ import annotations

import math
from collections.abc import Sequence
from datetime import date

from hearth_yield.core.errors import InvalidInput
from hearth_yield.core.range.lines import PriceLine
from hearth_yield.store import price_lines
from hearth_yield.store.database import Edition

from .review_cache import ReviewCache

MAX_NAME = 60
MAX_LINES = 50
MAX_PRICE = 1e9


def lines_of(
    cache: ReviewCache, exchange: str, symbol: str, as_of: date, at: Edition
) -> Sequence[PriceLine]:
    """In the shares of the day. Raises NotFound without such a payer."""
    file = cache.cut_file(at, exchange, symbol, as_of)
    with cache.database.read() as connection:
        held = price_lines.of_payer(connection, exchange, symbol)
    return [x.in_todays(file.splits) for x in held]


def draw_line(
    cache: ReviewCache, exchange: str, symbol: str, as_of: date, at: Edition, drawn: PriceLine
) -> int:
    """Keep a line, new or moved. Returns its id.

    Raises InvalidInput for one that cannot be, NotFound where it or the payer is not held.
    """
    for name, price in (("first_price", drawn.first_price), ("last_price", drawn.last_price)):
        if not (math.isfinite(price) and 0 < price <= MAX_PRICE):
            raise InvalidInput(
                "a price must be above 0", field=name, value=price, rule="a price above 0"
            )
    if drawn.first_day >= drawn.last_day:
        raise InvalidInput(
            "a line goes from one day to a later one",
            field="last_day",
            value=drawn.last_day.isoformat(),
            rule=f"after {drawn.first_day.isoformat()}",
        )
    if len(drawn.name) > MAX_NAME:
        raise InvalidInput(
            "the name is too long",
            field="name",
            value=drawn.name,
            rule=f"at most {MAX_NAME} characters",
        )
    held = lines_of(cache, exchange, symbol, as_of, at)
    if not drawn.id and len(held) >= MAX_LINES:
        raise InvalidInput(
            "there are as many lines as a payer can have",
            field="name",
            value=drawn.name,
            rule=f"at most {MAX_LINES} lines",
        )
    with cache.database.write(facts=False) as connection:
        return price_lines.put(connection, exchange, symbol, drawn)


def forget_line(cache: ReviewCache, id: int) -> None:
    """Raises NotFound."""
    with cache.database.write(facts=False) as connection:
        price_lines.remove(connection, id)
