"""What an institution says, against what the entries come to."""

from datetime import date
from decimal import Decimal
from fractions import Fraction

import pytest

from hearth_yield.core.errors import InvalidInput
from hearth_yield.core.household.entries import Account, Entry, EntryKind
from hearth_yield.core.household.kinds import check_entry
from hearth_yield.core.household.ledger import Known, walk
from hearth_yield.core.household.rates import SeriesRates
from hearth_yield.core.household.stated import Stated, held_against

from .build import PAYER

UNTIL = date(2026, 1, 1)
ACCOUNTS = [
    Account(id=1, name="Main", currency="TLL", keeps_cash=True),
    Account(id=2, name="Other", currency="TLL"),
]
KNOWN = Known(currencies={PAYER: "TLL"}, splits={PAYER: [(date(2024, 3, 1), Fraction(2))]})


def entry(id: int, kind: EntryKind, day: date, account: int = 1, **more: object) -> Entry:
    return Entry(id=id, account=account, kind=kind, day=day, currency="TLL", **more)  # type: ignore[arg-type]


BOUGHT = (
    entry(1, EntryKind.DEPOSIT, date(2024, 1, 2), amount=500_000),
    entry(
        2,
        EntryKind.BUY,
        date(2024, 1, 3),
        payer=PAYER,
        shares=100 * 10**8,
        price=Decimal(20),
        fee=500,
    ),
)


def against(*stated: Entry) -> list[Stated]:
    every = [*BOUGHT, *stated]
    book = walk(ACCOUNTS, every, KNOWN, SeriesRates("TLL", {}), "TLL", UNTIL)
    return held_against(book, ACCOUNTS, every, UNTIL)


@pytest.mark.parametrize(
    ("day", "said", "ledger"),
    [
        (date(2024, 1, 2), 100, 0),
        (date(2024, 1, 3), 100, 100),
        (date(2024, 2, 29), 98, 100),
        (date(2024, 3, 1), 200, 200),
    ],
)
def test_shares_are_those_at_the_close_of_the_day(day: date, said: int, ledger: int) -> None:
    (found,) = against(entry(9, EntryKind.STATED, day, payer=PAYER, shares=said * 10**8))
    assert (found.said, found.ledger) == (said * 10**8, ledger * 10**8)
    assert found.apart == (said - ledger) * 10**8


def test_cash_is_what_the_entries_come_to_by_then() -> None:
    before, after = (
        against(entry(9, EntryKind.STATED, day, amount=299_500))
        for day in (date(2024, 1, 2), date(2024, 1, 3))
    )
    assert [s.apart for s in (*before, *after)] == [-200_500, 0]


def test_the_newest_statement_of_each_thing_counts() -> None:
    found = against(
        entry(7, EntryKind.STATED, date(2024, 1, 5), payer=PAYER, shares=1),
        entry(8, EntryKind.STATED, date(2024, 1, 9), payer=PAYER, shares=100 * 10**8),
        entry(9, EntryKind.STATED, date(2024, 1, 9), amount=1),
    )
    assert [(s.entry, s.apart) for s in found] == [(9, -299_499), (8, 0)]


def test_cash_of_an_account_that_keeps_none_is_not_known() -> None:
    (found,) = against(entry(9, EntryKind.STATED, date(2024, 1, 9), account=2, amount=1))
    assert (found.ledger, found.apart) == (None, None)
    assert found.reason == "the account does not keep its cash here"


def test_shares_are_stated_of_a_payer() -> None:
    said = entry(9, EntryKind.STATED, date(2024, 1, 9), shares=1)
    with pytest.raises(InvalidInput, match="payer is missing"):
        check_entry(said, {a.id: a for a in ACCOUNTS}, UNTIL)
