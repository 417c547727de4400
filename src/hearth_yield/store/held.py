"""What is stored already, as the checks on the way in ask for it."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from datetime import date, timedelta
from functools import cached_property
from typing import Any

from sqlalchemy import Connection, or_, select

from . import tables as t
from .facts import known_payers

NEAR = timedelta(days=8)
Key = tuple[str, str]


class HeldFacts:
    """Answers from one connection; each payer is asked for only where it comes in again."""

    def __init__(self, connection: Connection) -> None:
        self._connection = connection

    @cached_property
    def currencies(self) -> Mapping[Key, str]:
        return known_payers(self._connection)

    @cached_property
    def _ids(self) -> Mapping[Key, int]:
        p = t.payer.c
        rows = self._connection.execute(select(p.exchange, p.symbol, p.id))
        return {(exchange, symbol): id for exchange, symbol, id in rows}

    def _id(self, payer: Key) -> int | None:
        return self._ids.get(payer)

    def regular_before(self, payer: Key, day: date) -> float | None:
        d = t.dividend.c
        return self._connection.scalar(
            select(d.amount)
            .where(d.payer_id == self._id(payer), d.kind == "regular", d.ex_date < day)
            .order_by(d.ex_date.desc())
            .limit(1)
        )

    def closes_near(self, payer: Key, first: date, last: date) -> Sequence[tuple[date, float]]:
        p = t.price.c
        rows = self._connection.execute(
            select(p.day, p.close).where(
                p.payer_id == self._id(payer),
                or_(*(p.day.between(d - NEAR, d + NEAR) for d in (first, last))),
            )
        )  # fmt: skip
        return [(day, close) for day, close in rows]

    def splits(self, payer: Key) -> Sequence[date]:
        s = t.split.c
        return list(
            self._connection.scalars(select(s.effective_on).where(s.payer_id == self._id(payer)))
        )

    def statements(self, payer: Key) -> Sequence[Mapping[str, Any]]:
        s = t.statement.c
        rows = self._connection.execute(
            select(s.period_end, s.span, s.published_on, s.revenue, s.operating_cash_flow).where(
                s.payer_id == self._id(payer)
            )
        )
        return [dict(r) for r in rows.mappings()]
