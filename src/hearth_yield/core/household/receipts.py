"""What came of what is held: dividends as entered, or as the record has them. (docs/method.md,
Household)"""

from __future__ import annotations

from bisect import bisect_left
from collections import defaultdict
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from fractions import Fraction
from types import MappingProxyType

from .amounts import SHARE, exact_rate, minor_digits, whole
from .entries import Account, Entry, EntryKind, PayerKey
from .ledger import Book, Known, Place, Rates

USUAL_LAG = timedelta(days=30)
"""From the ex-date to the pay date, where that is not on record."""
NOTHING_WITHHELD: Mapping[PayerKey, Fraction] = MappingProxyType({})
CAME = (EntryKind.DIVIDEND, EntryKind.REINVESTMENT)


@dataclass(frozen=True, slots=True, kw_only=True)
class Paid:
    """A dividend on record: per share of its ex-date."""

    ex_date: date
    pay_date: date | None
    amount: float
    currency: str

    @property
    def comes(self) -> date:
        return self.pay_date or self.ex_date + USUAL_LAG


@dataclass(frozen=True, slots=True, kw_only=True)
class Receipt:
    """What came on a day, in minor units: gross without returned capital, net of what was withheld;
    at home None without a rate. on_record: that it is the record's, and nobody entered it."""

    day: date
    gross: int
    net: int
    currency: str
    at_home: int | None
    on_record: bool


def shares_before(book: Book, known: Known, place: Place, ex_date: date) -> int | None:
    """Held at the close before a day, in shares of that day; None where not known."""
    steps = book.steps.get(place, [])
    at = bisect_left(steps, ex_date, key=lambda s: s[0])
    held = steps[at - 1][1] if at else 0
    if not held:
        return held
    ratio = Fraction(1)
    for day, by in known.splits.get(place[1], ()):
        if day == ex_date:
            ratio *= by
    return whole(held * ratio)


def receipts(
    book: Book,
    accounts: Iterable[Account],
    entries: Iterable[Entry],
    paid: Mapping[PayerKey, Sequence[Paid]],
    known: Known,
    rates: Rates,
    home: str,
    until: date,
    withheld: Mapping[PayerKey, Fraction] = NOTHING_WITHHELD,
) -> dict[Place, list[Receipt]]:
    """By place, in order of days: entries, and before the day from which an account enters its
    dividends those of the record, less what the payer's country withholds."""
    found: dict[Place, list[Receipt]] = defaultdict(list)
    for entry in entries:
        if entry.kind in CAME and entry.day <= until and entry.payer is not None:
            net = entry.net - entry.returned
            at_home = rates.convert(net, entry.currency, home, entry.day)
            found[entry.account, entry.payer].append(
                Receipt(
                    day=entry.day,
                    gross=(entry.amount or 0) - entry.returned,
                    net=net,
                    currency=entry.currency,
                    at_home=at_home,
                    on_record=False,
                )
            )
    by_id = {a.id: a for a in accounts}
    for place in book.held:
        entered_from = by_id[place[0]].entered_from or date.max
        steps = book.steps.get(place)
        first = steps[0][0] if steps else date.max
        for one in paid.get(place[1], ()):
            if first < one.ex_date and one.comes <= until and one.comes < entered_from:
                shares = shares_before(book, known, place, one.ex_date)
                if shares:
                    part = withheld.get(place[1], Fraction(0))
                    found[place].append(_on_record(one, shares, part, rates, home))
    return {place: sorted(made, key=lambda r: r.day) for place, made in found.items()}


def _on_record(one: Paid, shares: int, withheld: Fraction, rates: Rates, home: str) -> Receipt:
    each = exact_rate(one.amount) * 10 ** minor_digits(one.currency)
    gross = whole(Fraction(shares, SHARE) * each)
    net = gross - whole(gross * withheld)
    return Receipt(
        day=one.comes,
        gross=gross,
        net=net,
        currency=one.currency,
        at_home=rates.convert(net, one.currency, home, one.comes),
        on_record=True,
    )
