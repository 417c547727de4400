"""A person's own files into the store: preview, commit all or nothing, undo."""

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
from hearth_yield.store import facts, ledger_imports, sources
from hearth_yield.store.database import Database, edition, revision
from hearth_yield.store.ledger_imports import LedgerPlan
from hearth_yield.store.stored import StoredFacts
from hearth_yield.texts import plain

from .keep_profile import keep_profile
from .replaced import Replaced, replaced_by

Files = Sequence[tuple[str, bytes]]
ALL: Literal["all"] = "all"
Accepted = Collection[int] | Literal["all"]
PAYERS_SHOWN = 30
TRIES = 3
UNDOABLE = ("import", "manual", "feed")
Read = Callable[[StoredFacts], PackageRead]
Worth = Callable[[Sequence[Fault]], bool]


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
class Upload:
    """What a person dropped, by its name and fingerprint. files: of the product's own; made: the
    tables that the others became; settled: how they were read."""

    name: str
    sha256: str
    files: Files = ()
    made: Sequence[MadeTable] = ()
    settled: Sequence[ProfileTable] = ()


def uploaded(files: Files) -> Upload:
    """Files of the product's own alone."""
    return Upload(name=file_name_of(files), sha256=fingerprint(files), files=files)


@dataclass(frozen=True, slots=True, kw_only=True)
class Planned:
    """What an upload changes of the facts and the ledger of one revision, with all that is wrong
    with it. today: the day on which it was read."""

    changes: facts.Plan
    ledger: LedgerPlan
    faults: Sequence[Fault]
    revision: tuple[int, int]
    today: date | None

    @property
    def refused(self) -> bool:
        return any(not f.warning for f in self.faults)


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
    upload: Upload | Files,
    progress: Progress | None = None,
    *,
    today: date | None = None,
) -> Preview:
    """What an import would do. See `plan_import`."""
    return plan_import(database, upload, progress, today=today)[0]


def plan_import(
    database: Database,
    upload: Upload | Files,
    progress: Progress | None = None,
    *,
    today: date | None = None,
) -> tuple[Preview, Planned]:
    """Read an upload whole and hold it against what is stored; nothing is written. today: days
    after it are asked; None: none is."""
    upload = upload if isinstance(upload, Upload) else uploaded(upload)
    with database.read() as connection:
        held = StoredFacts(connection, today)
        reading = read_files(upload.files, held, progress, upload.made)
        planned = plan_of(connection, reading, today)
        already = sources.held_already(connection, upload.sha256)
        at = already["added_at"] if already else None
        return preview_of(connection, reading, planned, upload.name, at), planned


def plan_of(connection: Connection, reading: PackageRead, today: date | None) -> Planned:
    """A reading held against the facts as they are. Of one that is refused nothing is planned."""
    if reading.refused:
        changes, owned = {}, LedgerPlan()
    else:
        changes = facts.plan(connection, reading.records)
        read = reading.ledger
        owned = ledger_imports.plan(connection, read.accounts, read.entries, read.entered)
    return Planned(
        changes=changes,
        ledger=owned,
        faults=[*reading.faults, *_otherwise(owned)],
        revision=_standing(connection),
        today=today,
    )


def _otherwise(owned: LedgerPlan) -> list[Fault]:
    """That lines are entered already and say something else there."""
    if not owned.differ:
        return []
    more = f" (and {len(owned.differ) - 1} more)" if len(owned.differ) > 1 else ""
    return [
        Fault(
            file="entries",
            line=None,
            column="reference",
            value=f"{owned.differ[0]}{more}",
            expected="what the ledger says under this reference; it is kept as it is there",
            warning=True,
        )
    ]


def _standing(connection: Connection) -> tuple[int, int]:
    """The revisions of facts and ledger."""
    return revision(connection), edition(connection).ledger


