"""What happens when the machine does not play along: a kill, a lock, a full disk."""

import os
import signal
import sqlite3
import subprocess
import sys
import textwrap
import time
from pathlib import Path

import pytest
from sqlalchemy.exc import OperationalError

from hearth_yield.actions.import_files import import_files
from hearth_yield.store import database as database_module
from hearth_yield.store.database import Database
from tests.conftest import EXAMPLES, example

NOW = "2026-06-30T10:00:00+00:00"

IMPORT_AND_WAIT = """
    import sys, time
    from pathlib import Path
    from hearth_yield.actions.import_files import import_files
    from hearth_yield.store.database import Database

    def wait(step, done, total):
        if step == "prices":
            Path(sys.argv[3]).touch()
            time.sleep(60)

    files = [("p.zip", Path(sys.argv[2]).read_bytes())]
    import_files(Database(Path(sys.argv[1])), files, at="now", progress=wait)
"""


def rows(path: Path) -> dict[str, int]:
    with sqlite3.connect(path) as raw:
        return {
            t: raw.execute(f"SELECT count(*) FROM {t}").fetchone()[0]
            for t in ("payer", "price", "statement", "source", "source_change")
        }


def test_a_process_killed_in_the_middle_of_an_import_leaves_nothing(
    demo: Database, tmp_path: Path
) -> None:
    before = rows(demo.path)
    reached = tmp_path / "reached"
    words = [str(demo.path), str(EXAMPLES / "pennant-lamps.zip"), str(reached)]
    process = subprocess.Popen([sys.executable, "-c", textwrap.dedent(IMPORT_AND_WAIT), *words])
    for _ in range(1200):
        if reached.exists():
            break
        time.sleep(0.05)
    assert reached.exists()
    os.kill(process.pid, signal.SIGKILL)
    process.wait(10)
    assert rows(demo.path) == before
    import_files(demo, example("pennant-lamps"), at=NOW)
    assert rows(demo.path)["payer"] == before["payer"] + 1


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


def test_a_full_disk_refuses_and_keeps_nothing(tmp_path: Path) -> None:
    database = Database(tmp_path / "x.sqlite")
    database.migrate()
    before = rows(database.path)
    with database.engine.connect() as connection:
        pages = connection.exec_driver_sql("PRAGMA page_count").scalar_one()
        connection.rollback()
        connection.exec_driver_sql(f"PRAGMA max_page_count = {pages}")
    with pytest.raises(OperationalError, match="full"):
        import_files(database, example("pennant-lamps"), at=NOW)
    assert rows(database.path) == before
    database.close()
