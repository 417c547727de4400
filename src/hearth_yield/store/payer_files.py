"""Reading payers and all their facts."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from datetime import date
from typing import Any

from sqlalchemy import ColumnElement, Connection, bindparam, func, or_, select

from hearth_yield.core.errors import NotFound
from hearth_yield.core.facts.payer_file import PayerFile
from hearth_yield.core.facts.records import (
    Dividend,
    DividendKind,
    Notice,
    Payer,
    Series,
    SeriesPoint,
    Slump,
    Split,
    without_sums,
)
from hearth_yield.core.facts.statements import Statement
from hearth_yield.core.facts.tables import TABLES
from hearth_yield.core.kinds import Kind

from . import edits
from . import tables as t
from .payer_reader import PayerReader


@dataclass(frozen=True, slots=True, kw_only=True)
class PayerName:
    symbol: str
    exchange: str
    name: str
    kind: str
    currency: str
    isin: str | None


def named_like(words: str) -> list[ColumnElement[bool]]:
    """Payers of which each word is in the name, the symbol, the ISIN or the kind."""
    p = t.payer.c
    return [
        or_(*(c.icontains(w, autoescape=True) for c in (p.name, p.symbol, p.isin, p.kind)))
        for w in words.split()
    ]


def find_names(connection: Connection, words: str, limit: int) -> Sequence[PayerName]:
    """Payers that hold every word, by name."""
    p = t.payer.c
    columns = (p.symbol, p.exchange, p.name, p.kind, p.currency, p.isin)
    query = select(*columns).order_by(p.name).limit(limit)
    return [PayerName(**r._mapping) for r in connection.execute(query.where(*named_like(words)))]


def keys(connection: Connection) -> Sequence[tuple[str, str]]:
    p = t.payer.c
    return [(r[0], r[1]) for r in connection.execute(select(p.exchange, p.symbol).order_by(p.name))]


def newest_price_day(connection: Connection, as_of: date) -> date | None:
    """Sought payer by payer, as no index knows the newest of all."""
    p = t.price.c
    own = select(func.max(p.day)).where(p.payer_id == t.payer.c.id, p.day <= as_of)
    query = select(func.max(own.correlate(t.payer).scalar_subquery()))
    newest: date | None = connection.execute(query).scalar_one()
    return newest


@dataclass(frozen=True, slots=True)
class Shared:
    """Facts that payers share, loaded once where many payers are loaded in a row."""

    series: dict[tuple[str, str], Series | None] = field(default_factory=dict)
    by_hand: list[frozenset[int]] = field(default_factory=list)
    downturns: list[tuple[Slump, ...]] = field(default_factory=list)

    def manual_sources(self, connection: Connection) -> frozenset[int]:
        """Sources that are facts entered by hand."""
        if not self.by_hand:
            query = select(t.source.c.id).where(t.source.c.kind == "manual")
            self.by_hand.append(frozenset(connection.scalars(query)))
        return self.by_hand[0]

    def of_kind(self, connection: Connection, kind: str, currency: str) -> Series | None:
        """The series of a kind in a currency; where several are held, the first by code."""
        key = (kind, currency)
        if key not in self.series:
            by_hand = self.manual_sources(connection)
            self.series[key] = load_series(connection, kind, currency, by_hand)
        return self.series[key]

    def slumps(self, connection: Connection) -> tuple[Slump, ...]:
        """Past downturns, whole."""
        if not self.downturns:
            s = t.slump.c
            rows = connection.execute(select(s.name, s.begins, s.ends).order_by(s.begins))
            self.downturns.append(tuple(Slump(name=a, begins=b, ends=c) for a, b, c in rows))
        return self.downturns[0]


def load(
    connection: Connection, exchange: str, symbol: str, shared: Shared | None = None
) -> PayerFile:
    """All facts of one payer, uncut. Raises NotFound."""
    shared = shared or Shared()
    row = _payer_row(connection, exchange, symbol)
    entered = shared.manual_sources(connection)
    payer = _payer(row, entered)
    edited = edits.standing(connection, exchange, symbol)
    reader = PayerReader(connection, row.id, entered, edited)
    held: dict[str, Any] = {
        table.member: reader.read(table.record)
        for table in TABLES.values()
        if table.member and table.record
    }
    return PayerFile(
        payer=payer,
        **held | {"dividends": without_sums(held["dividends"])},
        prices=reader.prices(),
        excluded_years=edits.excluded_years(edited),
        exclusions=tuple(reader.exclusions),
        price_index=shared.of_kind(connection, "price_index", row.currency),
        market_index=shared.of_kind(connection, "market_index", row.currency),
        market_total=shared.of_kind(connection, "market_total_return", row.currency),
        risk_free_yield=shared.of_kind(connection, "risk_free_yield", row.currency),
        aaa_yield=shared.of_kind(connection, "aaa_yield", row.currency),
        slumps=shared.slumps(connection),
    )


def load_newest(
    connection: Connection, exchange: str, symbol: str, as_of: date, shared: Shared
) -> PayerFile:
    """What its price and declared rate on a day rest on: dividends, notices and splits, uncut, and
    the closes by the day that may be the newest; all there is where it paid nothing by the day.
    Raises NotFound."""
    row = _payer_row(connection, exchange, symbol)
    entered = shared.manual_sources(connection)
    reader = PayerReader(connection, row.id, entered, edits.standing(connection, exchange, symbol))
    dividends = without_sums(reader.read(Dividend))
    if not any(d.kind is DividendKind.REGULAR and d.known_on <= as_of for d in dividends):
        return load(connection, exchange, symbol, shared)
    return PayerFile(
        payer=_payer(row, entered),
        dividends=dividends,
        notices=reader.read(Notice),
        splits=reader.read(Split),
        prices=reader.prices(as_of),
        exclusions=tuple(reader.exclusions),
    )


def _payer(row: Any, entered: frozenset[int]) -> Payer:
    return Payer(
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
        isin=row.isin,
        listed_on=row.listed_on,
        delisted_on=row.delisted_on,
        entered=row.source_id in entered,
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
    return PayerReader(connection, row.id, Shared().manual_sources(connection), edited).read(
        Statement
    )


def load_dividends(connection: Connection, exchange: str, symbol: str) -> tuple[Dividend, ...]:
    """Every dividend of one payer, what years paid in all beside their payments. Raises
    NotFound."""
    row = _payer_row(connection, exchange, symbol)
    edited = edits.standing(connection, exchange, symbol)
    return PayerReader(connection, row.id, Shared().manual_sources(connection), edited).read(
        Dividend
    )


def load_volumes(connection: Connection, exchange: str, symbol: str) -> dict[date, float]:
    """Shares traded, of the days of which that is told, as traded. Raises NotFound."""
    row, p = _payer_row(connection, exchange, symbol), t.price.c
    query = select(p.day, p.volume).where(p.payer_id == row.id, p.volume.is_not(None))
    return {row.day: row.volume for row in connection.execute(query)}


PAYER = select(t.payer).where(
    t.payer.c.exchange == bindparam("exchange"), t.payer.c.symbol == bindparam("symbol")
)


def load_series(
    connection: Connection,
    kind: str,
    currency: str,
    by_hand: frozenset[int] = frozenset(),
    of_currency: str | None = None,
) -> Series | None:
    """The series of a kind in a currency; where several are held, the first by code. of_currency:
    of an exchange rate, what one unit of is priced."""
    s = t.series.c
    query = select(s.id, s.code, s.name).where(s.kind == kind, s.currency == currency)
    if of_currency is not None:
        query = query.where(s.of_currency == of_currency)
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
