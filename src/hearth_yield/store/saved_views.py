"""Searches and column sets that a person named."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from sqlalchemy import Connection, delete, select
from sqlalchemy.dialects.sqlite import insert

from hearth_yield.core.errors import NotFound

from .tables import saved_view


def all_of(connection: Connection) -> Sequence[Mapping[str, Any]]:
    query = select(saved_view).order_by(saved_view.c.kind, saved_view.c.name)
    return [dict(r) for r in connection.execute(query).mappings()]


def put(connection: Connection, kind: str, name: str, body: Mapping[str, Any]) -> None:
    """Write under a name; what stood there under the same kind is replaced."""
    writing = insert(saved_view).values(kind=kind, name=name, body=dict(body))
    connection.execute(
        writing.on_conflict_do_update(
            index_elements=["kind", "name"], set_={"body": writing.excluded.body}
        )
    )


def remove(connection: Connection, id: int) -> None:
    """Raises NotFound."""
    if not connection.execute(delete(saved_view).where(saved_view.c.id == id)).rowcount:
        raise NotFound("no such saved search or column set", field="id", value=id)
