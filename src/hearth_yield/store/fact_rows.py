"""Facts as rows, as they are held: to be looked at and mended."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Any

from sqlalchemy import ColumnElement, Connection, func, select, true

from hearth_yield.core.errors import InvalidInput, NotFound

from . import tables as t
from .edits import Edit, by_row, standing
from .facts import FACT_TABLES

OF_A_PAYER = tuple(n for n, f in FACT_TABLES.items() if f.owner == "payer")


@dataclass(frozen=True, slots=True, kw_only=True)
class FactRow:
    """key: the row within its payer, as text. edited: fields whose value stands in another's
    place."""

    key: Mapping[str, str]
    cells: Mapping[str, Any]
    source_id: int
    source_kind: str
    source_name: str
    edited: Mapping[str, Edit]


@dataclass(frozen=True, slots=True, kw_only=True)
class Window:
    """Some rows of one table: of a payer, of a series, or of a table that has no owner. found: how
    many there are."""

    owner_name: str
    currency: str
    rows: Sequence[FactRow]
    found: int


def rows_of(
    connection: Connection,
    exchange: str,
    symbol: str,
    name: str,
    first: int,
    size: int,
    span: str = "",
) -> Window:
    """A window of one table's rows of a payer, the newest key first; its own line as "payers".

    span: of statements, the only one to show.
    Raises: NotFound for a payer, InvalidInput for a table that is not held by payer.
    """
    if name not in (*OF_A_PAYER, "payers"):
        raise InvalidInput(
            f"there is no table “{name}”", field="table", value=name, rule=", ".join(OF_A_PAYER)
        )
    p = t.payer.c
    payer = connection.execute(
        select(p.id, p.name, p.currency).where(p.exchange == exchange, p.symbol == symbol)
    ).first()
    if payer is None:
        raise NotFound(f"no payer {symbol} on {exchange} is held", field="symbol", value=symbol)
    mine = (p.id if name == "payers" else FACT_TABLES[name].table.c.payer_id) == payer.id
    if name == "statements" and span:
        mine &= t.statement.c.span == span
    changed = by_row(standing(connection, exchange, symbol), name)
    rows, found = _window(connection, name, mine, first, size, changed)
    return Window(owner_name=payer.name, currency=payer.currency, rows=rows, found=found)


def points_of(connection: Connection, code: str, first: int, size: int) -> Window:
    """A window of one series' points, each with what the series is. Raises NotFound."""
    s = t.series.c
    series = connection.execute(
        select(s.id, s.name, s.currency, s.kind, s.of_currency).where(s.code == code)
    ).first()
    if series is None:
        raise NotFound(f"no series {code} is held", field="code", value=code)
    owned = t.series_point.c.series_id == series.id
    rows, found = _window(connection, "series_points", owned, first, size)
    about = {
        "code": code,
        "kind": series.kind,
        "name": series.name,
        "currency": series.currency,
        "of_currency": series.of_currency,
    }
    rows = [replace(r, cells={**about, **r.cells}) for r in rows]
    return Window(owner_name=series.name, currency=series.currency, rows=rows, found=found)


def slumps(connection: Connection) -> Window:
    """All of them, the newest name first."""
    rows, found = _window(connection, "slumps", true(), 0, 1000)
    return Window(owner_name="Slumps", currency="", rows=rows, found=found)


def _window(
    connection: Connection,
    name: str,
    mine: ColumnElement[bool],
    first: int,
    size: int,
    changed: Mapping[tuple[str, ...], Mapping[str, Edit]] | None = None,
) -> tuple[Sequence[FactRow], int]:
    spec = FACT_TABLES[name]
    table = spec.table
    keys = spec.key[1:] if spec.owner else spec.key
    total = connection.scalar(select(func.count()).select_from(table).where(mine))
    query = (
        select(table, t.source.c.kind.label("source_kind"), t.source.c.file_name)
        .join(t.source, t.source.c.id == table.c.source_id)
        .where(mine)
        .order_by(*(table.c[k].desc() for k in keys))
        .offset(first)
        .limit(size)
    )
    hidden = {"id", "payer_id", "series_id", "source_id", "source_kind", "file_name"}
    found = []
    for row in connection.execute(query).mappings():
        key = {k: str(row[k]) for k in keys}
        found.append(
            FactRow(
                key=key,
                cells={k: v for k, v in row.items() if k not in hidden},
                source_id=row["source_id"],
                source_kind=row["source_kind"],
                source_name=row["file_name"],
                edited=(changed or {}).get(tuple(key.values()), {}),
            )
        )
    return found, total or 0
