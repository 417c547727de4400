"""What is kept ready for the table of payers: each payer's measures on a day."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from typing import Any

from sqlalchemy import (
    ColumnElement,
    Connection,
    FromClause,
    Table,
    and_,
    case,
    delete,
    func,
    or_,
    select,
    update,
)
from sqlalchemy.dialects.sqlite import insert

from hearth_yield.core.finding.measured import Measured

from .measured_text import from_text, to_text
from .tables import kept_measures, payer, payer_change, product_state, signal_state

KEPT_DAYS = 4
"""Days whose measures are kept at once."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Due:
    """A payer whose measures are to be made. facts_revision: at which its facts last changed."""

    payer_id: int
    exchange: str
    symbol: str
    facts_revision: int


@dataclass(frozen=True, slots=True, kw_only=True)
class KeptMeasures:
    """measured: None where none are kept, or were made with other rules or another method. stale:
    made from older facts. delisted: by the day."""

    exchange: str
    symbol: str
    name: str
    measured: Measured | None
    stale: bool
    delisted: bool
    isin: str | None


def touch(connection: Connection, payers: Sequence[int] | None, since: date = date.min) -> None:
    """Note that the facts of these payers (None: of all) changed in this transaction. since: the
    first day from which other facts are known."""
    at = select(product_state.c.revision + 1).scalar_subquery()
    query = select(payer.c.id, at)
    if payers is not None:
        query = query.where(payer.c.id.in_(payers))
    adding = insert(payer_change).from_select(["payer_id", "revision"], query.where(payer.c.id > 0))
    connection.execute(adding.on_conflict_do_update(set_={"revision": adding.excluded.revision}))
    kept = signal_state.c
    later = or_(kept.since.is_(None), kept.since > since)
    noting = update(signal_state).where(later).values(since=since)
    connection.execute(noting if payers is None else noting.where(kept.payer_id.in_(payers)))


def _joined(as_of: date) -> FromClause:
    changed = payer.outerjoin(payer_change, payer_change.c.payer_id == payer.c.id)
    same = and_(kept_measures.c.payer_id == payer.c.id, kept_measures.c.as_of == as_of)
    return changed.outerjoin(kept_measures, same)


_REVISION = func.coalesce(payer_change.c.revision, 0)


def _stale(made_with: str) -> ColumnElement[bool]:
    kept = kept_measures.c
    return or_(kept.facts_revision != _REVISION, kept.made_with != made_with)


def _listed(as_of: date) -> ColumnElement[bool]:
    return or_(payer.c.listed_on.is_(None), payer.c.listed_on <= as_of)


def due(connection: Connection, as_of: date, made_with: str) -> Sequence[Due]:
    """Payers listed by then whose measures are missing, or made from older facts or rules."""
    query = (
        select(payer.c.id, payer.c.exchange, payer.c.symbol, _REVISION)
        .select_from(_joined(as_of))
        .where(_listed(as_of), or_(kept_measures.c.body.is_(None), _stale(made_with)))
        .order_by(payer.c.id)
    )
    return [
        Due(payer_id=id, exchange=exchange, symbol=symbol, facts_revision=revision)
        for id, exchange, symbol, revision in connection.execute(query)
    ]


def held(connection: Connection, as_of: date, made_with: str) -> Sequence[KeptMeasures]:
    """Every payer listed by then with what is kept of it, by name."""
    kept = kept_measures.c
    body = case((kept.made_with == made_with, kept.body), else_=None)
    query = (
        select(
            payer.c.exchange,
            payer.c.symbol,
            payer.c.name,
            body,
            kept.facts_revision != _REVISION,
            payer.c.delisted_on,
            payer.c.isin,
        )
        .select_from(_joined(as_of))
        .where(_listed(as_of))
        .order_by(payer.c.name, payer.c.exchange, payer.c.symbol)
    )
    return [
        KeptMeasures(
            exchange=exchange,
            symbol=symbol,
            name=name,
            measured=from_text(text) if text else None,
            stale=bool(stale),
            delisted=ended is not None and ended <= as_of,
            isin=isin,
        )
        for exchange, symbol, name, text, stale, ended, isin in connection.execute(query)
    ]


def keep(
    connection: Connection, as_of: date, made_with: str, made: Sequence[tuple[Due, Measured]]
) -> None:
    """Write measures over what was kept. A payer that went meanwhile is passed over."""
    rows = [
        {
            "payer_id": d.payer_id,
            "as_of": as_of,
            "facts_revision": d.facts_revision,
            "made_with": made_with,
            "body": to_text(measured),
        }
        for d, measured in made
    ]
    write_over(connection, kept_measures, rows)
    connection.execute(
        update(product_state).values(kept_revision=product_state.c.kept_revision + 1)
    )


def write_over(connection: Connection, table: Table, rows: Sequence[dict[str, Any]]) -> None:
    """Write rows of payers over those of the same key; a payer that went meanwhile is passed
    over."""
    ids = [row["payer_id"] for row in rows]
    there = set(connection.scalars(select(payer.c.id).where(payer.c.id.in_(ids))))
    held = [row for row in rows if row["payer_id"] in there]
    if held:
        writing = insert(table)
        new = {c.name: writing.excluded[c.name] for c in table.c if not c.primary_key}
        connection.execute(writing.on_conflict_do_update(set_=new), held)


def prune(connection: Connection, asked: date) -> None:
    """Keep the day just asked for and the newest others, and drop the rest."""
    days = [d for d in connection.scalars(select(kept_measures.c.as_of).distinct()) if d != asked]
    gone = sorted(days, reverse=True)[KEPT_DAYS - 1 :]
    connection.execute(delete(kept_measures).where(kept_measures.c.as_of.in_(gone)))
