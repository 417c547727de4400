"""What happens when the machine does not play along: a kill, a lock, a full disk."""

import sqlite3
import subprocess
import sys
import textwrap
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import date
from pathlib import Path
from unittest.mock import ANY

import pytest
from fastapi.testclient import TestClient
from sqlalchemy.exc import DatabaseError, OperationalError
from typer.testing import CliRunner

from hearth_yield.actions.back_up import back_up, clear_unfinished, restore
from hearth_yield.actions.edit_facts import exclude
from hearth_yield.actions.ensure_measures import ensure_measures, universe
from hearth_yield.actions.import_files import import_files, undo_import
from hearth_yield.actions.review_cache import ReviewCache
from hearth_yield.api.app import create_app
from hearth_yield.cli import app
from hearth_yield.core.errors import Conflict
from hearth_yield.core.judging.house_rules import HouseRules
from hearth_yield.store import database as database_module
from hearth_yield.store.database import Database, trouble_of
from tests.conftest import EXAMPLES, example
from tests.databases import client_of, new_database
from tests.patience import SECONDS, ended, until

NOW = "2026-06-30T10:00:00+00:00"

IMPORT_AND_WAIT = """
    import sys, time
    from pathlib import Path
    from hearth_yield.actions.import_files import import_files, undo_import
    from hearth_yield.store.database import Database

    def wait(step, done, total):
        if step == "prices":
            Path(sys.argv[3]).touch()
            time.sleep(3600)

    files = [("p.zip", Path(sys.argv[2]).read_bytes())]
    import_files(Database(Path(sys.argv[1])), files, at="now", progress=wait)
"""


def rows(path: Path) -> dict[str, int]:
    with sqlite3.connect(path) as raw:
        return {
            t: raw.execute(f"SELECT count(*) FROM {t}").fetchone()[0]
            for t in ("payer", "price", "statement", "source", "source_change")
        }


KEEP_AND_WAIT = """
    import sys, time
    from datetime import date
    from pathlib import Path
    from hearth_yield.actions import ensure_measures as making
    from hearth_yield.core.judging.house_rules import HouseRules
    from hearth_yield.store.database import Database

    def wait(step, done, total):
        if done >= 6:
            Path(sys.argv[3]).touch()
            time.sleep(3600)

    making.BATCH = 6
    day = date(2019, 6, 28)
    making.ensure_measures(Database(Path(sys.argv[1])), HouseRules(), day, wait)
"""

RESTORE_AND_WAIT = """
    import sys, time
    from pathlib import Path
    from hearth_yield.actions.back_up import restore
    from hearth_yield.store.database import Database

    def wait(step, done, total):
        if step == "price":
            Path(sys.argv[3]).touch()
            time.sleep(3600)

    raw = Path(sys.argv[2]).read_bytes()
    restore(Database(Path(sys.argv[1])), raw, at="2026-06-30T10:00:00+00:00", progress=wait)
"""


def killed_halfway(script: str, database: Path, file: Path, reached: Path) -> None:
    """Runs a script of its own process until it says it is halfway, and kills it there."""
    words = [str(database), str(file), str(reached)]
    process = subprocess.Popen([sys.executable, "-c", textwrap.dedent(script), *words])
    try:
        until(reached.exists)
    finally:
        process.kill()
        process.wait(SECONDS)


def test_a_process_killed_in_the_middle_of_an_import_leaves_nothing(
    twenty: Database, tmp_path: Path
) -> None:
    before = rows(twenty.path)
    killed_halfway(
        IMPORT_AND_WAIT, twenty.path, EXAMPLES / "pennant-lamps.zip", tmp_path / "reached"
    )
    assert rows(twenty.path) == before
    import_files(twenty, example("pennant-lamps"), at=NOW)
    assert rows(twenty.path)["payer"] == before["payer"] + 1


def test_a_process_killed_while_keeping_measures_goes_on_where_it_was(
    twenty: Database, tmp_path: Path
) -> None:
    day = date(2019, 6, 28)
    killed_halfway(KEEP_AND_WAIT, twenty.path, twenty.path, tmp_path / "reached")
    here = universe(ReviewCache(twenty), day)
    made = [e for e in here.candidates if e.measured is not None]
    assert len(made) == 6
    assert not any(e.stale for e in made)
    assert ensure_measures(twenty, HouseRules(), day) == len(here) - 6
    assert not universe(ReviewCache(twenty), day).pending.any()


