"""A sum to put in over the API: its figures open their workings, and a decision keeps it."""

from __future__ import annotations

import pytest
from fastapi.testclient import TestClient

from hearth_yield.store.database import Database
from tests.databases import client_of

PAYER = "/api/payers/ELV/TRS"


@pytest.fixture
def client(demo: Database) -> TestClient:
    return client_of(demo)


def test_each_figure_opens_its_working(client: TestClient) -> None:
    asked = {"outlay": "10000", "outlay_at": "50"}
    found = client.get(f"{PAYER}/outlay", params=asked).json()
    working = client.get(f"{PAYER}/working", params={"key": "payer.price"}).json()
    price = working["figure"]["value"]
    shares = [found[at]["shares"]["value"] for at in ("now", "below")]
    assert shares == [10000 // price, 200]
    key = found["below"]["month"]["key"]
    working = client.get(f"{PAYER}/working", params={**asked, "key": key}).json()
    assert working["figure"]["value"] == found["below"]["month"]["value"]
    assert client.get(f"{PAYER}/outlay").json() is None
    refused = client.get(f"{PAYER}/outlay", params={"outlay": "-1"})
    assert (refused.status_code, refused.json()["field"]) == (422, "outlay")


def test_a_decision_keeps_the_sum_it_was_made_with(client: TestClient) -> None:
    body = {
        "verdict": "buy",
        "words": "Now.",
        "as_of": "2026-06-30",
        "question": {"outlay": "10000", "outlay_at": "50"},
    }
    made = client.post(f"{PAYER}/decisions", json=body).json()["id"]
    page = client.get(f"/api/decisions/{made}/memo").text
    assert "10,000.00 TLL put in" in page
    assert "<td>200</td>" in page
