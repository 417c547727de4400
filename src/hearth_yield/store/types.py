"""Column types SQLite does not have."""

from __future__ import annotations

from datetime import date
from decimal import Decimal
from typing import Any

from sqlalchemy import BigInteger, Dialect, Text
from sqlalchemy.types import TypeDecorator

SCALE = 6


class ExactDecimal(TypeDecorator[Decimal]):
    """Money and quantities as integers of a millionth: SQLite's own decimals lose digits."""

    impl = BigInteger
    cache_ok = True

    def process_bind_param(self, value: Decimal | None, dialect: Dialect) -> int | None:
        if value is None:
            return None
        scaled = value.scaleb(SCALE)
        if scaled != scaled.to_integral_value():
            raise ValueError(f"{value} has more than {SCALE} decimals")
        return int(scaled)

    def process_result_value(self, value: Any, dialect: Dialect) -> Decimal | None:
        return None if value is None else Decimal(value).scaleb(-SCALE)


class IsoDate(TypeDecorator[date]):
    """A date as ISO text, which STRICT tables accept and which sorts as dates do."""

    impl = Text
    cache_ok = True

    def process_bind_param(self, value: date | None, dialect: Dialect) -> str | None:
        return None if value is None else value.isoformat()

    def process_result_value(self, value: Any, dialect: Dialect) -> date | None:
        return None if value is None else date.fromisoformat(value)
