"""Sources: where facts came from."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from sqlalchemy import Connection, func, insert, select, update

from hearth_yield.core.errors import NotFound

from . import ledger_imports
from .facts import FACT_TABLES
from .tables import source, source_warning


@dataclass(frozen=True, slots=True)
class Report:
    """rows: facts by table that stand as the source said them."""

    rows: Mapping[str, int]
    warnings: Sequence[Mapping[str, Any]]


def add(
    connection: Connection,
    *,
    kind: str,
    file_name: str,
    sha256: str | None,
    added_at: str,
    feed: tuple[int, int] | None = None,
) -> int:
    """A new source; rows are counted when they are in. feed: of a delivery, the number after which
    its rows came, and the last."""
    result = connection.execute(
        insert(source).values(
            kind=kind,
            file_name=file_name,
            sha256=sha256,
            added_at=added_at,
            rows_added=0,
            rows_changed=0,
            feed_after=feed[0] if feed else None,
            feed_last=feed[1] if feed else None,
        )
    )
    return int(result.lastrowid)


def feed_last(connection: Connection) -> int:
    """The number up to which a feed's rows are held without a gap: what was undone comes again."""
    standing = select(source.c.feed_after, source.c.feed_last).where(
        source.c.undone_at.is_(None), source.c.feed_last.is_not(None)
    )
    last = 0
    for after, until in sorted(tuple(r) for r in connection.execute(standing)):
        if after > last:
            break
        last = max(last, until)
    return last


def names(connection: Connection) -> dict[int, str]:
    """Every source's file name by id."""
    rows = connection.execute(select(source.c.id, source.c.file_name))
    return {id: name for id, name in rows}  # noqa: C416 - rows are typed as pairs only so


def count(connection: Connection, source_id: int, added: int, changed: int) -> None:
    connection.execute(
        update(source)
        .where(source.c.id == source_id)
        .values(rows_added=added, rows_changed=changed)
    )


def remember_warnings(
    connection: Connection, source_id: int, found: Sequence[Mapping[str, Any]]
) -> None:
    """Keep with a source the warnings that were accepted when it came in."""
    columns = ("file", "line", "column", "value", "expected")
    rows = [{"source_id": source_id} | {c: f[c] for c in columns} for f in found]
    if rows:
        connection.execute(insert(source_warning), rows)


def report(connection: Connection, source_id: int) -> Report:
    """What a source brought, by table, and the warnings accepted with it. Raises NotFound."""
    get(connection, source_id)
    rows = {}
    for spec in FACT_TABLES.values():
        here = spec.table.c.source_id == source_id
        n = connection.scalar(select(func.count()).select_from(spec.table).where(here))
        if n:
            rows[spec.name] = int(n)
    rows |= ledger_imports.count(connection, source_id)
    w = source_warning.c
    warnings = connection.execute(
        select(w.file, w.line, w.column, w.value, w.expected)
        .where(w.source_id == source_id)
        .order_by(w.id)
    ).mappings()
    return Report(rows=rows, warnings=[dict(r) for r in warnings])


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
