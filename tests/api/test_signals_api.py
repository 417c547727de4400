"""Signals over the API: made when asked, told with their grounds, seen or not."""

from __future__ import annotations

import math
from typing import Any

import pytest
from fastapi.testclient import TestClient

from hearth_yield.store.database import Database
from tests.conftest import get
from tests.databases import client_of
from tests.declared import throw_away_signal  # noqa: F401 - a fixture
from tests.patience import ended

TODAY = "2026-06-30"


def above_price(client: TestClient) -> float:
    """A price that TRS is under today."""
    head = client.get("/api/payers/ELV/TRS/review").json()["head"]
    (price,) = [h["figure"]["value"] for h in head if h["name"] == "Price"]
    return math.ceil(price + 1)


@pytest.fixture
def client(demo: Database) -> TestClient:
    client = client_of(demo)
    body = {"verdict": "wait", "words": "Not yet.", "as_of": TODAY}
    body["buy_below"] = f"{above_price(client)}"
    assert client.post("/api/payers/ELV/TRS/decisions", json=body).status_code == 201
    return client


def made(client: TestClient) -> list[dict[str, Any]]:
    assert client.get("/api/signals").json()["pending"] == 60
    job = client.post("/api/signals").json()
    assert ended(client, job["id"])["state"] == "done"
    found = client.get("/api/signals").json()
    assert found["pending"] == 0
    return list(found["signals"])


def test_a_signal_says_why_where_and_when(client: TestClient) -> None:
    (reached,) = [s for s in made(client) if s["kind"] == "buy_reached"]
    assert (reached["title"], reached["stage"], reached["seen"]) == (
        "Buy-below price reached",
        "range",
        False,
    )
    values = [p["figure"] for p in reached["said"] if p["figure"]]
    assert [(v["unit"], v["currency"]) for v in values] == [("per_share", "TLL")] * 2
    assert values[0]["value"] <= values[1]["value"] == above_price(client)
    assert client.get("/api/signals?as_of=2026-06-29").json()["signals"] == [
        s for s in client.get("/api/signals").json()["signals"] if s["day"] <= "2026-06-29"
    ]


def test_seen_is_kept_and_taken_back(client: TestClient) -> None:
    before = made(client)
    one = before[0]
    assert client.get("/api/status").json()["unseen"] == len(before)
    event = {k: one[k] for k in ("exchange", "symbol", "kind", "event")}
    assert client.post("/api/signals/seen", json={"signals": [event]}).status_code == 204
    assert client.get("/api/status").json()["unseen"] == len(before) - 1
    unseen = client.get("/api/signals?unseen=true").json()["signals"]
    assert one["event"] not in [s["event"] for s in unseen if s["kind"] == one["kind"]]
    body = {"signals": [event], "seen": False}
    assert client.post("/api/signals/seen", json=body).status_code == 204
    assert client.get("/api/signals?unseen=true").json()["signals"][0] == one


def test_a_kind_that_is_none_is_refused(client: TestClient) -> None:
    event = {"exchange": "ELV", "symbol": "TRS", "kind": "rumour", "event": "x"}
    answer = client.post("/api/signals/seen", json={"signals": [event]})
    assert (answer.status_code, answer.json()["field"]) == (422, "kind")


@pytest.mark.usefixtures("throw_away_signal")
def test_a_kind_that_is_declared_is_offered_in_the_house_rules(client: TestClient) -> None:
    kinds = {k["id"]: k for k in get(client, "/api/house-rules")["signal_kinds"]}
    assert (kinds["share_split"]["name"], kinds["share_split"]["default"]) == (
        "Shares split",
        "all",
    )


def test_of_whom_a_kind_is_asked_for_is_a_house_rule(client: TestClient) -> None:
    rules = client.get("/api/house-rules").json()["rules"]
    for said, status in (({"cut": "nobody"}, 201), ({"cut": "them"}, 422), ({"x": "all"}, 422)):
        body = {"rules": rules | {"signals": said}, "note": ""}
        assert client.put("/api/house-rules", json=body).status_code == status, said
    assert client.get("/api/house-rules").json()["rules"]["signals"] == {"cut": "nobody"}
    usual = {"rules": rules | {"signals": {"cut": "all"}}, "note": ""}
    client.put("/api/house-rules", json=usual)
    assert client.get("/api/house-rules").json()["rules"]["signals"] == {}
