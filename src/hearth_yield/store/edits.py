"""Figures a person replaced, and fiscal years excluded. The facts themselves stay untouched."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date, datetime

from sqlalchemy import Connection, bindparam, insert, null, select, update

from hearth_yield.core.errors import NotFound
from hearth_yield.core.facts.edits import Edited
from hearth_yield.core.kinds import Kind

from . import measures
from .facts import FACT_TABLES
from .tables import edit, payer
from .types import IsoDate

EXCLUDED_ON = "excluded:"
"""Before a basis, in place of a field: the fiscal year is excluded on it."""
EXCLUDED = "excluded"
"""In place of a field: the whole fact counts on no day."""


STANDING = (
    select(edit)
    .where(
        edit.c.exchange == bindparam("exchange"),
        edit.c.symbol == bindparam("symbol"),
        edit.c.withdrawn_at.is_(None),
    )
    .order_by(edit.c.id)
)


@dataclass(frozen=True, slots=True, kw_only=True)
class Edit:
    """row_key: of the fact within its payer, dates as ISO text. original: None where nothing was
    held. withdrawn_at: set while it does not count."""

    id: int | None
    exchange: str
    symbol: str
    table_name: str
    row_key: Mapping[str, str]
    field: str
    original: float | None
    value: float
    reason: str
    made_at: str
    withdrawn_at: str | None

    @property
    def basis(self) -> str | None:
        """The basis a fiscal year is excluded on."""
        return self.field.removeprefix(EXCLUDED_ON) if self.field.startswith(EXCLUDED_ON) else None

    @property
    def edited(self) -> Edited:
        made_on = datetime.fromisoformat(self.made_at).date()
        return Edited(original=self.original, reason=self.reason, made_on=made_on)

    @property
    def leaves_out(self) -> bool:
        return self.field == EXCLUDED


def add(connection: Connection, made: Edit) -> int:
    """Stands in the place of one on the same figure, which is withdrawn."""
    _withdraw_others(connection, made, made.made_at)
    result = connection.execute(
        insert(edit).values(
            exchange=made.exchange,
            symbol=made.symbol,
            table_name=made.table_name,
            row_key=dict(made.row_key),
            field=made.field,
            original=made.original,
            value=made.value,
            reason=made.reason,
            made_at=made.made_at,
        )
    )
    _touch(connection, made.exchange, made.symbol)
    return int(result.lastrowid)


def _withdraw_others(connection: Connection, made: Edit, at: str) -> None:
    """Of one figure at most one edit stands."""
    a = edit.c
    same = (
        (a.exchange == made.exchange)
        & (a.symbol == made.symbol)
        & (a.table_name == made.table_name)
        & (a.field == made.field)
        & a.withdrawn_at.is_(None)
    )
    for id, key in connection.execute(select(a.id, a.row_key).where(same)).all():
        if key == dict(made.row_key) and id != made.id:
            connection.execute(update(edit).where(a.id == id).values(withdrawn_at=at))


def withdraw(connection: Connection, id: int, at: str) -> None:
    """The original counts again. Raises NotFound."""
    held = _get(connection, id)
    connection.execute(update(edit).where(edit.c.id == id).values(withdrawn_at=at))
    _touch(connection, held.exchange, held.symbol)


def restore(connection: Connection, id: int, at: str) -> None:
    """One that was withdrawn stands again, in the place of any other on its figure. at: now."""
    held = _get(connection, id)
    _withdraw_others(connection, held, at)
    connection.execute(update(edit).where(edit.c.id == id).values(withdrawn_at=None))
    _touch(connection, held.exchange, held.symbol)


def _get(connection: Connection, id: int) -> Edit:
    row = connection.execute(select(edit).where(edit.c.id == id)).mappings().first()
    if row is None:
        raise NotFound("no such edit", field="id", value=id)
    return Edit(**row)


def all_of(connection: Connection) -> Sequence[Edit]:
    """The newest first, withdrawn ones among them."""
    rows = connection.execute(select(edit).order_by(edit.c.id.desc())).mappings()
    return [Edit(**r) for r in rows]


def standing(connection: Connection, exchange: str, symbol: str) -> Sequence[Edit]:
    """Those of one payer that count, the oldest first."""
    rows = connection.execute(STANDING, {"exchange": exchange, "symbol": symbol})
    return [Edit(**r) for r in rows.mappings()]


def by_row(found: Sequence[Edit], table: str) -> dict[tuple[str, ...], dict[str, Edit]]:
    """Edited fields of one table by row key, in the key's own order; a row that is left out has
    the field EXCLUDED."""
    rows: dict[tuple[str, ...], dict[str, Edit]] = {}
    for a in found:
        if a.table_name == table and a.basis is None:
            rows.setdefault(tuple(a.row_key.values()), {})[a.field] = a
    return rows


def excluded_years(found: Sequence[Edit]) -> dict[tuple[str, date], Edited]:
    return {
        (a.basis, date.fromisoformat(a.row_key["period_end"])): a.edited
        for a in found
        if a.basis is not None
    }


def _touch(connection: Connection, exchange: str, symbol: str) -> None:
    p = payer.c
    ids = connection.scalars(select(p.id).where(p.exchange == exchange, p.symbol == symbol))
    measures.touch(connection, list(ids))


def kind_of(connection: Connection, exchange: str, symbol: str) -> Kind:
    """Raises NotFound."""
    kind = connection.scalar(
        select(payer.c.kind).where(payer.c.exchange == exchange, payer.c.symbol == symbol)
    )
    if kind is None:
        raise NotFound("no such payer is held", field="symbol", value=symbol)
    return Kind(kind)


def held_value(
    connection: Connection,
    exchange: str,
    symbol: str,
    table: str,
    key: Mapping[str, str],
    field: str | None = None,
) -> float | None:
    """What is held in a field of a payer's fact. key: parts of the row's, dates as ISO text; no
    field: only that the fact is held. Raises NotFound."""
    held = FACT_TABLES[table].table
    wanted = [
        held.c[n] == (date.fromisoformat(v) if isinstance(held.c[n].type, IsoDate) else v)
        for n, v in key.items()
    ]
    row = connection.execute(
        select(held.c[field] if field else null())
        .join(payer, payer.c.id == held.c.payer_id)
        .where(payer.c.exchange == exchange, payer.c.symbol == symbol, *wanted)
    ).first()
    if row is None:
        raise NotFound("no such fact is held", field="key", value=", ".join(key.values()))
    value: float | None = row[0]
    return value
