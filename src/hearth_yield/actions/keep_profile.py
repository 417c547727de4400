"""Import profiles: how files of one sort are read, kept, renamed, deleted, taken out and in."""

from __future__ import annotations

import json
from collections.abc import Sequence
from typing import Annotated, Any

from pydantic import BaseModel, ConfigDict, Field, ValidationError
from sqlalchemy import Connection

from hearth_yield.core.errors import InvalidInput
from hearth_yield.exchange.found.profiles import Profile, ProfileTable
from hearth_yield.store import import_profiles as store
from hearth_yield.store.database import Database
from hearth_yield.texts import all_plain

MAX_NAME = 80
FORMAT = "hearth-yield import profile"
Text = Annotated[str, Field(max_length=400)]


class _Table(BaseModel):
    model_config = ConfigDict(extra="forbid")
    kind: Text
    headings: Annotated[list[Text], Field(max_length=1000)]
    settled: Annotated[dict[Text, Text], Field(max_length=1000)]


class _Document(BaseModel):
    model_config = ConfigDict(extra="forbid")
    format: str = Field(pattern=f"^{FORMAT}$")
    name: Annotated[str, Field(min_length=1, max_length=MAX_NAME)]
    tables: Annotated[list[_Table], Field(min_length=1, max_length=400)]


def profiles_of(connection: Connection) -> list[Profile]:
    return [_profile(p) for p in store.all_profiles(connection)]


def _profile(kept: store.KeptProfile) -> Profile:
    tables = [
        ProfileTable(kind=t["kind"], headings=frozenset(t["headings"]), settled=dict(t["settled"]))
        for t in kept.tables
    ]
    return Profile(name=kept.name, tables=tables)


def all_profiles(database: Database) -> list[store.KeptProfile]:
    with database.read() as connection:
        return store.all_profiles(connection)


def as_json(tables: Sequence[ProfileTable]) -> list[dict[str, Any]]:
    return [
        {"kind": t.kind, "headings": sorted(t.headings), "settled": dict(t.settled)} for t in tables
    ]


def named(text: str) -> str:
    """A name that a profile may bear. Raises InvalidInput."""
    name = " ".join(text.split())
    if not 0 < len(name) <= MAX_NAME or not name.isprintable():
        raise InvalidInput(
            "a profile needs a name", field="name", value=text[:90], rule=f"1 to {MAX_NAME} letters"
        )
    return name


def keep_profile(
    connection: Connection, name: str, tables: Sequence[ProfileTable], *, at: str
) -> None:
    """Raises InvalidInput."""
    store.keep(connection, named(name), as_json(tables), at)


def rename_profile(database: Database, id: int, name: str) -> None:
    """Raises InvalidInput, NotFound, Conflict."""
    with database.write() as connection:
        store.rename(connection, id, named(name))


def forget_profile(database: Database, id: int) -> None:
    """Raises NotFound."""
    with database.write() as connection:
        store.forget(connection, id)


def export_profile(database: Database, id: int) -> tuple[str, bytes]:
    """Its name, and one JSON document that `import_profile` takes. Raises NotFound."""
    with database.read() as connection:
        kept = store.get(connection, id)
    document = {"format": FORMAT, "name": kept.name, "tables": list(kept.tables)}
    return kept.name, json.dumps(document, ensure_ascii=False, indent=1).encode()


def import_profile(database: Database, raw: bytes, *, at: str) -> str:
    """Keep a profile that was taken out; one of the same name is replaced. Returns its name.

    Raises: InvalidInput.
    """
    try:
        document = _Document.model_validate(all_plain(json.loads(raw)))
    except (ValidationError, ValueError, RecursionError) as error:
        raise InvalidInput(
            "this is no import profile",
            field="profile",
            value=raw[:60].decode("utf-8", "replace"),
            rule="a JSON file that was exported from the list of profiles",
        ) from error
    with database.write() as connection:
        tables = [t.model_dump() for t in document.tables]
        store.keep(connection, named(document.name), tables, at)
    return document.name
