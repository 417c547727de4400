"""Databases on real files, and the application on them: what is costly is made once, and copied."""

from __future__ import annotations

import fcntl
import functools
import hashlib
import shutil
import sqlite3
from collections.abc import Callable, Iterator
from contextlib import closing
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import TYPE_CHECKING

import pytest
from sqlalchemy import Connection, delete, select

from hearth_yield.store import tables
from hearth_yield.store.database import Database
from tests.conftest import SOAK

if TYPE_CHECKING:  # the application takes seconds to import; tests of the core go without
    from hearth_yield.feed.port import Feed
    from tests.client import Client

ROOT = Path(__file__).parent.parent
PACKAGE = ROOT / "src" / "hearth_yield"
NOT_OF_THE_DEMO = {"api", "market", "feed", "cli.py", "__pycache__"}
KEPT = ROOT / ".stamps"
MOST_KEPT = 3
TWENTY: tuple[str, ...] = (
    *("TRS", "GWK", "AMLH", "MRB", "CRF", "QLN", "NWO", "RVGF", "FND", "SLTM", "WKTG", "ADRP"),
    *("DNTE", "ORVN"),
    *("LRT", "ORCF"),  # property trusts
    *("WPP", "BRNH"),  # partnerships
    *("PLG", "STNB"),  # financials
)
"""Payers of every kind and story, where what is asked does not hang on how many there are."""
PAYERS = 60 if SOAK else len(TWENTY)
"""How many the fixture `twenty` holds."""


def made_of() -> str:
    """Names the filled demo by all that makes it: the code, and the packages it stands on."""
    found = hashlib.sha256((ROOT / "requirements.lock").read_bytes())
    for path in sorted(PACKAGE.rglob("*")):
        if path.is_file() and not NOT_OF_THE_DEMO & set(path.relative_to(PACKAGE).parts):
            found.update(path.read_bytes())
    return found.hexdigest()[:16]


def kept(name: str, make: Callable[[Path], None]) -> Path:
    """A file that is made when the code that makes it has changed; one process makes it for all."""
    KEPT.mkdir(exist_ok=True)
    path = KEPT / f"{name}-{made_of()}.sqlite"
    with (KEPT / f"{name}.lock").open("w") as lock:
        fcntl.flock(lock, fcntl.LOCK_EX)
        if not path.exists():
            with TemporaryDirectory(dir=KEPT) as folder:
                making = Path(folder) / "making.sqlite"
                make(making)
                making.rename(path)
            others = sorted(KEPT.glob(f"{name}-*.sqlite"), key=lambda p: p.stat().st_mtime)
            for old in others[:-MOST_KEPT]:
                old.unlink()
    return path


def _whole(database: Database) -> None:
    """All of it in the one file."""
    with database.engine.connect() as connection:
        connection.exec_driver_sql("PRAGMA wal_checkpoint(TRUNCATE)")
    database.close()


def _fill(path: Path) -> None:
    from hearth_yield.actions.fill_demo import fill_demo

    database = Database(path)
    database.migrate()
    fill_demo(database)
    _whole(database)


def _own_nothing(connection: Connection) -> None:
    """Without the demo's household."""
    for table in (tables.former_entry, tables.entry, tables.account):
        connection.execute(delete(table))


def _without_household(path: Path) -> None:
    shutil.copy(kept_demo(), path)
    database = Database(path)
    with database.write(ledger=True) as connection:
        _own_nothing(connection)
    _whole(database)


def _thin_out(path: Path) -> None:
    shutil.copy(kept_demo(), path)
    database = Database(path)
    others = select(tables.payer.c.id).where(tables.payer.c.symbol.not_in(TWENTY))
    with database.write() as connection:
        for table in reversed(tables.metadata.sorted_tables):
            if "payer_id" in table.c:
                connection.execute(delete(table).where(table.c.payer_id.in_(others)))
        connection.execute(delete(tables.payer).where(tables.payer.c.symbol.not_in(TWENTY)))
        _own_nothing(connection)
    _whole(database)
    with closing(sqlite3.connect(path, isolation_level=None)) as raw:
        raw.execute("VACUUM")


def kept_demo() -> Path:
    """The demo's database; whoever writes takes a copy."""
    return kept("demo", _fill)


def kept_twenty() -> Path:
    """Twenty payers of the demo, measures made, of whom nothing is owned; `make soak` takes all
    sixty."""
    return kept("sixty", _without_household) if SOAK else kept("twenty", _thin_out)


@functools.cache
def _schema() -> bytes:
    """An empty database of the newest schema."""
    with TemporaryDirectory() as folder:
        database = Database(Path(folder) / "empty.sqlite")
        database.migrate()
        _whole(database)
        return database.path.read_bytes()


def new_database(path: Path) -> Database:
    """An empty one, as a first start leaves it."""
    path.parent.mkdir(parents=True, exist_ok=True)
    path.write_bytes(_schema())
    return Database(path)


def copy_of(kept: Path, path: Path) -> Database:
    path.parent.mkdir(parents=True, exist_ok=True)
    shutil.copy(kept, path)
    return Database(path)


def client_of(database: Database, feed: Feed | None = None) -> Client:
    """The process's application, standing on this database from now on."""
    from tests.client import Client, app_on

    return Client(app_on(database, feed))


@pytest.fixture(scope="session")
def demo_file() -> Path:
    return kept_demo()


@pytest.fixture(scope="session")
def twenty_file() -> Path:
    return kept_twenty()


@pytest.fixture
def demo(demo_file: Path, tmp_path: Path) -> Iterator[Database]:
    database = copy_of(demo_file, tmp_path / "demo.sqlite")
    yield database
    database.close()


@pytest.fixture
def twenty(twenty_file: Path, tmp_path: Path) -> Iterator[Database]:
    database = copy_of(twenty_file, tmp_path / "twenty.sqlite")
    yield database
    database.close()


@pytest.fixture
def empty(tmp_path: Path) -> Iterator[Database]:
    database = new_database(tmp_path / "empty.sqlite")
    yield database
    database.close()


@pytest.fixture
def empty_client(empty: Database) -> Iterator[Client]:
    with client_of(empty) as client:
        yield client


@pytest.fixture
def client(twenty: Database) -> Iterator[Client]:
    """On twenty payers of every kind and story."""
    with client_of(twenty) as client:
        yield client


@pytest.fixture
def whole_client(demo: Database) -> Iterator[Client]:
    """On all of the demo, for what hangs on how many there are."""
    with client_of(demo) as client:
        yield client
