"""How files of one sort are read, kept under a name."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from sqlalchemy import Connection, delete, insert, select, update

from hearth_yield.core.errors import Conflict, NotFound

from .tables import import_profile as t


@dataclass(frozen=True, slots=True, kw_only=True)
class KeptProfile:
    """tables: of each its kind, headings and what was settled, as JSON."""

    id: int
    name: str
    tables: Sequence[Any]
    kept_on: str


def all_profiles(connection: Connection) -> list[KeptProfile]:
    """By name."""
    rows = connection.execute(select(t).order_by(t.c.name)).mappings()
    return [KeptProfile(**row) for row in rows]


def get(connection: Connection, id: int) -> KeptProfile:
    """Raises NotFound."""
    row = connection.execute(select(t).where(t.c.id == id)).mappings().one_or_none()
    if row is None:
        raise NotFound("there is no such profile", field="profile", value=id)
    return KeptProfile(**row)


def keep(connection: Connection, name: str, tables: Sequence[Any], kept_on: str) -> None:
    """One of the same name is replaced."""
    values = {"tables": list(tables), "kept_on": kept_on}
    changed = connection.execute(update(t).where(t.c.name == name).values(**values))
    if not changed.rowcount:
        connection.execute(insert(t).values(name=name, **values))


def rename(connection: Connection, id: int, name: str) -> None:
    """Raises NotFound; Conflict where another has the name."""
    get(connection, id)
    other = connection.scalar(select(t.c.id).where(t.c.name == name, t.c.id != id))
    if other is not None:
        raise Conflict(
            f"another profile is called “{name}”", field="name", value=name, rule="each name once"
        )
    connection.execute(update(t).where(t.c.id == id).values(name=name))


def forget(connection: Connection, id: int) -> None:
    """Raises NotFound."""
    get(connection, id)
    connection.execute(delete(t).where(t.c.id == id))
