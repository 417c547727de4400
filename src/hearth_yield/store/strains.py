"""Strains that a person named and kept on a payer."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from sqlalchemy import Connection, delete, select
from sqlalchemy.dialects.sqlite import insert

from hearth_yield.core.errors import NotFound

from .tables import kept_strain


@dataclass(frozen=True, slots=True, kw_only=True)
class KeptStrain:
    """question: the strain in names and texts, as the address has it."""

    id: int
    name: str
    question: Mapping[str, str]


def of_payer(connection: Connection, exchange: str, symbol: str) -> Sequence[KeptStrain]:
    """By name."""
    k = kept_strain.c
    query = select(k.id, k.name, k.question).where(k.exchange == exchange, k.symbol == symbol)
    rows = connection.execute(query.order_by(k.name))
    return [KeptStrain(id=id, name=name, question=question) for id, name, question in rows]


def put(
    connection: Connection,
    exchange: str,
    symbol: str,
    *,
    name: str,
    question: Mapping[str, str],
    at: str,
) -> None:
    """Keep under a name; what the payer had under it is replaced."""
    writing = insert(kept_strain).values(
        exchange=exchange, symbol=symbol, name=name, question=dict(question), kept_at=at
    )
    connection.execute(
        writing.on_conflict_do_update(
            index_elements=["exchange", "symbol", "name"],
            set_={"question": writing.excluded.question, "kept_at": at},
        )
    )


def remove(connection: Connection, id: int) -> None:
    """Raises NotFound."""
    if not connection.execute(delete(kept_strain).where(kept_strain.c.id == id)).rowcount:
        raise NotFound("no such strain is kept", field="id", value=id)
