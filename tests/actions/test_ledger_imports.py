"""The ledger out as tables and in again: to the last unit, in any order, as often as one likes."""

from __future__ import annotations

import io
import random
import zipfile
from collections.abc import Iterator, Sequence
from datetime import date
from decimal import Decimal
from pathlib import Path
from typing import cast

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from hearth_yield.actions.back_up import back_up, restore
from hearth_yield.actions.enter_facts import Typed, enter_facts, preview_typed
from hearth_yield.actions.export_facts import export_facts
from hearth_yield.actions.import_files import import_files, preview_import, undo_import
from hearth_yield.core.errors import Conflict, RejectedImport
from hearth_yield.core.household.entries import Account, CostMethod, Entry, EntryKind
from hearth_yield.exchange.faults import Fault
from hearth_yield.store import ledger, sources
from hearth_yield.store.database import Database, edition
from hearth_yield.store.tables import payer
from tests.core.household.build import OTHER, PAYER
from tests.core.household.untidy import Untidy
from tests.databases import client_of, new_database

AT = "2026-06-30T10:00:00+00:00"
TODAY = date(2026, 6, 30)
KINDS = EntryKind
ACCOUNTS = (
    Account(id=1, name="Main", currency="TLL", keeps_cash=True),
    Account(
        id=2,
        name="=Sheltered, “old”",
        currency="THK",
        sheltered=True,
        method=CostMethod.AVERAGE,
        entered_from=date(2020, 1, 1),
        closed_on=date(2025, 12, 31),
    ),
)
EVERY = (
    Entry(
        id=0,
        account=1,
        kind=KINDS.BUY,
        day=date(2020, 1, 2),
        payer=PAYER,
        shares=123_456_789_012,
        price=Decimal("20.10"),
        amount=10**15 + 1,
        currency="TLL",
        fee=1,
        tax=2,
        settled=6,
        note="=1+1\nsecond line, “quoted”",
        reference="0007",
    ),
    Entry(
        id=0,
        account=1,
        kind=KINDS.SELL,
        day=date(2021, 1, 2),
        payer=PAYER,
        shares=10**8 + 1,
        price=Decimal("0.00000001"),
        currency="TLL",
        chosen=((date(2020, 1, 2), 7), (date(2020, 1, 3), 10**8 - 6)),
    ),
    Entry(
        id=0,
        account=1,
        kind=KINDS.CONVERSION,
        day=date(2021, 1, 2),
        payer=PAYER,
        into=OTHER,
        new=Decimal("0.3333333333333333333"),
        old=Decimal("3.0"),
        cash=Decimal("-1.05"),
        moves=Decimal("0.20"),
        currency="TLL",
    ),
    Entry(
        id=0,
        account=1,
        kind=KINDS.TRANSFER,
        day=date(2021, 1, 2),
        payer=PAYER,
        shares=5 * 10**8,
        to=2,
        currency="TLL",
    ),
    Entry(
        id=0,
        account=1,
        kind=KINDS.EXCHANGE,
        day=date(2021, 1, 2),
        amount=100,
        currency="TLL",
        into_amount=12_345,
        into_currency="KWD",
    ),
    Entry(id=0, account=2, kind=KINDS.TAX, day=date(2021, 1, 2), amount=-250, currency="THK"),
    Entry(id=0, account=2, kind=KINDS.STATED, day=date(2021, 1, 2), amount=0, currency="JPY"),
    Entry(
        id=0,
        account=2,
        kind=KINDS.OPENING,
        day=date(2021, 1, 2),
        payer=("", "..."),
        shares=1,
        amount=0,
        bought=date(1999, 1, 1),
        currency="THK",
    ),
    Entry(
        id=0,
        account=2,
        kind=KINDS.REINVESTMENT,
        day=date(2021, 1, 2),
        payer=OTHER,
        shares=3,
        amount=500,
        withheld=75,
        returned=10,
        spent=0,
        price=Decimal("1.5"),
        currency="THK",
    ),
)


@pytest.fixture
def other(tmp_path: Path) -> Iterator[Database]:
    database = new_database(tmp_path / "other.sqlite")
    yield database
    database.close()


