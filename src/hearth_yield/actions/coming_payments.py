"""Declared dividends that go ex or pay in the next weeks."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date, timedelta

from hearth_yield.store import calendar
from hearth_yield.store.calendar import DeclaredPayment as DeclaredPayment
from hearth_yield.store.database import Database


def coming_payments(database: Database, as_of: date, days: int) -> Sequence[DeclaredPayment]:
    """Of all payers, as known on a day, by ex-date."""
    with database.read() as connection:
        return calendar.declared_between(connection, as_of, as_of + timedelta(days=days))
