"""What is waited for, over HTTP."""

from typing import Any

from fastapi.testclient import TestClient

from hearth_yield.store.database import Database
from tests.conftest import get
from tests.databases import client_of

TODAY = "2026-06-30"


def decide(client: TestClient, symbol: str, **more: Any) -> None:
    body = {"verdict": "wait", "words": "Not yet.", "as_of": TODAY, **more}
    made = client.post(f"/api/payers/ELV/{symbol}/decisions", json=body)
    assert made.status_code == 201, made.text


def test_targets_of_decisions_and_steps_stand_nearest_first(client: TestClient) -> None:
    assert get(client, "/api/watch") == []
    decide(client, "TRS", buy_below="30", trim_above="1000")
    decide(client, "CRF", buy_below="900")
    step = {"quantity": "yield", "target": 0.05, "amount": "1000"}
    kept = client.put("/api/payers/ELV/AMLH/range/entry-steps", json=step)
    assert kept.status_code == 201, kept.text
    found = get(client, "/api/watch")
    assert found[0]["symbol"] == "CRF"
    assert {w["symbol"] for w in found} == {"TRS", "CRF", "AMLH"}
    crf = found[0]["reaches"][0]
    assert (crf["reached"], crf["met"]["value"]) == (True, 1.0)
    trs = next(w for w in found if w["symbol"] == "TRS")
    assert {r["aim"] for r in trs["reaches"]} == {"buy_below", "trim_above"}
    assert trs["price"]["key"] == "payer.price"
    buy = next(r for r in trs["reaches"] if r["aim"] == "buy_below")
    assert buy["distance"]["value"] == trs["price"]["value"] / 30 - 1
    for name in ("distance", "met", "yield_there"):
        asked = {"key": buy[name]["key"], "reach": buy["reach"]}
        opened = get(client, "/api/payers/ELV/TRS/working", **asked)
        assert opened["figure"] == buy[name]


def test_what_is_declared_goes_ex_or_pays_in_the_next_weeks(client: TestClient) -> None:
    found = get(client, "/api/coming-payments")
    assert [p["ex_date"] for p in found] == sorted(p["ex_date"] for p in found)
    last = "2026-08-11"
    for paid in found:
        days = [paid["ex_date"], paid["pay_date"] or ""]
        assert any("2026-06-30" <= d <= last for d in days)
    then = get(client, "/api/coming-payments", as_of="2016-06-30", days=30)
    assert all("2016" in p["ex_date"] for p in then)
    assert get(client, "/api/coming-payments", 422, days=0)["status"] == 422


def test_only_the_newest_decision_of_a_payer_counts(client: TestClient) -> None:
    decide(client, "TRS", buy_below="30")
    decide(client, "TRS", buy_below="40")
    (found,) = get(client, "/api/watch")
    assert [r["target"] for r in found["reaches"]] == [40]


def test_a_decision_without_a_price_is_watched_for_its_look(client: TestClient) -> None:
    decide(client, "TRS", next_look="2026-07-01")
    (found,) = get(client, "/api/watch")
    assert (found["reaches"], found["look_due"]) == ([], False)
    (later,) = get(client, "/api/watch", as_of="2026-06-30")
    assert later["next_look"] == "2026-07-01"
    assert get(client, "/api/watch", as_of="2026-06-29") == []


def test_a_note_and_a_group_are_kept_and_a_payer_can_be_watched_for_its_own_sake(
    demo: Database,
) -> None:
    client = client_of(demo)
    path = "/api/watch/ELV/AMLH"
    assert (
        client.put(path, json={"note": "Wait for autumn.", "group": "Staples"}).status_code == 204
    )
    (row,) = client.get("/api/watch").json()
    assert (row["symbol"], row["note"], row["group"]) == ("AMLH", "Wait for autumn.", "Staples")
    assert (row["verdict"], row["reaches"]) == (None, [])
    assert client.put(path, json={"note": "", "group": ""}).status_code == 204
    assert client.get("/api/watch").json()[0]["note"] == ""
    refused = client.put(path, json={"note": "x" * 3000})
    assert (refused.status_code, refused.json()["field"]) == (422, "note")
    assert client.put("/api/watch/ELV/NOBODY", json={}).status_code == 404
    assert client.delete(path).status_code == 204
    assert client.get("/api/watch").json() == []


def test_a_target_says_what_it_would_yield(demo: Database) -> None:
    """The rate of 1.98 at 49.50 is 4 %."""
    client = client_of(demo)
    body = {"verdict": "wait", "words": "-", "as_of": TODAY, "buy_below": "49.50"}
    client.post("/api/payers/ELV/TRS/decisions", json=body)
    (row,) = client.get("/api/watch").json()
    assert round(row["reaches"][0]["yield_there"]["value"], 4) == 0.04
