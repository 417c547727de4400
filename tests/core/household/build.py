"""Ledgers of a few lines: amounts as one writes them, in the currency of the account."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from datetime import date
from decimal import Decimal
from fractions import Fraction
from itertools import count
from typing import Any

from hearth_yield.core.household.amounts import in_units, minor_digits, rounded
from hearth_yield.core.household.entries import Account, Entry, EntryKind, PayerKey
from hearth_yield.core.household.ledger import Book, Known, Rates, walk
from hearth_yield.core.household.lots import Holding

PAYER: PayerKey = ("ELV", "TRS")
OTHER: PayerKey = ("ELV", "GWK")
ABROAD: PayerKey = ("RKM", "ADRP")
HOME = "TLL"
CURRENCIES = {PAYER: "TLL", OTHER: "TLL", ABROAD: "THK"}
MAIN, SECOND = (
    Account(id=1, name="Main", currency=HOME),
    Account(id=2, name="Second", currency=HOME),
)
MONEY = ("amount", "fee", "tax", "withheld", "returned", "spent", "settled", "into_amount")
_ids = count(1)


class Steps(Rates):
    """Home for one unit, by currency and day."""

    def __init__(self, rates: Mapping[str, Mapping[date, str]] | None = None) -> None:
        self.rates = rates or {}

    def _rate(self, currency: str, on: date) -> Fraction | None:
        if currency == HOME:
            return Fraction(1)
        days = [d for d in self.rates.get(currency, {}) if d <= on]
        return Fraction(self.rates[currency][max(days)]) if days else None

    def convert(self, amount: int, source: str, target: str, on: date) -> int | None:
        of, to = self._rate(source, on), self._rate(target, on)
        if of is None or to is None:
            return None
        scale = Fraction(10) ** (minor_digits(target) - minor_digits(source))
        found = amount * of / to * scale
        return rounded(found.numerator, found.denominator)


def shares(text: str) -> int:
    return in_units(Decimal(text), 8)


def money(text: str) -> int:
    return in_units(Decimal(text), 2)


def entry(kind: str, day: str, held: str | None = None, **more: Any) -> Entry:
    """shares as text; amounts, prices and terms as text; the rest as an entry has it."""
    read: dict[str, Any] = {
        k: money(v) if k in MONEY and isinstance(v, str) else v for k, v in more.items()
    }
    for name in ("price", "new", "old", "cash", "moves"):
        if name in read:
            read[name] = Decimal(read[name])
    if "bought" in read:
        read["bought"] = date.fromisoformat(read["bought"])
    if "chosen" in read:
        read["chosen"] = tuple((date.fromisoformat(d), shares(n)) for d, n in read["chosen"])
    base: dict[str, Any] = {"account": 1, "payer": PAYER, "currency": HOME, "id": next(_ids)}
    if held is not None:
        base["shares"] = shares(held)
    return Entry(kind=EntryKind(kind), day=date.fromisoformat(day), **(base | read))


def book(
    entries: Sequence[Entry],
    *,
    accounts: Sequence[Account] = (MAIN, SECOND),
    splits: Mapping[PayerKey, Sequence[tuple[str, int]]] | None = None,
    ex_dates: Mapping[PayerKey, Sequence[str]] | None = None,
    rates: Rates | None = None,
    until: str = "2030-12-31",
) -> Book:
    known = Known(
        currencies=CURRENCIES,
        splits={
            p: [(date.fromisoformat(d), Fraction(n)) for d, n in s]
            for p, s in (splits or {}).items()
        },
        ex_dates={p: [date.fromisoformat(d) for d in s] for p, s in (ex_dates or {}).items()},
    )
    return walk(accounts, entries, known, rates or Steps(), HOME, date.fromisoformat(until))


def holding(found: Book, payer: PayerKey = PAYER, account: int = 1) -> Holding:
    return found.held[(account, payer)]


def lots(
    found: Book, payer: PayerKey = PAYER, account: int = 1
) -> list[tuple[str, int, int | None]]:
    """Day, whole shares, cost."""
    return [
        (o.day.isoformat(), o.shares // 10**8, o.cost) for o in holding(found, payer, account).lots
    ]


def gain(found: Book) -> int:
    return sum(o.gain or 0 for sale in found.sales for o in sale.lots)
