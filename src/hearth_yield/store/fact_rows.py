"""The facts of one payer as rows, as they are held: to be looked at and mended."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from sqlalchemy import Connection, func, select

from hearth_yield.core.errors import InvalidInput, NotFound

from . import tables as t
from .adjustments import Adjustment, by_row, standing
from .facts import FACT_TABLES

OF_A_PAYER = tuple(n for n, f in FACT_TABLES.items() if f.owner == "payer")


@dataclass(frozen=True, slots=True, kw_only=True)
class FactRow:
    """key: the row within its payer, as text. adjusted: fields whose value stands in another's
    place."""

    key: Mapping[str, str]
    cells: Mapping[str, Any]
    source_id: int
    source_kind: str
    source_name: str
    adjusted: Mapping[str, Adjustment]


@dataclass(frozen=True, slots=True, kw_only=True)
class Window:
    """Some rows of one table of a payer. found: how many the table holds of it."""

    payer_name: str
    currency: str
    rows: Sequence[FactRow]
    found: int


def rows_of(
    connection: Connection, exchange: str, symbol: str, name: str, first: int, size: int
) -> Window:
    """A window of one table's rows, the newest key first.

    Raises: NotFound for a payer, InvalidInput for a table that is not held by payer.
    """
    if name not in OF_A_PAYER:
        raise InvalidInput(
            f"there is no table “{name}”", field="table", value=name, rule=", ".join(OF_A_PAYER)
        )
    p = t.payer.c
    payer = connection.execute(
        select(p.id, p.name, p.currency).where(p.exchange == exchange, p.symbol == symbol)
    ).first()
    if payer is None:
        raise NotFound(f"no payer {symbol} on {exchange} is held", field="symbol", value=symbol)
    spec = FACT_TABLES[name]
    table, keys = spec.table, spec.key[1:]
    total = connection.scalar(
        select(func.count()).select_from(table).where(table.c.payer_id == payer.id)
    )
    query = (
        select(table, t.source.c.kind.label("source_kind"), t.source.c.file_name)
        .join(t.source, t.source.c.id == table.c.source_id)
        .where(table.c.payer_id == payer.id)
        .order_by(*(table.c[k].desc() for k in keys))
        .offset(first)
        .limit(size)
    )
    changed = by_row(standing(connection, exchange, symbol), name)
    hidden = {"id", "payer_id", "source_id", "source_kind", "file_name"}
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
                adjusted=changed.get(tuple(key.values()), {}),
            )
        )
    return Window(payer_name=payer.name, currency=payer.currency, rows=found, found=total or 0)
