"""Writing facts: what a set of records would change, changing it, and taking it back.

Records are dicts keyed by column name. Facts of a payer name it by `exchange` and `symbol`, points
of a series by `code`; the store turns both into row ids.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date
from decimal import Decimal
from itertools import chain, repeat
from math import isclose
from typing import Any

from sqlalchemy import (
    ColumnElement,
    Connection,
    Table,
    and_,
    bindparam,
    delete,
    func,
    insert,
    or_,
    select,
    tuple_,
    update,
)

from hearth_yield.core.errors import Conflict
from hearth_yield.core.facts.tables import TABLES
from hearth_yield.core.facts.tables import FactTable as Declared
from hearth_yield.progress import Progress
from hearth_yield.rows import Row, column_of, keys_of, names_of

from . import measures
from . import tables as t
from .types import DecimalText, ExactDecimal, IsoDate

DIGITS = 2e-15
"""A spreadsheet keeps fifteen to sixteen digits of a number, of the seventeen that it may have."""
BATCH = 5000
TOGETHER = 200
OWNER_KEY: Mapping[str | None, tuple[str, ...]] = {
    None: (),
    **{table.held: table.key for table in TABLES.values() if table.owner is None},
}


@dataclass(frozen=True, slots=True)
class FactTable:
    """How one kind of record is held. owner: what its key is resolved through."""

    name: str
    table: Table
    key: tuple[str, ...]
    owner: str | None


def _as_held(declared: Declared) -> FactTable:
    owner = TABLES[declared.owner].held if declared.owner else None
    key = (f"{owner}_id", *declared.key) if owner else declared.key
    return FactTable(declared.name, t.FACTS[declared.name], key, owner)


FACT_TABLES: dict[str, FactTable] = {name: _as_held(table) for name, table in TABLES.items()}
"""In the order they are written: owners before what they own."""


@dataclass(slots=True)
class TablePlan:
    """What would happen to one table: rows to add, rows to change with what they say now."""

    added: Sequence[Row] = ()
    changed: list[tuple[Row, dict[str, Any]]] = field(default_factory=list)
    same: int = 0


Plan = dict[str, TablePlan]


def _ids_by(
    connection: Connection, id: ColumnElement[int], *key: ColumnElement[str]
) -> dict[tuple[str, ...], int]:
    return {tuple(k): i for i, *k in connection.execute(select(id, *key))}


def known_payers(connection: Connection) -> dict[tuple[str, str], str]:
    """Currency of every payer held, by exchange and symbol."""
    p = t.payer.c
    rows = connection.execute(select(p.exchange, p.symbol, p.currency))
    return {(exchange, symbol): currency for exchange, symbol, currency in rows}


def named_payers(connection: Connection) -> list[tuple[str, str, str, str, int, str | None]]:
    """Exchange, symbol, name, currency, the month fiscal years end in and the ISIN, of every payer
    held."""
    p = t.payer.c
    query = select(p.exchange, p.symbol, p.name, p.currency, p.fiscal_year_end_month, p.isin)
    return [tuple(row) for row in connection.execute(query)]


def paid_each(connection: Connection, exchange: str, symbol: str) -> list[tuple[date, float]]:
    """Every payment of a payer, by the day it was paid (its ex-date where none is on record), and
    what it was a share."""
    p, d = t.payer.c, t.dividend.c
    query = (
        select(func.coalesce(d.pay_date, d.ex_date), d.amount)
        .join(t.payer, p.id == d.payer_id)
        .where(p.exchange == exchange, p.symbol == symbol)
        .order_by(d.ex_date)
    )
    return [(day, amount) for day, amount in connection.execute(query)]


def paid_years(connection: Connection, exchange: str, symbol: str) -> frozenset[int]:
    """Calendar years in which regular dividends of a payer are held, each on its own day."""
    p, d = t.payer.c, t.dividend.c
    days = connection.scalars(
        select(d.ex_date)
        .join(t.payer, p.id == d.payer_id)
        .where(p.exchange == exchange, p.symbol == symbol)
        .where(d.kind == "regular", d.assumed.is_(None))
    )
    return frozenset(day.year for day in days)


def reports_in(connection: Connection, exchange: str, symbol: str) -> str | None:
    """The currency of the newest statement of a payer that is held."""
    p, s = t.payer.c, t.statement.c
    return connection.scalar(
        select(s.currency)
        .join(t.payer, p.id == s.payer_id)
        .where(p.exchange == exchange, p.symbol == symbol)
        .order_by(s.period_end.desc())
        .limit(1)
    )


class _Owners:
    """Row ids of payers and series; an owner that is only about to be added has none yet."""

    def __init__(self, connection: Connection) -> None:
        p, s = t.payer.c, t.series.c
        self._ids = {
            "payer": _ids_by(connection, p.id, p.exchange, p.symbol),
            "series": _ids_by(connection, s.id, s.code),
        }

    def ids_of(self, spec: FactTable, records: Sequence[Row]) -> list[int | None]:
        """Of facts that have an owner."""
        ids = self._ids[spec.owner or ""]
        return [ids.get(key) for key in keys_of(records, OWNER_KEY[spec.owner])]

    def resolve(self, spec: FactTable, record: Row) -> dict[str, Any]:
        """A record with the id of its owner in place of the owner's name."""
        row = dict(record)
        if spec.owner == "payer":
            owner: tuple[str, ...] = (row.pop("exchange"), row.pop("symbol"))
            row["payer_id"] = self._ids["payer"].get(owner)
        elif spec.owner == "series":
            owner = (row.pop("code"),)
            row["series_id"] = self._ids["series"].get(owner)
        return row