def test_a_process_killed_in_the_middle_of_a_restore_leaves_all_as_it_was(
    empty: Database, tmp_path: Path
) -> None:
    import_files(empty, example("pennant-lamps"), at=NOW)
    backup = tmp_path / "other.json"
    backup.write_bytes(back_up(empty, at=NOW))
    price = b"exchange,symbol,day,close\nELV,PNL,2026-06-30,70.00\n"
    import_files(empty, [("prices.csv", price)], at=NOW)
    before = rows(empty.path)
    killed_halfway(RESTORE_AND_WAIT, empty.path, backup, tmp_path / "reached")
    assert rows(empty.path) == before
    restore(empty, backup.read_bytes(), at=NOW)
    assert rows(empty.path)["price"] == before["price"] - 1
    folder = empty.path.parent
    assert list(folder.glob(".restore-*"))
    clear_unfinished(folder)
    assert not list(folder.glob(".restore-*"))
    assert empty.path.exists()


def test_a_corrupt_file_is_refused_in_words_and_left_as_it_is(tmp_path: Path) -> None:
    database = Database(tmp_path / "x.sqlite")
    database.migrate()
    database.close()
    raw = bytearray(database.path.read_bytes())
    for at in range(4096, len(raw)):
        raw[at] ^= 0x5A
    database.path.write_bytes(raw)
    torn = Database(database.path)
    with pytest.raises(DatabaseError):
        import_files(torn, example("pennant-lamps"), at=NOW)
    torn.close()
    assert database.path.read_bytes()[: len(raw)] == bytes(raw)


