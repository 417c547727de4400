"""What an institution says is there, held against the ledger. (docs/method.md, Household)"""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from datetime import date

from .cash import cash_after
from .entries import Account, Entry, EntryKind, PayerKey
from .ledger import Book, Place


@dataclass(frozen=True, slots=True, kw_only=True)
class Stated:
    """Shares of a payer (in units of 10⁻⁸) or, without one, cash in a currency (in minor units), at
    a day's end. ledger: what the entries come to; None: not known, for the reason."""

    entry: int
    account: int
    day: date
    payer: PayerKey | None
    currency: str
    said: int
    ledger: int | None
    reason: str = ""

    @property
    def apart(self) -> int | None:
        """How much more the institution says than the ledger."""
        return None if self.ledger is None else self.said - self.ledger


def held_against(
    book: Book, accounts: Iterable[Account], entries: Iterable[Entry], until: date
) -> list[Stated]:
    """The newest statement of each payer and of each currency in an account, by day."""
    entries = [e for e in entries if e.day <= until]
    keeps = {a.id: a.currency for a in accounts if a.keeps_cash}
    newest: dict[tuple[int, PayerKey | None, str], Entry] = {}
    for entry in sorted(entries, key=lambda e: (e.day, e.id)):
        if entry.kind is EntryKind.STATED:
            if entry.shares is not None:
                newest[entry.account, entry.payer, ""] = entry
            if entry.amount is not None:
                newest[entry.account, None, entry.currency] = entry
    cash: dict[date, Mapping[tuple[int, str], int]] = {}
    found = []
    for (account, payer, currency), entry in newest.items():
        if not currency:
            if payer is not None:
                found.append(_shares(book, (account, payer), entry))
            continue
        if account in keeps and entry.day not in cash:
            cash[entry.day] = cash_after(entries, book.converted, keeps, entry.day)
        found.append(
            Stated(
                entry=entry.id,
                account=account,
                day=entry.day,
                payer=None,
                currency=currency,
                said=entry.amount or 0,
                ledger=cash[entry.day].get((account, currency), 0) if account in keeps else None,
                reason="" if account in keeps else "the account does not keep its cash here",
            )
        )
    return sorted(found, key=lambda s: (s.day, s.entry), reverse=True)


def _shares(book: Book, place: Place, entry: Entry) -> Stated:
    """By the close of the day."""
    steps = book.steps.get(place, [])
    at = bisect_right(steps, entry.day, key=lambda step: step[0])
    ledger = steps[at - 1][1] if at else 0
    return Stated(
        entry=entry.id,
        account=entry.account,
        day=entry.day,
        payer=entry.payer,
        currency="",
        said=entry.shares or 0,
        ledger=ledger,
        reason="more went than was held by then" if ledger is None else "",
    )
