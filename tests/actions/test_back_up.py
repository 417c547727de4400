"""A backup holds everything, is checked whole before it replaces anything, and can be undone."""

import json
import sqlite3
import tempfile
from collections.abc import Callable, Iterator
from datetime import date
from decimal import Decimal
from pathlib import Path
from typing import Any

import pytest
from msgspec import structs

from hearth_yield.actions.back_up import back_up, restore
from hearth_yield.actions.decide import decide, past_decisions
from hearth_yield.actions.import_files import import_files, undo_import
from hearth_yield.actions.review_cache import ReviewCache
from hearth_yield.core.errors import Cancelled, Conflict, InvalidInput
from hearth_yield.core.question import Question
from hearth_yield.store import ledger
from hearth_yield.store.database import Database
from tests.conftest import example
from tests.core.household.build import MAIN, entry
from tests.databases import new_database

NOW = "2026-06-30T10:00:00+00:00"
TODAY = date(2026, 6, 30)


def everything(database: Database) -> list[str]:
    """All rows but the revision, which grows with a restore, and what is computed again."""
    with sqlite3.connect(database.path) as raw:
        rows = list(raw.iterdump())
    skipped = ('"product_state"', '"kept_measures"', '"payer_change"')
    return sorted(r for r in rows if r.startswith("INSERT") and not r[12:].startswith(skipped))


def lived_in(database: Database, symbol: str = "PNL") -> None:
    """An import, a change of a fact, an undone import, a decision, and a ledger of two entries, one
    changed and one deleted."""
    import_files(database, example("pennant-lamps"), at=NOW)
    price = f"exchange,symbol,day,close\nELV,{symbol},2026-06-30,70.00\n".encode()
    import_files(database, [("prices.csv", price)], at=NOW)
    gone = import_files(
        database, [("s.csv", b"slump,begins,ends\nThe tide,2015-01-05,2015-06-30\n")], at=NOW
    )
    undo_import(database, gone, at=NOW)
    decide(
        ReviewCache(database),
        "ELV",
        symbol,
        today=TODAY,
        as_of=TODAY,
        recorded_at=NOW,
        verdict="hold",
        words="„Quoted“, =1+1 and 你好",
        buy_below=Decimal("54.123456"),
        question=Question(),
    )
    with database.write(facts=False, ledger=True) as connection:
        account = ledger.add_account(connection, MAIN, NOW)
        held = ("ELV", symbol)
        bought = entry("buy", "2024-01-02", "10.5", price="20.10", payer=held, account=account)
        first, other = (ledger.add(connection, bought, NOW) for _ in range(2))
        ledger.change(connection, structs.replace(bought, id=first, note="mended"), NOW)
        ledger.set_deleted(connection, other, NOW)


def test_a_backup_restored_elsewhere_is_the_same_to_the_last_row(
    twenty: Database, empty: Database
) -> None:
    lived_in(twenty, "TRS")
    restore(empty, back_up(twenty, at=NOW), at=NOW)
    assert everything(empty) == everything(twenty)
    (past,) = past_decisions(ReviewCache(empty), "ELV", "TRS", TODAY)
    assert past.made.buy_below == Decimal("54.123456")
    undo_import(empty, 3, at=NOW)
    undo_import(empty, 2, at=NOW)


@pytest.fixture
def lived(tmp_path: Path) -> Iterator[Database]:
    """A household of one payer: enough where it is about the backup and not about what is in it."""
    database = new_database(tmp_path / "lived.sqlite")
    lived_in(database)
    yield database
    database.close()


def test_a_backup_of_before_limits_could_be_minimums_is_read(
    lived: Database, empty: Database
) -> None:
    document = json.loads(back_up(lived, at=NOW))
    decisions = document["tables"]["decision"]
    state = decisions["columns"].index("state")
    decisions["rows"][0][state] = "over"
    document["schema"] = "0020"
    document["tables"]["household"] = document["tables"].pop("product_state")
    for name in ("account", "entry", "former_entry", "entered_since", "explained_payment"):
        del document["tables"][name]
    for table, gone in (("payer", "isin"), ("household", "ledger"), ("household", "home")):
        held = document["tables"][table]
        place = held["columns"].index(gone)
        for row in (held["columns"], *held["rows"]):
            del row[place]
    restore(empty, json.dumps(document).encode(), at=NOW)
    (past,) = past_decisions(ReviewCache(empty), "ELV", "PNL", TODAY)
    assert past.made.state == "outside"
    decisions["rows"][0] = decisions["rows"][0][:-1]
    with pytest.raises(InvalidInput):
        restore(empty, json.dumps(document).encode(), at=NOW)


def test_backups_of_the_same_state_are_the_same_bytes(lived: Database) -> None:
    assert back_up(lived, at=NOW) == back_up(lived, at=NOW)


def test_what_was_there_is_kept_and_brings_it_back(lived: Database, empty: Database) -> None:
    before = everything(lived)
    kept = restore(lived, back_up(empty, at=NOW), at=NOW).kept
    assert everything(lived) != before
    restore(lived, kept.read_bytes(), at="2026-06-30T11:00:00+00:00")
    assert everything(lived) == before


