"""Every row of every table, out and in again. Rows come in by way of a database of their own, at
the schema they were written by, which is then brought to the newest."""

from __future__ import annotations

import json
import math
from collections.abc import Callable, Iterator, Mapping, Sequence
from contextlib import contextmanager
from datetime import date
from decimal import Decimal
from functools import lru_cache
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import Any

import msgspec
from alembic.migration import MigrationContext
from sqlalchemy import (
    JSON,
    BigInteger,
    Boolean,
    Column,
    Connection,
    Integer,
    MetaData,
    Table,
    Text,
    delete,
    func,
    insert,
    select,
    type_coerce,
    update,
)
from sqlalchemy.exc import DatabaseError, IntegrityError
from sqlalchemy.types import REAL

from hearth_yield.core.errors import InvalidInput
from hearth_yield.progress import Progress, unwatched
from hearth_yield.rows import Rows
from hearth_yield.texts import all_plain, plain

from .database import Database, knows_schema
from .tables import metadata, product_state
from .types import DecimalText, ExactDecimal, IsoDate

BATCH = 5000
TABLES = [t for t in metadata.sorted_tables if not t.info.get("derived")]
"""What a backup holds; the rest is computed again from it."""
DERIVED = {t.name for t in metadata.sorted_tables if t.info.get("derived")}
SECRET = product_state.c.calendar_secret
FORMER_STATE = "household"
"""What the table of the product's state was called up to schema 0022."""


def schema_revision(connection: Connection) -> str:
    """The migration the database stands at."""
    return str(MigrationContext.configure(connection).get_current_revision())


def dump(connection: Connection) -> dict[str, dict[str, Any]]:
    """Each table's column names and its rows, in the order of the primary key. The secret of the
    calendar's address is left out."""
    found: dict[str, dict[str, Any]] = {}
    for table in TABLES:
        columns = [c for c in table.columns if c is not SECRET]
        days = [type_coerce(c, Text) if isinstance(c.type, IsoDate) else c for c in columns]
        rows = connection.execute(select(*days).order_by(*table.primary_key.columns))
        exact = any(isinstance(c.type, ExactDecimal | DecimalText) for c in columns)
        found[table.name] = {
            "columns": [c.name for c in columns],
            "rows": [list(map(_plain, row)) if exact else list(row) for row in rows],
        }
    return found


def _plain(value: Any) -> Any:
    return format(value, "f") if isinstance(value, Decimal) else value


class _Content(msgspec.Struct):
    columns: list[str]
    rows: list[msgspec.Raw]


@contextmanager
def unpacked(
    tables: Mapping[str, msgspec.Raw], schema: str, folder: Path, progress: Progress = unwatched
) -> Iterator[Database]:
    """A database in a folder of its own that holds the rows, at the newest schema.

    tables: of each its columns and rows, as JSON. schema: by which they were written.
    Raises: InvalidInput naming the first table, column or row that does not fit.
    """
    if not knows_schema(schema):
        raise InvalidInput(
            "the backup was made by a newer version of Hearth Yield",
            field="schema",
            value=schema[:40],
            rule="the version that made it, or a newer one",
        )
    blank, held = _blank(schema)
    path = folder / "unpacked.sqlite"
    path.write_bytes(blank)
    database = Database(path)
    try:
        with database.write(facts=False) as connection:
            _load(connection, held, tables, progress)
        _bring_on(database)
        yield database
    finally:
        database.close()


@lru_cache(maxsize=4)
def _blank(schema: str) -> tuple[bytes, MetaData]:
    """The file of a database of a schema that holds nothing, and its tables."""
    held = MetaData()
    with TemporaryDirectory() as folder:
        database = Database(Path(folder) / "blank.sqlite")
        database.migrate(schema)
        with database.write(facts=False) as connection:
            held.reflect(connection)
            for table in reversed(held.sorted_tables):
                if table.name != "alembic_version":
                    connection.execute(delete(table))
        database.close()
        return database.path.read_bytes(), held


