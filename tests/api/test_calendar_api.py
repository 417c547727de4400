"""The calendar as another program reads it: days, names, and the secret of its address."""

from __future__ import annotations

from datetime import date

import pytest
from fastapi.testclient import TestClient
from icalendar import Calendar

from hearth_yield.store.database import Database
from tests.databases import client_of
from tests.demo.world import world

TODAY = "2026-06-30"


@pytest.fixture
def client(demo: Database) -> TestClient:
    client = client_of(demo)
    body = {"verdict": "wait", "words": "Not yet.", "as_of": TODAY, "next_look": "2026-09-15"}
    assert client.post("/api/payers/ELV/GWK/decisions", json=body).status_code == 201
    return client


def days_of(raw: bytes) -> dict[str, date]:
    events = Calendar.from_ical(raw).walk("VEVENT")
    return {f"{e['summary']} {e.decoded('dtstart'):%Y}": e.decoded("dtstart") for e in events}


def test_the_days_of_a_followed_payer(client: TestClient) -> None:
    answer = client.get("/api/calendar/file.ics")
    assert answer.headers["content-type"].startswith("text/calendar")
    assert days_of(answer.content) == {
        "Greywake Kilns goes ex 2026": date(2026, 7, 10),
        "Greywake Kilns pays 2026": date(2026, 7, 24),
        "Look at Greywake Kilns again 2026": date(2026, 9, 15),
    }
    everyone = days_of(client.get("/api/calendar/file.ics?everyone=true").content)
    declared = [d["ex_date"] for d in world()["dividends"] if d["symbol"] == "SBRC"]
    assert everyone["Seabright Care Homes Trust goes ex 2026"] == max(declared)


def test_each_day_has_a_name_that_stays(client: TestClient) -> None:
    first, again = (client.get("/api/calendar/file.ics").content for _ in range(2))
    assert first == again
    uids = [e["uid"] for e in Calendar.from_ical(first).walk("VEVENT")]
    assert len(set(uids)) == len(uids) == 3


def test_the_address_answers_under_its_secret_only(client: TestClient) -> None:
    assert client.get("/api/calendar/subscription").json() == {"path": None}
    assert client.get("/api/calendar/of/None.ics").status_code == 404
    path = client.post("/api/calendar/subscription").json()["path"]
    assert client.get("/api/calendar/subscription").json() == {"path": path}
    assert client.get(path).content == client.get("/api/calendar/file.ics").content
    other = client.post("/api/calendar/subscription").json()["path"]
    assert other != path
    assert client.get(path).status_code == 404
    assert client.get(other).status_code == 200
    assert client.delete("/api/calendar/subscription").status_code == 204
    assert client.get(other).status_code == 404