def fill(database: Database, entries: list[Entry], accounts: tuple[Account, ...]) -> None:
    with database.write(facts=False, ledger=True) as connection:
        for account in accounts:
            ledger.add_account(connection, account, AT)
        ledger.add_many(connection, entries, None, AT)


def told(database: Database) -> tuple[list[Account], list[Entry]]:
    """In an order that no ids decide."""
    with database.read() as connection:
        found = [replace(e, id=0) for e in ledger.entries(connection)]
        return ledger.accounts(connection), sorted(found, key=repr)


def standing(database: Database) -> list[Entry]:
    with database.read() as connection:
        return ledger.entries(connection)


def package(database: Database, *, book: bool = False) -> list[tuple[str, bytes]]:
    raw = export_facts(database, None, name="mine", book=book, owned="only")
    return [("mine.zip", raw)]


def csv_of(entries: str, accounts: str = "") -> list[tuple[str, bytes]]:
    files = [("entries.csv", entries.encode())]
    return [*files, ("accounts.csv", accounts.encode())] if accounts else files


def test_every_field_goes_out_and_comes_in_to_the_last_unit(
    empty: Database, other: Database
) -> None:
    fill(empty, list(EVERY), ACCOUNTS)
    id = import_files(other, package(empty), at=AT, today=TODAY)
    assert told(other) == told(empty)
    with other.read() as connection:
        assert sources.report(connection, id).rows == {"accounts": 2, "entries": len(EVERY)}
    with pytest.raises(Conflict, match="held already"):
        import_files(other, package(empty), at=AT, today=TODAY)
    undo_import(other, id, at=AT)
    assert told(other) == ([], [])


def test_an_untidy_ledger_stays_what_it_was_through_a_package_and_a_backup(
    empty: Database, other: Database
) -> None:
    of = Untidy(5, payers_held=20)
    fill(empty, of.entries(1500), tuple(of.accounts))
    import_files(other, package(empty), at=AT, today=TODAY)
    assert told(other) == told(empty)
    restore(other, back_up(empty, at=AT), at=AT)
    assert standing(other) == standing(empty)


HEAD = "account,kind,day,exchange,symbol,shares,price,amount,reference\n"
LINES = (
    "Main,buy,2024-01-02,ELV,TRS,10,20,,\n",
    "Main,buy,2024-01-02,ELV,TRS,10,20,,\n",
    "Main,buy,2024-01-02,ELV,TRS,11,20,,A1\n",
    "Main,sell,2024-02-02,ELV,TRS,5,21,,\n",
    "Main,dividend,2024-03-02,ELV,TRS,,,12.50,\n",
    "Main,dividend,2024-03-02,ELV,TRS,,,12.50,B7\n",
    "Main,buy,2024-04-02,ELV,TRS,1,20,,\n",
)


@settings(
    max_examples=40, deadline=None, suppress_health_check=[HealthCheck.function_scoped_fixture]
)
@given(
    parts=st.lists(st.sets(st.integers(0, len(LINES) - 1)), min_size=1, max_size=4),
    seed=st.integers(0, 99),
)
def test_files_that_overlap_give_one_ledger_in_any_order(
    empty: Database, parts: list[set[int]], seed: int
) -> None:
    """Together they hold all lines: one after the other, in any order, gives what one file gives.
    Lines that say the same are only two where a file has both."""
    with empty.write(facts=False, ledger=True) as connection:
        connection.exec_driver_sql("DELETE FROM entry")
        connection.exec_driver_sql("DELETE FROM account")
        ledger.add_account(connection, ACCOUNTS[0], AT)
    rest = set(range(len(LINES))) - set[int]().union(*parts)
    files = [p.union(*(pair for pair in ({0, 1}, {4, 5}) if p & pair)) for p in [*parts, rest]]
    shuffler = random.Random(seed)
    shuffler.shuffle(files)
    for at in files:
        lines = [LINES[n] for n in at]
        shuffler.shuffle(lines)
        if lines:
            try:
                import_files(empty, csv_of(HEAD + "".join(lines)), at=AT, today=TODAY)
            except Conflict:
                continue
    assert len(standing(empty)) == len(LINES)


@pytest.fixture
def main(empty: Database) -> Database:
    fill(empty, [], ACCOUNTS[:1])
    import_files(empty, csv_of(HEAD + "".join(LINES[2:5])), at=AT, today=TODAY)
    return empty


