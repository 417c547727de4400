"""Bring in a person's own files: preview, commit all or nothing, undo."""

from __future__ import annotations

import hashlib
from collections.abc import Callable, Collection, Mapping, Sequence
from dataclasses import asdict, dataclass
from datetime import date
from typing import Literal

from sqlalchemy import Connection

from hearth_yield.core.errors import Conflict, RejectedImport
from hearth_yield.exchange.faults import Fault
from hearth_yield.exchange.found.profiles import ProfileTable
from hearth_yield.exchange.package import PackageRead, read_files
from hearth_yield.exchange.table import MadeTable
from hearth_yield.progress import Progress
from hearth_yield.rows import Row, keys_of
from hearth_yield.store import facts, sources
from hearth_yield.store.database import Database, revision
from hearth_yield.store.stored import StoredFacts
from hearth_yield.texts import plain

from .keep_profile import keep_profile
from .replaced import Replaced, replaced_by

Files = Sequence[tuple[str, bytes]]
ALL: Literal["all"] = "all"
Accepted = Collection[int] | Literal["all"]
PAYERS_SHOWN = 30
UNDOABLE = ("import", "manual", "feed")


@dataclass(frozen=True, slots=True, kw_only=True)
class Counts:
    added: int
    changed: int
    same: int


@dataclass(frozen=True, slots=True, kw_only=True)
class Preview:
    """What an import would do, and everything wrong with it. refused: some fault is no warning.
    payers: whose facts are among them, by exchange, symbol and name, the first thirty. replaced:
    the values held that differ most from what would take their place; replaced_in_all: how many
    there are."""

    file_name: str
    tables: Mapping[str, Counts]
    faults: Sequence[Fault]
    refused: bool
    held_already: str | None
    payers: Sequence[tuple[str, str, str]] = ()
    replaced: Sequence[Replaced] = ()
    replaced_in_all: int = 0


@dataclass(frozen=True, slots=True, kw_only=True)
class FromFound:
    """Tables that were made of files of other sorts: the name and fingerprint of what was dropped,
    what was made of it, and what was settled; profile: a name to keep that under."""

    name: str
    sha256: str
    made: Sequence[MadeTable]
    settled: Sequence[ProfileTable] = ()
    profile: str | None = None


def file_name_of(files: Files) -> str:
    first = plain(files[0][0])
    return first if len(files) == 1 else f"{first} and {len(files) - 1} more"


def fingerprint(files: Files) -> str:
    digest = hashlib.sha256()
    for _, raw in files:
        digest.update(raw)
    return digest.hexdigest()


def preview_import(
    database: Database,
    files: Files,
    origin: FromFound | None = None,
    progress: Progress | None = None,
    *,
    today: date | None = None,
) -> Preview:
    """Read the files whole and hold them against what is stored; nothing is written. origin: what
    was made of others, which comes in with them. today: days after it are asked; None: none is."""
    with database.read() as connection:
        made = origin.made if origin else ()
        reading = read_files(files, StoredFacts(connection, today), progress, made)
        digest = origin.sha256 if origin else fingerprint(files)
        already = sources.held_already(connection, digest)
        return preview_of(
            connection,
            reading,
            origin.name if origin else file_name_of(files),
            already["added_at"] if already else None,
        )


def preview_of(
    connection: Connection, reading: PackageRead, file_name: str, held_already: str | None
) -> Preview:
    """What keeping a reading would do."""
    records = {} if reading.refused else reading.records
    plan = facts.plan(connection, records)
    tables = {
        name: Counts(added=len(part.added), changed=len(part.changed), same=part.same)
        for name, part in plan.items()
    }
    replaced, count = replaced_by(plan)
    return Preview(
        file_name=file_name,
        tables=tables,
        faults=reading.faults,
        refused=reading.refused,
        held_already=held_already,
        payers=_payers_among(connection, records),
        replaced=replaced,
        replaced_in_all=count,
    )


def _payers_among(
    connection: Connection, records: Mapping[str, Sequence[Row]]
) -> list[tuple[str, str, str]]:
    """Payers by name, those that come in among them."""
    keys: set[tuple[str, ...]] = set()
    for table, rows in records.items():
        if table not in ("series", "series_points", "slumps"):
            keys.update(keys_of(rows, ("exchange", "symbol")))
    names = {(e, s): name for e, s, name, *_ in facts.named_payers(connection)} if keys else {}
    names |= {(r["exchange"], r["symbol"]): r["name"] for r in records.get("payers", ())}
    found = sorted((names.get((e, s), s), e, s) for e, s in keys)
    return [(e, s, name) for name, e, s in found[:PAYERS_SHOWN]]


