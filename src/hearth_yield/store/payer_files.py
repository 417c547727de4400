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
    Select,
    Table,
    Text,
    bindparam,
    func,
    or_,
    select,
    type_coerce,
)

from hearth_yield.core.errors import NotFound
from hearth_yield.core.facts.edits import LeftOut
from hearth_yield.core.facts.records import (
    Dividend,
    DividendKind,
    Notice,
    NoticeKind,
    Payer,
    PayerFile,
    PayerNote,
    PriceHistory,
    Series,
    SeriesPoint,
    Slump,
    Split,
)
from hearth_yield.core.facts.statements import STATEMENT_LINES, Lines, Span, Statement, words
from hearth_yield.core.kinds import Kind

from . import edits
from . import tables as t
from .edits import LEFT_OUT, Edit, by_row


@dataclass(frozen=True, slots=True, kw_only=True)
class PayerName:
    symbol: str
    exchange: str
    name: str
    kind: str


def holding(words: str) -> list[ColumnElement[bool]]:
    """Payers of which each word is in the name, the symbol or the kind."""
    p = t.payer.c
    return [
        or_(*(c.icontains(w, autoescape=True) for c in (p.name, p.symbol, p.kind)))
        for w in words.split()
    ]


def find_names(connection: Connection, words: str, limit: int) -> Sequence[PayerName]:
    """Payers that hold every word, by name."""
    p = t.payer.c
    query = select(p.symbol, p.exchange, p.name, p.kind).order_by(p.name).limit(limit)
    return [
        PayerName(symbol=r.symbol, exchange=r.exchange, name=r.name, kind=r.kind)
        for r in connection.execute(query.where(*holding(words)))
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


def load(
    connection: Connection, exchange: str, symbol: str, shared: Shared | None = None
) -> PayerFile:
    """All facts of one payer, uncut. Raises NotFound."""
    shared = shared or Shared()
    row = _payer_row(connection, exchange, symbol)
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
    edited = edits.standing(connection, exchange, symbol)
    reader = _PayerReader(connection, row.id, entered, edited)
    return PayerFile(
        payer=payer,
        notes=reader.notes(),
        dividends=reader.dividends(),
        notices=reader.notices(),
        splits=reader.splits(),
        prices=reader.prices(),
        statements=reader.statements(),
        set_aside=edits.set_aside(edited),
        left_out=tuple(reader.left_out),
        price_index=shared.price_index(connection, row.currency),
    )


def _payer_row(connection: Connection, exchange: str, symbol: str) -> Any:
    """Raises NotFound."""
    row = connection.execute(PAYER, {"exchange": exchange, "symbol": symbol}).one_or_none()
    if row is None:
        raise NotFound(
            f"no payer {symbol} on {exchange} is held",
            field="symbol",
            value=symbol,
            rule="a payer imported under Sources",
        )
    return row


def load_statements(connection: Connection, exchange: str, symbol: str) -> tuple[Statement, ...]:
    """Every version of every statement of one payer, as it counts. Raises NotFound."""
    row = _payer_row(connection, exchange, symbol)
    edited = edits.standing(connection, exchange, symbol)
    return _PayerReader(
        connection, row.id, Shared().manual_sources(connection), edited
    ).statements()


def _query(table: Table, order: str, *columns: ColumnElement[Any]) -> Select[Any]:
    """One table's rows of the payer asked for, in order; made once, as thousands are loaded."""
    mine = table.c.payer_id == bindparam("payer")
    return select(*columns).where(mine).order_by(table.c[order])


_n, _d, _o, _x, _p, _s = (
    t.payer_note.c,
    t.dividend.c,
    t.dividend_notice.c,
    t.split.c,
    t.price.c,
    t.statement.c,
)
NOTES = _query(t.payer_note, "published_on", _n.field, _n.value, _n.published_on, _n.source_id)
DIVIDENDS = _query(
    t.dividend,
    "ex_date",
    _d.ex_date,
    _d.kind,
    _d.declared_on,
    _d.pay_date,
    _d.amount,
    _d.currency,
    _d.payments_per_year,
    _d.source_id,
)
NOTICES = _query(t.dividend_notice, "declared_on", _o.declared_on, _o.kind, _o.source_id)
SPLITS = _query(
    t.split,
    "effective_on",
    _x.effective_on,
    _x.new_shares,
    _x.old_shares,
    _x.announced_on,
    _x.source_id,
)
PRICES = _query(t.price, "day", type_coerce(_p.day, Text), _p.close, _p.source_id)
STATEMENTS = _query(
    t.statement,
    "period_end",
    _s.period_end,
    _s.span,
    _s.published_on,
    _s.currency,
    _s.source_id,
    *(_s[name] for name in STATEMENT_LINES),
)
PAYER = select(t.payer).where(
    t.payer.c.exchange == bindparam("exchange"), t.payer.c.symbol == bindparam("symbol")
)


class _PayerReader:
    """Reads the facts of one payer as they count: edited where the person edited them, and
    without those the person left out, which are named in left_out."""

    def __init__(
        self, connection: Connection, payer_id: int, by_hand: frozenset[int], edited: Sequence[Edit]
    ) -> None:
        self._connection = connection
        self._payer_id = payer_id
        self._by_hand = by_hand
        self._edited = edited
        self.left_out: list[LeftOut] = []

    def _rows(self, query: Select[Any]) -> Sequence[Any]:
        return self._connection.execute(query, {"payer": self._payer_id}).all()

    def _leave_out(
        self,
        made: Mapping[str, Edit],
        table: str,
        name: str,
        day: date,
        known_on: date,
        kind: str = "",
    ) -> bool:
        """Whether a row's edits leave it out."""
        found = made.get(LEFT_OUT)
        if found is not None:
            self.left_out.append(
                LeftOut(
                    table=table,
                    kind=kind,
                    name=name,
                    day=day,
                    known_on=known_on,
                    reason=found.reason,
                    made_on=found.edited.made_on,
                )
            )
        return found is not None

    def notes(self) -> tuple[PayerNote, ...]:
        changes = by_row(self._edited, "payer_notes")
        rows = self._rows(NOTES)
        return tuple(
            PayerNote(field=f, value=v, published_on=p, source=s, entered=s in self._by_hand)
            for f, v, p, s in rows
            if not self._leave_out(
                changes.get((f, p.isoformat()), {}), "payer_notes", f"{words(f)} “{v}”", p, p
            )
        )

    def dividends(self) -> tuple[Dividend, ...]:
        changes = by_row(self._edited, "dividends")
        rows = self._rows(DIVIDENDS)
        found = []
        for ex, kind, declared, pay, amount, currency, per_year, source in rows:
            made = changes.get((ex.isoformat(), kind), {}) if changes else {}
            if made:
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
                    edited=changed.edited if changed else None,
                )
            )
        return tuple(found)

    def notices(self) -> tuple[Notice, ...]:
        changes = by_row(self._edited, "dividend_notices")
        rows = self._rows(NOTICES)
        return tuple(
            Notice(declared_on=a, kind=NoticeKind(b), source=c, entered=c in self._by_hand)
            for a, b, c in rows
            if not self._leave_out(
                changes.get((a.isoformat(),), {}), "dividend_notices", f"notice “{b}” of {a}", a, a
            )
        )

    def splits(self) -> tuple[Split, ...]:
        changes = by_row(self._edited, "splits")
        rows = self._rows(SPLITS)
        return tuple(
            Split(
                effective_on=a,
                new_shares=b,
                old_shares=c,
                announced_on=d,
                source=e,
                entered=e in self._by_hand,
            )
            for a, b, c, d, e in rows
            if not self._leave_out(
                changes.get((a.isoformat(),), {}), "splits", f"split {b:g} for {c:g} of {a}", a, a
            )
        )

    def prices(self) -> PriceHistory:
        """Days stay text until numpy reads them all at once: ten times faster than date by date."""
        changes = by_row(self._edited, "prices")
        # Straight from the driver: a row object for each of thousands of closes costs as much.
        cursor = self._connection.execute(PRICES, {"payer": self._payer_id}).cursor
        rows = cursor.fetchall() if cursor is not None else []
        texts, closes, sources = zip(*rows, strict=True) if rows else ((), (), ())
        days = np.array(texts, dtype="datetime64[D]")
        values = np.array(closes, dtype=np.float64)
        origins = np.array(sources, dtype=np.int64)
        counts = np.ones(len(days), dtype=np.bool_)
        edited = {}
        for (text,), made in changes.items():
            day, here = date.fromisoformat(text), days == np.datetime64(text)
            if self._leave_out(made, "prices", f"close of {text}", day, day):
                counts &= ~here
                continue
            values[here] = made["close"].value
            edited[day] = made["close"].edited
        return PriceHistory(
            days=days[counts],
            closes=values[counts],
            sources=origins[counts],
            entered=self._by_hand & frozenset(sources),
            edited=edited,
        )

    def statements(self) -> tuple[Statement, ...]:
        changes = by_row(self._edited, "statements")
        rows = self._rows(STATEMENTS)
        found = []
        for end, span, published, currency, source, *values in rows:
            key = (end.isoformat(), span, published.isoformat()) if changes else ()
            made = changes.get(key, {})
            lines: Mapping[str, float] = Lines(values)
            if made:
                lines = {**lines, **{n: a.value for n, a in made.items() if n != LEFT_OUT}}
            statement = Statement(
                period_end=end,
                span=Span(span),
                published_on=published,
                currency=currency,
                source=source,
                lines=lines,
                entered=source in self._by_hand,
                edited={n: a.edited for n, a in made.items() if n != LEFT_OUT},
            )
            if made:
                name = f"{statement.period}, published {published.isoformat()}"
                if self._leave_out(made, "statements", name, end, published, span):
                    continue
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


def load_slumps(connection: Connection, as_of: date) -> tuple[Slump, ...]:
    """Past downturns as known on a day."""
    s = t.slump.c
    rows = connection.execute(select(s.name, s.begins, s.ends).order_by(s.begins))
    known = (Slump(name=a, begins=b, ends=c).until(as_of) for a, b, c in rows)
    return tuple(x for x in known if x is not None)
