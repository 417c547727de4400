"""Fill an empty database with the made-up world."""

from __future__ import annotations

from hearth_yield.core.rules import HouseRules
from hearth_yield.demo.scripts import TODAY
from hearth_yield.demo.world import build_world
from hearth_yield.store import facts, sources
from hearth_yield.store.database import Database, pin_today

from .keep_measures import keep_measures

FILE_NAME = "the Sundrey Isles"


def fill_demo(database: Database) -> bool:
    """Returns False, changing nothing, when the database already holds a source."""
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
        added, changed = facts.apply(connection, facts.plan(connection, build_world()), source_id)
        sources.count(connection, source_id, added, changed)
        pin_today(connection, TODAY)
    keep_measures(database, HouseRules(), TODAY)
    return True
