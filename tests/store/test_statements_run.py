"""How often the database is asked: it must not grow with what is held or brought."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager

from fastapi.testclient import TestClient
from sqlalchemy import event

from hearth_yield.actions.import_files import preview_import
from hearth_yield.store.database import Database
from tests.databases import client_of


@contextmanager
def counted(database: Database) -> Iterator[list[str]]:
    """The statements that run inside, and the transactions they begin."""
    seen: list[str] = []

    def see(_c: object, _cursor: object, statement: str, *_: object) -> None:
        seen.append(statement)

    event.listen(database.engine, "before_cursor_execute", see)
    try:
        yield seen
    finally:
        event.remove(database.engine, "before_cursor_execute", see)


def closes_of(keys: list[tuple[str, str]]) -> bytes:
    rows = "".join(f"{e},{s},2026-06-{d:02},10.0\n" for e, s in keys for d in (27, 28))
    return f"exchange,symbol,day,close\n{rows}".encode()


def keys_of(client: TestClient) -> list[tuple[str, str]]:
    rows = client.get("/api/coverage", params={"count": 100}).json()["rows"]
    return [(r["exchange"], r["symbol"]) for r in rows]


def test_a_preview_asks_as_often_for_sixty_payers_as_for_two(demo: Database) -> None:
    with client_of(demo) as client:
        keys = keys_of(client)
    asked = []
    for some in (keys[:2], keys):
        with counted(demo) as seen:
            preview_import(demo, [("prices.csv", closes_of(some))])
        asked.append(len(seen))
    assert len(keys) == 60
    assert asked[1] <= asked[0] + 2, asked


def test_lists_are_read_in_a_few_statements(demo: Database) -> None:
    with client_of(demo) as client:
        for path, most in (
            ("/api/coverage?count=60", 20),
            ("/api/catalogue", 8),
            ("/api/payers?count=60", 20),
            ("/api/series", 8),
        ):
            client.get(path)
            with counted(demo) as seen:
                assert client.get(path).status_code == 200
            assert len(seen) <= most, (path, seen)


def test_a_window_of_statements_does_not_read_the_prices(demo: Database) -> None:
    with client_of(demo) as client, counted(demo) as seen:
        found = client.get("/api/payers/ELV/TRS/facts/statements", params={"count": 5})
        assert found.json()["rows"]
    assert not [s for s in seen if "price" in s.lower().split("from")[-1]], seen
