"""What a page asks is sought: nothing goes over all prices, dividends, statements or points."""

from __future__ import annotations

import re
from collections.abc import Iterator
from contextlib import contextmanager
from typing import Any

from sqlalchemy import event

from hearth_yield.store.database import Database
from tests.databases import client_of
from tests.patience import ended

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


DAY = {"exchange": "ELV", "symbol": "TRS", "day": "2026-06-29", "close": "61.50"}
ROWS = {"table": "prices", "rows": [DAY], "accepted": [0]}
KEY = {"table": "prices", "key": {"day": "2026-06-30"}, "reason": "as seen"}
FILES = {
    "prices.csv": "exchange,symbol,day,close\nELV,TRS,2026-06-30,70.00\n",
    "dividends.csv": "exchange,symbol,ex_date,amount,currency\nELV,TRS,2026-08-14,0.51,TLL\n",
    "statements.csv": (
        "exchange,symbol,period_end,span,published_on,currency,unit,revenue\n"
        "ELV,TRS,2026-03-31,quarter,2026-05-06,TLL,million,300\n"
    ),
    "series.csv": (
        "code,name,currency,day,published_on,value\n"
        "SUNDREY-PRICES,Sundrey Isles price index,TLL,2026-06-01,2026-06-18,190\n"
    ),
}


def test_what_a_person_does_seeks_what_it_needs(twenty: Database) -> None:
    """An import of every large table, its undo, what is typed, edited, judged and made again."""
    client = client_of(twenty)

    def does(method: str, path: str, **more: Any) -> Any:
        got = client.request(method, path, **more)
        assert got.status_code < 300, (path, got.text)
        found = got.json() if got.content else {}
        job = found if "state" in found else (found.get("job") or {})
        return ended(client, job["id"]) if job.get("id") and job.get("state") else found

    trs = "/api/payers/ELV/TRS"
    with statements(twenty) as asked:
        files = [("files", (name, text.encode())) for name, text in FILES.items()]
        found = does("POST", "/api/imports/preview", files=files)
        every = {"token": found["token"], "accepted": list(range(len(found["faults"])))}
        job = does("POST", "/api/imports", json=every)
        assert job["state"] == "done", job
        does("POST", f"/api/imports/{job['source']}/undo")
        does("POST", "/api/typed-facts/preview", json=ROWS)
        does("POST", "/api/typed-facts", json=ROWS)
        does("POST", f"{trs}/edits", json=KEY | {"field": "close", "value": 60})
        does("POST", f"{trs}/exclusions", json=KEY | {"key": {"day": "2026-06-26"}})
        does(
            "POST",
            f"{trs}/decisions",
            json={"verdict": "hold", "words": "x", "as_of": "2026-06-30"},
        )
        rules = does("GET", "/api/house-rules")["rules"]
        does("POST", "/api/house-rules/preview", json=rules)
        does("POST", "/api/house-rules/preview-prices", json=rules)
        does("PUT", "/api/house-rules", json={"rules": rules, "note": "seen through"})
        for task in ("/api/measures", "/api/signals", "/api/strained-payers?strain=fall:0.2"):
            does("POST", task)
    assert sum(any(f" {table}" in s for table in LARGE) for s in asked) > 20
    assert scans(twenty, asked) == {}
