"""Reading payers and all their facts."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date

import numpy as np
from sqlalchemy import Connection, Text, and_, func, or_, select, type_coerce

from hearth_yield.core.errors import NotFound
from hearth_yield.core.facts import (
    STATEMENT_LINES,
    Dividend,
    DividendKind,
    Kind,
    Notice,
    NoticeKind,
    Payer,
    PayerFile,
    PayerNote,
    PriceHistory,
    Series,
    SeriesPoint,
    Slump,
    Span,
    Split,
    Statement,
)

from . import adjustments
from . import tables as t
from .adjustments import Adjustment, by_row


@dataclass(frozen=True, slots=True, kw_only=True)
class PayerName:
    symbol: str
    exchange: str
    name: str
    kind: str


def find_names(connection: Connection, words: str, limit: int) -> Sequence[PayerName]:
    """Payers whose name, symbol or description holds every word."""
    p = t.payer.c
    query = select(p.symbol, p.exchange, p.name, p.kind).order_by(p.name).limit(limit)
    for word in words.split():
        pattern = f"%{word.replace('%', '').replace('_', ' ')}%"
        query = query.where(
            or_(p.name.ilike(pattern), p.symbol.ilike(pattern), p.kind.ilike(pattern))
        )
    return [
        PayerName(symbol=r.symbol, exchange=r.exchange, name=r.name, kind=r.kind)
        for r in connection.execute(query)
    ]


def keys(connection: Connection) -> Sequence[tuple[str, str]]:
    p = t.payer.c
    return [(r[0], r[1]) for r in connection.execute(select(p.exchange, p.symbol).order_by(p.name))]


def newest_price_day(connection: Connection, as_of: date) -> date | None:
    query = select(func.max(t.price.c.day)).where(t.price.c.day <= as_of)
    newest: date | None = connection.execute(query).scalar_one()
    return newest


@dataclass(frozen=True, slots=True)
class Shared:
    """Facts that payers share, loaded once where many payers are loaded in a row."""

    price_indices: dict[str, Series | None] = field(default_factory=dict)
    slumps: list[tuple[Slump, ...]] = field(default_factory=list)
    by_hand: list[frozenset[int]] = field(default_factory=list)

    def manual_sources(self, connection: Connection) -> frozenset[int]:
        """Sources that are facts entered by hand."""
        if not self.by_hand:
            query = select(t.source.c.id).where(t.source.c.kind == "manual")
            self.by_hand.append(frozenset(connection.scalars(query)))
        return self.by_hand[0]

    def price_index(self, connection: Connection, currency: str) -> Series | None:
        if currency not in self.price_indices:
            self.price_indices[currency] = load_price_index(
                connection, currency, self.manual_sources(connection)
            )
        return self.price_indices[currency]

    def all_slumps(self, connection: Connection) -> tuple[Slump, ...]:
        if not self.slumps:
            self.slumps.append(load_slumps(connection))
        return self.slumps[0]


def load(
    connection: Connection, exchange: str, symbol: str, shared: Shared | None = None
) -> PayerFile:
    """All facts of one payer, uncut. Raises NotFound."""
    shared = shared or Shared()
    p = t.payer.c
    row = connection.execute(
        select(t.payer).where(and_(p.exchange == exchange, p.symbol == symbol))
    ).one_or_none()
    if row is None:
        raise NotFound(
            f"no payer {symbol} on {exchange} is held",
            field="symbol",
            value=symbol,
            rule="a payer brought in under Sources",
        )
    payer = Payer(
        symbol=row.symbol,
        exchange=row.exchange,
        name=row.name,
        kind=Kind(row.kind),
        currency=row.currency,
        country=row.country,
        fiscal_year_end_month=row.fiscal_year_end_month,
        rhythm=row.rhythm,
        evenness=row.evenness,
        description=row.description,
        listed_on=row.listed_on,
        delisted_on=row.delisted_on,
    )
    entered = shared.manual_sources(connection)
    adjusted = adjustments.standing(connection, exchange, symbol)
    return PayerFile(
        payer=payer,
        notes=_notes(connection, row.id),
        dividends=_dividends(connection, row.id, entered, by_row(adjusted, "dividends")),
        notices=_notices(connection, row.id, entered),
        splits=_splits(connection, row.id),
        prices=_prices(connection, row.id, entered, by_row(adjusted, "prices")),
        statements=_statements(connection, row.id, entered, by_row(adjusted, "statements")),
        set_aside=adjustments.set_aside(adjusted),
        price_index=shared.price_index(connection, row.currency),
        slumps=shared.all_slumps(connection),
    )


def _notes(connection: Connection, payer_id: int) -> tuple[PayerNote, ...]:
    n = t.payer_note.c
    rows = connection.execute(
        select(n.field, n.value, n.published_on, n.source_id).where(n.payer_id == payer_id)
    ).all()
    return tuple(PayerNote(field=a, value=b, published_on=c, source=d) for a, b, c, d in rows)


Changes = Mapping[tuple[str, ...], Mapping[str, Adjustment]]
"""Adjusted fields by row key."""


def _dividends(
    connection: Connection, payer_id: int, by_hand: frozenset[int], changes: Changes
) -> tuple[Dividend, ...]:
    d = t.dividend.c
    query = select(
        d.ex_date, d.kind, d.declared_on, d.pay_date, d.amount, d.currency, d.payments_per_year,
        d.source_id,
    )  # fmt: skip
    rows = connection.execute(query.where(d.payer_id == payer_id).order_by(d.ex_date)).all()
    found = []
    for ex, kind, declared, pay, amount, currency, per_year, source in rows:
        changed = changes.get((ex.isoformat(), kind), {}).get("amount")
        found.append(
            Dividend(
                ex_date=ex,
                kind=DividendKind(kind),
                declared_on=declared,
                pay_date=pay,
                amount=changed.value if changed else amount,
                currency=currency,
                payments_per_year=per_year,
                source=source,
                entered=source in by_hand,
                adjusted=changed.adjusted if changed else None,
            )
        )
    return tuple(found)


def _notices(connection: Connection, payer_id: int, by_hand: frozenset[int]) -> tuple[Notice, ...]:
    n = t.dividend_notice.c
    query = select(n.declared_on, n.kind, n.source_id).where(n.payer_id == payer_id)
    rows = connection.execute(query.order_by(n.declared_on))
    return tuple(
        Notice(declared_on=a, kind=NoticeKind(b), source=c, entered=c in by_hand)
        for a, b, c in rows
    )


def _splits(connection: Connection, payer_id: int) -> tuple[Split, ...]:
    s = t.split.c
    query = select(s.effective_on, s.new_shares, s.old_shares, s.source_id)
    rows = connection.execute(query.where(s.payer_id == payer_id).order_by(s.effective_on))
    return tuple(Split(effective_on=a, new_shares=b, old_shares=c, source=d) for a, b, c, d in rows)


def _prices(
    connection: Connection, payer_id: int, by_hand: frozenset[int], changes: Changes
) -> PriceHistory:
    """Days stay text until numpy reads them all at once: ten times faster than date by date."""
    p = t.price.c
    query = select(type_coerce(p.day, Text), p.close, p.source_id).where(p.payer_id == payer_id)
    rows = connection.execute(query.order_by(p.day)).all()
    texts, closes, sources = zip(*rows, strict=True) if rows else ((), (), ())
    days = np.array(texts, dtype="datetime64[D]")
    values = np.array(closes, dtype=np.float64)
    adjusted = {}
    for (day,), fields in changes.items():
        values[days == np.datetime64(day)] = fields["close"].value
        adjusted[date.fromisoformat(day)] = fields["close"].adjusted
    return PriceHistory(
        days=days,
        closes=values,
        sources=np.array(sources, dtype=np.int64),
        entered=by_hand & frozenset(sources),
        adjusted=adjusted,
    )


def _statements(
    connection: Connection, payer_id: int, by_hand: frozenset[int], changes: Changes
) -> tuple[Statement, ...]:
    s = t.statement.c
    query = select(
        s.period_end, s.span, s.published_on, s.currency, s.source_id,
        *(s[name] for name in STATEMENT_LINES),
    )  # fmt: skip
    rows = connection.execute(query.where(s.payer_id == payer_id).order_by(s.period_end)).all()
    found = []
    for end, span, published, currency, source, *values in rows:
        changed = changes.get((end.isoformat(), span, published.isoformat()), {})
        lines = {
            name: value
            for name, value in zip(STATEMENT_LINES, values, strict=True)
            if value is not None
        }
        found.append(
            Statement(
                period_end=end,
                span=Span(span),
                published_on=published,
                currency=currency,
                source=source,
                lines=lines | {name: a.value for name, a in changed.items()},
                entered=source in by_hand,
                adjusted={name: a.adjusted for name, a in changed.items()},
            )
        )
    return tuple(found)


def load_price_index(
    connection: Connection, currency: str, by_hand: frozenset[int] = frozenset()
) -> Series | None:
    """The price index of a currency; where several are held, the first by code."""
    s = t.series.c
    query = select(s.id, s.code, s.name).where(s.kind == "price_index", s.currency == currency)
    row = connection.execute(query.order_by(s.code).limit(1)).one_or_none()
    if row is None:
        return None
    p = t.series_point.c
    points = connection.execute(
        select(p.day, p.published_on, p.value, p.source_id)
        .where(p.series_id == row.id)
        .order_by(p.day, p.published_on)
    ).all()
    return Series(
        code=row.code,
        name=row.name,
        currency=currency,
        points=tuple(
            SeriesPoint(
                day=day,
                published_on=published,
                value=value,
                source=source,
                entered=source in by_hand,
            )
            for day, published, value, source in points
        ),
    )


def load_slumps(connection: Connection) -> tuple[Slump, ...]:
    s = t.slump.c
    rows = connection.execute(select(s.name, s.begins, s.ends).order_by(s.begins))
    return tuple(Slump(name=a, begins=b, ends=c) for a, b, c in rows)
