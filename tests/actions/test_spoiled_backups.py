"""Backups with one cell spoiled as its type allows: refused, or every page still opens."""

from __future__ import annotations

import json
import random
from datetime import date
from decimal import Decimal
from pathlib import Path
from typing import Any

import pytest
from msgspec.structs import replace

from hearth_yield.actions.back_up import back_up, restore
from hearth_yield.actions.decide import decide
from hearth_yield.actions.edit_facts import edit_value, exclude_year
from hearth_yield.actions.import_files import import_files
from hearth_yield.actions.keep_strain import keep_strain
from hearth_yield.actions.review_cache import ReviewCache
from hearth_yield.core.household.entries import Account, Entry, EntryKind
from hearth_yield.core.question import Question
from hearth_yield.core.strain.inputs import Strain
from hearth_yield.store import ledger, saved_views
from hearth_yield.store.database import Database
from tests.conftest import example, sample
from tests.databases import client_of, new_database

from .test_backup_mutations import attempt

NOW = "2026-06-30T10:00:00+00:00"
SPOILED = sample(16, 2000)
PAGES = (
    "/api/status",
    "/api/payers",
    "/api/catalogue",
    "/api/names",
    "/api/coverage",
    "/api/sources",
    "/api/saved",
    "/api/edits",
    "/api/series",
    "/api/slumps",
    "/api/payers/groups",
    "/api/payers/ELV/PNL/review",
    "/api/payers/ELV/PNL/decisions",
    "/api/payers/ELV/PNL/facts/statements",
    "/api/payers/ELV/PNL/facts/dividends",
    "/api/export",
    "/api/holdings?by=account",
    "/api/entries",
    "/api/entries/2/former",
    "/api/payers/ELV/PNL/held",
    "/api/backup",
)
ODD_TEXTS = ("", " ", "x", "..", "\x07", "0001-01-01", "9999-12-31", "a" * 30_000, "TLLL", "=1+1")
ODD_NUMBERS = (0, -1, 1, 1e300, -1e300, 1e-300, 2**62, 12345.678)
ODD_JSON: tuple[Any, ...] = ({}, [], {"x": {}}, {"x": None}, [[]], {"join": "all"}, {"q": 1})


@pytest.fixture
def document(empty: Database) -> Any:
    """A small household with something of everything."""
    import_files(empty, example("pennant-lamps"), at=NOW)
    edit_value(
        empty,
        "ELV",
        "PNL",
        table="prices",
        key={"day": "2026-06-26"},
        field="close",
        value=30.0,
        reason="x",
        at=NOW,
    )
    exclude_year(
        empty, "ELV", "PNL", period_end=date(2024, 12, 31), basis="earnings", reason="x", at=NOW
    )
    keep_strain(
        ReviewCache(empty),
        "ELV",
        "PNL",
        date(2026, 6, 30),
        name="a bad year",
        question=Question(strain=Strain(inputs={"fall": 0.3})),
        at=NOW,
    )
    decide(
        ReviewCache(empty),
        "ELV",
        "PNL",
        today=date(2026, 6, 30),
        as_of=date(2026, 6, 30),
        recorded_at=NOW,
        verdict="hold",
        words="x",
        buy_below=Decimal("30"),
        question=Question(),
    )
    with empty.write(facts=False) as connection:
        where = {"join": "all", "parts": [{"id": "yield", "op": "known", "words": []}]}
        saved_views.put(connection, "columns", "mine", {"columns": ["yield"]})
        saved_views.put(
            connection,
            "search",
            "mine",
            {"q": "", "where": where, "sort": "yield", "descending": True},
        )
    with empty.write(facts=False, ledger=True) as connection:
        ledger.set_home(connection, "TLL")
        ledger.add_account(connection, Account(id=0, name="Main", currency="TLL"), NOW)
        ledger.add_many(connection, ENTRIES, None, NOW)
        ledger.change(connection, replace(ENTRIES[1], id=2, fee=500), NOW)
    return json.loads(back_up(empty, at=NOW))


