"""Column types SQLite does not have."""

from __future__ import annotations

from datetime import date
from decimal import Decimal
from typing import Any

from sqlalchemy import BigInteger, Dialect, Text
from sqlalchemy.types import TypeDecorator

MONEY_PLACES = 6


class ExactDecimal(TypeDecorator[Decimal]):
    """Money and quantities as integers of so many decimals: SQLite's own decimals lose digits."""

    impl = BigInteger
    cache_ok = True

    def __init__(self, places: int = MONEY_PLACES) -> None:
        super().__init__()
        self.places = places

    def process_bind_param(self, value: Decimal | None, dialect: Dialect) -> int | None:
        return None if value is None else self.scaled(value)

    def scaled(self, value: Decimal) -> int:
        """Raises ValueError for more decimals than are kept."""
        scaled = value.scaleb(self.places)
        if not value.is_finite() or scaled != scaled.to_integral_value():
            raise ValueError(f"{value} has more than {self.places} decimals")
        return int(scaled)

    def process_result_value(self, value: Any, dialect: Dialect) -> Decimal | None:
        return None if value is None else Decimal(value).scaleb(-self.places)


class DecimalText(TypeDecorator[Decimal]):
    """A price or a rate as it was typed, to the last nought."""

    impl = Text
    cache_ok = True

    def process_bind_param(self, value: Decimal | None, dialect: Dialect) -> str | None:
        return None if value is None else format(value, "f")

    def process_result_value(self, value: Any, dialect: Dialect) -> Decimal | None:
        return None if value is None else Decimal(value)


class IsoDate(TypeDecorator[date]):
    """A date as ISO text, which STRICT tables accept and which sorts as dates do."""

    impl = Text
    cache_ok = True

    def process_bind_param(self, value: date | None, dialect: Dialect) -> str | None:
        return None if value is None else value.isoformat()

    def process_result_value(self, value: Any, dialect: Dialect) -> date | None:
        return None if value is None else date.fromisoformat(value)