def _bring_on(database: Database) -> None:
    """To the newest schema. What an older one let in may be nothing that its successors expect."""
    try:
        database.migrate()
    except (ValueError, TypeError, LookupError, AttributeError, DatabaseError) as error:
        raise InvalidInput(
            "the backup's rows cannot be brought to today's form; nothing was changed",
            field="tables",
            value=str(error)[:200],
            rule="rows as Hearth Yield writes them",
        ) from error


def _load(
    connection: Connection, held: MetaData, tables: Mapping[str, msgspec.Raw], progress: Progress
) -> None:
    known = {t.name: t for t in held.sorted_tables if t.name not in {"alembic_version", *DERIVED}}
    for name in sorted(set(tables) ^ set(known)):
        what = "is not known here" if name in tables else "is missing"
        raise InvalidInput(
            f"table {name} {what}", field="tables", value=name, rule=", ".join(sorted(known))
        )
    try:
        for table in known.values():
            _load_table(connection, table, tables[table.name], progress)
    except IntegrityError as error:
        raise InvalidInput(
            "the backup's rows do not fit together; nothing was changed",
            field="tables",
            value=str(error.orig),
            rule="rows that refer to rows of the same backup",
        ) from error
    state = known.get(product_state.name, known.get(FORMER_STATE))
    states = [] if state is None else connection.scalars(select(state.c.id)).all()
    if states != [1]:
        raise InvalidInput(
            "the backup holds no state of the product",
            field=product_state.name,
            value=len(states),
            rule="one row",
        )


def _load_table(connection: Connection, table: Table, raw: msgspec.Raw, progress: Progress) -> None:
    try:
        content = msgspec.json.decode(raw, type=_Content)
    except (msgspec.MsgspecError, RecursionError):
        content = _Content(columns=[], rows=[])
    names, wanted = content.columns, {c.name for c in table.columns}
    may_lack = {SECRET.name} & wanted
    if not wanted - may_lack <= set(names) <= wanted or len(set(names)) < len(names):
        raise InvalidInput(
            f"table {table.name} has other columns",
            field=table.name,
            value=names[:60],
            rule=", ".join(c.name for c in table.columns),
        )
    columns = [_typed(table, name) for name in names]
    held = Table(table.name, MetaData(), *(Column(c.name, _stored(c.type)) for c in columns))
    for start in range(0, len(content.rows), BATCH):
        rows = content.rows[start : start + BATCH]
        progress(f"reading {table.name}", start, len(content.rows))
        cells = _cells(rows, columns)
        if cells is None:
            raise _unreadable(table.name, start + 1, rows, columns)
        _insert(connection, held, list(cells))


def _insert(connection: Connection, table: Table, rows: Sequence[Sequence[Any]]) -> None:
    """Rows as the database holds them, in the order of the columns: a third of what it takes to
    hand each over by name."""
    statement = insert(table).compile(connection.engine, column_keys=[c.name for c in table.c])
    connection.exec_driver_sql(str(statement), [tuple(row) for row in rows])


def _typed(table: Table, name: str) -> Column[Any]:
    """A column by the type it has today, which an older schema does not tell; else as it tells."""
    today: Mapping[str, Column[Any]] = (
        dict(metadata.tables[table.name].c) if table.name in metadata.tables else {}
    )
    own = table.c[name]
    return Column(name, today[name].type if name in today else own.type, nullable=own.nullable)


def _stored(kind: Any) -> Any:
    """What a type is for the database itself, which is handed values as it holds them."""
    match kind:
        case IsoDate() | DecimalText():
            return Text()
        case ExactDecimal():
            return BigInteger()
        case JSON():
            return Text()
    return kind


def _cells(rows: Sequence[msgspec.Raw], columns: Sequence[Column[Any]]) -> Any:
    """The cells of rows as the database holds them, found column by column; None where some row is
    none of this table."""
    try:
        read = msgspec.json.decode(b"[" + b",".join(map(bytes, rows)) + b"]", type=list[list[Any]])
        if {*map(len, read)} != {len(columns)}:
            return None
        by_column = list(zip(*read, strict=True))
        return zip(*map(_column, columns, by_column), strict=True)
    except (ValueError, TypeError, ArithmeticError, msgspec.MsgspecError, RecursionError):
        return None


