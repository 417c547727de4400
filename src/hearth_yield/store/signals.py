"""Signals as they are kept, up to which day they are made, and which were seen."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from typing import Any

from sqlalchemy import Connection, and_, delete, func, insert, or_, select
from sqlalchemy.dialects.sqlite import insert as put

from hearth_yield.core.figures.figure import Unit
from hearth_yield.core.figures.measure import Stage
from hearth_yield.core.signals.make import KINDS
from hearth_yield.core.signals.signal import Said, Signal, Value

from .tables import payer, payer_change, seen_signal, signal, signal_state, source


@dataclass(frozen=True, slots=True, kw_only=True)
class DueSignals:
    """A payer whose signals are to be made. since: the last day whose signals stand; None: none
    do. revision: at which its facts last changed."""

    payer_id: int
    exchange: str
    symbol: str
    since: date | None
    revision: int


@dataclass(frozen=True, slots=True, kw_only=True)
class KeptSignal:
    exchange: str
    symbol: str
    name: str
    currency: str
    signal: Signal
    seen: bool


Event = tuple[str, str, str, str]
"""Exchange, symbol, kind, event."""
_REVISION = func.coalesce(payer_change.c.revision, 0)


def first_source(connection: Connection) -> date | None:
    """The day the first facts came in."""
    first = connection.scalar(select(func.min(source.c.added_at)))
    return date.fromisoformat(first[:10]) if first else None


def due(
    connection: Connection, until: date, grounds: Mapping[tuple[str, str], str], ground: str
) -> Sequence[DueSignals]:
    """Payers whose signals are not made up to a day on their ground. ground: of payers that have
    none of their own."""
    s = signal_state.c
    rows = connection.execute(
        select(
            payer.c.id, payer.c.exchange, payer.c.symbol, s.ground, s.through, s.since, _REVISION
        )
        .outerjoin(signal_state, s.payer_id == payer.c.id)
        .outerjoin(payer_change, payer_change.c.payer_id == payer.c.id)
        .order_by(payer.c.id)
    )
    found = []
    for id, exchange, symbol, made_on, through, since, revision in rows:
        same = made_on == grounds.get((exchange, symbol), ground)
        if same and through is not None and through >= until and since is None:
            continue
        stands = through if same else None
        if stands is not None and since is not None:
            stands = min(stands, date.fromordinal(max(since.toordinal() - 1, 1)))
        found.append(
            DueSignals(
                payer_id=id, exchange=exchange, symbol=symbol, since=stands, revision=revision
            )
        )
    return found


def keep(
    connection: Connection,
    of: DueSignals,
    made: Sequence[Signal],
    since: date,
    until: date,
    ground: str,
) -> None:
    """What was made of a payer from the day after `since` on takes the place of what was there.
    Where its facts changed meanwhile, it is due again."""
    now = connection.scalar(
        select(payer_change.c.revision).where(payer_change.c.payer_id == of.payer_id)
    )
    if (now or 0) != of.revision:
        return
    mine = signal.c.payer_id == of.payer_id
    gone = mine if of.since is None else and_(mine, signal.c.day > since)
    connection.execute(delete(signal).where(gone))
    rows = [_row(of.payer_id, s) for s in made]
    if rows:
        connection.execute(insert(signal), rows)
    state = put(signal_state).values(payer_id=of.payer_id, ground=ground, through=until, since=None)
    same = {"ground": ground, "through": until, "since": None}
    connection.execute(state.on_conflict_do_update(index_elements=["payer_id"], set_=same))


def _row(payer_id: int, s: Signal) -> dict[str, Any]:
    return {
        "payer_id": payer_id,
        "kind": s.kind.id,
        "event": s.event,
        "day": s.day,
        "stage": s.stage.value,
        "said": [_to_json(part) for part in s.said],
    }


def _to_json(part: Said) -> Any:
    match part:
        case Value():
            return [part.value, part.unit.value, part.currency]
        case date():
            return {"day": part.isoformat()}
    return part


def _from_json(part: Any) -> Said:
    match part:
        case [value, unit, currency]:
            return Value(value, Unit(unit), currency)
        case {"day": day}:
            return date.fromisoformat(day)
    return str(part)


def newest(
    connection: Connection, until: date, *, unseen: bool, limit: int
) -> Sequence[KeptSignal]:
    """Signals that could be known by a day, the newest first."""
    k = seen_signal.c
    query = (
        select(payer.c.exchange, payer.c.symbol, payer.c.name, payer.c.currency, signal, k.seen_at)
        .select_from(signal.join(payer, payer.c.id == signal.c.payer_id))
        .outerjoin(
            seen_signal,
            and_(
                k.exchange == payer.c.exchange,
                k.symbol == payer.c.symbol,
                k.kind == signal.c.kind,
                k.event == signal.c.event,
            ),
        )
        .where(signal.c.day <= until)
        .order_by(signal.c.day.desc(), payer.c.name, signal.c.kind, signal.c.event)
        .limit(limit)
    )
    if unseen:
        query = query.where(k.seen_at.is_(None))
    return [
        KeptSignal(
            exchange=r.exchange,
            symbol=r.symbol,
            name=r.name,
            currency=r.currency,
            seen=r.seen_at is not None,
            signal=Signal(
                kind=KINDS[r.kind],
                day=r.day,
                event=r.event,
                stage=Stage(r.stage),
                said=tuple(_from_json(p) for p in r.said),
            ),
        )
        for r in connection.execute(query)
    ]


def seen_of(connection: Connection, kinds: Sequence[str]) -> set[Event]:
    """The events of some kinds that were seen."""
    k = seen_signal.c
    query = select(k.exchange, k.symbol, k.kind, k.event).where(k.kind.in_(kinds))
    return {(x, s, kind, event) for x, s, kind, event in connection.execute(query)}


def unseen(connection: Connection, until: date) -> int:
    """How many are kept that were not seen."""
    k = seen_signal.c
    seen = (
        select(k.event)
        .where(
            k.exchange == payer.c.exchange,
            k.symbol == payer.c.symbol,
            k.kind == signal.c.kind,
            k.event == signal.c.event,
        )
        .exists()
    )
    query = (
        select(func.count())
        .select_from(signal.join(payer, payer.c.id == signal.c.payer_id))
        .where(signal.c.day <= until, ~seen)
    )
    return int(connection.scalar(query) or 0)


def mark(connection: Connection, events: Sequence[Event], at: str | None) -> None:
    """at: when they were seen; None: they are unseen again."""
    names = ("exchange", "symbol", "kind", "event")
    rows = [dict(zip(names, e, strict=True)) for e in events]
    if not rows:
        return
    if at is not None:
        seeing = put(seen_signal).on_conflict_do_nothing()
        connection.execute(seeing, [r | {"seen_at": at} for r in rows])
        return
    k = seen_signal.c
    each = [and_(*(k[n] == r[n] for n in names)) for r in rows]
    connection.execute(delete(seen_signal).where(or_(*each)))
