"""What a page asks is sought: nothing goes over all prices, dividends, statements or points."""

from __future__ import annotations

import re
from collections.abc import Iterator
from contextlib import contextmanager
from typing import Any

from sqlalchemy import event

from hearth_yield.store.database import Database
from tests.databases import client_of

from .test_every_answer import addresses, decided

LARGE = ("price", "dividend", "statement", "series_point")
SCAN = re.compile(rf"SCAN (?:{'|'.join(LARGE)})\b")
ALL_OF_IT = {"/api/export", "/api/backup"}
"""What gives out everything reads everything."""


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


def test_no_page_scans_a_large_table(twenty: Database) -> None:
    client = decided(client_of(twenty))
    with statements(twenty) as asked:
        for address, query in addresses(client.get("/api/schema").json()):
            if address not in ALL_OF_IT:
                client.get(address, params=query)
    assert len(asked) > 60
    assert scans(twenty, asked) == {}


def test_an_undo_seeks_what_it_takes_back(twenty: Database) -> None:
    client = client_of(twenty)
    day = b"exchange,symbol,day,close\nELV,TRS,2026-06-30,70.00\n"
    token = client.post("/api/imports/preview", files=[("files", ("p.csv", day))]).json()["token"]
    job = client.post("/api/imports", json={"token": token, "accepted": [0]}).json()
    while job["state"] == "running":
        job = client.get(f"/api/jobs/{job['id']}").json()
    with statements(twenty) as asked:
        assert client.post(f"/api/imports/{job['source']}/undo").status_code == 204
    assert any("price" in statement for statement in asked)
    assert scans(twenty, asked) == {}