def preview_of(
    connection: Connection,
    reading: PackageRead,
    planned: Planned,
    file_name: str,
    held_already: str | None = None,
) -> Preview:
    """What keeping a reading would do."""
    tables = {
        name: Counts(added=len(part.added), changed=len(part.changed), same=part.same)
        for name, part in planned.changes.items()
    }
    if planned.ledger.accounts:
        tables["accounts"] = Counts(added=len(planned.ledger.accounts), changed=0, same=0)
    if planned.ledger.entries or planned.ledger.same:
        owned = planned.ledger
        tables["entries"] = Counts(added=len(owned.entries), changed=0, same=owned.same)
    replaced, count = replaced_by(planned.changes)
    return Preview(
        file_name=file_name,
        tables=tables,
        faults=planned.faults,
        refused=planned.refused,
        held_already=held_already,
        payers=_payers_among(connection, {} if planned.refused else reading.records),
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
    upload: Upload | Files,
    *,
    at: str,
    accepted: Accepted = ALL,
    progress: Progress | None = None,
    today: date | None = None,
    planned: Planned | None = None,
    profile: str | None = None,
) -> int:
    """Write all of an upload in one transaction, or nothing.

    accepted: places of the warnings a person accepted, or ALL.
    progress: called with table, rows done and rows in all; raising from it leaves nothing behind.
    planned: what the preview planned; it is what is written, where the facts are still those.
    profile: a name under which to keep how it was read.
    Returns: the id of the new source.
    Raises: RejectedImport with every fault and every warning not accepted; Conflict when nothing
    in the files is new.
    """
    held_of = upload if isinstance(upload, Upload) else uploaded(upload)
    source = NewSource(
        kind="import", file_name=held_of.name, sha256=held_of.sha256, at=at, today=today
    )

    def keep_how(connection: Connection) -> None:
        if held_of.settled and profile:
            keep_profile(connection, profile, held_of.settled, at=at)

    return keep(
        database,
        lambda held: read_files(held_of.files, held, progress, held_of.made),
        source,
        accepted,
        progress,
        keep_how,
        planned=planned,
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class NewSource:
    kind: str
    file_name: str
    sha256: str | None
    at: str
    today: date | None = None
    feed: tuple[int, int] | None = None


def keep(
    database: Database,
    read: Read,
    source: NewSource,
    accepted: Accepted,
    progress: Progress | None = None,
    with_it: Callable[[Connection], None] = lambda _: None,
    *,
    planned: Planned | None = None,
    worth: Worth = lambda _: False,
) -> int:
    """Write a reading under a new source, with the warnings that were accepted. Returns its id.

    It is read, checked and planned before the lock is taken, so that others write meanwhile; where
    the facts have changed by then, once more, and in the end under the lock. planned: what was
    planned before; it counts as the first try. with_it: what else is written in the same
    transaction. worth: whether a reading is worth a source though nothing in it is new.

    Raises: RejectedImport, Conflict, as `import_files` does.
    """
    day = source.today

    def fresh(connection: Connection) -> Planned:
        return plan_of(connection, read(StoredFacts(connection, day)), day)

    for _ in range(TRIES):
        with database.read() as connection:
            if planned is None or (planned.revision, planned.today) != (_standing(connection), day):
                planned = fresh(connection)
        _accept(planned, source, accepted, worth)
        with database.write(**_grows(planned)) as connection:
            if _standing(connection) == planned.revision:
                with_it(connection)
                return _apply(connection, planned, source, progress)
    with database.write(ledger=True) as connection:
        planned = fresh(connection)
        _accept(planned, source, accepted, worth)
        with_it(connection)
        return _apply(connection, planned, source, progress)


def _grows(planned: Planned) -> dict[str, bool]:
    """What is computed anew: nothing of a payer where the ledger alone grows."""
    owned = planned.ledger.changes
    return {"facts": bool(planned.changes) or not owned, "ledger": owned}


def _accept(planned: Planned, source: NewSource, accepted: Accepted, worth: Worth) -> None:
    """Raises RejectedImport for a fault and a warning that is not accepted, Conflict where nothing
    is new."""
    if planned.refused:
        raise RejectedImport(
            f"{source.file_name} has faults; nothing was kept",
            faults=[f for f in planned.faults if not f.warning],
        )
    open_warnings = [
        f
        for i, f in enumerate(planned.faults)
        if f.warning and accepted is not ALL and i not in accepted
    ]
    if open_warnings:
        raise RejectedImport(
            f"{source.file_name} has warnings that are not accepted; nothing was kept",
            faults=open_warnings,
        )
    new = planned.ledger.changes or any(p.added or p.changed for p in planned.changes.values())
    if not worth(planned.faults) and not new:
        raise Conflict(
            "everything in this is held already",
            field="file",
            value=source.file_name,
            rule="at least one row that is new or different",
        )


def _apply(
    connection: Connection, planned: Planned, source: NewSource, progress: Progress | None
) -> int:
    source_id = sources.add(
        connection,
        kind=source.kind,
        file_name=source.file_name,
        sha256=source.sha256,
        added_at=source.at,
        feed=source.feed,
    )
    added, changed = facts.apply(connection, planned.changes, source_id, progress)
    added += ledger_imports.apply(connection, planned.ledger, source_id, source.at)
    sources.count(connection, source_id, added, changed)
    sources.remember_warnings(connection, source_id, [asdict(f) for f in planned.faults])
    return source_id


def undo_import(database: Database, source_id: int, *, at: str) -> None:
    """Take back all that an import added and changed. Decisions stay.

    Raises: NotFound; Conflict for a source that is no import, was undone, that later ones rest
    on, or of whose entries some were edited.
    """
    with database.write(ledger=True) as connection:
        source = sources.get(connection, source_id)
        if source["kind"] not in UNDOABLE or source["undone_at"]:
            state = "undone already" if source["undone_at"] else f"a {source['kind']} source"
            raise Conflict(
                f"“{source['file_name']}” is {state}",
                field="source",
                value=source_id,
                rule="an import, an entry or a delivery that still stands",
            )
        ledger_imports.undo(connection, source_id)
        facts.undo(connection, source_id)
        sources.mark_undone(connection, source_id, at)