def test_a_locked_database_refuses_in_time_and_keeps_nothing(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(database_module, "BUSY_MILLISECONDS", 50)
    database = Database(tmp_path / "x.sqlite")
    database.migrate()
    holder = sqlite3.connect(database.path, isolation_level=None)
    holder.execute("BEGIN IMMEDIATE")
    with pytest.raises(OperationalError, match="locked"):
        import_files(database, example("pennant-lamps"), at=NOW)
    holder.execute("ROLLBACK")
    holder.close()
    import_files(database, example("pennant-lamps"), at=NOW)
    database.close()


@contextmanager
def no_room(database: Database) -> Iterator[None]:
    """The file may not grow by a page, as on a full disk."""
    with sqlite3.connect(database.path, isolation_level=None) as raw:
        raw.execute("VACUUM")
    with database.engine.connect() as connection:
        pages = connection.exec_driver_sql("PRAGMA page_count").scalar_one()
        connection.rollback()
        connection.exec_driver_sql(f"PRAGMA max_page_count = {pages}")
    with pytest.raises(OperationalError, match="full") as told:
        yield
    assert trouble_of(told.value) == (507, ANY)
    with database.engine.connect() as connection:
        connection.exec_driver_sql("PRAGMA max_page_count = 1073741823")


def test_a_full_disk_refuses_an_import_and_keeps_nothing(empty: Database) -> None:
    before = rows(empty.path)
    with no_room(empty):
        import_files(empty, example("pennant-lamps"), at=NOW)
    assert rows(empty.path) == before
    import_files(empty, example("pennant-lamps"), at=NOW)


def test_a_full_disk_refuses_a_restore_and_leaves_all_as_it_was(
    empty: Database, tmp_path: Path
) -> None:
    lamps = new_database(tmp_path / "lamps.sqlite")
    import_files(lamps, example("pennant-lamps"), at=NOW)
    saved, before = back_up(lamps, at=NOW), rows(empty.path)
    with no_room(empty):
        restore(empty, saved, at=NOW)
    assert rows(empty.path) == before
    restore(empty, saved, at=NOW)
    assert rows(empty.path) == rows(lamps.path)
    lamps.close()


def test_a_folder_that_cannot_be_written_refuses_a_restore_and_says_what_to_do(
    empty: Database, monkeypatch: pytest.MonkeyPatch
) -> None:
    import_files(empty, example("pennant-lamps"), at=NOW)
    saved, before = back_up(empty, at=NOW), rows(empty.path)

    def denied(*_: object, **__: object) -> None:
        raise PermissionError(13, "Permission denied")

    for name in ("TemporaryDirectory", "write_whole"):
        with monkeypatch.context() as patch:
            patch.setattr(f"hearth_yield.actions.back_up.{name}", denied)
            with pytest.raises(Conflict, match="nothing was changed: Permission denied") as told:
                restore(empty, saved, at=NOW)
        assert told.value.rule
        assert "may be written" in told.value.rule
        assert rows(empty.path) == before


def test_a_full_disk_stops_keeping_measures_between_batches(twenty: Database) -> None:
    day = date(2019, 6, 28)
    with no_room(twenty):
        ensure_measures(twenty, HouseRules(), day)
    here = universe(ReviewCache(twenty), day)
    made = [e for e in here.candidates if e.measured is not None]
    assert not any(e.stale for e in made)
    assert ensure_measures(twenty, HouseRules(), day) == len(here) - len(made)


def test_a_locked_database_refuses_an_adjustment_and_an_undo(
    twenty: Database, monkeypatch: pytest.MonkeyPatch
) -> None:
    source = import_files(twenty, example("pennant-lamps"), at=NOW)
    monkeypatch.setattr(database_module, "BUSY_MILLISECONDS", 50)
    before = rows(twenty.path)
    holder = sqlite3.connect(twenty.path, isolation_level=None)
    holder.execute("BEGIN IMMEDIATE")
    with pytest.raises(OperationalError, match="locked"):
        undo_import(twenty, source, at=NOW)
    with pytest.raises(OperationalError, match="locked"):
        exclude(twenty, "ELV", "TRS", table="prices", key={"day": "2026-06-30"}, reason="x", at=NOW)
    holder.execute("ROLLBACK")
    holder.close()
    assert rows(twenty.path) == before
    undo_import(twenty, source, at=NOW)


def torn_copy(database: Database, folder: Path) -> Path:
    """The same file with every page but the first overwritten."""
    with database.engine.connect() as connection:
        connection.exec_driver_sql("PRAGMA wal_checkpoint(TRUNCATE)")
    raw = bytearray(database.path.read_bytes())
    raw[4096:] = b"\x5a" * (len(raw) - 4096)
    folder.mkdir()
    torn = folder / "hearth-yield.sqlite"
    torn.write_bytes(raw)
    return torn


def test_a_damaged_file_is_told_by_the_page_in_words(twenty: Database, tmp_path: Path) -> None:
    torn = Database(torn_copy(twenty, tmp_path / "torn"))
    client = TestClient(
        create_app(torn), base_url="http://127.0.0.1", raise_server_exceptions=False
    )
    got = client.get("/api/status")
    assert got.status_code == 500
    assert got.headers["content-type"] == "application/problem+json"
    assert "damaged" in got.json()["detail"]
    torn.close()


@pytest.mark.parametrize("made", ["torn", "no database"])
def test_a_damaged_file_is_told_by_the_command_line_in_words(
    twenty: Database, tmp_path: Path, monkeypatch: pytest.MonkeyPatch, made: str
) -> None:
    path = torn_copy(twenty, tmp_path / "data")
    if made == "no database":
        path.write_bytes(b"a letter to an aunt, of some length " * 200)
    monkeypatch.setenv("HEARTH_DATA", str(path.parent))
    done = CliRunner().invoke(app, ["import", str(EXAMPLES / "pennant-lamps.zip")])
    assert done.exit_code == 1
    assert done.stderr.strip().endswith("restore a backup into a new data folder")
    assert len(done.stderr.splitlines()) == 1


def test_a_task_that_meets_a_full_disk_says_so(
    empty: Database, monkeypatch: pytest.MonkeyPatch
) -> None:
    client = client_of(empty)
    (name, raw), *_ = example("pennant-lamps")
    preview = client.post("/api/imports/preview", files=[("files", (name, raw))]).json()
    with sqlite3.connect(empty.path, isolation_level=None) as raw:
        raw.execute("VACUUM")
    with empty.engine.connect() as connection:
        pages = connection.exec_driver_sql("PRAGMA page_count").scalar_one()
        connection.rollback()
        connection.exec_driver_sql(f"PRAGMA max_page_count = {pages}")
    job = client.post("/api/imports", json={"token": preview["token"]}).json()
    job = ended(client, job["id"])
    assert job["state"] == "failed"
    assert job["problem"]["status"] == 507
    assert "make room" in job["problem"]["detail"]
