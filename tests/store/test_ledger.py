"""The ledger to the last unit, in and out."""

from datetime import date
from decimal import Decimal

import pytest
from msgspec.structs import replace

from hearth_yield.core.errors import NotFound
from hearth_yield.core.household.entries import Account, CostMethod, Entry, EntryKind
from hearth_yield.store import ledger
from hearth_yield.store.database import Database, edition
from tests.core.household.build import MAIN, OTHER, PAYER
from tests.core.household.untidy import Untidy

AT = "2026-06-30T10:00:00+00:00"
ALL = Entry(
    id=0,
    account=1,
    kind=EntryKind.CONVERSION,
    day=date(2020, 1, 2),
    payer=PAYER,
    shares=123_456_789_012_345_678,
    price=Decimal("20.10"),
    amount=10**15 + 1,
    currency="TLL",
    fee=1,
    tax=-2,
    withheld=3,
    returned=4,
    spent=5,
    settled=6,
    bought=date(2019, 12, 31),
    chosen=((date(2018, 1, 1), 7),),
    to=1,
    into=OTHER,
    new=Decimal("0.33333333333333333333"),
    old=Decimal("3.0"),
    cash=Decimal("-1.05"),
    moves=Decimal("0.20"),
    into_amount=8,
    into_currency="THK",
    note="as it was",
    reference="A-1",
)


@pytest.fixture
def opened(empty: Database) -> Database:
    with empty.write(facts=False, ledger=True) as connection:
        ledger.add_account(connection, MAIN, AT)
    return empty


def test_an_entry_comes_back_to_the_last_unit(opened: Database) -> None:
    with opened.write(facts=False, ledger=True) as connection:
        id = ledger.add(connection, ALL, AT)
        kept = ledger.get(connection, id)
        assert kept.entry == replace(ALL, id=id)
        assert format(kept.entry.old, "f") == "3.0"
        assert (kept.source, kept.made_at, kept.deleted_at) == (None, AT, None)
        assert ledger.entries(connection) == [kept.entry]


def test_what_was_said_before_is_kept(opened: Database) -> None:
    with opened.write(facts=False, ledger=True) as connection:
        id = ledger.add(connection, ALL, AT)
        ledger.change(connection, replace(ALL, id=id, amount=2, note="now"), "later")
        assert ledger.get(connection, id).entry.note == "now"
        assert ledger.former(connection, id) == [("later", replace(ALL, id=id))]


def test_a_deleted_one_is_away_until_it_is_put_back(opened: Database) -> None:
    with opened.write(facts=False, ledger=True) as connection:
        id = ledger.add(connection, ALL, AT)
        ledger.set_deleted(connection, id, "later")
        assert ledger.entries(connection) == []
        assert ledger.count_entries(connection, 1) == 0
        assert ledger.get(connection, id).deleted_at == "later"
        ledger.set_deleted(connection, id, None)
        assert len(ledger.entries(connection)) == 1


def test_said_twice_with_one_intention_it_is_entered_once(opened: Database) -> None:
    with opened.write(facts=False, ledger=True) as connection:
        first = ledger.add(connection, ALL, AT, "one-intention")
        assert ledger.add(connection, ALL, AT, "one-intention") == first
        assert ledger.add(connection, ALL, AT) != first


def test_the_newest_first_by_account_payer_kind_and_day(opened: Database) -> None:
    of = Untidy(5, payers_held=3)
    made = of.entries(300)
    with opened.write(facts=False, ledger=True) as connection:
        for account in of.accounts[1:]:
            ledger.add_account(connection, account, AT)
        assert ledger.add_many(connection, made, None, AT) == 300
        assert [replace(e, id=0) for e in ledger.entries(connection, date(2015, 1, 1))] == [
            replace(e, id=0) for e in sorted(made, key=lambda e: e.day) if e.day <= date(2015, 1, 1)
        ]
        kept, found = ledger.newest_kept(
            connection,
            account_id=2,
            of=of.payers[0],
            kinds=[EntryKind.BUY],
            until=date(2020, 1, 1),
            most=5,
        )
    mine = [
        e.day
        for e in made
        if e.account == 2
        and e.payer == of.payers[0]
        and e.kind is EntryKind.BUY
        and e.day <= date(2020, 1, 1)
    ]
    assert found == len(mine)
    assert [k.entry.day for k in kept] == sorted(mine, reverse=True)[:5]


def test_an_account_is_changed_and_deleted(opened: Database) -> None:
    with opened.write(facts=False, ledger=True) as connection:
        (account,) = ledger.accounts(connection)
        assert account == MAIN
        changed = Account(id=account.id, name="Pension", currency="THK", method=CostMethod.AVERAGE)
        ledger.change_account(connection, changed)
        assert ledger.accounts(connection) == [changed]
        ledger.set_account_deleted(connection, account.id, AT)
        assert ledger.accounts(connection) == []
        with pytest.raises(NotFound):
            ledger.get_account(connection, 99)


def test_only_what_is_owned_grows_an_edition(opened: Database) -> None:
    with opened.read() as connection:
        before = edition(connection)
    with opened.write(facts=False, ledger=True) as connection:
        ledger.add(connection, ALL, AT)
    with opened.read() as connection:
        after = edition(connection)
    assert (after.judged, after.ledger) == (before.judged, before.ledger + 1)
