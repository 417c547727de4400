"""Payers that pay, and a ledger that holds them, for tests of income."""

from __future__ import annotations

from collections.abc import Iterable
from datetime import date, timedelta
from decimal import Decimal
from fractions import Fraction

from hearth_yield.core.facts.records import DividendKind
from hearth_yield.core.household.entries import Account, Entry, EntryKind, PayerKey
from hearth_yield.core.household.income.paying import OnRecord, Paying, Slot
from hearth_yield.core.household.ledger import Book, Known, walk
from hearth_yield.core.household.rates import SeriesRates

A: PayerKey = ("ELV", "A")
B: PayerKey = ("ELV", "B")
ACCOUNT = Account(id=1, name="Main", currency="TLL", entered_from=date(2000, 1, 1))


def entry(kind: EntryKind, day: date, payer: PayerKey = A, id: int = 1, **more: object) -> Entry:
    return Entry(id=id, account=1, kind=kind, day=day, payer=payer, currency="TLL", **more)  # type: ignore[arg-type]


def buy(day: date, shares: float, payer: PayerKey = A, id: int = 1) -> Entry:
    return entry(EntryKind.BUY, day, payer, id, shares=round(shares * 10**8), price=Decimal(20))


def paid(ex: date, each: float, comes: date | None = None, **more: object) -> OnRecord:
    values = {
        "ex_date": ex,
        "comes": comes or ex + timedelta(days=14),
        "told": True,
        "each": each,
        "today": each,
        "currency": "TLL",
        "kind": DividendKind.REGULAR,
    }
    return OnRecord(**(values | more))  # type: ignore[arg-type]


def paying(
    *payments: OnRecord,
    rates: Iterable[tuple[date, float | None]] = (),
    slots: Iterable[Slot] = (),
    currency: str = "TLL",
    country: str | None = None,
) -> Paying:
    return Paying(
        currency=currency,
        country=country,
        payments=payments,
        rates=tuple(rates),
        slots=tuple(slots),
    )


def known(splits: dict[PayerKey, list[tuple[date, Fraction]]] | None = None) -> Known:
    return Known(currencies={A: "TLL", B: "TLL"}, splits=splits or {})


RATES = SeriesRates("TLL", {"THK": [(date(2020, 1, 1), 0.8)]})


def book_of(entries: Iterable[Entry], of: Known, until: date) -> Book:
    return walk([ACCOUNT], entries, of, RATES, "TLL", until)