def plan(connection: Connection, records: Mapping[str, Sequence[Row]]) -> Plan:
    """Hold records against what is stored: added, changed or the same, per table."""
    owners = _Owners(connection)
    found: Plan = {}
    for name, spec in FACT_TABLES.items():
        if not records.get(name):
            continue
        held = _held(connection, spec, owners, records[name])
        if not held:
            found[name] = TablePlan(added=records[name])
            continue
        found[name] = _planned(spec, owners, records[name], held)
    return found


def _planned(
    spec: FactTable, owners: _Owners, records: Sequence[Row], held: Mapping[tuple[Any, ...], Row]
) -> TablePlan:
    """held: what is stored, by key."""
    added: list[Row] = []
    result = TablePlan(added=added)
    owner, own = OWNER_KEY[spec.owner], spec.key[1:] if spec.owner else spec.key
    ids = ((id,) for id in owners.ids_of(spec, records)) if spec.owner else repeat(())
    for id, record in zip(ids, records, strict=False):
        before = held.get((*id, *(record[k] for k in own)))
        if before is None:
            added.append(record)
        elif all(
            before[c] == v or _alike(before[c], v) for c, v in record.items() if c not in owner
        ):
            result.same += 1
        else:
            result.changed.append((record, dict(before)))
    return result


def _alike(a: Any, b: Any) -> bool:
    """Whether two numbers are the same but for the last digit that a spreadsheet keeps."""
    return isinstance(a, float) and isinstance(b, float) and isclose(a, b, rel_tol=DIGITS)


def _held(
    connection: Connection, spec: FactTable, owners: _Owners, records: Sequence[Row]
) -> dict[tuple[Any, ...], dict[str, Any]]:
    """Stored rows of the owners that the records touch, by key, and of no other days than theirs:
    a day's closes of all payers must not bring in every close there is."""
    query = select(spec.table)
    placed = next((k for k in spec.key if isinstance(spec.table.c[k].type, IsoDate)), None)
    if placed is not None:
        days = column_of(records, placed)
        query = query.where(spec.table.c[placed].between(min(days), max(days)))
    if spec.owner is not None:
        column = spec.key[0]
        ids = {*owners.ids_of(spec, records)} - {None}
        if not ids:
            return {}
        query = query.where(spec.table.c[column].in_(sorted(ids)))
    return {
        tuple(row[k] for k in spec.key): dict(row) for row in connection.execute(query).mappings()
    }


def apply(
    connection: Connection, changes: Plan, source_id: int, progress: Progress | None = None
) -> tuple[int, int]:
    """Write a plan under a source. Returns rows added and rows changed."""
    total = sum(len(p.added) + len(p.changed) for p in changes.values())
    done = added = changed = 0
    for name, spec in FACT_TABLES.items():
        part = changes.get(name)
        if part is None:
            continue
        owners = _Owners(connection)
        for start in range(0, len(part.added), BATCH):
            chunk = part.added[start : start + BATCH]
            _insert(connection, spec, owners, chunk, source_id)
            done += len(chunk)
            added += len(chunk)
            if progress:
                progress(name, done, total)
        if part.changed:
            _change(connection, spec, owners, part.changed, source_id)
            done += len(part.changed)
            changed += len(part.changed)
            if progress:
                progress(name, done, total)
    measures.touch(connection, _touched(connection, changes), _known_since(changes))
    return added, changed


