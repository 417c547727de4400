"""Cash of the accounts that keep it, by currency. (docs/method.md, Household)

deposits + sales + net dividends + returned capital + conversion cash + interest − buys − fees −
tax − withdrawals ± exchanges = cash.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Mapping
from datetime import date

from .amounts import rounded
from .entries import Entry, EntryKind
from .ledger import CashOfConversion

Moves = dict[tuple[int, str], int]
"""By account and currency, in minor units."""
INTO = (EntryKind.DEPOSIT, EntryKind.INTEREST, EntryKind.RETURN_OF_CAPITAL)
OUT_OF = (EntryKind.WITHDRAWAL, EntryKind.FEE, EntryKind.TAX)


def moved(entry: Entry) -> list[tuple[str, int]]:
    """What one entry puts into the account's cash (+) or takes out (−), by currency. A trade that
    was settled in another currency moves that."""
    kind = entry.kind
    if kind is EntryKind.EXCHANGE:
        return [
            (entry.currency, -(entry.amount or 0)),
            (entry.into_currency, entry.into_amount or 0),
        ]
    if kind is EntryKind.BUY:
        return [(entry.currency, -entry.paid)]
    if kind is EntryKind.SELL:
        return [(entry.currency, entry.brought)]
    if kind is EntryKind.DIVIDEND:
        return [(entry.currency, entry.net)]
    if kind is EntryKind.REINVESTMENT:
        return [(entry.currency, entry.net - entry.spent_on_shares)]
    if kind in INTO:
        return [(entry.currency, entry.amount or 0)]
    if kind in OUT_OF:
        return [(entry.currency, -(entry.amount or 0))]
    return []


def cash_moved(entry: Entry, own: str) -> list[tuple[str, int]]:
    """As `moved`, in the account's own currency where it was settled in that."""
    if entry.settled is None or not entry.moved or entry.kind is EntryKind.EXCHANGE:
        return moved(entry)
    return [(own, rounded(entry.settled * amount, entry.moved)) for _, amount in moved(entry)]


def cash_after(
    entries: Iterable[Entry],
    converted: Iterable[CashOfConversion],
    currencies: Mapping[int, str],
    until: date,
) -> Moves:
    """The cash after a day. currencies: of the accounts that keep cash; the others have none.
    converted: what conversions brought, which hangs on the shares that were held."""
    found: Moves = defaultdict(int)
    for entry in entries:
        if entry.day <= until and entry.account in currencies:
            for currency, amount in cash_moved(entry, currencies[entry.account]):
                found[entry.account, currency] += amount
    for cash in converted:
        if cash.day <= until and cash.account in currencies:
            found[cash.account, cash.currency] += cash.amount
    return dict(found)