def _column(column: Column[Any], cells: Sequence[Any]) -> list[Any]:
    """Raises ValueError, TypeError or ArithmeticError for a cell that the column cannot hold."""
    kinds, read = _reading(column.type)
    if not {*map(type, cells)} <= (kinds | {type(None)} if column.nullable else kinds):
        raise TypeError(column.name)  # so that true and false are no numbers
    if dict in kinds:
        return [None if c is None else read(c) for c in cells]
    known = {c: read(c) for c in set(cells) if c is not None}
    return [known.get(c) for c in cells]


def _unreadable(
    name: str, first: int, rows: Sequence[msgspec.Raw], columns: Sequence[Column[Any]]
) -> InvalidInput:
    """Which of some rows cannot be read."""
    number, row = next((n, r) for n, r in enumerate(rows, first) if _cells([r], columns) is None)
    return InvalidInput(
        f"row {number} of {name} cannot be read",
        field=name,
        value=bytes(row)[:120].decode(errors="replace"),
        rule="a row as a backup writes it",
    )


def _reading(kind: Any) -> tuple[set[type], Callable[[Any], Any]]:
    """The kinds of JSON value that a type of column is written as, and how one is read."""
    match kind:
        case IsoDate():
            return {str}, lambda text: date.fromisoformat(text).isoformat()
        case ExactDecimal():
            return {str}, lambda text: _integer(kind.scaled(Decimal(text)))
        case DecimalText():
            return {str}, _as_typed
        case Boolean():
            return {bool}, bool
        case Integer():
            return {int}, _integer
        case REAL():
            return {int, float}, _real
        case JSON():
            return {dict, list}, lambda held: json.dumps(all_plain(held))
    return {str}, plain


def _as_typed(text: str) -> str:
    exact = Decimal(text)
    if not exact.is_finite():
        raise ValueError(text)
    return format(exact, "f")


def _integer(value: int) -> int:
    if not -(2**63) <= value < 2**63:
        raise ValueError(value)
    return value


def _real(value: float) -> float:
    if not math.isfinite(value):
        raise ValueError(value)
    return float(value)


def rows_of(connection: Connection) -> Iterator[tuple[Table, int, Rows]]:
    """Every row of every table, some at a time, with the number of the first. Raises InvalidInput
    for one that is nothing of its column."""
    for table in TABLES:
        first = 1
        query = select(table).order_by(*table.primary_key.columns)
        try:
            for some in connection.execute(query).partitions(BATCH):
                columns = list(map(list, zip(*some, strict=True)))
                yield table, first, Rows([c.name for c in table.columns], columns)
                first += len(some)
        except (ValueError, TypeError, ArithmeticError):
            raise InvalidInput(
                f"a row of {table.name} cannot be read",
                field=table.name,
                value=f"from row {first}",
                rule="rows as a backup writes them",
            ) from None


def replace_all(
    connection: Connection,
    taken: Connection,
    revision: int,
    secret: str | None,
    progress: Progress = unwatched,
) -> None:
    """Empty every table and fill it from another database; the revision grows past both states.
    secret: of the calendar's address from now on."""
    for table in reversed(metadata.sorted_tables):
        connection.execute(delete(table))
    counts = {t: int(taken.scalar(select(func.count()).select_from(t)) or 0) for t in TABLES}
    total, done = sum(counts.values()), 0
    for table in TABLES:
        plain = Table(table.name, MetaData(), *(Column(c.name, _stored(c.type)) for c in table.c))
        for some in taken.execute(select(plain)).partitions(BATCH):
            _insert(connection, plain, some)
            done += len(some)
            progress(table.name, done, total)
    newest = func.max(product_state.c.revision, revision)
    connection.execute(update(product_state).values(revision=newest + 1, calendar_secret=secret))
