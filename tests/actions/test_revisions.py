"""What earlier versions left behind still opens: for each schema a small database and a backup, as
the last version that had it wrote them."""

from __future__ import annotations

import json
import zipfile
from datetime import date
from pathlib import Path
from typing import Any

import pytest

from hearth_yield.actions.back_up import back_up, restore
from hearth_yield.actions.decide import past_decisions
from hearth_yield.actions.review_cache import ReviewCache
from hearth_yield.core.errors import InvalidInput
from hearth_yield.store.database import Database
from tests.databases import client_of, new_database

HELD = Path(__file__).parent.parent / "data" / "revisions"
REVISIONS = sorted(p.stem for p in HELD.glob("*.zip"))
BACKED_UP = [r for r in REVISIONS if r > "0001"]
"""The first version had no backups."""
MIGRATIONS = Path(__file__).parents[2] / "src/hearth_yield/store/migrations/versions"
NEVER_ENDED = {"0006"}
"""Schemas that came and were followed by another in one change."""
NOW = "2026-12-01T08:00:00+00:00"
TODAY = date(2026, 6, 30)
MADE_READY = ("status", "payers")
"""What is told on them of measures is computed anew after a restore."""
PAGES = (
    *("status", "payers", "sources", "saved", "edits", "series", "house-rules"),
    *("payers/ELV/PNL/review", "payers/ELV/PNL/decisions", "payers/ELV/PNL/strains"),
    *("payers/ELV/PNL/worth/cases", "payers/ELV/PNL/range/lines", "payers/ELV/PNL/range"),
    *("payers/ELV/PNL/facts/dividends", "payers/ELV/PNL/facts/statements", "watch", "journal"),
)


def held(revision: str, name: str) -> bytes:
    with zipfile.ZipFile(HELD / f"{revision}.zip") as archive:
        return archive.read(name)


def what_stands(database: Database) -> dict[str, Any]:
    """What a person made or brought in, as the product of today tells it."""
    client = client_of(database)
    found: dict[str, Any] = {}
    for page in PAGES:
        got = client.get(f"/api/{page}")
        assert got.status_code == 200, (page, got.text[:300])
        found[page] = got.json()
    del found["house-rules"]["sectors"]  # of measures that are made ready
    return found


def test_every_schema_but_todays_is_among_them() -> None:
    had = {p.name[:4] for p in MIGRATIONS.glob("0*.py")}
    assert had - NEVER_ENDED - {max(had)} == set(REVISIONS)


@pytest.mark.parametrize("revision", REVISIONS)
def test_its_database_opens_on_every_page_and_its_backup_restores_what_that_holds(
    revision: str, tmp_path: Path
) -> None:
    path = tmp_path / "own.sqlite"
    path.write_bytes(held(revision, "hearth.sqlite"))
    own = Database(path)
    own.migrate()
    then = what_stands(own)
    assert then["payers/ELV/PNL/decisions"]
    back_up(own, at=NOW)
    own.close()
    if revision not in BACKED_UP:
        return
    raw = held(revision, "backup.json")
    assert json.loads(raw)["schema"] == revision
    restored = new_database(tmp_path / "restored.sqlite")
    restore(restored, raw, at=NOW)
    now = what_stands(restored)
    for page in PAGES:
        if page not in MADE_READY:
            assert now[page] == then[page], page
    words = [p.made.words for p in past_decisions(ReviewCache(restored), "ELV", "PNL", TODAY)]
    assert words == ["Later\nsecond line", "„Quoted“, =1+1 and 你好"]
    restored.close()


def test_what_a_newer_version_wrote_is_refused_with_what_to_do(empty: Database) -> None:
    document = json.loads(held(BACKED_UP[-1], "backup.json"))
    document["schema"] = "0999"
    with pytest.raises(InvalidInput, match="newer version") as refused:
        restore(empty, json.dumps(document).encode(), at=NOW)
    assert refused.value.rule == "the version that made it, or a newer one"


@pytest.mark.parametrize("revision", BACKED_UP[::5])
def test_rows_of_before_that_nothing_of_today_can_be_made_of_are_refused(
    revision: str, empty: Database
) -> None:
    document = json.loads(held(revision, "backup.json"))
    prices = document["tables"]["price"]
    prices["rows"][3][prices["columns"].index("close")] = "twelve"
    with pytest.raises(InvalidInput, match="row 4 of price"):
        restore(empty, json.dumps(document).encode(), at=NOW)
    document = json.loads(held(revision, "backup.json"))
    del document["tables"]["payer"]
    with pytest.raises(InvalidInput, match="payer is missing"):
        restore(empty, json.dumps(document).encode(), at=NOW)


def test_the_held_archives_are_small() -> None:
    assert sum(p.stat().st_size for p in HELD.glob("*.zip")) < 800_000
