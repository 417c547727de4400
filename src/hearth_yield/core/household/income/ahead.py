"""What comes in the next twelve months: gone ex, declared, and expected. (docs/method.md,
Household)"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date
from enum import StrEnum

from ..amounts import SHARE
from ..entries import PayerKey
from ..ledger import Book, Known, Place
from ..receipts import shares_before
from .paying import YEAR, Paying


class Stands(StrEnum):
    GONE_EX = "gone_ex"
    DECLARED = "declared"
    EXPECTED = "expected"


@dataclass(frozen=True, slots=True, kw_only=True)
class Ahead:
    """A payment in one place. shares: those it is paid on, or is expected on; each: for one of
    them; gross: before tax, in the currency of the payment. told: its day is on record."""

    place: Place
    ex_date: date
    comes: date
    told: bool
    shares: float
    each: float
    currency: str
    stands: Stands

    @property
    def gross(self) -> float:
        return self.shares * self.each


def ahead(book: Book, paying: Mapping[PayerKey, Paying], known: Known, day: date) -> list[Ahead]:
    """By the day they come. A payment that went ex is paid on the shares held then; the others on
    those held now."""
    found: list[Ahead] = []
    for place, held in book.held.items():
        of = paying.get(place[1])
        if of is None or held.unresolved is not None:
            continue
        now = held.shares
        for p in of.payments:
            if not day < p.comes <= day + YEAR:
                continue
            gone = p.ex_date <= day
            shares = shares_before(book, known, place, p.ex_date) if gone else now
            if shares:
                found.append(
                    Ahead(
                        place=place,
                        ex_date=p.ex_date,
                        comes=p.comes,
                        told=p.told,
                        shares=shares / SHARE,
                        each=p.each if gone else p.today,
                        currency=p.currency,
                        stands=Stands.GONE_EX if gone else Stands.DECLARED,
                    )
                )
        found += [
            Ahead(
                place=place,
                ex_date=slot.ex_date,
                comes=slot.comes,
                told=False,
                shares=now / SHARE,
                each=slot.each,
                currency=of.currency,
                stands=Stands.EXPECTED,
            )
            for slot in (of.slots if now else ())
        ]
    return sorted(found, key=lambda a: (a.comes, a.place))
