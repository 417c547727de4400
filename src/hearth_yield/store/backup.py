"""Every row of every table, out and in again."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from datetime import date
from decimal import Decimal
from typing import Any

from alembic.migration import MigrationContext
from sqlalchemy import (
    JSON,
    Boolean,
    Column,
    Connection,
    Integer,
    Table,
    delete,
    func,
    insert,
    select,
    update,
)
from sqlalchemy.types import REAL

from hearth_yield.core.errors import InvalidInput
from hearth_yield.progress import Progress

from .tables import household, metadata
from .types import ExactDecimal, IsoDate

BATCH = 5000
TABLES = [t for t in metadata.sorted_tables if not t.info.get("derived")]
"""What a backup holds; the rest is computed again from it."""


def schema_revision(connection: Connection) -> str:
    """The migration the database stands at."""
    return str(MigrationContext.configure(connection).get_current_revision())


def dump(connection: Connection) -> dict[str, dict[str, Any]]:
    """Each table's column names and its rows, in the order of the primary key."""
    found: dict[str, dict[str, Any]] = {}
    for table in TABLES:
        rows = connection.execute(select(table).order_by(*table.primary_key.columns))
        found[table.name] = {
            "columns": [c.name for c in table.columns],
            "rows": [[_plain(v) for v in row] for row in rows],
        }
    return found


def _plain(value: Any) -> Any:
    match value:
        case date():
            return value.isoformat()
        case Decimal():
            return str(value)
    return value


def check(tables: Mapping[str, Any]) -> dict[str, list[dict[str, Any]]]:
    """Rows by table as the database takes them.

    Raises: InvalidInput naming the first table, column or cell that does not fit.
    """
    known = {t.name: t for t in TABLES}
    for name in sorted(set(tables) ^ set(known)):
        what = "is not known here" if name in tables else "is missing"
        raise InvalidInput(
            f"table {name} {what}", field="tables", value=name, rule=", ".join(sorted(known))
        )
    return {name: _check_table(known[name], content) for name, content in tables.items()}


def _check_table(table: Table, content: Any) -> list[dict[str, Any]]:
    columns, rows = (
        (content.get("columns"), content.get("rows")) if isinstance(content, dict) else (None, None)
    )
    wanted = [c.name for c in table.columns]
    if columns != wanted or not isinstance(rows, list):
        raise InvalidInput(
            f"table {table.name} has other columns",
            field=table.name,
            value=columns,
            rule=", ".join(wanted),
        )
    readers = [_reader(c) for c in table.columns]
    found = []
    for number, row in enumerate(rows, 1):
        try:
            if not isinstance(row, list):
                raise TypeError(row)
            cells = [r(v) for r, v in zip(readers, row, strict=True)]
        except (ValueError, TypeError, ArithmeticError):
            raise InvalidInput(
                f"row {number} of {table.name} cannot be read",
                field=table.name,
                value=str(row)[:120],
                rule="a row as a backup writes it",
            ) from None
        found.append(dict(zip(wanted, cells, strict=True)))
    return found


Reader = Callable[[Any], Any]


def _reader(column: Column[Any]) -> Reader:
    """How a cell of a column is taken in; it raises ValueError, TypeError or ArithmeticError for
    one that the column cannot hold."""
    kinds, read = _reading(column.type)
    nullable = column.nullable

    def cell(value: Any) -> Any:
        if value is None and nullable:
            return None
        if type(value) not in kinds:  # so that true and false are no numbers
            raise TypeError(value)
        return read(value)

    return cell


def _reading(kind: Any) -> tuple[tuple[type, ...], Reader]:
    """The kinds of JSON value that a type of column is written as, and how one is read."""
    match kind:
        case IsoDate():
            return (str,), date.fromisoformat
        case ExactDecimal():
            return (str,), _decimal
        case Boolean():
            return (bool,), bool
        case Integer():
            return (int,), _integer
        case REAL():
            return (int, float), _real
        case JSON():
            return (dict, list), lambda v: v
    return (str,), _text


def _decimal(text: str) -> Decimal:
    exact = Decimal(text)
    if not exact.is_finite():
        raise ValueError(text)
    return exact


def _integer(value: int) -> int:
    if not -(2**63) <= value < 2**63:
        raise ValueError(value)
    return value


def _real(value: float) -> float:
    if not math.isfinite(value):
        raise ValueError(value)
    return float(value)


def _text(value: str) -> str:
    value.encode()
    return value


def replace_all(
    connection: Connection,
    rows: Mapping[str, list[dict[str, Any]]],
    revision: int,
    progress: Progress | None = None,
) -> None:
    """Empty every table and fill it with the checked rows; the revision grows past both states.

    Foreign keys and checks are the database's own: a row that breaks one breaks the transaction.
    """
    for table in reversed(metadata.sorted_tables):
        connection.execute(delete(table))
    total, done = sum(len(r) for r in rows.values()), 0
    for table in TABLES:
        mine = rows[table.name]
        for start in range(0, len(mine), BATCH):
            chunk = mine[start : start + BATCH]
            connection.execute(insert(table), chunk)
            done += len(chunk)
            if progress:
                progress(table.name, done, total)
    newest = func.max(household.c.revision, revision)
    connection.execute(update(household).values(revision=newest + 1))
