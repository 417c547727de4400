"""One database file: its engine, its migrations and its transactions."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from datetime import date
from pathlib import Path
from typing import Any

from sqlalchemy import Connection, Engine, create_engine, event, select, update
from sqlalchemy.dialects.sqlite import insert
from sqlalchemy.pool import QueuePool

from .tables import household

MIGRATIONS = Path(__file__).parent / "migrations"
BUSY_MILLISECONDS = 5000


class Database:
    """Readers see one state each; one writer at a time, in short transactions."""

    def __init__(self, path: Path) -> None:
        self.path = path
        path.parent.mkdir(parents=True, exist_ok=True)
        self.engine = _engine(path)

    def migrate(self) -> None:
        """Bring the file to the newest schema; a new file gets its household row."""
        from alembic import command
        from alembic.config import Config

        config = Config()
        config.set_main_option("script_location", str(MIGRATIONS))
        with self.engine.execution_options(immediate=True).begin() as connection:
            config.attributes["connection"] = connection
            command.upgrade(config, "head")
            connection.execute(insert(household).values(id=1, revision=0).on_conflict_do_nothing())

    @contextmanager
    def read(self) -> Iterator[Connection]:
        with self.engine.connect() as connection:
            yield connection

    @contextmanager
    def write(self, *, facts: bool = True) -> Iterator[Connection]:
        """One intention, all or nothing. facts: the revision grows, so what rests on facts is
        computed anew."""
        writer = self.engine.execution_options(immediate=True)
        with writer.begin() as connection:
            yield connection
            if facts:
                connection.execute(update(household).values(revision=household.c.revision + 1))

    def close(self) -> None:
        self.engine.dispose()


def _engine(path: Path) -> Engine:
    engine = create_engine(
        f"sqlite:///{path}", poolclass=QueuePool, connect_args={"check_same_thread": False}
    )

    @event.listens_for(engine, "connect")
    def _configure(raw: Any, _record: Any) -> None:
        raw.isolation_level = None
        for pragma in (
            "journal_mode=WAL",
            "synchronous=NORMAL",
            "foreign_keys=ON",
            f"busy_timeout={BUSY_MILLISECONDS}",
        ):
            raw.execute(f"PRAGMA {pragma}")

    @event.listens_for(engine, "begin")
    def _begin(connection: Connection) -> None:
        immediate = connection.get_execution_options().get("immediate", False)
        connection.exec_driver_sql("BEGIN IMMEDIATE" if immediate else "BEGIN")

    return engine


def revision(connection: Connection) -> int:
    return int(connection.execute(select(household.c.revision)).scalar_one())


def revision_and_pinned(connection: Connection) -> tuple[int, date | None]:
    """The revision of the facts, and the day a demo is held on."""
    row = connection.execute(select(household.c.revision, household.c.pinned_today)).one()
    return row.revision, row.pinned_today


def pin_today(connection: Connection, day: date) -> None:
    connection.execute(update(household).values(pinned_today=day))
