"""Fill an empty database with the made-up world."""

from __future__ import annotations

from collections.abc import Iterable

from hearth_yield.core.judging.house_rules import HouseRules
from hearth_yield.demo import many
from hearth_yield.demo.script import TODAY
from hearth_yield.demo.world import SEED, Records, stream
from hearth_yield.store import facts, sources
from hearth_yield.store.database import Database, pin_today

from .ensure_measures import ensure_measures

FILE_NAME = "the Sundrey Isles"
CHUNK = 60


def fill_demo(database: Database, payers: int | None = None) -> bool:
    """payers: how many to make up at random, for measuring; None: the cast of sixty.

    Returns False, changing nothing, when the database already holds a source.
    """
    parts = (
        stream()
        if payers is None
        else stream(many.many(payers, SEED), peers={}, extent=many.EXTENT)
    )
    with database.write() as connection:
        if sources.newest_first(connection):
            return False
        source_id = sources.add(
            connection,
            kind="demo",
            file_name=FILE_NAME,
            sha256=None,
            added_at=f"{TODAY.isoformat()}T00:00:00+00:00",
        )
        rows = 0
        for records in _chunks(parts):
            added, _ = facts.apply(connection, facts.plan(connection, records), source_id)
            rows += added
        sources.count(connection, source_id, rows, 0)
        pin_today(connection, TODAY)
    if payers is None:
        ensure_measures(database, HouseRules(), TODAY)
    return True


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
