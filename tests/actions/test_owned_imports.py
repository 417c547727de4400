"""Files of brokers into the ledger: once, in any order, with undo, and as statements in OFX."""

from __future__ import annotations

import random
from collections.abc import Mapping
from datetime import date, timedelta
from pathlib import Path

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from msgspec.structs import replace
from sqlalchemy import delete

from hearth_yield.actions.export_ofx import export_ofx
from hearth_yield.actions.import_files import import_files, undo_import
from hearth_yield.actions.read_found import Settled, Understood, understand_files
from hearth_yield.core.errors import Conflict
from hearth_yield.core.household.entries import Account, Entry, EntryKind
from hearth_yield.store import ledger
from hearth_yield.store.database import Database
from hearth_yield.store.tables import entry
from tests.databases import kept_demo, new_database

AT = "2026-06-30T10:00:00+00:00"
TODAY = date(2026, 6, 30)
HEAD = "Date,Type,Symbol,Quantity,Price,Amount,Fee,Reference\n"
LINES = (
    "2026-01-05,Buy,PNL,100,12.50,-1259.90,9.90,",
    "2026-01-20,Sell,PNL,40,13.10,514.10,9.90,",
    "2026-03-26,Dividend,PNL,,,8.40,,",
    "2026-03-26,Withholding tax,PNL,,,-1.26,,",
    "2026-03-31,Custody fee,,,,-3.00,,",
    "2026-03-31,Custody fee,,,,-3.00,,",
    "2026-04-02,Deposit,,,,500.00,,D-1",
)
MINE = {"account": "Harbour", "account_currency": "TLL"}


def understood(
    database: Database, raw: bytes, answers: Mapping[str, str] = MINE, name: str = "mine.csv"
) -> Understood:
    return understand_files(database, [(name, raw)], Settled(answers=answers), today=TODAY)


def bring(
    database: Database, raw: bytes, answers: Mapping[str, str] = MINE, name: str = "mine.csv"
) -> int:
    found = understood(database, raw, answers, name)
    assert found.upload is not None, [
        q.asks for f in found.found for t in f.tables for q in t.questions
    ]
    return import_files(database, found.upload, at=AT, today=TODAY)


def stands(database: Database) -> list[Entry]:
    with database.read() as connection:
        found = ledger.entries(connection)
    return sorted((replace(e, id=0) for e in found), key=repr)


def account(database: Database) -> Account:
    with database.read() as connection:
        (found,) = ledger.accounts(connection)
    return found


def file_of(*lines: str) -> bytes:
    return (HEAD + "\n".join(lines)).encode()


def test_a_file_comes_in_once_and_makes_the_account_it_is_of(empty: Database) -> None:
    bring(empty, file_of(*LINES))
    made = account(empty)
    assert (made.name, made.currency, made.entered_from) == ("Harbour", "TLL", date(2026, 3, 26))
    kinds = sorted(e.kind for e in stands(empty))
    assert kinds == ["buy", "deposit", "dividend", "fee", "fee", "sell"]
    (paid,) = (e for e in stands(empty) if e.kind is EntryKind.DIVIDEND)
    assert (paid.amount, paid.withheld) == (840, 126)
    with pytest.raises(Conflict, match="held already"):
        bring(empty, file_of(*LINES))


def test_an_edited_line_stays_the_same_and_a_deleted_one_stays_away(empty: Database) -> None:
    bring(empty, file_of(*LINES))
    with empty.write(ledger=True) as connection:
        held = {e.kind: e for e in ledger.entries(connection)}
        ledger.change(connection, replace(held[EntryKind.BUY], fee=500), AT)
        ledger.set_deleted(connection, held[EntryKind.SELL].id, AT)
    before = stands(empty)
    bring(empty, file_of(*LINES, "2026-05-02,Deposit,,,,20.00,,"))
    added = [e for e in stands(empty) if e not in before]
    assert [(e.kind, e.amount) for e in added] == [(EntryKind.DEPOSIT, 2000)]


def test_dividends_count_as_entered_from_the_first_of_a_file_until_that_is_undone(
    empty: Database,
) -> None:
    with empty.write(ledger=True) as connection:
        ledger.add_account(connection, Account(id=0, name="Harbour", currency="TLL"), AT)
    later = bring(empty, file_of("2026-03-26,Dividend,PNL,,,8.40,,"))
    assert account(empty).entered_from == date(2026, 3, 26)
    bring(empty, file_of("2025-12-22,Dividend,PNL,,,8.00,,"))
    assert account(empty).entered_from == date(2025, 12, 22)
    undo_import(empty, later, at=AT)
    assert account(empty).entered_from == date(2025, 12, 22)
    with empty.write(ledger=True) as connection:
        own = account(empty)
        said = Account(id=own.id, name=own.name, currency="TLL", entered_from=date(2024, 1, 1))
        ledger.change_account(connection, said)
    assert account(empty).entered_from == date(2024, 1, 1)


