"""What is asked of the database, and whether it goes over a whole large table."""

from __future__ import annotations

import re
from collections.abc import Iterator
from contextlib import contextmanager
from typing import Any

from sqlalchemy import event

from hearth_yield.store.database import Database

LARGE = ("price", "dividend", "statement", "series_point")
SCAN = re.compile(rf"SCAN (?:{'|'.join(LARGE)})\b")


@contextmanager
def statements(database: Database) -> Iterator[dict[str, Any]]:
    """Each statement that is sent, with what it was sent with."""
    found: dict[str, Any] = {}

    def note(_c: Any, _k: Any, statement: str, given: Any, _x: Any, many: bool) -> None:
        if statement.lstrip().upper().startswith(("SELECT", "WITH", "DELETE", "UPDATE")):
            found.setdefault(statement, given[0] if many else given)

    event.listen(database.engine, "before_cursor_execute", note)
    try:
        yield found
    finally:
        event.remove(database.engine, "before_cursor_execute", note)


def scans(database: Database, asked: dict[str, Any]) -> dict[str, str]:
    """Statements that go over a whole large table, and the plan's line that says so."""
    found = {}
    with database.read() as connection:
        for statement, given in asked.items():
            plan = connection.exec_driver_sql(f"EXPLAIN QUERY PLAN {statement}", given)
            lines = [str(row[3]) for row in plan]
            if any(SCAN.match(line) for line in lines):
                found[" ".join(statement.split())[:400]] = "; ".join(lines)
    return found
