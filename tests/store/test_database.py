from datetime import date
from decimal import Decimal
from pathlib import Path

import pytest
from alembic.autogenerate import compare_metadata
from alembic.migration import MigrationContext
from sqlalchemy import select, text
from sqlalchemy.exc import IntegrityError

from hearth_yield.store import decisions, payer_files, tables
from hearth_yield.store.database import Database, Edition, edition_and_pinned, pin_today, revision
from hearth_yield.store.decisions import Decision


def test_migrations_lead_to_the_tables_as_written(empty: Database) -> None:
    with empty.read() as connection:
        context = MigrationContext.configure(connection, opts={"compare_type": False})
        assert compare_metadata(context, tables.metadata) == []


def test_migrating_twice_changes_nothing(empty: Database) -> None:
    empty.migrate()
    with empty.read() as connection:
        assert revision(connection) == 0


def test_a_failed_write_leaves_nothing_behind(empty: Database) -> None:
    def fail() -> None:
        with empty.write() as connection:
            pin_today(connection, date(2020, 1, 1))
            raise RuntimeError

    with pytest.raises(RuntimeError):
        fail()
    with empty.read() as connection:
        assert edition_and_pinned(connection) == (Edition(0, 0), None)


def test_a_reader_sees_one_state_while_a_writer_commits(empty: Database) -> None:
    with empty.read() as reader:
        before = revision(reader)
        with empty.write() as writer:
            pin_today(writer, date(2020, 1, 1))
        assert revision(reader) == before
    with empty.read() as reader:
        assert revision(reader) == before + 1


def test_foreign_keys_hold(empty: Database) -> None:
    with pytest.raises(IntegrityError), empty.write() as connection:
        connection.execute(
            text(
                "INSERT INTO price (payer_id, day, close, source_id) VALUES (9, '2020-01-03', 1, 9)"
            )
        )


def test_money_keeps_every_digit(empty: Database) -> None:
    exact = Decimal("123456789012.345678")
    made = Decision(
        symbol="A",
        exchange="B",
        as_of=date(2026, 6, 30),
        recorded_at="now",
        verdict="wait",
        words="w",
        buy_below=exact,
        currency="TLL",
        state=None,
        first_to_give=None,
        question={},
        frozen={},
    )
    with empty.write() as connection:
        decisions.add(connection, made)
    with empty.read() as connection:
        assert decisions.of_payer(connection, "B", "A", date(2026, 6, 30))[0].buy_below == exact


def test_prices_are_clustered_and_strict(empty: Database) -> None:
    with empty.read() as connection:
        sql = connection.execute(
            text("SELECT sql FROM sqlite_master WHERE name = 'price'")
        ).scalar_one()
    assert "WITHOUT ROWID" in sql
    assert "STRICT" in sql


def test_a_payer_file_holds_what_was_stored(demo: Database) -> None:
    with demo.read() as connection:
        file = payer_files.load(connection, "ELV", "OPT")
        stored = connection.execute(
            select(tables.price.c.close)
            .join(tables.payer, tables.payer.c.id == tables.price.c.payer_id)
            .where(tables.payer.c.symbol == "OPT")
            .order_by(tables.price.c.day)
        ).scalars()
        assert file.prices.closes.tolist() == list(stored)
    assert file.splits[0].ratio == 3
    assert file.price_index is not None


def test_migrating_a_file_that_is_no_database_is_refused(tmp_path: Path) -> None:
    path = tmp_path / "torn.sqlite"
    path.write_bytes(b"this is not a database" * 100)
    with pytest.raises(Exception, match="not a database"):
        Database(path).migrate()
