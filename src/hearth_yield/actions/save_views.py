"""Searches, column sets and comparisons that a person names."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any, Literal

from hearth_yield.store import saved_views
from hearth_yield.store.database import Database

SavedKind = Literal["search", "columns", "comparison"]


def all_saved(database: Database) -> Sequence[Mapping[str, Any]]:
    """By kind and name."""
    with database.read() as connection:
        return saved_views.all_of(connection)


def save_view(database: Database, kind: SavedKind, name: str, body: Mapping[str, Any]) -> None:
    """What stands under the same name is replaced."""
    with database.write(facts=False) as connection:
        saved_views.put(connection, kind, name.strip(), body)


def forget_view(database: Database, id: int) -> None:
    """Raises NotFound."""
    with database.write(facts=False) as connection:
        saved_views.remove(connection, id)
