"""Days to come of what is declared."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

from sqlalchemy import Connection, or_, select

from . import tables as t


@dataclass(frozen=True, slots=True, kw_only=True)
class DeclaredPayment:
    """amount: a share, as declared."""

    exchange: str
    symbol: str
    name: str
    kind: str
    ex_date: date
    pay_date: date | None
    amount: float
    currency: str


def declared_between(
    connection: Connection, first: date, last: date, limit: int = 400
) -> Sequence[DeclaredPayment]:
    """Dividends known on the first day that go ex or pay between the two, both included, by
    ex-date."""
    p, d = t.payer.c, t.dividend.c
    query = (
        select(p.exchange, p.symbol, p.name, d.kind, d.ex_date, d.pay_date, d.amount, d.currency)
        .join(t.payer, p.id == d.payer_id)
        .where(d.declared_on <= first)
        .where(or_(d.ex_date.between(first, last), d.pay_date.between(first, last)))
        .order_by(d.ex_date, p.name)
        .limit(limit)
    )
    return [DeclaredPayment(**row) for row in connection.execute(query).mappings()]
