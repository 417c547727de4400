"""What is stored already, as the checks on the way in ask for it: of all payers at once."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Collection, Iterable, Iterator, Mapping, Sequence
from datetime import date, timedelta
from functools import cached_property
from typing import Any, TypeVar

from sqlalchemy import ColumnElement, Connection, and_, or_, select

from hearth_yield.core.household.entries import Account

from . import ledger
from . import tables as t
from .facts import known_payers

NEAR = timedelta(days=8)
TOGETHER = 500
"""Payers asked for in one question."""
Key = tuple[str, str]
T = TypeVar("T")


class StoredFacts:
    """Answers from one connection. today: the day that what comes in is held against."""

    def __init__(self, connection: Connection, today: date | None = None) -> None:
        self._connection = connection
        self.today = today

    @cached_property
    def currencies(self) -> Mapping[Key, str]:
        return known_payers(self._connection)

    @cached_property
    def accounts(self) -> Sequence[Account]:
        return ledger.accounts(self._connection)

    @cached_property
    def _year_ends(self) -> Mapping[Key, int]:
        p = t.payer.c
        rows = self._connection.execute(select(p.exchange, p.symbol, p.fiscal_year_end_month))
        return {(exchange, symbol): month for exchange, symbol, month in rows}

    def year_ends(self, exchange: str, symbol: str) -> int:
        """The month in which a payer's fiscal years end; December for one that is not held."""
        return self._year_ends.get((exchange, symbol), 12)

    @cached_property
    def _ids(self) -> Mapping[Key, int]:
        p = t.payer.c
        rows = self._connection.execute(select(p.exchange, p.symbol, p.id))
        return {(exchange, symbol): id for exchange, symbol, id in rows}

    def _rows(
        self,
        payers: Iterable[Key],
        payer_id: ColumnElement[int],
        *columns: ColumnElement[Any],
        where: ColumnElement[bool] | None = None,
    ) -> Iterator[tuple[Key, Any]]:
        """Rows of the payers that are held, each with its payer's key, by the first column."""
        keys = {self._ids[p]: p for p in payers if p in self._ids}
        ids = sorted(keys)
        for start in range(0, len(ids), TOGETHER):
            some = ids[start : start + TOGETHER]
            query = select(payer_id, *columns).where(payer_id.in_(some)).order_by(columns[0])
            if where is not None:
                query = query.where(where)
            for row in self._connection.execute(query):
                yield keys[row[0]], row

    def regular_dividends(
        self, payers: Collection[Key]
    ) -> Mapping[Key, Sequence[tuple[date, float]]]:
        d = t.dividend.c
        rows = self._rows(payers, d.payer_id, d.ex_date, d.amount, where=d.kind == "regular")
        return _by_key((key, (row[1], row[2])) for key, row in rows)

    def sums_of_years(self, payers: Collection[Key]) -> Mapping[Key, Sequence[tuple[date, float]]]:
        d = t.dividend.c
        told = and_(d.kind == "regular", d.assumed.is_not(None))
        rows = self._rows(payers, d.payer_id, d.ex_date, d.amount, where=told)
        return _by_key((key, (row[1], row[2])) for key, row in rows)

    def closes_near(
        self, ends: Mapping[Key, tuple[date, date]]
    ) -> Mapping[Key, Sequence[tuple[date, float]]]:
        """Payers whose files begin and end on the same days are asked for together."""
        p = t.price.c
        by_ends: dict[tuple[date, date], list[Key]] = defaultdict(list)
        for key, days in ends.items():
            by_ends[days].append(key)
        found: dict[Key, list[tuple[date, float]]] = {}
        for days, keys in by_ends.items():
            near = or_(*(p.day.between(d - NEAR, d + NEAR) for d in days))
            rows = self._rows(keys, p.payer_id, p.day, p.close, where=near)
            found |= _by_key((key, (row[1], row[2])) for key, row in rows)
        return found

    def splits(self, payers: Collection[Key]) -> Mapping[Key, Sequence[date]]:
        s = t.split.c
        rows = self._rows(payers, s.payer_id, s.effective_on)
        return _by_key((key, row[1]) for key, row in rows)

    def statements(self, payers: Collection[Key]) -> Mapping[Key, Sequence[Mapping[str, Any]]]:
        s = t.statement.c
        rows = self._rows(
            payers,
            s.payer_id,
            s.period_end,
            s.span,
            s.published_on,
            s.revenue,
            s.operating_cash_flow,
        )
        return _by_key((key, row._mapping) for key, row in rows)


def _by_key(pairs: Iterable[tuple[Key, T]]) -> dict[Key, list[T]]:
    found: dict[Key, list[T]] = {}
    for key, value in pairs:
        found.setdefault(key, []).append(value)
    return found