def test_an_edited_line_is_still_the_same_and_a_deleted_one_stays_away(main: Database) -> None:
    buy, sale, dividend = standing(main)
    with main.write(facts=False, ledger=True) as connection:
        ledger.change(connection, replace(sale, fee=500), AT)
        ledger.set_deleted(connection, dividend.id, AT)
    with pytest.raises(Conflict, match="held already"):
        import_files(main, csv_of(HEAD + "".join(LINES[2:5])), at=AT, today=TODAY)
    assert standing(main) == [buy, replace(sale, fee=500)]
    with pytest.raises(Conflict, match="1 of its entries was edited since"):
        undo_import(main, 1, at=AT)
    with main.write(facts=False, ledger=True) as connection:
        ledger.set_deleted(connection, sale.id, AT)
    undo_import(main, 1, at=AT)
    import_files(main, csv_of(HEAD + "".join(LINES[2:5])), at=AT, today=TODAY)
    assert len(standing(main)) == 3


def test_an_import_of_entries_drops_nothing_that_rests_on_facts(main: Database) -> None:
    with main.read() as connection:
        before = edition(connection)
    import_files(main, csv_of(HEAD + LINES[6]), at=AT, today=TODAY)
    with main.read() as connection:
        after = edition(connection)
    assert (after.facts, after.judged) == (before.facts, before.judged)
    assert after.ledger > before.ledger


@pytest.mark.parametrize(
    ("line", "column", "expected"),
    [
        ("Else,buy,2024-01-02,ELV,TRS,1,1,,", "account", "an account that is there, or stands"),
        ("Main,buys,2024-01-02,ELV,TRS,1,1,,", "kind", "one of conversion, opening, buy"),
        ("Main,buy,2027-01-02,ELV,TRS,1,1,,", "day", "on or before 2026-06-30"),
        ("Main,buy,2024-01-02,ELV,TRS,,1,,", "shares", "shares of a buy"),
        ("Main,buy,2024-01-02,ELV,TRS,1,,,", "price", "price a share or amount of a buy"),
        ("Main,buy,2024-01-02,ELV,TRS,1.123456789,1,,", "shares", "of at most 8 decimals"),
        ("Main,dividend,2024-01-02,ELV,TRS,,,1.005,", "amount", "at most 2 decimals"),
        ("Main,deposit,2024-01-02,ELV,,,,5,", "symbol", "the symbol of the payer"),
        ("Main,fee,2024-01-02,,,,,-5,", "amount", "0 or more"),
    ],
)
def test_a_line_that_cannot_be_is_named(
    main: Database, line: str, column: str, expected: str
) -> None:
    with pytest.raises(RejectedImport) as refused:
        import_files(main, csv_of(HEAD + LINES[6] + line + "\n"), at=AT, today=TODAY)
    (fault,) = cast("Sequence[Fault]", refused.value.faults)
    assert (fault.line, fault.column) == (3, column)
    assert expected in fault.expected
    assert len(standing(main)) == 3


def test_what_is_doubtful_is_said_before_it_is_kept(main: Database) -> None:
    lines = ("Main,buy,2024-01-02,ELV,ZZZ,10,20,300,\n", "Main,buy,2024-01-02,ELV,ZZZ,10,20,300,\n")
    found = preview_import(main, csv_of(HEAD + "".join(lines)), today=TODAY)
    said = [(f.line, f.column, f.expected[:40]) for f in found.faults]
    assert [(n, c) for n, c, _ in said] == [
        *((2, "amount"), (2, "symbol"), (3, "amount"), (3, "symbol"), (3, None))
    ]
    assert all(f.warning for f in found.faults)
    assert (found.tables["entries"].added, found.tables["entries"].same) == (2, 0)


def test_an_account_that_is_there_keeps_its_settings_and_its_currency(main: Database) -> None:
    head = "name,currency,tax,cost_method,cash\n"
    found = preview_import(
        main, csv_of(HEAD + LINES[6], head + "main,TLL,sheltered,,\n"), today=TODAY
    )
    assert [f.expected[:24] for f in found.faults if f.column == "name"] == [
        "the settings of the acco"
    ]
    with pytest.raises(RejectedImport, match="faults"):
        import_files(main, csv_of(HEAD + LINES[6], head + "Main,THK,,,\n"), at=AT, today=TODAY)


