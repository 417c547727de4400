"""Payers that a person watches with a note or in a group of their own, by symbol."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from sqlalchemy import Connection, delete, select
from sqlalchemy.dialects.sqlite import insert

from .tables import watched


@dataclass(frozen=True, slots=True)
class WatchNote:
    """group: empty where it is in none."""

    note: str
    group: str


def everyones(connection: Connection) -> Mapping[tuple[str, str], WatchNote]:
    c = watched.c
    query = select(c.exchange, c.symbol, c.note, c.group_name).order_by(c.exchange, c.symbol)
    return {(e, s): WatchNote(note, group) for e, s, note, group in connection.execute(query)}


def of_payer(connection: Connection, exchange: str, symbol: str) -> WatchNote | None:
    c = watched.c
    query = select(c.note, c.group_name).where(c.exchange == exchange, c.symbol == symbol)
    row = connection.execute(query).one_or_none()
    return None if row is None else WatchNote(*row)


def put(connection: Connection, exchange: str, symbol: str, said: WatchNote, at: str) -> None:
    """What was there gives way."""
    values = {"note": said.note, "group_name": said.group, "kept_at": at}
    new = insert(watched).values(exchange=exchange, symbol=symbol, **values)
    connection.execute(
        new.on_conflict_do_update(index_elements=["exchange", "symbol"], set_=values)
    )


def remove(connection: Connection, exchange: str, symbol: str) -> None:
    mine = (watched.c.exchange == exchange) & (watched.c.symbol == symbol)
    connection.execute(delete(watched).where(mine))
