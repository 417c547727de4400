"""A full backup as JSON, and restoring one: everything there is, facts and decisions alike."""

from __future__ import annotations

import json
import secrets
import shutil
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path
from tempfile import TemporaryDirectory

import msgspec

from hearth_yield.collector import at_rest
from hearth_yield.core.errors import Conflict, InvalidInput, TooLarge
from hearth_yield.progress import Progress, unwatched
from hearth_yield.store import backup, calendar
from hearth_yield.store.database import Database, revision

from .check_backup import check_rows
from .whole_file import write_whole

FORMAT = "hearth-yield backup"
MAX_BACKUP = 96 * 2**20
"""Bytes the page takes; `hearth-yield restore` takes any."""
UNPACKED = ".restore-"
"""How folders begin in which backups are unpacked."""
MAX_PARTS, MAX_CELLS = 2_000_000, 6_000_000
"""Lists and objects, and cells, of a backup that the page takes."""


class _Document(msgspec.Struct):
    """calendar: whether there was an address that a calendar program asks."""

    format: str = ""
    schema: str = ""
    tables: dict[str, msgspec.Raw] = {}
    calendar: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class Restored:
    """kept: the file that holds the state before; kept_wrong: why that could not be restored in
    turn. new_calendar: the address that a calendar program asks is another one now."""

    kept: Path
    kept_wrong: str | None = None
    new_calendar: bool = False

    @property
    def to_tell(self) -> list[str]:
        """What a person has to know of it."""
        told = []
        if self.kept_wrong:
            told.append(f"the state before could not be restored in turn: {self.kept_wrong}")
        if self.new_calendar:
            told.append("the calendar has a new address: have your calendar program ask that one")
        return told


def back_up(database: Database, *, at: str) -> bytes:
    """Every table as one JSON document, stamped with format, schema and time, which was read back
    as a restore reads it. Raises Conflict where it could not be."""
    raw = _written(database, at)
    try:
        wrong = _wrong_in(raw)
    except OSError as error:
        raise Conflict(
            f"the backup could not be read back, so it is not given out: {error.strerror}",
            field="TMPDIR",
            rule="a folder for temporary files that may be written, with room for the backup",
        ) from error
    if wrong is not None:
        raise Conflict(
            f"the backup could not be read back: {wrong.message}; report this, and keep a copy of "
            "the data folder meanwhile",
            field=wrong.field,
            value=wrong.value,
            rule=wrong.rule,
        )
    return raw


def _written(database: Database, at: str) -> bytes:
    with at_rest(), database.read() as connection:
        document = {
            "format": FORMAT,
            "schema": backup.schema_revision(connection),
            "made_at": at,
            "calendar": calendar.secret(connection) is not None,
            "tables": backup.dump(connection),
        }
    return json.dumps(document, ensure_ascii=False, allow_nan=False).encode()


def _wrong_in(raw: bytes) -> InvalidInput | None:
    """What a restore would refuse."""
    try:
        with _checked(raw, None, unwatched):
            return None
    except InvalidInput as error:
        return error


def clear_unfinished(folder: Path) -> None:
    """Takes away what a restore or a write that was killed left beside the data. For the start,
    when none goes on."""
    for left in (*folder.glob(f"{UNPACKED}*"), *folder.glob(".*.part")):
        if left.is_dir():
            shutil.rmtree(left, ignore_errors=True)
        else:
            left.unlink(missing_ok=True)


def bounded(name: str, raw: bytes) -> None:
    """Refuses what would take more memory than the server may, before any of it is read. Raises
    TooLarge."""
    parts, cells = raw.count(b"[") + raw.count(b"{"), raw.count(b",")
    if parts > MAX_PARTS or cells > MAX_CELLS:
        raise TooLarge(
            "the backup is too large for the page",
            field=name,
            value=f"{cells:,} cells",
            rule=f"at most {MAX_CELLS:,}; `hearth-yield restore` takes any",
        )


def restore(database: Database, raw: bytes, *, at: str, progress: Progress = unwatched) -> Restored:
    """Replace everything by a backup of this version or an earlier one, after checking all of it
    and keeping what is there now.

    Raises: InvalidInput for what is no backup, is of a newer version, or does not fit together;
    Conflict where there is no room to keep the state before.
    """
    try:
        with _checked(raw, database.path.parent, progress) as (taken, had_calendar):
            kept = database.path.parent / f"before-restore-{at.replace(':', '-')}.json"
            before = _written(database, at)
            write_whole(kept, before)
            wrong = _wrong_in(before)
            new = False
            with taken.read() as source, database.write() as connection:
                secret = calendar.secret(connection)
                if secret is None and had_calendar:
                    secret, new = secrets.token_urlsafe(24), True
                backup.replace_all(connection, source, revision(connection), secret, progress)
    except OSError as error:
        raise Conflict(
            f"nothing was restored and nothing was changed: {error.strerror}",
            field="HEARTH_DATA",
            value=str(database.path.parent),
            rule="a data folder that may be written, with room for what is there and the backup",
        ) from error
    return Restored(kept=kept, kept_wrong=wrong.message if wrong else None, new_calendar=new)


@contextmanager
def _checked(
    raw: bytes, folder: Path | None, progress: Progress
) -> Iterator[tuple[Database, bool]]:
    """A database that holds what a backup holds, every row of it checked, and whether it had an
    address for calendars. folder: in which it is made."""
    document = _document(raw)
    with (
        at_rest(),
        TemporaryDirectory(dir=folder, prefix=UNPACKED) as own,
        backup.unpacked(document.tables, document.schema, Path(own), progress) as taken,
        taken.read() as connection,
    ):
        for table, first, rows in backup.rows_of(connection):
            progress(f"checking {table.name}", first, 0)
            check_rows(table.name, rows, first)
        yield taken, document.calendar or calendar.secret(connection) is not None


def _document(raw: bytes) -> _Document:
    try:
        document = msgspec.json.decode(raw, type=_Document)
    except (msgspec.MsgspecError, RecursionError, UnicodeError) as error:
        raise InvalidInput(
            "the file is no backup of Hearth Yield",
            field="file",
            value=str(error)[:120],
            rule="a backup's JSON",
        ) from None
    if document.format != FORMAT:
        raise InvalidInput(
            "the file is no backup of Hearth Yield",
            field="format",
            value=document.format[:80],
            rule=FORMAT,
        )
    return document
