"""Sources: where facts came from."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from sqlalchemy import Connection, insert, select, update

from hearth_yield.core.errors import NotFound

from .tables import source


def add(
    connection: Connection, *, kind: str, file_name: str, sha256: str | None, added_at: str
) -> int:
    """A new source; rows are counted when they are in."""
    result = connection.execute(
        insert(source).values(
            kind=kind, file_name=file_name, sha256=sha256, added_at=added_at, rows_added=0,
            rows_changed=0,
        )
    )  # fmt: skip
    return int(result.lastrowid)


def count(connection: Connection, source_id: int, added: int, changed: int) -> None:
    connection.execute(
        update(source)
        .where(source.c.id == source_id)
        .values(rows_added=added, rows_changed=changed)
    )


def mark_undone(connection: Connection, source_id: int, at: str) -> None:
    connection.execute(update(source).where(source.c.id == source_id).values(undone_at=at))


def newest_first(connection: Connection) -> Sequence[Mapping[str, Any]]:
    rows = connection.execute(select(source).order_by(source.c.id.desc())).mappings()
    return [dict(r) for r in rows]


def get(connection: Connection, source_id: int) -> Mapping[str, Any]:
    row = connection.execute(select(source).where(source.c.id == source_id)).mappings().first()
    if row is None:
        raise NotFound("no such source", field="source", value=source_id)
    return dict(row)


def held_already(connection: Connection, sha256: str) -> Mapping[str, Any] | None:
    """A source with the same bytes that still stands."""
    query = select(source).where(source.c.sha256 == sha256, source.c.undone_at.is_(None))
    row = connection.execute(query.order_by(source.c.id.desc())).mappings().first()
    return dict(row) if row else None
