"""Levels and sloping lines that a person drew on a payer's price."""

from __future__ import annotations

from collections.abc import Sequence

from sqlalchemy import Connection, delete, insert, select, update

from hearth_yield.core.errors import NotFound
from hearth_yield.core.range.lines import PriceLine

from .tables import price_line


def of_payer(connection: Connection, exchange: str, symbol: str) -> Sequence[PriceLine]:
    """In the order they were drawn."""
    c = price_line.c
    query = select(
        c.id, c.name, c.first_day, c.first_price, c.last_day, c.last_price, c.drawn_on
    ).where(c.exchange == exchange, c.symbol == symbol)
    return [
        PriceLine(
            id=id,
            name=name,
            first_day=first_day,
            first_price=first_price,
            last_day=last_day,
            last_price=last_price,
            drawn_on=drawn_on,
        )
        for id, name, first_day, first_price, last_day, last_price, drawn_on in connection.execute(
            query.order_by(c.id)
        )
    ]


def put(connection: Connection, exchange: str, symbol: str, drawn: PriceLine) -> int:
    """Keep a new line, or what became of one that is kept: its id. Raises NotFound."""
    values = {
        "name": drawn.name,
        "first_day": drawn.first_day,
        "first_price": drawn.first_price,
        "last_day": drawn.last_day,
        "last_price": drawn.last_price,
        "drawn_on": drawn.drawn_on,
    }
    if not drawn.id:
        new = insert(price_line).values(exchange=exchange, symbol=symbol, **values)
        return int(connection.execute(new.returning(price_line.c.id)).scalar_one())
    c = price_line.c
    mine = (c.id == drawn.id) & (c.exchange == exchange) & (c.symbol == symbol)
    if not connection.execute(update(price_line).where(mine).values(values)).rowcount:
        raise NotFound("no such line is kept", field="id", value=drawn.id)
    return drawn.id


def remove(connection: Connection, id: int) -> None:
    """Raises NotFound."""
    if not connection.execute(delete(price_line).where(price_line.c.id == id)).rowcount:
        raise NotFound("no such line is kept", field="id", value=id)