def _insert(
    connection: Connection, spec: FactTable, owners: _Owners, records: Sequence[Row], source_id: int
) -> None:
    """Many rows at once, past the work that SQLAlchemy does for each: the statement is its own,
    the values are laid out here as the driver takes them, and many rows go with one call."""
    owner = OWNER_KEY[spec.owner]
    held = [name for name in names_of(records) if name not in owner]
    names = [*([spec.key[0]] if owner else []), "source_id", *held]
    statement = insert(spec.table).values({n: bindparam(n) for n in names})
    compiled = statement.compile(dialect=connection.dialect)
    filled = []
    for name in compiled.positiontup or names:
        kind = spec.table.c[name].type.dialect_impl(connection.dialect)
        bind = kind.bind_processor(connection.dialect)
        values = _column(spec, owners, records, source_id, name)
        filled.append(values if bind is None else [bind(v) for v in values])
    rows = list(zip(*filled, strict=True))
    one = f"({', '.join('?' * len(names))})"
    before = compiled.string.removesuffix(one)
    for start in range(0, len(rows), TOGETHER):
        some = rows[start : start + TOGETHER]
        sql = before + ", ".join([one] * len(some))
        connection.exec_driver_sql(sql, tuple(chain.from_iterable(some)))


def _column(
    spec: FactTable, owners: _Owners, records: Sequence[Row], source_id: int, name: str
) -> Sequence[Any]:
    """One column of the rows to insert."""
    if name == "source_id":
        return [source_id] * len(records)
    if spec.owner and name == spec.key[0]:
        return owners.ids_of(spec, records)
    return column_of(records, name)


def _known_since(changes: Plan) -> date:
    """The first day from which anything in a plan is known; long ago where that cannot be told."""
    found = [date.max]
    for name, part in changes.items():
        for rows in (part.added, [row for row, _ in part.changed]):
            if not rows:
                continue
            if not TABLES[name].known_by:
                return date.min
            held = names_of(rows)
            columns = [column_of(rows, c) for c in TABLES[name].known_by if c in held]
            days = (next(filter(None, row), date.min) for row in zip(*columns, strict=True))
            found.append(min(days, default=date.min))
    return min(found)


def _touched(connection: Connection, changes: Plan) -> list[int] | None:
    """Ids of the payers whose facts a plan changes; None: all, as a series or slump is shared."""
    parts = {n: p for n, p in changes.items() if p.added or p.changed}
    if any(FACT_TABLES[n].owner != "payer" and n != "payers" for n in parts):
        return None
    named: set[tuple[str, ...]] = set()
    for p in parts.values():
        for rows in (p.added, [row for row, _ in p.changed]):
            named.update(keys_of(rows, OWNER_KEY["payer"]))
    ids = _ids_by(connection, t.payer.c.id, t.payer.c.exchange, t.payer.c.symbol)
    return sorted(ids[key] for key in named)


def _change(
    connection: Connection,
    spec: FactTable,
    owners: _Owners,
    changed: Sequence[tuple[Row, dict[str, Any]]],
    source_id: int,
) -> None:
    connection.execute(
        insert(t.source_change),
        [
            {
                "source_id": source_id,
                "table_name": spec.name,
                "row_key": _to_json({k: before[k] for k in spec.key}),
                "before": _to_json(
                    {k: v for k, v in before.items() if k not in ("id", "source_id", *spec.key)}
                ),
                "before_source_id": before["source_id"],
            }
            for _, before in changed
        ],
    )
    for record, _ in changed:
        row = owners.resolve(spec, record) | {"source_id": source_id}
        _update(connection, spec, row)


def _update(connection: Connection, spec: FactTable, row: Mapping[str, Any]) -> None:
    where = and_(*(spec.table.c[k] == bindparam(f"key_{k}") for k in spec.key))
    values = {c: v for c, v in row.items() if c not in spec.key}
    connection.execute(
        update(spec.table).where(where).values(**values), {f"key_{k}": row[k] for k in spec.key}
    )


def records_of(
    connection: Connection, payers: Sequence[tuple[str, str]] | None = None
) -> dict[str, list[dict[str, Any]]]:
    """Stored facts as records with natural keys, ready to be planned again elsewhere.

    payers: (exchange, symbol) to keep, with the series of their currencies; None: everything.
    """
    p, s = t.payer.c, t.series.c
    found: dict[str, list[dict[str, Any]]] = {}
    chosen = None if payers is None else tuple_(p.exchange, p.symbol).in_(list(payers))
    currencies = None if chosen is None else select(p.currency).where(chosen)
    for name, spec in FACT_TABLES.items():
        facts = [
            c for c in spec.table.c if c.name not in ("id", "source_id", "payer_id", "series_id")
        ]
        order = [spec.table.c[k] for k in spec.key]
        if spec.owner == "payer":
            joined = spec.table.join(t.payer, p.id == spec.table.c.payer_id)
            query = select(p.exchange, p.symbol, *facts).select_from(joined)
            query = query.order_by(p.exchange, p.symbol, *order[1:])
        elif spec.owner == "series":
            joined = spec.table.join(t.series, s.id == spec.table.c.series_id)
            query = select(s.code, *facts).select_from(joined).order_by(s.code, *order[1:])
        else:
            query = select(*facts).order_by(*order)
        if chosen is not None and (spec.owner == "payer" or name == "payers"):
            query = query.where(chosen)
        if currencies is not None and "series" in name:
            query = query.where(or_(s.currency.in_(currencies), s.of_currency.in_(currencies)))
        found[name] = [dict(r) for r in connection.execute(query).mappings()]
    return found


