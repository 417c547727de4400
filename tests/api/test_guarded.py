"""Nothing is let in, nothing falls over: foreign pages, odd addresses, odd texts."""

from __future__ import annotations

import contextlib
import json
import threading
from collections.abc import Iterator
from typing import Any
from urllib.parse import quote

import pytest
from fastapi.testclient import TestClient

from hearth_yield.api import guard
from hearth_yield.api.guard import HEADERS
from hearth_yield.api.jobs import Jobs
from hearth_yield.core.errors import NotFound
from hearth_yield.store.database import Database

TRS = "/api/payers/ELV/TRS"
CLASSES = ("BRX/B", "BRX.B", "BRX B", "BRX,B")


@pytest.mark.parametrize(
    ("headers", "status"),
    [
        ({"sec-fetch-site": "cross-site"}, 403),
        ({"sec-fetch-site": "same-site"}, 403),
        ({"sec-fetch-site": "same-origin"}, 200),
        ({"sec-fetch-site": "none"}, 200),
        ({"host": "127.0.0.1:evil.example"}, 403),
        ({"host": "127.0.0.1:80:evil"}, 403),
        ({"host": "localhost:8000"}, 200),
        ({"origin": "http://[::1"}, 403),
        ({"origin": "http://[half"}, 403),
    ],
)
def test_a_foreign_page_starts_no_work(
    client: TestClient, headers: dict[str, str], status: int
) -> None:
    got = client.get("/api/status", headers=headers)
    assert got.status_code == status
    assert {h: got.headers[h] for h in HEADERS} == HEADERS


def test_what_is_too_large_is_refused_with_the_same_headers(client: TestClient) -> None:
    got = client.post("/api/saved", headers={"content-length": str(2**40)})
    assert got.status_code == 413
    assert got.headers["x-frame-options"] == "DENY"


HEAD = b'--B\r\nContent-Disposition: form-data; name="files"; filename="a.csv"\r\n\r\n'


@pytest.mark.parametrize(
    ("path", "kind", "head"),
    [
        ("/api/typed-facts", "application/json", b"["),
        ("/api/imports/preview", "multipart/form-data; boundary=B", HEAD),
    ],
)
def test_a_body_that_does_not_say_its_length_is_bounded_as_it_comes(
    client: TestClient, monkeypatch: pytest.MonkeyPatch, path: str, kind: str, head: bytes
) -> None:
    monkeypatch.setattr(guard, "MAX_UPLOAD", 2**20)

    def body() -> Iterator[bytes]:
        yield head
        for _ in range(40):
            yield b"1" * 2**16

    got = client.post(path, content=body(), headers={"content-type": kind})
    assert (got.status_code, got.json()["status"]) == (413, 413)
    assert "at most 1 MB" in got.json()["detail"]
    assert {h: got.headers[h] for h in HEADERS} == HEADERS


@pytest.fixture
def classes(client: TestClient) -> TestClient:
    """Four payers with signs in their symbols, and a dividend each."""
    common = {"exchange": "ELV", "currency": "TLL"}
    payers = [
        common
        | {
            "symbol": s,
            "name": f"Brix {s}",
            "kind": "company",
            "country": "Sundrey Isles",
            "fiscal_year_end_month": "12",
        }
        for s in CLASSES
    ]
    paid = [common | {"symbol": s, "ex_date": "2026-06-01", "amount": "1"} for s in CLASSES]
    for table, typed in (("payers", payers), ("dividends", paid)):
        got = client.post("/api/typed-facts", json={"table": table, "rows": typed})
        assert got.status_code == 201, got.text
    return client


@pytest.mark.parametrize("symbol", CLASSES)
def test_share_classes_are_reached_like_any_payer(classes: TestClient, symbol: str) -> None:
    base = f"/api/payers/ELV/{quote(symbol, safe='')}"
    assert classes.get(f"{base}/review").json()["payer"]["symbol"] == symbol
    facts = classes.get(f"{base}/facts/dividends").json()
    assert [r["cells"]["amount"] for r in facts["rows"]] == [1.0]
    working = classes.get(f"{base}/working", params={"key": "record.trailing_rate"})
    assert working.json()["figure"]["value"] == 1.0
    made = {"verdict": "hold", "words": "x", "as_of": "2026-06-30"}
    assert classes.post(f"{base}/decisions", json=made).status_code == 201
    assert len(classes.get(f"{base}/decisions").json()) == 1
    got = classes.get("/api/export", params={"payer": f"ELV/{symbol}"})
    assert got.content[:2] == b"PK"


