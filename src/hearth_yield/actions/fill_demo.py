"""Fill an empty database with the made-up world."""

from __future__ import annotations

from collections.abc import Iterable

from msgspec.structs import replace
from sqlalchemy import Connection

from hearth_yield.core.judging.house_rules import HouseRules
from hearth_yield.demo import many
from hearth_yield.demo.household import ACCOUNTS, Seen, entries
from hearth_yield.demo.script import TODAY
from hearth_yield.demo.world import SEED, Records, stream
from hearth_yield.store import facts, ledger, sources
from hearth_yield.store.database import Database, pin_today

from .ensure_measures import ensure_measures

FILE_NAME = "the Sundrey Isles"
CHUNK = 60
ADDED_AT = f"{TODAY.isoformat()}T00:00:00+00:00"


def fill_demo(database: Database, payers: int | None = None) -> bool:
    """payers: how many to make up at random, for measuring; None: the cast of sixty.

    Returns False, changing nothing, when the database already holds a source.
    """
    parts = (
        stream()
        if payers is None
        else stream(many.many(payers, SEED), peers={}, extent=many.EXTENT)
    )
    seen = Seen() if payers is None else None
    with database.write(ledger=True) as connection:
        if sources.newest_first(connection):
            return False
        source_id = sources.add(
            connection, kind="demo", file_name=FILE_NAME, sha256=None, added_at=ADDED_AT
        )
        rows = 0
        for records in _chunks(parts):
            if seen is not None:
                seen.look(records)
            added, _ = facts.apply(connection, facts.plan(connection, records), source_id)
            rows += added
        sources.count(connection, source_id, rows, 0)
        pin_today(connection, TODAY)
        if seen is not None:
            _fill_ledger(connection, seen)
    if payers is None:
        ensure_measures(database, HouseRules(), TODAY)
    return True


def _fill_ledger(connection: Connection, seen: Seen) -> None:
    """The accounts and entries of the demo's household."""
    numbers = {a.id: ledger.add_account(connection, a, ADDED_AT) for a in ACCOUNTS}
    made = [replace(e, account=numbers[e.account]) for e in entries(seen)]
    ledger.add_many(connection, made, None, ADDED_AT)


def _chunks(parts: Iterable[Records]) -> Iterable[Records]:
    """Some payers at a time: the world is never held whole."""
    held: Records = {}
    for number, part in enumerate(parts, 1):
        for name, rows in part.items():
            held.setdefault(name, []).extend(rows)
        if number % CHUNK == 0:
            yield held
            held = {}
    yield held
