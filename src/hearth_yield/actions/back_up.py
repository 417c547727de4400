"""A full backup as JSON, and restoring one: everything there is, facts and decisions alike."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

from sqlalchemy.exc import IntegrityError

from hearth_yield.core.errors import InvalidInput, TooLarge
from hearth_yield.progress import Progress
from hearth_yield.store import backup
from hearth_yield.store.database import Database, revision
from hearth_yield.store.renamed import BEFORE_OUTSIDE, tables_renamed

from .check_backup import check_backup
from .whole_file import write_whole

FORMAT = "hearth-yield backup"
MAX_BACKUP = 32 * 2**20
"""Bytes the page takes; `hearth-yield restore` takes any."""
MAX_PARTS, MAX_CELLS = 1_000_000, 4_000_000
"""Lists and objects, and cells, of a backup that the page takes."""


def back_up(database: Database, *, at: str) -> bytes:
    """Every table as one JSON document, stamped with format, schema and time."""
    with database.read() as connection:
        document = {
            "format": FORMAT,
            "schema": backup.schema_revision(connection),
            "made_at": at,
            "tables": backup.dump(connection),
        }
    return json.dumps(document, ensure_ascii=False, allow_nan=False).encode()


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


def restore(database: Database, raw: bytes, *, at: str, progress: Progress | None = None) -> Path:
    """Replace everything by a backup, after checking all of it and keeping what is there now.

    Returns: the file in which the state before was kept.
    Raises: InvalidInput for what is no backup, is of another schema, or does not fit together.
    """
    document = _document(raw)
    with database.read() as connection:
        schema = backup.schema_revision(connection)
    tables = document.get("tables")
    if document.get("schema") == BEFORE_OUTSIDE:
        tables = tables_renamed(tables)
    elif document.get("schema") != schema:
        raise InvalidInput(
            "the backup was made by another version of Hearth Yield",
            field="schema",
            value=document.get("schema"),
            rule=f"schema {schema}",
        )
    rows = backup.check(tables if isinstance(tables, dict) else {})
    check_backup(rows)
    if [r.get("id") for r in rows["household"]] != [1]:
        raise InvalidInput(
            "the backup holds no household",
            field="household",
            value=len(rows["household"]),
            rule="one row",
        )
    kept = database.path.parent / f"before-restore-{at.replace(':', '-')}.json"
    write_whole(kept, back_up(database, at=at))
    try:
        with database.write() as connection:
            backup.replace_all(connection, rows, revision(connection), progress)
    except IntegrityError as error:
        raise InvalidInput(
            "the backup's rows do not fit together; nothing was changed",
            field="tables",
            value=str(error.orig),
            rule="rows that refer to rows of the same backup",
        ) from error
    return kept


def _document(raw: bytes) -> dict[str, Any]:
    try:
        document = json.loads(raw)
    except (ValueError, RecursionError) as error:
        raise InvalidInput(
            "the file is not JSON", field="file", value=str(error)[:120], rule="a backup's JSON"
        ) from None
    if not isinstance(document, dict) or document.get("format") != FORMAT:
        raise InvalidInput(
            "the file is no backup of Hearth Yield",
            field="format",
            value=document.get("format") if isinstance(document, dict) else None,
            rule=FORMAT,
        )
    return document