@pytest.mark.parametrize(
    ("method", "path", "body", "status"),
    [
        ("DELETE", f"/api/decisions/{2**63}", None, 422),
        ("DELETE", "/api/edits/-1", None, 422),
        ("GET", f"{TRS}/facts/prices?first={2**70}", None, 422),
        ("GET", f"{TRS}/review?as_of=0001-01-01", None, 422),
        ("GET", f"{TRS}/review?as_of=9999-12-31", None, 422),
        ("GET", f"{TRS}/review?base_years={10**30}", None, 422),
        ("GET", "/api/payers/%00/%00/review", None, 404),
        ("PUT", "/api/saved", {"name": "   ", "columns": {"columns": ["yield"]}}, 422),
        ("PUT", "/api/saved", {"name": "x", "columns": {"columns": ["colour"]}}, 422),
        ("PUT", "/api/saved", {"name": "x", "search": {"sort": "colour"}}, 422),
        (
            "PUT",
            "/api/saved",
            {
                "name": "x",
                "search": {"where": {"join": "all", "parts": [{"id": "colour", "op": "known"}]}},
            },
            422,
        ),
    ],
)
def test_odd_requests_are_refused_in_words(
    client: TestClient, method: str, path: str, body: Any, status: int
) -> None:
    said = None if body is None else json.dumps(body)  # halves of characters stay escaped
    got = client.request(method, path, content=said, headers={"content-type": "application/json"})
    assert got.status_code == status, got.text
    if status >= 400:
        assert got.headers["content-type"] == "application/problem+json"
        assert got.json()["detail"]


@pytest.mark.parametrize("path", ["/%00", "/review/ELV/%00", "/" + "a" * 5000])
def test_odd_addresses_open_the_page_or_nothing(client: TestClient, path: str) -> None:
    assert client.get(path).status_code in (200, 404)


def test_jobs_are_started_from_many_threads_at_once() -> None:
    jobs, errors = Jobs(), []

    def start() -> None:
        try:
            for _ in range(100):
                with contextlib.suppress(NotFound):  # fifty others may have ended since
                    jobs.get(jobs.start(lambda _: 0).id)
        except Exception as error:  # whatever it is, it must not be
            errors.append(error)

    threads = [threading.Thread(target=start) for _ in range(8)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    jobs.close()
    assert errors == []


def test_a_payer_that_cannot_be_computed_is_told_in_words(
    whole_client: TestClient, demo: Database
) -> None:
    with demo.write() as connection:
        connection.exec_driver_sql(
            "INSERT INTO split (payer_id, effective_on, new_shares, old_shares, source_id) "
            "SELECT id, '2026-06-01', 1e-308, 1e308, source_id FROM payer WHERE symbol = 'TRS'"
        )
    got = whole_client.get(f"{TRS}/review")
    assert got.status_code == 409
    assert "Treadwell" in got.json()["detail"] or "cannot be computed" in got.json()["detail"]
    assert whole_client.get("/api/payers/ELV/GWK/review").status_code == 200


def test_halves_and_quarters_are_counted_together(client: TestClient) -> None:
    common = {"exchange": "ELV", "symbol": "TRS", "span": "half", "currency": "TLL"}
    typed = [common | {"period_end": "1990-06-30", "published_on": "1990-08-01", "revenue": "1"}]
    before = held(client)
    client.post("/api/typed-facts", json={"table": "statements", "rows": typed})
    after = held(client)
    assert after["count"] == before["count"] + 1
    assert after["first"] == "1990-06-30"
    assert after["newest"] == before["newest"]


def held(client: TestClient) -> Any:
    (row,) = client.get("/api/coverage", params={"q": "TRS"}).json()["rows"]
    return next(k for k in row["kinds"] if k["kind"] == "quarters")


@pytest.mark.parametrize("cell", ["NaN", "Infinity", "1e400", "[[[[", '{"a":1}'])
def test_a_table_to_save_holds_texts_and_numbers_alone(client: TestClient, cell: str) -> None:
    body = f'{{"name": "t", "rows": [["x", {cell}]]}}'
    headers = {"content-type": "application/json"}
    got = client.post("/api/tables/xlsx", content=body, headers=headers)
    assert got.status_code == 422, got.text
