"""One database file: its engine, its migrations and its transactions."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from datetime import date
from pathlib import Path
from typing import Any

from sqlalchemy import Connection, Engine, create_engine, event, func, select, update
from sqlalchemy.dialects.sqlite import insert
from sqlalchemy.exc import DatabaseError
from sqlalchemy.pool import QueuePool

from hearth_yield.core.errors import Conflict

from .tables import house_rules, product_state

MIGRATIONS = Path(__file__).parent / "migrations"
BUSY_MILLISECONDS = 15_000
PATIENT_MILLISECONDS = 600_000


class Database:
    """Readers see one state each; one writer at a time, in short transactions."""

    def __init__(self, path: Path) -> None:
        self.path = path
        try:
            path.parent.mkdir(parents=True, exist_ok=True)
        except OSError as error:
            raise Conflict(
                f"the data folder cannot be made: {error.strerror}",
                field="HEARTH_DATA",
                value=str(path.parent),
                rule="a folder that may be written",
            ) from None
        self.engine = _engine(path)

    def migrate(self, to: str = "head") -> None:
        """Bring the file to a schema; at the newest a new file gets its state."""
        from alembic import command
        from alembic.util import CommandError

        config = _migrations()
        with self.engine.execution_options(immediate=True).begin() as connection:
            config.attributes["connection"] = connection
            try:
                command.upgrade(config, to)
            except CommandError:
                raise Conflict(
                    "the data was written by a newer version of Hearth Yield",
                    field="schema",
                    value=str(self.path),
                    rule="the version that wrote it, or a newer one",
                ) from None
            if to == "head":
                first = insert(product_state).values(id=1, revision=0)
                connection.execute(first.on_conflict_do_nothing())

    @contextmanager
    def read(self) -> Iterator[Connection]:
        with self.engine.connect() as connection:
            yield connection

    @contextmanager
    def write(
        self, *, facts: bool = True, ledger: bool = False, patient: bool = False
    ) -> Iterator[Connection]:
        """One intention, all or nothing. facts: the revision grows, so what rests on facts is
        computed anew; ledger: so is what rests on what a person owns. patient: background work,
        which waits for any other writer to end."""
        writer = self.engine.execution_options(immediate=True, patient=patient)
        with writer.begin() as connection:
            yield connection
            state = product_state.c
            grown = {c: c + 1 for c, so in ((state.revision, facts), (state.ledger, ledger)) if so}
            if grown:
                connection.execute(update(product_state).values(grown))

    def close(self) -> None:
        self.engine.dispose()


def _migrations() -> Any:
    from alembic.config import Config

    config = Config()
    config.set_main_option("script_location", str(MIGRATIONS))
    return config


def knows_schema(name: str) -> bool:
    """Whether a schema is one of those that the product has had."""
    from alembic.script import ScriptDirectory

    return name in {s.revision for s in ScriptDirectory.from_config(_migrations()).walk_revisions()}


TROUBLES = (
    ("locked", 503, "another task is writing; nothing was kept, try again in a moment"),
    ("full", 507, "the disk is full; nothing was kept, make room and try again"),
    ("disk i/o", 507, "the disk could not be written or read; nothing was kept"),
    ("malformed", 500, "the database file is damaged; restore a backup into a new data folder"),
    ("not a database", 500, "the file is no database; restore a backup into a new data folder"),
    ("readonly", 500, "the data folder cannot be written; nothing was kept"),
    (
        "unable to open",
        500,
        "the database file cannot be opened; is the data folder there, and may it be written?",
    ),
)
"""What SQLite says, the HTTP status it is told with, and how a person is told."""


def trouble_of(error: DatabaseError) -> tuple[int, str]:
    """Status and words for an error of the file itself."""
    said = str(error.orig).lower()
    for part, status, words in TROUBLES:
        if part in said:
            return status, words
    return 500, f"nothing was kept: {error.orig}"


def _engine(path: Path) -> Engine:
    engine = create_engine(
        f"sqlite:///{path}", poolclass=QueuePool, connect_args={"check_same_thread": False}
    )

    @event.listens_for(engine, "connect")
    def _configure(raw: Any, _record: Any) -> None:
        raw.isolation_level = None
        raw.execute(f"PRAGMA busy_timeout={BUSY_MILLISECONDS}")
        for pragma in ("journal_mode=WAL", "synchronous=NORMAL", "foreign_keys=ON"):
            raw.execute(f"PRAGMA {pragma}")

    @event.listens_for(engine, "begin")
    def _begin(connection: Connection) -> None:
        options = connection.get_execution_options()
        if not options.get("immediate", False):
            connection.exec_driver_sql("BEGIN")
            return
        wait = PATIENT_MILLISECONDS if options.get("patient", False) else BUSY_MILLISECONDS
        connection.exec_driver_sql(f"PRAGMA busy_timeout={wait}")
        connection.exec_driver_sql("BEGIN IMMEDIATE")

    return engine


@dataclass(frozen=True, slots=True)
class Edition:
    """Which facts, which house rules and which ledger: what is computed is kept under those of
    them that it rests on."""

    facts: int
    rules: int
    ledger: int = 0

    @property
    def judged(self) -> tuple[int, int]:
        """What a payer and its judgement rest on, whoever owns it."""
        return self.facts, self.rules


_RULES = select(func.coalesce(func.max(house_rules.c.version), 0)).scalar_subquery()


def edition(connection: Connection) -> Edition:
    """Of what stands now."""
    query = select(product_state.c.revision, _RULES, product_state.c.ledger)
    facts, rules, ledger = connection.execute(query).one()
    return Edition(facts, rules, ledger)


def edition_and_pinned(connection: Connection) -> tuple[Edition, date | None]:
    """The edition, and the day a demo is held on."""
    state = product_state.c
    query = select(state.revision, _RULES, state.ledger, state.pinned_today)
    facts, rules, ledger, pinned = connection.execute(query).one()
    return Edition(facts, rules, ledger), pinned


def kept_revision(connection: Connection) -> int:
    """Of the measures that are kept."""
    return int(connection.execute(select(product_state.c.kept_revision)).scalar_one())


def revision(connection: Connection) -> int:
    """Of the facts."""
    return int(connection.execute(select(product_state.c.revision)).scalar_one())


def pin_today(connection: Connection, day: date) -> None:
    connection.execute(update(product_state).values(pinned_today=day))