def test_the_tables_of_the_ledger_are_described_in_the_package(main: Database) -> None:
    ((_, raw),) = package(main)
    with zipfile.ZipFile(io.BytesIO(raw)) as archive:
        text = archive.read("datapackage.json").decode()
    assert '"primaryKey": [\n     "name"\n    ]' in text
    assert '"name": "entries"' in text


def test_entries_are_typed_in_a_grid_as_people_say_them(twenty: Database) -> None:
    fill(twenty, [], ACCOUNTS[:1])
    rows = (
        {"account": "main", "kind": "Bought", "day": "3 May 2024", "symbol": "TRS"},
        {"account": "Main", "kind": "Sale", "day": "31.12.2024", "symbol": "TRS"},
    )
    typed = Typed(
        table="entries", rows=[r | {"shares": "2,5", "price": "20,10"} for r in rows], decimal=","
    )
    id = enter_facts(twenty, typed, at=AT, accepted=(), today=TODAY)
    bought, sold = standing(twenty)
    assert (bought.kind, bought.day, bought.payer) == (KINDS.BUY, date(2024, 5, 3), ("ELV", "TRS"))
    assert (bought.shares, bought.price) == (250_000_000, Decimal("20.10"))
    assert (sold.kind, sold.day) == (KINDS.SELL, date(2024, 12, 31))
    undo_import(twenty, id, at=AT)
    assert standing(twenty) == []


def test_a_symbol_on_two_exchanges_is_asked_for_its_exchange(twenty: Database) -> None:
    fill(twenty, [], ACCOUNTS[:1])
    with twenty.write() as connection:
        columns = ", ".join(c.name for c in payer.columns if c.name not in ("id", "exchange"))
        connection.exec_driver_sql(
            f"INSERT INTO payer (exchange, {columns}) "
            f"SELECT 'OTH', {columns} FROM payer WHERE symbol = 'TRS'"
        )
    typed = Typed(
        table="entries",
        rows=[{"account": "Main", "kind": "fee", "day": "2024-05-03", "symbol": "TRS"}],
    )
    (fault,) = preview_typed(twenty, typed, today=TODAY).faults
    assert (fault.column, fault.expected) == (
        "exchange",
        "ELV or OTH: this symbol is on each of them",
    )


def test_a_line_whose_name_is_known_and_says_otherwise_is_told(main: Database) -> None:
    found = preview_import(main, csv_of(HEAD + LINES[2].replace(",11,", ",12,")), today=TODAY)
    (fault,) = [f for f in found.faults if f.column == "reference"]
    assert (fault.warning, fault.value) == (True, "A1")
    assert "it is kept as it is there" in fault.expected
    assert (found.tables["entries"].added, found.tables["entries"].same) == (0, 1)


def test_two_lines_of_one_name_that_differ_are_refused_and_equal_ones_entered_once(
    main: Database,
) -> None:
    other = LINES[6].replace(",\n", ",Z9\n")
    found = preview_import(main, csv_of(HEAD + other + other), today=TODAY)
    assert found.tables["entries"].added == 1
    assert any("it is entered once" in f.expected for f in found.faults)
    with pytest.raises(RejectedImport) as refused:
        import_files(main, csv_of(HEAD + other + other.replace(",1,", ",2,")), at=AT, today=TODAY)
    (fault,) = cast("Sequence[Fault]", refused.value.faults)
    assert (fault.line, fault.column, fault.value) == (3, "reference", "Z9")


def test_dividends_beside_the_records_are_told(main: Database) -> None:
    found = preview_import(main, csv_of(HEAD + LINES[4].replace("12.50", "13")), today=TODAY)
    (fault,) = [f for f in found.faults if f.column == "day"]
    assert fault.warning
    assert "the record's count there" in fault.expected


def test_a_workbook_of_the_ledger_is_read_as_the_package_is(
    empty: Database, other: Database
) -> None:
    fill(empty, list(EVERY), ACCOUNTS)
    ((_, raw),) = package(empty, book=True)
    files = {"files": ("mine.xlsx", raw)}
    found = client_of(other).post("/api/imports/preview", files=files).json()
    assert {t["table"]: t["added"] for t in found["tables"]} == {"accounts": 2, "entries": 9}
    assert not found["refused"]
