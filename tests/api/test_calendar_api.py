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


def test_the_days_of_what_is_held_and_followed(client: TestClient) -> None:
    answer = client.get("/api/calendar/file.ics?owned=false")
    assert answer.headers["content-type"].startswith("text/calendar")
    assert {s: d for s, d in days_of(answer.content).items() if d >= date(2026, 6, 30)} == {
        "Greywake Kilns goes ex 2026": date(2026, 7, 10),
        "Greywake Kilns pays 2026": date(2026, 7, 24),
        "Seabright Care Homes Trust goes ex 2026": date(2026, 7, 8),
        "Seabright Care Homes Trust pays 2026": date(2026, 7, 22),
        "Look at Greywake Kilns again 2026": date(2026, 9, 15),
    }
    everyone = days_of(client.get("/api/calendar/file.ics?everyone=true").content)
    declared = [d["ex_date"] for d in world()["dividends"] if d["symbol"] == "SBRC"]
    assert everyone["Seabright Care Homes Trust goes ex 2026"] == max(declared)


def test_own_payments_stand_on_their_days_and_say_what_is_only_expected(client: TestClient) -> None:
    """920 shares at 0.181: 166.52."""
    raw = client.get("/api/calendar/file.ics").content
    days = days_of(raw)
    assert days["Greywake Kilns pays you 166.52 TLL 2026"] == date(2026, 7, 24)
    assert "Greywake Kilns pays 2026" not in days
    own = [e for e in Calendar.from_ical(raw).walk("VEVENT") if e["uid"].startswith("own-")]
    told = {str(e["summary"]): str(e["description"]) for e in own}
    assert told["Greywake Kilns pays you 166.52 TLL"].startswith("920 shares at 0.181 TLL")
    expected = [s for s, words in told.items() if "expected, not declared" in words]
    assert expected
    assert all(" may pay you " in s for s in expected)
    payments = client.get("/api/holdings/income").json()["payments"]
    assert len(own) == len({(p["symbol"], p["comes"]) for p in payments})


def test_each_day_has_a_name_that_stays(client: TestClient) -> None:
    first, again = (client.get("/api/calendar/file.ics").content for _ in range(2))
    assert first == again
    uids = [e["uid"] for e in Calendar.from_ical(first).walk("VEVENT")]
    assert len(set(uids)) == len(uids)


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
