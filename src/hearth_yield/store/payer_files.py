"""Reading payers and all their facts."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date
from typing import Any

import numpy as np
from sqlalchemy import (
    ColumnElement,
    Connection,
    Table,
    Text,
    and_,
    func,
    or_,
    select,
    type_coerce,
)

from hearth_yield.core.errors import NotFound
from hearth_yield.core.facts import (
    STATEMENT_LINES,
    Dividend,
    DividendKind,
    Kind,
    LeftOut,
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
    words,
)

from . import adjustments
from . import tables as t
from .adjustments import LEFT_OUT, Adjustment, by_row


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
    entered = shared.manual_sources(connection)
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
        entered=row.source_id in entered,
    )
    adjusted = adjustments.standing(connection, exchange, symbol)
    reader = _Reader(connection, row.id, entered, adjusted)
    return PayerFile(
        payer=payer,
        notes=reader.notes(),
        dividends=reader.dividends(),
        notices=reader.notices(),
        splits=reader.splits(),
        prices=reader.prices(),
        statements=reader.statements(),
        set_aside=adjustments.set_aside(adjusted),
        left_out=tuple(reader.left_out),
        price_index=shared.price_index(connection, row.currency),
        slumps=shared.all_slumps(connection),
    )


class _Reader:
    """Reads the facts of one payer as they count: adjusted where the person adjusted them, and
    without those the person left out, which are named in left_out."""

    def __init__(
        self,
        connection: Connection,
        payer_id: int,
        by_hand: frozenset[int],
        adjusted: Sequence[Adjustment],
    ) -> None:
        self._connection = connection
        self._payer_id = payer_id
        self._by_hand = by_hand
        self._adjusted = adjusted
        self.left_out: list[LeftOut] = []

    def _rows(self, table: Table, order: str, *columns: ColumnElement[Any]) -> Sequence[Any]:
        query = select(*columns).where(table.c.payer_id == self._payer_id)
        return self._connection.execute(query.order_by(table.c[order])).all()

    def _leave_out(
        self,
        made: Mapping[str, Adjustment],
        table: str,
        name: str,
        day: date,
        known_on: date,
        kind: str = "",
    ) -> bool:
        """Whether a row's adjustments leave it out."""
        found = made.get(LEFT_OUT)
        if found is not None:
            self.left_out.append(
                LeftOut(
                    table=table, kind=kind, name=name, day=day, known_on=known_on,
                    reason=found.reason, made_on=found.adjusted.made_on,
                )
            )  # fmt: skip
        return found is not None

    def notes(self) -> tuple[PayerNote, ...]:
        n, changes = t.payer_note.c, by_row(self._adjusted, "payer_notes")
        rows = self._rows(t.payer_note, "published_on", n.field, n.value, n.published_on,
                          n.source_id)  # fmt: skip
        return tuple(
            PayerNote(field=f, value=v, published_on=p, source=s, entered=s in self._by_hand)
            for f, v, p, s in rows
            if not self._leave_out(
                changes.get((f, p.isoformat()), {}), "payer_notes", f"{words(f)} “{v}”", p, p
            )
        )

    def dividends(self) -> tuple[Dividend, ...]:
        d, changes = t.dividend.c, by_row(self._adjusted, "dividends")
        rows = self._rows(
            t.dividend, "ex_date", d.ex_date, d.kind, d.declared_on, d.pay_date, d.amount,
            d.currency, d.payments_per_year, d.source_id,
        )  # fmt: skip
        found = []
        for ex, kind, declared, pay, amount, currency, per_year, source in rows:
            made = changes.get((ex.isoformat(), kind), {})
            name = f"{words(kind)} dividend, ex {ex.isoformat()}"
            if self._leave_out(made, "dividends", name, ex, declared or ex, kind):
                continue
            changed = made.get("amount")
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
                    entered=source in self._by_hand,
                    adjusted=changed.adjusted if changed else None,
                )
            )
        return tuple(found)

    def notices(self) -> tuple[Notice, ...]:
        n, changes = t.dividend_notice.c, by_row(self._adjusted, "dividend_notices")
        rows = self._rows(t.dividend_notice, "declared_on", n.declared_on, n.kind, n.source_id)
        return tuple(
            Notice(declared_on=a, kind=NoticeKind(b), source=c, entered=c in self._by_hand)
            for a, b, c in rows
            if not self._leave_out(
                changes.get((a.isoformat(),), {}), "dividend_notices", f"notice “{b}” of {a}", a, a
            )
        )

    def splits(self) -> tuple[Split, ...]:
        s, changes = t.split.c, by_row(self._adjusted, "splits")
        rows = self._rows(t.split, "effective_on", s.effective_on, s.new_shares, s.old_shares,
                          s.source_id)  # fmt: skip
        return tuple(
            Split(effective_on=a, new_shares=b, old_shares=c, source=d, entered=d in self._by_hand)
            for a, b, c, d in rows
            if not self._leave_out(
                changes.get((a.isoformat(),), {}), "splits", f"split {b:g} for {c:g} of {a}", a, a
            )
        )

    def prices(self) -> PriceHistory:
        """Days stay text until numpy reads them all at once: ten times faster than date by date."""
        p, changes = t.price.c, by_row(self._adjusted, "prices")
        rows = self._rows(t.price, "day", type_coerce(p.day, Text), p.close, p.source_id)
        texts, closes, sources = zip(*rows, strict=True) if rows else ((), (), ())
        days = np.array(texts, dtype="datetime64[D]")
        values = np.array(closes, dtype=np.float64)
        origins = np.array(sources, dtype=np.int64)
        counts = np.ones(len(days), dtype=np.bool_)
        adjusted = {}
        for (text,), made in changes.items():
            day, here = date.fromisoformat(text), days == np.datetime64(text)
            if self._leave_out(made, "prices", f"close of {text}", day, day):
                counts &= ~here
                continue
            values[here] = made["close"].value
            adjusted[day] = made["close"].adjusted
        return PriceHistory(
            days=days[counts],
            closes=values[counts],
            sources=origins[counts],
            entered=self._by_hand & frozenset(sources),
            adjusted=adjusted,
        )

    def statements(self) -> tuple[Statement, ...]:
        s, changes = t.statement.c, by_row(self._adjusted, "statements")
        rows = self._rows(
            t.statement, "period_end", s.period_end, s.span, s.published_on, s.currency,
            s.source_id, *(s[name] for name in STATEMENT_LINES),
        )  # fmt: skip
        found = []
        for end, span, published, currency, source, *values in rows:
            made = changes.get((end.isoformat(), span, published.isoformat()), {})
            lines = {
                name: value
                for name, value in zip(STATEMENT_LINES, values, strict=True)
                if value is not None
            }
            statement = Statement(
                period_end=end,
                span=Span(span),
                published_on=published,
                currency=currency,
                source=source,
                lines=lines | {n: a.value for n, a in made.items() if n != LEFT_OUT},
                entered=source in self._by_hand,
                adjusted={n: a.adjusted for n, a in made.items() if n != LEFT_OUT},
            )
            name = f"{statement.period}, published {published.isoformat()}"
            if not self._leave_out(made, "statements", name, end, published, span):
                found.append(statement)
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
