"""What is kept ready for looking back: each payer's tested measures at every past year end."""

from __future__ import annotations

import json
from collections.abc import Sequence
from datetime import date
from typing import Any

from sqlalchemy import Connection, FromClause, and_, delete, func, select

from hearth_yield.core.finding.look_back import PastPayer
from hearth_yield.core.finding.search import Candidate

from .measured_text import from_text, to_text
from .measures import Due, write_over
from .tables import kept_past, payer, payer_change

_REVISION = func.coalesce(payer_change.c.revision, 0)


def due(connection: Connection, as_of: date, method: str) -> Sequence[Due]:
    """Payers whose past is to be read: none is kept from the facts as they stand."""
    query = (
        select(payer.c.id, payer.c.exchange, payer.c.symbol, _REVISION)
        .select_from(_joined(as_of, method))
        .where(kept_past.c.payer_id.is_(None))
        .order_by(payer.c.name, payer.c.exchange, payer.c.symbol)
    )
    return [
        Due(payer_id=id, exchange=exchange, symbol=symbol, facts_revision=revision)
        for id, exchange, symbol, revision in connection.execute(query)
    ]


def held(connection: Connection, as_of: date, method: str) -> Sequence[PastPayer]:
    """The past of every payer that is kept from the facts as they stand, by name."""
    query = (
        select(payer.c.exchange, payer.c.symbol, payer.c.name, kept_past.c.body)
        .select_from(_joined(as_of, method))
        .where(kept_past.c.payer_id.is_not(None))
        .order_by(payer.c.name, payer.c.exchange, payer.c.symbol)
    )
    return [
        _past(exchange, symbol, name, json.loads(body))
        for exchange, symbol, name, body in connection.execute(query)
    ]


def _joined(as_of: date, method: str) -> FromClause:
    """Payers beside what is kept of each, where that still stands."""
    kept = kept_past.c
    stands = and_(
        kept.payer_id == payer.c.id,
        kept.as_of == as_of,
        kept.method == method,
        kept.facts_revision == _REVISION,
    )
    changed = payer.outerjoin(payer_change, payer_change.c.payer_id == payer.c.id)
    return changed.outerjoin(kept_past, stands)


def keep(
    connection: Connection, as_of: date, method: str, made: Sequence[tuple[Due, PastPayer]]
) -> None:
    """Write what was read over what was kept, and drop the pasts of other days. A payer that went
    meanwhile is passed over."""
    rows = [
        {
            "payer_id": d.payer_id,
            "as_of": as_of,
            "facts_revision": d.facts_revision,
            "method": method,
            "body": _text(past),
        }
        for d, past in made
    ]
    connection.execute(delete(kept_past).where(kept_past.c.as_of != as_of))
    write_over(connection, kept_past, rows)


def _text(past: PastPayer) -> str:
    return json.dumps(
        {
            "cuts": [d.isoformat() for d in past.cuts],
            "days": [d.isoformat() for d in past.days],
            "measured": [to_text(e.measured) for e in past.candidates if e.measured],
            "reason": past.reason,
        },
        ensure_ascii=False,
    )


def _past(exchange: str, symbol: str, name: str, body: dict[str, Any]) -> PastPayer:
    return PastPayer(
        exchange=exchange,
        symbol=symbol,
        name=name,
        cuts=tuple(map(date.fromisoformat, body["cuts"])),
        days=tuple(map(date.fromisoformat, body["days"])),
        candidates=tuple(
            Candidate(exchange=exchange, symbol=symbol, name=name, measured=from_text(text))
            for text in body["measured"]
        ),
        reason=body["reason"],
    )
