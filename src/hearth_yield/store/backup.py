"""Every row of every table, out and in again. Rows come in by way of a database of their own, at
the schema they were written by, which is then brought to the newest."""

from __future__ import annotations

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
    Boolean,
    Column,
    Connection,
    Integer,
    MetaData,
    Table,
    delete,
    func,
    insert,
    select,
    update,
)
from sqlalchemy.exc import DatabaseError, IntegrityError
from sqlalchemy.types import REAL

from hearth_yield.core.errors import InvalidInput
from hearth_yield.progress import Progress, unwatched
from hearth_yield.texts import all_plain, plain

from .database import Database, knows_schema
from .tables import household, metadata
from .types import ExactDecimal, IsoDate

BATCH = 5000
TABLES = [t for t in metadata.sorted_tables if not t.info.get("derived")]
"""What a backup holds; the rest is computed again from it."""
DERIVED = {t.name for t in metadata.sorted_tables if t.info.get("derived")}
SECRET = household.c.calendar_secret
Row = Mapping[str, Any]


def schema_revision(connection: Connection) -> str:
    """The migration the database stands at."""
    return str(MigrationContext.configure(connection).get_current_revision())


def dump(connection: Connection) -> dict[str, dict[str, Any]]:
    """Each table's column names and its rows, in the order of the primary key. The secret of the
    calendar's address is left out."""
    found: dict[str, dict[str, Any]] = {}
    for table in TABLES:
        columns = [c for c in table.columns if c is not SECRET]
        rows = connection.execute(select(*columns).order_by(*table.primary_key.columns))
        found[table.name] = {
            "columns": [c.name for c in columns],
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
    households = connection.scalars(select(household.c.id)).all()
    if households != [1]:
        raise InvalidInput(
            "the backup holds no household",
            field="household",
            value=len(households),
            rule="one row",
        )


def _load_table(connection: Connection, table: Table, raw: msgspec.Raw, progress: Progress) -> None:
    try:
        content = msgspec.json.decode(raw, type=_Content)
    except (msgspec.MsgspecError, RecursionError):
        content = _Content(columns=[], rows=[])
    may_lack = {SECRET.name} if table.name == household.name else set[str]()
    names, wanted = content.columns, {c.name for c in table.columns}
    if not wanted - may_lack <= set(names) <= wanted or len(set(names)) < len(names):
        raise InvalidInput(
            f"table {table.name} has other columns",
            field=table.name,
            value=names[:60],
            rule=", ".join(c.name for c in table.columns),
        )
    typed = Table(table.name, MetaData(), *(_typed(table, name) for name in names))
    readers = [_reader(c) for c in typed.columns]
    for start in range(0, len(content.rows), BATCH):
        rows = content.rows[start : start + BATCH]
        read = [_row(table.name, n, r, readers) for n, r in enumerate(rows, start + 1)]
        progress(f"reading {table.name}", start, len(content.rows))
        connection.execute(insert(typed), [dict(zip(names, cells, strict=True)) for cells in read])


def _typed(table: Table, name: str) -> Column[Any]:
    """A column by the type it has today, which an older schema does not tell; else as it tells."""
    today: Mapping[str, Column[Any]] = (
        dict(metadata.tables[table.name].c) if table.name in metadata.tables else {}
    )
    own = table.c[name]
    return Column(name, today[name].type if name in today else own.type, nullable=own.nullable)


def _row(name: str, number: int, raw: msgspec.Raw, readers: Sequence[Reader]) -> list[Any]:
    try:
        row = msgspec.json.decode(raw)
        if not isinstance(row, list):
            raise TypeError(row)
        return [r(v) for r, v in zip(readers, row, strict=True)]
    except (ValueError, TypeError, ArithmeticError, msgspec.MsgspecError, RecursionError):
        raise InvalidInput(
            f"row {number} of {name} cannot be read",
            field=name,
            value=bytes(raw)[:120].decode(errors="replace"),
            rule="a row as a backup writes it",
        ) from None


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
            return (dict, list), all_plain
    return (str,), plain


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


def rows_of(connection: Connection) -> Iterator[tuple[Table, int, list[dict[str, Any]]]]:
    """Every row of every table, some at a time, with the number of the first. Raises InvalidInput
    for one that is nothing of its column."""
    for table in TABLES:
        first = 1
        query = select(table).order_by(*table.primary_key.columns)
        try:
            for some in connection.execute(query).mappings().partitions(BATCH):
                yield table, first, [dict(row) for row in some]
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
    for table, _, rows in rows_of(taken):
        connection.execute(insert(table), rows)
        done += len(rows)
        progress(table.name, done, total)
    newest = func.max(household.c.revision, revision)
    connection.execute(update(household).values(revision=newest + 1, calendar_secret=secret))
