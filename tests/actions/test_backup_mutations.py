"""Random mutations of a backup, two thousand in full: restored whole, or refused in words with
nothing changed. Never a traceback, never half a household."""

from __future__ import annotations

import copy
import json
import random
import sqlite3
from pathlib import Path
from typing import Any

import pytest

from hearth_yield.actions.back_up import back_up, restore
from hearth_yield.actions.edit_facts import exclude
from hearth_yield.actions.import_files import import_files
from hearth_yield.core.errors import InvalidInput
from hearth_yield.store.database import Database
from tests.conftest import example, sample
from tests.databases import new_database

NOW = "2026-06-30T10:00:00+00:00"
ODD: tuple[Any, ...] = (
    None,
    True,
    -1,
    0,
    2**63,
    2**70,
    1e308,
    3.5,
    "",
    "x",
    "2026-02-30",
    "2026-13-01",
    "12.5.1",
    "NaN",
    "\ud800",
    "a" * 5000,
    [],
    {},
    [1],
    {"a": 1},
)
KEPT_ROWS = 12
TURNS = sample(12, 500)


@pytest.fixture
def document(empty: Database) -> dict[str, Any]:
    """A small household: some of the example, with something left out."""
    import_files(empty, example("pennant-lamps"), at=NOW)
    exclude(empty, "ELV", "PNL", table="prices", key={"day": "2026-06-26"}, reason="x", at=NOW)
    found: dict[str, Any] = json.loads(back_up(empty, at=NOW))
    for table in found["tables"].values():
        table["rows"] = table["rows"][-KEPT_ROWS:]
    return found


def mutate(document: dict[str, Any], chance: random.Random) -> None:
    """One bite: a cell, a row, a table or the document itself."""
    name = chance.choice(sorted(document["tables"]))
    table = document["tables"][name]
    rows = table["rows"]
    match chance.randrange(8):
        case 0:
            document[chance.choice(sorted(document))] = copy.deepcopy(chance.choice(ODD))
        case 1:
            document["tables"][name] = copy.deepcopy(chance.choice(ODD))
        case 2:
            table["columns"] = table["columns"][1:] if chance.random() < 0.5 else "all"
        case 3 if rows:
            rows.append(copy.deepcopy(chance.choice(rows)))
        case 4 if rows:
            del rows[chance.randrange(len(rows))]
        case 5 if rows:
            rows[chance.randrange(len(rows))] = copy.deepcopy(chance.choice(ODD))
        case _ if rows:
            row = chance.choice(rows)
            if isinstance(row, list) and row:
                row[chance.randrange(len(row))] = copy.deepcopy(chance.choice(ODD))


def still_a_document(bitten: dict[str, Any]) -> bool:
    tables = bitten.get("tables")
    return (
        isinstance(tables, dict)
        and len(tables) > 0
        and all(isinstance(t, dict) and isinstance(t.get("rows"), list) for t in tables.values())
    )


def attempt(target: Database, raw: bytes, at: str) -> InvalidInput | None:
    """The refusal, or None where it was restored."""
    try:
        restore(target, raw, at=at)
    except InvalidInput as error:
        return error
    return None


def state(path: Path) -> list[str]:
    with sqlite3.connect(path) as raw:
        return list(raw.iterdump())


@pytest.mark.parametrize("part", range(4))
def test_a_mutated_backup_is_restored_whole_or_changes_nothing(
    document: dict[str, Any], tmp_path: Path, part: int
) -> None:
    chance = random.Random(f"backup {part}")
    target = new_database(tmp_path / "target" / "x.sqlite")
    before = state(target.path)
    done = refused = 0
    for turn in range(TURNS):
        bitten = copy.deepcopy(document)
        for _ in range(chance.randint(1, 3)):
            if still_a_document(bitten):
                mutate(bitten, chance)
        raw = json.dumps(bitten).encode()
        if chance.random() < 0.1:
            raw = raw[: chance.randrange(len(raw))]
        told = attempt(target, raw, f"2026-06-30T10:{turn}")
        if told is not None:
            refused += 1
            assert told.message
            assert told.field
            assert state(target.path) == before
            continue
        done += 1
        before = state(target.path)
        assert sqlite3.connect(target.path).execute("PRAGMA foreign_key_check").fetchall() == []
        again = json.loads(back_up(target, at=NOW))
        assert set(again["tables"]) == set(document["tables"])
    assert done > TURNS // 100
    assert refused > TURNS // 5
    target.close()