PAYER = ("ELV", "PNL")
ENTRIES = (
    Entry(
        id=0,
        account=1,
        kind=EntryKind.BUY,
        day=date(2024, 1, 2),
        payer=PAYER,
        shares=50 * 10**8,
        price=Decimal("20.10"),
        currency="TLL",
    ),
    Entry(
        id=0,
        account=1,
        kind=EntryKind.SELL,
        day=date(2025, 1, 2),
        payer=PAYER,
        shares=5 * 10**8,
        price=Decimal(22),
        currency="TLL",
        chosen=((date(2024, 1, 2), 5 * 10**8),),
        reference="A1",
    ),
    Entry(
        id=0,
        account=1,
        kind=EntryKind.CONVERSION,
        day=date(2025, 6, 2),
        payer=PAYER,
        into=("ELV", "NEW"),
        new=Decimal(1),
        old=Decimal(5),
        moves=Decimal("0.2"),
        currency="TLL",
    ),
)


def spoil(document: Any, chance: random.Random) -> tuple[str, str]:
    """One cell says something else of its own type."""
    tables = {n: t for n, t in document["tables"].items() if t["rows"]}
    name = chance.choice(sorted(tables))
    row = chance.choice(tables[name]["rows"])
    place = chance.randrange(len(row))
    odd: tuple[Any, ...] = ODD_TEXTS
    if isinstance(row[place], bool):
        odd = (not row[place],)
    elif isinstance(row[place], int | float):
        odd = ODD_NUMBERS
    elif isinstance(row[place], dict | list):
        odd = ODD_JSON
    row[place] = chance.choice(odd)
    return name, tables[name]["columns"][place]


@pytest.mark.parametrize("part", range(4))
def test_a_spoiled_backup_is_refused_or_breaks_no_page(
    document: Any, tmp_path: Path, part: int
) -> None:
    chance = random.Random(f"spoiled {part}")
    target = new_database(tmp_path / "target" / "x.sqlite")
    plain = json.dumps(document).encode()
    refused = 0
    with client_of(target) as client:
        for turn in range(SPOILED // 4):
            bitten = json.loads(plain)
            where = spoil(bitten, chance)
            told = attempt(target, json.dumps(bitten).encode(), f"2026-06-30T10:{turn}")
            if told is not None:
                refused += 1
                assert told.field, where
                continue
            for page in PAGES:
                assert client.get(page).status_code < 500, (page, where)
        restore(target, plain, at="2026-06-30T11")  # nothing that was restored stands in the way
    assert refused > SPOILED // 20
    target.close()


@pytest.mark.parametrize(
    ("column", "said"),
    [
        ("row_key", {}),
        ("row_key", {"day": "26 June"}),
        ("row_key", {"day": "2026-06-26", "symbol": "PNL"}),
        ("table_name", "splits"),
        ("table_name", "payers"),
        ("field", "amount"),
        ("field", "excluded:earnings"),
        ("field", "volume"),
    ],
)
def test_an_edit_of_what_cannot_be_edited_is_refused(
    document: Any, tmp_path: Path, column: str, said: Any
) -> None:
    edits = document["tables"]["edit"]
    edits["rows"][0][edits["columns"].index(column)] = said
    target = new_database(tmp_path / "target" / "x.sqlite")
    told = attempt(target, json.dumps(document).encode(), "2026-06-30T10")
    assert told is not None
    assert (told.field or "").startswith("edit.")
    target.close()


@pytest.mark.parametrize(
    "expectations",
    [
        ["x"],
        {"x": {}},
        [{}],
        [{"measure": "no such measure"}],
        [
            {
                "measure": "payout",
                "way": "level",
                "side": "at_most",
                "value": "much",
                "until": "2029-12-31",
                "then": None,
            }
        ],
        [
            {
                "measure": "payout",
                "way": "level",
                "side": "at_most",
                "value": 0.6,
                "until": "one day",
                "then": None,
            }
        ],
    ],
)
def test_expectations_of_another_shape_are_refused_by_name(
    document: Any, tmp_path: Path, expectations: object
) -> None:
    table = document["tables"]["decision"]
    table["rows"][0][table["columns"].index("expectations")] = expectations
    target = new_database(tmp_path / "target" / "x.sqlite")
    told = attempt(target, json.dumps(document).encode(), NOW)
    assert told is not None
    assert "expectations" in str(told.field)
