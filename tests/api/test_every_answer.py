"""What leaves the API is as its description says, its sentences say what their figures say, and
to read it writes nothing: every answer of every route that reads, on the demo and on an empty
product; nothing that is read goes over all prices, dividends, statements or points."""

import io
import re
import sqlite3
import zipfile
from collections.abc import Iterator
from contextlib import closing, contextmanager
from typing import Any

import httpx
import jsonschema_rs
from fastapi.testclient import TestClient

from hearth_yield.store.database import Database
from tests.conftest import SOAK
from tests.databases import client_of
from tests.scans import scans, statements
from tests.sentences import faults_in

PAYERS = ("TRS", "LRT", "WPP", "QLN", "NWO", "PLG", "RVGF")
PAST = ({}, {"as_of": "2013-03-01"})
ASKED: dict[str, list[dict[str, str]]] = {
    "review": [
        {},
        {"window": "all", "base_years": "2010", "inputs": "growth:0.02", "off": "fading"},
    ],
    "record": [{"base_years": "2010,2016"}],
    "range": [{}, {"window": "all"}],
    "worth": [{"inputs": "required_return:0.09", "on": "constant_growth"}],
    "aim": [{"aim": "0.04"}, {"aim_price": "30"}],
    "working": [{"key": "worth.buy_below"}, {"key": "range.mean_yield"}, {"key": "cover.payout"}],
    "decisions": [{}],
}
LISTS: dict[str, list[dict[str, str]]] = {
    "/api/payers": [{"columns": "yield,payout,state,raises", "count": "500"}],
    "/api/payers/groups": [{"by": "sector", "columns": "yield,payout"}],
    "/api/names": [{"q": "a"}],
}


def decided(client: TestClient) -> TestClient:
    body = {"verdict": "hold", "words": "x", "as_of": "2026-06-30"}
    assert client.post("/api/payers/ELV/TRS/decisions", json=body).status_code == 201
    return client


def addresses(described: Any) -> Iterator[tuple[str, dict[str, str]]]:
    """Every address that can be read without an id, with what is asked of it."""
    for path, operations in described["paths"].items():
        if "get" not in operations:
            continue
        if path.startswith("/api/payers/{exchange}/{symbol}/facts"):
            for table in ("statements", "dividends", "prices", "splits", "payers"):
                for symbol in PAYERS[:3]:
                    yield f"/api/payers/ELV/{symbol}/facts/{table}", {}
        elif path.startswith("/api/payers/{exchange}/{symbol}/"):
            part = path.split("{symbol}/", 1)[1]
            part = part.replace("{code}", "X").replace("{table}", "dividends")
            for symbol in PAYERS if SOAK else PAYERS[:3]:
                for query in ASKED.get(part, PAST if symbol == "TRS" else [{}]):
                    yield f"/api/payers/ELV/{symbol}/{part}", query
        elif "{" not in path:
            for query in LISTS.get(path, PAST):
                yield path, query


def pattern_of(path: str) -> re.Pattern[str]:
    parts = (re.escape(p) for p in re.split(r"\{\w+\}", path))
    return re.compile("[^/]+".join(parts) + "$")


def schema_of(described: Any, address: str, status: int) -> Any:
    """The answer\'s schema, by its own content type; None where it is no JSON."""
    path = next(p for p in described["paths"] if pattern_of(p).match(address))
    answer = described["paths"][path]["get"]["responses"][str(status)]
    content = answer.get("content", {})
    held = next((c["schema"] for kind, c in content.items() if "json" in kind), None)
    return held and {**held, "components": described["components"]}


BEGINNINGS = {
    "text/calendar": b"BEGIN:VCALENDAR",
    "text/html": b"<!doctype html>",
    "application/x-ofx": b"<?xml",
}


def is_of_its_kind(got: httpx.Response) -> bool:
    """Whether a file is what it says it is."""
    kind = got.headers["content-type"].split(";")[0]
    if kind in BEGINNINGS:
        return got.content.startswith(BEGINNINGS[kind])
    return zipfile.is_zipfile(io.BytesIO(got.content)) or bool(got.json())


@contextmanager
def unwritten(database: Database) -> Iterator[None]:
    """Nothing is committed meanwhile: SQLite tells each connection of what others committed."""
    with closing(sqlite3.connect(database.path)) as raw:

        def version() -> int:
            return int(raw.execute("PRAGMA data_version").fetchone()[0])

        before = version()
        yield
        assert version() == before


ALL_OF_IT = {"/api/export", "/api/backup"}
"""What gives out everything reads everything."""


def walk(client: TestClient, database: Database) -> set[tuple[str, int]]:
    """Reads all there is and holds it against its description; which routes answered, and how."""
    seen, validators, asked = set(), {}, dict[str, Any]()
    described = client.get("/api/schema").json()
    for address, query in addresses(described):
        with statements(database) as sent:
            got = client.get(address, params=query)
        if address not in ALL_OF_IT:
            asked |= sent
        assert got.status_code in (200, 404, 422), (address, got.text)
        schema = schema_of(described, address, got.status_code)
        if schema is None:
            assert is_of_its_kind(got), address
            continue
        name = (schema.get("$ref"), str(schema.get("items")), str(schema.get("anyOf")))
        if name not in validators:
            validators[name] = jsonschema_rs.validator_for(schema)
        faults = list(validators[name].iter_errors(got.json()))
        assert faults == [], (address, query, str(faults[0])[:300])
        assert faults_in(got.json()) == [], (address, query)
        seen.add((address.rsplit("/", 1)[1], got.status_code))
    assert len(asked) > 40
    assert scans(database, asked) == {}
    return seen


def test_every_answer_is_as_described_and_none_writes(twenty: Database, empty: Database) -> None:
    seen: set[tuple[str, int]] = set()
    for database in (twenty, empty):
        client = client_of(database)
        if database is twenty:
            decided(client)
        with unwritten(database):
            seen |= walk(client, database)
    assert {("review", 200), ("review", 404), ("payers", 200), ("catalogue", 200)} <= seen
    assert len(seen) > 25


READ = ("review", "record", "cover", "footing", "range", "worth", "worth/path", "strain", "outlay")
DAYS = ("2026-06-30", "2024-03-15", "2020-08-31", "2015-05-29")


def test_sentences_are_true_of_other_payers_on_other_days(client: TestClient) -> None:
    """Of two other payers on each of four days; in full of every payer on each."""
    rows = client.get("/api/payers", params={"count": "500"}).json()["rows"]
    others = sorted((r["exchange"], r["symbol"]) for r in rows if r["symbol"] not in PAYERS)
    for n, day in enumerate(DAYS):
        for exchange, symbol in others if SOAK else others[2 * n : 2 * n + 2]:
            for part in READ:
                address = f"/api/payers/{exchange}/{symbol}/{part}"
                got = client.get(address, params={"as_of": day})
                assert got.status_code in (200, 422), got.text
                assert faults_in(got.json()) == [], (day, address)
