"""Strains over HTTP: the tests under one, those kept on a payer, and one on every payer."""

import itertools
from typing import Any

import pytest
from fastapi.testclient import TestClient

from hearth_yield.store.database import Database
from tests.conftest import get
from tests.databases import client_of
from tests.patience import until

LRT = "/api/payers/ELV/LRT"


def test_a_strain_says_where_it_gives_and_opens_its_working(client: TestClient) -> None:
    asked = {"strain": "fall:0.6,months:3", "strain_part": "tenant/Households"}
    found = get(client, f"{LRT}/strain", **asked)
    assert (found["state_before"], found["state"], found["part"]) == (
        "close",
        "outside",
        asked["strain_part"],
    )
    assert {p["id"] for p in found["parts"]} >= {"all", "tenant/Households", "region/Great Sundrey"}
    for test in found["tests"]:
        for figure in (test["after"]["measure"], test["after"]["cushion"], test["gives_at"]):
            shown = get(client, f"{LRT}/working", key=figure["key"], **asked)
            assert shown["figure"]["value"] == figure["value"]
    payout = next(t for t in found["tests"] if t["before"]["id"] == "payout")
    working = get(client, f"{LRT}/working", key=payout["after"]["measure"]["key"], **asked)
    assert "declared rate" in working["formula"]
    gives = found["map"]["gives"]
    assert gives[0] == pytest.approx(payout["gives_at"]["value"])
    assert all(a >= b for a, b in itertools.pairwise(gives))


def test_a_strain_that_cannot_be_names_its_field(client: TestClient) -> None:
    for asked, field in (
        ({"strain": "fall:2"}, "fall"),
        ({"strain_part": "tenant/Nobody"}, "strain_part"),
    ):
        refused = get(client, f"{LRT}/strain", 422, **asked)
        assert refused["field"] == field
    assert get(client, f"{LRT}/review", 422, strain="fall:2")["field"] == "fall"


def test_a_payer_without_statements_says_so(client: TestClient) -> None:
    found = get(client, f"{LRT}/strain", as_of="1994-01-03")
    assert "no statement is held" in found["reason"]


def test_a_kept_strain_is_made_again_and_goes_into_a_decision(client: TestClient) -> None:
    asked = {"strain": "fall:0.5,months:6.0", "strain_part": "tenant/Households"}
    put = client.put(f"{LRT}/strains", params=asked, json={"name": " Rents stop "})
    assert put.status_code == 204, put.text
    (kept,) = get(client, f"{LRT}/strains")
    assert (kept["name"], kept["question"], kept["state"]) == ("Rents stop", asked, "outside")
    assert 0 < kept["gives_at"] < kept["uncovered_at"]

    body = {"verdict": "wait", "words": "rents", "as_of": "2026-06-30"}
    assert client.post(f"{LRT}/decisions", json=body).status_code == 201
    milder = {**asked, "strain": "fall:0.01"}
    client.put(f"{LRT}/strains", params=milder, json={"name": "Rents stop"})
    (again,) = get(client, f"{LRT}/strains")
    assert again["state"] == "close"
    (made,) = get(client, f"{LRT}/decisions")
    assert [(s["name"], s["state"]) for s in made["strains"]] == [("Rents stop", "outside")]

    assert client.delete(f"/api/strains/{again['id']}").status_code == 204
    assert get(client, f"{LRT}/strains") == []
    assert client.delete(f"/api/strains/{again['id']}").status_code == 404


def test_a_strain_without_a_name_or_that_cannot_be_is_not_kept(client: TestClient) -> None:
    for name, asked, field in (
        (" ", {"strain": "fall:0.5"}, "name"),
        ("x", {}, "strain"),
        ("x", {"strain": "fall:5"}, "fall"),
    ):
        refused = client.put(f"{LRT}/strains", params=asked, json={"name": name})
        assert (refused.status_code, refused.json()["field"]) == (422, field)
    assert get(client, f"{LRT}/strains") == []


def applied(client: TestClient, **asked: str) -> Any:
    started = client.post("/api/strained-payers", params=asked)
    assert started.status_code == 202, started.text
    found = until(
        lambda: get(client, "/api/strained-payers", **asked),
        is_so=lambda found: found["ready"] or found["job"]["state"] != "running",
    )
    assert found["ready"], found
    return found


def test_one_strain_on_every_payer_says_of_each_what_its_own_review_says(demo: Database) -> None:
    with client_of(demo) as client:
        before = get(client, "/api/strained-payers", strain="fall:0.1")
        assert (before["ready"], before["rows"], before["job"]) == (False, [], None)
        rows = {r["symbol"]: r for r in applied(client, strain="fall:0.1")["rows"]}
        assert len(rows) >= 58
        for symbol in ("TRS", "LRT", "GWK", "TDGT"):
            alone = get(client, f"/api/payers/ELV/{symbol}/strain", strain="fall:0.1")
            row = rows[symbol]
            assert (row["before"], row["after"]) == (alone["state_before"], alone["state"])
            assert row["gives_at"] == alone["parts"][0]["gives_at"]["value"]
        worse = {r["symbol"]: r for r in applied(client, strain="fall:0.4")["rows"]}
        assert sum(bool(r["covered"]) for r in worse.values()) < sum(
            bool(r["covered"]) for r in rows.values()
        )


def test_a_part_of_one_payer_falls_for_no_other(client: TestClient) -> None:
    asked = {"strain_part": "tenant/Households"}
    client.post("/api/strained-payers", params=asked)
    job = until(
        lambda: get(client, "/api/strained-payers", **asked)["job"],
        is_so=lambda job: job["state"] != "running",
    )
    assert (job["state"], job["problem"]["field"]) == ("failed", "strain_part")


def test_a_disagreement_stands_until_it_is_taken_back_and_goes_into_a_decision(
    client: TestClient,
) -> None:
    said = {"words": " the new leases are not in it yet "}
    assert client.put(f"{LRT}/disagreements/footing", json=said).status_code == 204
    assert get(client, f"{LRT}/disagreements") == {"footing": "the new leases are not in it yet"}
    body = {"verdict": "hold", "words": "leases", "as_of": "2026-06-30"}
    assert client.post(f"{LRT}/decisions", json=body).status_code == 201
    assert client.put(f"{LRT}/disagreements/footing", json={"words": ""}).status_code == 204
    assert get(client, f"{LRT}/disagreements") == {}
    (made,) = get(client, f"{LRT}/decisions")
    assert made["disagreements"] == {"footing": "the new leases are not in it yet"}
    for stage, words, field in (("decision", "x", "stage"), ("cover", "x" * 1500, "words")):
        refused = client.put(f"{LRT}/disagreements/{stage}", json={"words": words})
        assert (refused.status_code, refused.json()["field"]) == (422, field)


def test_how_many_tests_pass_is_counted_and_unknown_never_passes(client: TestClient) -> None:
    review = get(client, f"{LRT}/review")
    states = [t["state"] for t in review["tests"]]
    assert review["passed"] == sum(s in ("within", "close") for s in states)
    unknown = get(client, "/api/payers/ELV/QLN/review")
    assert any(t["state"] == "unknown" for t in unknown["tests"])
    assert unknown["passed"] < len(unknown["tests"])
    for stage in review["stages"]:
        assert stage["tested"] == sum(t["stage"] == stage["id"] for t in review["tests"])
