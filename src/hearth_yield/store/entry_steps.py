"""Steps to buy in by that a person keeps on a payer."""

from __future__ import annotations

from collections.abc import Sequence

from sqlalchemy import Connection, delete, func, insert, select

from hearth_yield.core.errors import NotFound
from hearth_yield.core.range.entry_steps import EntryStep

from .tables import entry_step


def of_payer(connection: Connection, exchange: str, symbol: str) -> Sequence[EntryStep]:
    """In the order they were kept."""
    c = entry_step.c
    query = select(c.id, c.quantity, c.target, c.amount, c.kept_on).where(
        c.exchange == exchange, c.symbol == symbol
    )
    return [
        EntryStep(id=id, quantity=quantity, target=target, amount=amount, kept_on=kept_on)
        for id, quantity, target, amount, kept_on in connection.execute(query.order_by(c.id))
    ]


def payers(connection: Connection) -> Sequence[tuple[str, str]]:
    """Exchange and symbol of those with a step."""
    c = entry_step.c
    query = select(c.exchange, c.symbol).distinct().order_by(c.exchange, c.symbol)
    return [(exchange, symbol) for exchange, symbol in connection.execute(query)]


def count(connection: Connection, exchange: str, symbol: str) -> int:
    c = entry_step.c
    mine = (c.exchange == exchange) & (c.symbol == symbol)
    return int(connection.execute(select(func.count()).where(mine)).scalar_one())


def put(connection: Connection, exchange: str, symbol: str, step: EntryStep) -> int:
    """Keep a step: its id."""
    new = insert(entry_step).values(
        exchange=exchange,
        symbol=symbol,
        quantity=step.quantity,
        target=step.target,
        amount=step.amount,
        kept_on=step.kept_on,
    )
    return int(connection.execute(new.returning(entry_step.c.id)).scalar_one())


def remove(connection: Connection, id: int) -> None:
    """Raises NotFound."""
    if not connection.execute(delete(entry_step).where(entry_step.c.id == id)).rowcount:
        raise NotFound("no such step is kept", field="id", value=id)


def everyones(connection: Connection) -> dict[tuple[str, str], list[EntryStep]]:
    """All that are kept, by exchange and symbol."""
    c = entry_step.c
    query = select(c.exchange, c.symbol, c.id, c.quantity, c.target, c.amount, c.kept_on)
    found: dict[tuple[str, str], list[EntryStep]] = {}
    for exchange, symbol, id, quantity, target, amount, kept_on in connection.execute(
        query.order_by(c.id)
    ):
        step = EntryStep(id=id, quantity=quantity, target=target, amount=amount, kept_on=kept_on)
        found.setdefault((exchange, symbol), []).append(step)
    return found