def test_the_record_s_dividends_may_go_on_counting(empty: Database) -> None:
    with empty.write(ledger=True) as connection:
        ledger.add_account(connection, Account(id=0, name="Harbour", currency="TLL"), AT)
    bring(empty, file_of(LINES[0], LINES[2]), MINE | {"0.0.dividends": "leave"})
    assert account(empty).entered_from is None
    assert [e.kind for e in stands(empty)] == [EntryKind.BUY]


DAYS = st.lists(
    st.tuples(
        st.integers(0, 180),
        st.sampled_from(("Buy", "Sell", "Dividend", "Deposit", "Custody fee")),
        st.integers(1, 3),
    ),
    min_size=2,
    max_size=14,
)


def line_of(day: int, kind: str, size: int) -> str:
    on = date(2026, 1, 1) + timedelta(days=day)
    whose = "PNL" if kind in ("Buy", "Sell", "Dividend") else ""
    shares, price = (str(size), "10.00") if kind in ("Buy", "Sell") else ("", "")
    sign = -1 if kind in ("Buy", "Custody fee") else 1
    return f"{on},{kind},{whose},{shares},{price},{sign * size * 10:.2f},,"


@given(said=DAYS, seed=st.integers(0, 2**32))
@settings(max_examples=12, suppress_health_check=[HealthCheck.function_scoped_fixture])
def test_files_that_overlap_give_the_same_ledger_in_any_order(
    said: list[tuple[int, str, int]], seed: int, tmp_path: Path
) -> None:
    """Each file is of some days, and has every line of them, as those of institutions do."""
    chance = random.Random(seed)
    said = sorted(said)
    days = sorted({d for d, _, _ in said})
    pieces = []
    for first in (0, *sorted(chance.sample(range(len(days)), min(2, len(days))))):
        last = chance.randint(first, len(days) - 1)
        pieces.append([x for x in said if days[first] <= x[0] <= days[last]])
    pieces.append(said)
    chance.shuffle(pieces)
    whole, parts = new_database(tmp_path / f"{seed}w"), new_database(tmp_path / f"{seed}p")
    bring(whole, file_of(*(line_of(*x) for x in said)))
    for piece in pieces:
        lines = [line_of(*x) for x in piece]
        chance.shuffle(lines)
        try:
            bring(parts, file_of(*lines))
        except Conflict:
            continue  # all of it is there
    assert stands(parts) == stands(whole)
    assert account(parts) == account(whole)
    whole.close()
    parts.close()


def test_what_goes_out_as_a_statement_comes_in_as_the_same_positions(tmp_path: Path) -> None:
    path = tmp_path / "own.sqlite"
    path.write_bytes(Path(kept_demo()).read_bytes())
    demo = Database(path)
    written = export_ofx(demo, TODAY)
    assert written.left == 1  # the spin-off
    with demo.read() as connection:
        before, accounts = ledger.entries(connection, TODAY), ledger.accounts(connection)
    with demo.write(ledger=True) as connection:
        connection.execute(delete(entry))  # as if they had never been there
    names = {f"account-{a.name.casefold()}": a.name for a in accounts}
    bring(demo, written.raw, names, "mine.ofx")
    with demo.read() as connection:
        after = ledger.entries(connection)
    assert sums(after) == sums(before)
    demo.close()


def sums(entries: list[Entry]) -> dict[tuple[object, ...], int]:
    """Of every account: shares of each payer that came and went, and the cash of each kind."""
    found: dict[tuple[object, ...], int] = {}
    for e in entries:
        if e.kind in (EntryKind.CONVERSION, EntryKind.STATED):
            continue
        going = e.kind is EntryKind.SELL
        if e.shares:
            arrives = e.kind in (EntryKind.OPENING, EntryKind.TRANSFER)
            key = (e.account, e.payer, "shares", e.to, going, arrives)
            found[key] = found.get(key, 0) + e.shares
        cash = {EntryKind.BUY: e.paid, EntryKind.SELL: e.brought}.get(e.kind, e.amount or 0)
        for name, value in (("cash", cash), ("withheld", e.withheld)):
            if e.kind not in (EntryKind.OPENING, EntryKind.TRANSFER):
                kind = EntryKind.DIVIDEND if e.kind is EntryKind.REINVESTMENT else e.kind
                key = (e.account, kind, e.currency, name)
                found[key] = found.get(key, 0) + value
    return found
