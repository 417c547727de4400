"""Questions that a person named and kept on a payer: strains, and cases of Worth."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from sqlalchemy import Connection, Table, delete, func, select
from sqlalchemy.dialects.sqlite import insert

from hearth_yield.core.errors import NotFound

from .tables import kept_strain, worth_case

STRAINS, CASES = kept_strain, worth_case


@dataclass(frozen=True, slots=True, kw_only=True)
class NamedQuestion:
    """question: in names and texts, as the address has it. kept_at: when it was last kept."""

    id: int
    name: str
    question: Mapping[str, str]
    kept_at: str


def of_payer(
    connection: Connection, table: Table, exchange: str, symbol: str
) -> Sequence[NamedQuestion]:
    """By name."""
    k = table.c
    query = select(k.id, k.name, k.question, k.kept_at).where(
        k.exchange == exchange, k.symbol == symbol
    )
    rows = connection.execute(query.order_by(k.name))
    return [NamedQuestion(id=i, name=n, question=q, kept_at=at) for i, n, q, at in rows]


def put(
    connection: Connection,
    table: Table,
    exchange: str,
    symbol: str,
    *,
    name: str,
    question: Mapping[str, str],
    at: str,
) -> None:
    """Keep under a name; what the payer had under it is replaced."""
    writing = insert(table).values(
        exchange=exchange, symbol=symbol, name=name, question=dict(question), kept_at=at
    )
    connection.execute(
        writing.on_conflict_do_update(
            index_elements=["exchange", "symbol", "name"],
            set_={"question": writing.excluded.question, "kept_at": at},
        )
    )


def count(connection: Connection, table: Table, exchange: str, symbol: str, name: str) -> int:
    """How many others a payer has beside the one of this name."""
    k = table.c
    others = (k.exchange == exchange) & (k.symbol == symbol) & (k.name != name)
    return int(connection.execute(select(func.count()).where(others)).scalar_one())


def remove(connection: Connection, table: Table, id: int) -> None:
    """Raises NotFound."""
    if not connection.execute(delete(table).where(table.c.id == id)).rowcount:
        raise NotFound("nothing of that number is kept", field="id", value=id)
