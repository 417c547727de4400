"""Findings that a person disagrees with, and why."""

from __future__ import annotations

from collections.abc import Mapping

from sqlalchemy import Connection, delete, select
from sqlalchemy.dialects.sqlite import insert

from .tables import disagreement


def of_payer(connection: Connection, exchange: str, symbol: str) -> Mapping[str, str]:
    """The person's words by stage."""
    d = disagreement.c
    query = select(d.stage, d.words).where(d.exchange == exchange, d.symbol == symbol)
    return {row.stage: row.words for row in connection.execute(query)}


def put(
    connection: Connection, exchange: str, symbol: str, *, stage: str, words: str, at: str
) -> None:
    """One a stage: new words take the place of the old."""
    writing = insert(disagreement).values(
        exchange=exchange, symbol=symbol, stage=stage, words=words, made_at=at
    )
    connection.execute(
        writing.on_conflict_do_update(
            index_elements=["exchange", "symbol", "stage"],
            set_={"words": writing.excluded.words, "made_at": at},
        )
    )


def remove(connection: Connection, exchange: str, symbol: str, stage: str) -> None:
    """Nothing to take back is no error: it is as asked."""
    d = disagreement.c
    connection.execute(
        delete(disagreement).where(d.exchange == exchange, d.symbol == symbol, d.stage == stage)
    )
