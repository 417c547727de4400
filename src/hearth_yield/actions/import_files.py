"""Bring in a person's own files: preview, commit all or nothing, undo."""

from __future__ import annotations

import hashlib
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass

from hearth_yield.core.errors import Conflict, RejectedImport
from hearth_yield.exchange.package import read_files
from hearth_yield.exchange.table import Fault
from hearth_yield.store import facts, sources
from hearth_yield.store.database import Database

Files = Sequence[tuple[str, bytes]]
Progress = Callable[[str, int, int], None]


@dataclass(frozen=True, slots=True, kw_only=True)
class Counts:
    added: int
    changed: int
    same: int


@dataclass(frozen=True, slots=True, kw_only=True)
class Preview:
    """What an import would do, and everything wrong with it. refused: some fault is no warning."""

    file_name: str
    tables: Mapping[str, Counts]
    faults: Sequence[Fault]
    refused: bool
    held_already: str | None
    payers: Sequence[tuple[str, str]]


def file_name_of(files: Files) -> str:
    first = files[0][0]
    return first if len(files) == 1 else f"{first} and {len(files) - 1} more"


def fingerprint(files: Files) -> str:
    digest = hashlib.sha256()
    for _, raw in files:
        digest.update(raw)
    return digest.hexdigest()


def preview_import(database: Database, files: Files) -> Preview:
    """Read the files whole and hold them against what is stored; nothing is written."""
    with database.read() as connection:
        reading = read_files(files, facts.known_payers(connection))
        already = sources.held_already(connection, fingerprint(files))
        tables: dict[str, Counts] = {}
        records = {} if reading.refused else reading.records
        for name, part in facts.plan(connection, records).items():
            tables[name] = Counts(added=len(part.added), changed=len(part.changed), same=part.same)
    named = {
        (r["exchange"], r["symbol"]) for rows in records.values() for r in rows if "symbol" in r
    }
    return Preview(
        file_name=file_name_of(files),
        tables=tables,
        faults=reading.faults,
        refused=reading.refused,
        held_already=already["added_at"] if already else None,
        payers=sorted(named),
    )


def import_files(
    database: Database, files: Files, *, at: str, progress: Progress | None = None
) -> int:
    """Write all of the files in one transaction, or nothing.

    progress: called with table, rows done and rows in all; raising from it leaves nothing behind.
    Returns: the id of the new source.
    Raises: RejectedImport with every fault; Conflict when nothing in the files is new.
    """
    with database.write() as connection:
        reading = read_files(files, facts.known_payers(connection))
        if reading.refused:
            raise RejectedImport(
                f"{file_name_of(files)} has faults; nothing was kept",
                faults=[f for f in reading.faults if not f.warning],
            )
        changes = facts.plan(connection, reading.records)
        if not any(p.added or p.changed for p in changes.values()):
            raise Conflict(
                "everything in these files is held already",
                field="file",
                value=file_name_of(files),
                rule="at least one row that is new or different",
            )
        source_id = sources.add(
            connection,
            kind="import",
            file_name=file_name_of(files),
            sha256=fingerprint(files),
            added_at=at,
        )
        added, changed = facts.apply(connection, changes, source_id, progress)
        sources.count(connection, source_id, added, changed)
    return source_id


def undo_import(database: Database, source_id: int, *, at: str) -> None:
    """Take back all that an import added and changed. Decisions stay.

    Raises: NotFound; Conflict for a source that is no import, was undone, or that later ones
    rest on.
    """
    with database.write() as connection:
        source = sources.get(connection, source_id)
        if source["kind"] != "import" or source["undone_at"]:
            state = "undone already" if source["undone_at"] else f"a {source['kind']} source"
            raise Conflict(
                f"“{source['file_name']}” is {state}",
                field="source",
                value=source_id,
                rule="an import that still stands",
            )
        facts.undo(connection, source_id)
        sources.mark_undone(connection, source_id, at)
