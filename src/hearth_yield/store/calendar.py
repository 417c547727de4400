"""Days to come of what is declared, and the secret of the calendar's address."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

from sqlalchemy import Connection, or_, select, update

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
    connection: Connection,
    first: date,
    last: date,
    limit: int = 400,
    *,
    known_on: date | None = None,
) -> Sequence[DeclaredPayment]:
    """Dividends that go ex or pay between two days, both included, by ex-date. known_on: as known
    then; else on the first day."""
    p, d = t.payer.c, t.dividend.c
    query = (
        select(p.exchange, p.symbol, p.name, d.kind, d.ex_date, d.pay_date, d.amount, d.currency)
        .join(t.payer, p.id == d.payer_id)
        .where(d.declared_on <= (known_on or first))
        .where(or_(d.ex_date.between(first, last), d.pay_date.between(first, last)))
        .order_by(d.ex_date, p.name)
        .limit(limit)
    )
    return [DeclaredPayment(**row) for row in connection.execute(query).mappings()]


def names(connection: Connection) -> dict[tuple[str, str], str]:
    """Of every payer, by exchange and symbol."""
    p = t.payer.c
    return {(e, s): name for e, s, name in connection.execute(select(p.exchange, p.symbol, p.name))}


def secret(connection: Connection) -> str | None:
    """Of the address that a calendar asks; None: there is none."""
    return connection.scalar(select(t.product_state.c.calendar_secret))


def set_secret(connection: Connection, secret: str | None) -> None:
    connection.execute(update(t.product_state).values(calendar_secret=secret))