def undo(connection: Connection, source_id: int) -> None:
    """Take back all that a source added or changed.

    Raises: Conflict when a later source rests on it (changed its rows, or added facts to payers
    or points to series that it brought).
    """
    _refuse_if_rested_on(connection, source_id)
    change = t.source_change
    rows = connection.execute(
        select(change).where(change.c.source_id == source_id).order_by(change.c.id.desc())
    ).mappings()
    restored = list(rows)
    measures.touch(connection, _brought_to(connection, source_id))
    for row in restored:
        spec = FACT_TABLES[row["table_name"]]
        before = _from_json(spec.table, {**row["before"], **row["row_key"]})
        _update(connection, spec, before | {"source_id": row["before_source_id"]})
    connection.execute(delete(change).where(change.c.source_id == source_id))
    for spec in reversed(FACT_TABLES.values()):
        connection.execute(delete(spec.table).where(spec.table.c.source_id == source_id))


def _brought_to(connection: Connection, source_id: int) -> list[int] | None:
    """Ids of the payers that a source brought facts to; None: all."""
    found: set[int] = set()
    changed = t.source_change.c
    keys = connection.execute(
        select(changed.table_name, changed.row_key).where(changed.source_id == source_id)
    )
    for name, key in keys:
        if "payer_id" not in key and name != "payers":
            return None
        found.add(key.get("payer_id", 0))
    for spec in FACT_TABLES.values():
        here = spec.table.c.source_id == source_id
        if spec.owner == "payer" or spec.name == "payers":
            id = spec.table.c.id if spec.name == "payers" else spec.table.c.payer_id
            found.update(connection.scalars(select(id).where(here).distinct()))
        elif connection.scalar(select(func.count()).select_from(spec.table).where(here)):
            return None
    return sorted(found)


def _refuse_if_rested_on(connection: Connection, source_id: int) -> None:
    change = t.source_change
    later = connection.scalar(
        select(func.min(change.c.source_id)).where(change.c.before_source_id == source_id)
    )
    for spec in FACT_TABLES.values():
        if later is None and spec.owner is not None:
            brought = _brought(
                connection, source_id, "payers" if spec.owner == "payer" else "series"
            )
            later = connection.scalar(
                select(func.min(spec.table.c.source_id)).where(
                    spec.table.c[spec.key[0]].in_(brought), spec.table.c.source_id != source_id
                )
            )
    if later is not None:
        name = connection.scalar(select(t.source.c.file_name).where(t.source.c.id == later))
        raise Conflict(
            f"“{name}”, imported later, rests on this import; undo that one first",
            field="source",
            value=source_id,
            rule="the newest import on the same facts is undone first",
        )


def _brought(connection: Connection, source_id: int, name: str) -> list[int]:
    """Ids of the payers or series a source added; those it only changed were there before."""
    spec, change = FACT_TABLES[name], t.source_change.c
    keys = connection.scalars(
        select(change.row_key).where(change.source_id == source_id, change.table_name == name)
    )
    changed = {tuple(k[c] for c in spec.key) for k in keys}
    rows = connection.execute(
        select(spec.table.c.id, *(spec.table.c[k] for k in spec.key)).where(
            spec.table.c.source_id == source_id
        )
    )
    return [id for id, *key in rows if tuple(key) not in changed]


def _to_json(row: Mapping[str, Any]) -> dict[str, Any]:
    """Days and exact numbers as text."""
    return {k: _plain(v) for k, v in row.items()}


def _plain(cell: Any) -> Any:
    match cell:
        case date():
            return cell.isoformat()
        case Decimal():
            return format(cell, "f")
    return cell


def _from_json(table: Table, row: Mapping[str, Any]) -> dict[str, Any]:
    return {k: _read(table.c[k].type, v) for k, v in row.items()}


def _read(kind: Any, cell: Any) -> Any:
    match kind:
        case IsoDate() if cell:
            return date.fromisoformat(cell)
        case ExactDecimal() | DecimalText() if cell is not None:
            return Decimal(cell)
    return cell