def test_the_desk_sees_a_restored_state_at_once(lived: Database) -> None:
    cache = ReviewCache(lived)
    saved = back_up(lived, at=NOW)
    price = b"exchange,symbol,day,close\nELV,PNL,2026-06-30,75.00\n"
    import_files(lived, [("prices.csv", price)], at=NOW)
    assert cache.review("ELV", "PNL", TODAY, Question()).price.value == 75.0
    restore(lived, saved, at=NOW)
    assert cache.review("ELV", "PNL", TODAY, Question()).price.value == 70.0


@pytest.fixture
def small(empty: Database) -> Database:
    """One payer, with a split."""
    import_files(empty, example("pennant-lamps"), at=NOW)
    split = b"exchange,symbol,effective_on,new_shares,old_shares\nELV,PNL,2020-05-04,2,1\n"
    import_files(empty, [("splits.csv", split)], at=NOW)
    return empty


def drop_table(d: dict[str, Any]) -> None:
    del d["tables"]["price"]


def add_table(d: dict[str, Any]) -> None:
    d["tables"]["extra"] = {"columns": [], "rows": []}


def rename_column(d: dict[str, Any]) -> None:
    d["tables"]["payer"]["columns"][1] = "ticker"


def shorten_row(d: dict[str, Any]) -> None:
    d["tables"]["price"]["rows"][3].pop()


def break_date(d: dict[str, Any]) -> None:
    d["tables"]["split"]["rows"][0][2] = "soon"


def orphan(d: dict[str, Any]) -> None:
    d["tables"]["price"]["rows"][0][0] = 999


def double(d: dict[str, Any]) -> None:
    d["tables"]["payer"]["rows"].append(d["tables"]["payer"]["rows"][0])


def bad_kind(d: dict[str, Any]) -> None:
    at = d["tables"]["payer"]["columns"].index("kind")
    d["tables"]["payer"]["rows"][0][at] = "club"


def no_household(d: dict[str, Any]) -> None:
    d["tables"]["product_state"]["rows"] = []


def other_schema(d: dict[str, Any]) -> None:
    d["schema"] = "9999"


def other_format(d: dict[str, Any]) -> None:
    d["format"] = "something else"


def no_tables(d: dict[str, Any]) -> None:
    d["tables"] = []


SPOILERS = (
    drop_table,
    add_table,
    rename_column,
    shorten_row,
    break_date,
    orphan,
    double,
    bad_kind,
    no_household,
    other_schema,
    other_format,
    no_tables,
)


@pytest.mark.parametrize("spoil", SPOILERS, ids=lambda f: f.__name__)
def test_a_spoiled_backup_is_refused_whole(
    small: Database, spoil: Callable[[dict[str, Any]], None]
) -> None:
    document = json.loads(back_up(small, at=NOW))
    spoil(document)
    before = everything(small)
    with pytest.raises(InvalidInput) as caught:
        restore(small, json.dumps(document).encode(), at=NOW)
    assert caught.value.field
    assert caught.value.rule
    assert everything(small) == before


@pytest.mark.parametrize("raw", [b"", b"{", b"[]", b'"x"', b"\xff\xfe", b"[" * 100_000])
def test_what_is_no_backup_is_refused(small: Database, raw: bytes) -> None:
    with pytest.raises(InvalidInput):
        restore(small, raw, at=NOW)


def test_a_torn_backup_is_refused(small: Database) -> None:
    whole = back_up(small, at=NOW)
    before = everything(small)
    for cut in (10, len(whole) // 2, len(whole) - 1):
        with pytest.raises(InvalidInput):
            restore(small, whole[:cut], at=NOW)
    assert everything(small) == before


def test_cancelling_a_restore_leaves_everything(lived: Database, empty: Database) -> None:
    saved = back_up(empty, at=NOW)
    before = everything(lived)

    def stop(step: str, done: int, total: int) -> None:
        if step == "product_state":
            raise Cancelled("enough")

    with pytest.raises(Cancelled):
        restore(lived, saved, at=NOW, progress=stop)
    assert everything(lived) == before


def test_an_interrupted_restore_leaves_the_kept_state_on_disk(small: Database) -> None:
    saved = back_up(small, at=NOW)

    def fail(step: str, done: int, total: int) -> None:
        if step == "price":
            raise RuntimeError

    with pytest.raises(RuntimeError):
        restore(small, saved, at=NOW, progress=fail)
    (kept,) = small.path.parent.glob("before-restore-*.json")
    assert json.loads(kept.read_bytes())["tables"]["payer"]["rows"]


def test_a_backup_that_cannot_be_read_back_says_where_room_is_needed(
    lived: Database, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(tempfile, "tempdir", str(tmp_path / "gone"))
    with pytest.raises(Conflict, match="could not be read back") as refused:
        back_up(lived, at=NOW)
    assert refused.value.field == "TMPDIR"
    assert "room" in str(refused.value.rule)