def import_files(
    database: Database,
    files: Files,
    *,
    at: str,
    accepted: Accepted = ALL,
    progress: Progress | None = None,
    origin: FromFound | None = None,
    today: date | None = None,
) -> int:
    """Write all of the files in one transaction, or nothing.

    origin: what was made of other files, which comes in with them; its profile is kept too.
    accepted: places of the warnings a person accepted, or ALL.
    progress: called with table, rows done and rows in all; raising from it leaves nothing behind.
    Returns: the id of the new source.
    Raises: RejectedImport with every fault and every warning not accepted; Conflict when nothing
    in the files is new.
    """
    source = NewSource(
        kind="import",
        file_name=origin.name if origin else file_name_of(files),
        sha256=origin.sha256 if origin else fingerprint(files),
        at=at,
        today=today,
    )
    made = origin.made if origin else ()

    def read(held: StoredFacts) -> PackageRead:
        return read_files(files, held, progress, made)

    def keep_how(connection: Connection) -> None:
        if origin and origin.profile:
            keep_profile(connection, origin.profile, origin.settled, at=at)

    return keep(database, read, source, accepted, progress, keep_how)


@dataclass(frozen=True, slots=True, kw_only=True)
class NewSource:
    kind: str
    file_name: str
    sha256: str | None
    at: str
    today: date | None = None
    feed: tuple[int, int] | None = None


TRIES = 3
Read = Callable[[StoredFacts], PackageRead]
Worth = Callable[[PackageRead], bool]


def keep(
    database: Database,
    read: Read,
    source: NewSource,
    accepted: Accepted,
    progress: Progress | None = None,
    with_it: Callable[[Connection], None] = lambda _: None,
    *,
    worth: Worth = lambda _: False,
) -> int:
    """Write a reading under a new source, with the warnings that were accepted. Returns its id.

    It is read, checked and planned before the lock is taken, so that others write meanwhile; where
    the facts have changed by then, once more, and in the end under the lock. with_it: what else is
    written in the same transaction. worth: whether a reading is
    worth a source though nothing in it is new.

    Raises: RejectedImport, Conflict, as `import_files` does.
    """
    for _ in range(TRIES):
        with database.read() as connection:
            at = revision(connection)
            reading, changes = _planned(connection, read, source, accepted, worth)
        with database.write() as connection:
            if revision(connection) == at:
                with_it(connection)
                return _apply(connection, reading, changes, source, progress)
    with database.write() as connection:
        reading, changes = _planned(connection, read, source, accepted, worth)
        with_it(connection)
        return _apply(connection, reading, changes, source, progress)


def _planned(
    connection: Connection, read: Read, source: NewSource, accepted: Accepted, worth: Worth
) -> tuple[PackageRead, facts.Plan]:
    """What is read, and what it would change, held against one state of the facts."""
    reading = read(StoredFacts(connection, source.today))
    if reading.refused:
        raise RejectedImport(
            f"{source.file_name} has faults; nothing was kept",
            faults=[f for f in reading.faults if not f.warning],
        )
    open_warnings = [
        f
        for i, f in enumerate(reading.faults)
        if f.warning and accepted is not ALL and i not in accepted
    ]
    if open_warnings:
        raise RejectedImport(
            f"{source.file_name} has warnings that are not accepted; nothing was kept",
            faults=open_warnings,
        )
    changes = facts.plan(connection, reading.records)
    if not worth(reading) and not any(p.added or p.changed for p in changes.values()):
        raise Conflict(
            "everything in this is held already",
            field="file",
            value=source.file_name,
            rule="at least one row that is new or different",
        )
    return reading, changes


def _apply(
    connection: Connection,
    reading: PackageRead,
    changes: facts.Plan,
    source: NewSource,
    progress: Progress | None,
) -> int:
    source_id = sources.add(
        connection,
        kind=source.kind,
        file_name=source.file_name,
        sha256=source.sha256,
        added_at=source.at,
        feed=source.feed,
    )
    added, changed = facts.apply(connection, changes, source_id, progress)
    sources.count(connection, source_id, added, changed)
    sources.remember_warnings(connection, source_id, [asdict(f) for f in reading.faults])
    return source_id


def undo_import(database: Database, source_id: int, *, at: str) -> None:
    """Take back all that an import added and changed. Decisions stay.

    Raises: NotFound; Conflict for a source that is no import, was undone, or that later ones
    rest on.
    """
    with database.write() as connection:
        source = sources.get(connection, source_id)
        if source["kind"] not in UNDOABLE or source["undone_at"]:
            state = "undone already" if source["undone_at"] else f"a {source['kind']} source"
            raise Conflict(
                f"“{source['file_name']}” is {state}",
                field="source",
                value=source_id,
                rule="an import, an entry or a delivery that still stands",
            )
        facts.undo(connection, source_id)
        sources.mark_undone(connection, source_id, at)
