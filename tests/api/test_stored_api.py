"""What is held over HTTP: series, slumps, spans, origins, and facts left out."""

from typing import Any

import pytest
from fastapi.testclient import TestClient

from tests.conftest import get

TRS = "/api/payers/ELV/TRS"


def enter(client: TestClient, table: str, **row: str) -> int:
    entry = {"table": table, "rows": [row], "accepted": list(range(9))}
    got = client.post("/api/typed-facts", json=entry)
    assert got.status_code == 201, got.text
    return int(got.json()["source"])


def test_every_series_is_told_with_age_and_origin(client: TestClient) -> None:
    found = {s["code"]: s for s in get(client, "/api/series")}
    assert len(found) == 9
    prices = found["SUNDREY-PRICES"]
    assert (prices["kind"], prices["currency"], prices["age"]) == ("price_index", "TLL", "fresh")
    assert prices["newest"] < prices["published"]
    assert prices["origins"] == [{"id": 1, "name": "the Sundrey Isles"}]
    assert found["THK-IN-TLL"]["of_currency"] == "THK"
    assert not any(s["by_hand"] for s in found.values())


def test_points_come_newest_first_in_windows_with_what_the_series_is(client: TestClient) -> None:
    whole = get(client, "/api/series/SUNDREY-PRICES", count=400)
    days = [r["key"]["day"] for r in whole["rows"]]
    assert (whole["found"], whole["name"]) == (377, "Sundrey Isles price index")
    assert days == sorted(days, reverse=True)
    window = get(client, "/api/series/SUNDREY-PRICES", first=5, count=3)
    assert window["rows"] == whole["rows"][5:8]
    names = {c["name"] for c in whole["columns"]}
    assert set(whole["rows"][0]["cells"]) == names
    assert client.get("/api/series/NONE").status_code == 404


def test_a_point_of_ones_own_shows_as_such(client: TestClient) -> None:
    source = enter(
        client,
        "series",
        code="SUNDREY-PRICES",
        name="Sundrey Isles price index",
        currency="TLL",
        kind="price_index",
        day="2026-06-01",
        published_on="2026-06-30",
        value="191",
    )
    row = get(client, "/api/series/SUNDREY-PRICES", count=1)["rows"][0]
    assert (row["cells"]["value"], row["by_hand"], row["source"]) == (191.0, True, source)
    (held,) = [s for s in get(client, "/api/series") if s["code"] == "SUNDREY-PRICES"]
    assert held["by_hand"]
    assert [o["id"] for o in held["origins"]] == [1, source]
    paces = get(client, f"{TRS}/record")["paces"]
    assert all(p["needed"]["touch"] == "entered" for p in paces)


def test_slumps_stand_under_the_names_a_file_gives_them(client: TestClient) -> None:
    found = get(client, "/api/slumps")
    assert {c["name"] for c in found["columns"]} == {"slump", "begins", "ends"}
    assert {r["cells"]["slump"] for r in found["rows"]} == {
        "The lantern slump",
        "The herring slump",
        "The breakwater slump",
    }


@pytest.mark.parametrize(("span", "n"), [("year", 30), ("quarter", 49), ("half", 0), ("", 79)])
def test_statements_are_shown_by_span(client: TestClient, span: str, n: int) -> None:
    found = get(client, f"{TRS}/facts/statements", span=span, count=400)
    assert found["found"] == len(found["rows"]) == n
    assert {r["key"]["span"] for r in found["rows"]} <= ({span} if span else {"year", "quarter"})


def test_the_payer_itself_is_a_row_that_can_be_corrected(client: TestClient) -> None:
    (row,) = get(client, f"{TRS}/facts/payers")["rows"]
    cells = {k: str(v) for k, v in row["cells"].items() if v is not None}
    assert row["key"] == {"exchange": "ELV", "symbol": "TRS"}
    source = enter(client, "payers", **(cells | {"name": "Tallow, Reed & Daughters"}))
    after = get(client, f"{TRS}/review")["payer"]
    assert (after["name"], after["touch"]) == ("Tallow, Reed & Daughters", "entered")
    assert client.post(f"/api/imports/{source}/undo").status_code == 204
    assert get(client, f"{TRS}/review")["payer"]["name"] == "Tallow & Reed Soapworks"


def test_holdings_name_their_sources(client: TestClient) -> None:
    source = enter(client, "prices", exchange="ELV", symbol="TRS", day="2026-06-28", close="67")
    (row,) = get(client, "/api/coverage", q="tallow")["rows"]
    kinds = {k["kind"]: k for k in row["kinds"]}
    assert [o["id"] for o in kinds["prices"]["origins"]] == [1, source]
    assert kinds["prices"]["origins"][1]["name"] == "typed: prices of TRS"
    assert [o["id"] for o in kinds["years"]["origins"]] == [1]
    assert kinds["guidance"]["by_hand"] is False


def test_a_fact_is_excluded_shown_and_counted_again(client: TestClient) -> None:
    before = get(client, f"{TRS}/review")
    body = {"table": "prices", "key": {"day": "2026-06-30"}, "reason": "a misread close"}
    id = client.post(f"{TRS}/exclusions", json=body).json()["id"]
    row = get(client, f"{TRS}/facts/prices", count=1)["rows"][0]
    assert row["edited"]["excluded"]["reason"] == "a misread close"
    assert row["cells"]["close"] == before["head"][0]["figure"]["value"]
    after = get(client, f"{TRS}/review")
    assert after["head"][0]["figure"]["known_on"] == "2026-06-29"
    assert after["head"][0]["figure"]["touch"] == "edited"
    assert after["exclusions"][0]["note"].startswith("close of 2026-06-30 excluded by you")
    (listed,) = get(client, "/api/edits")
    assert (listed["excluded"], listed["basis"]) == (True, None)
    assert client.delete(f"/api/edits/{id}").status_code == 204
    assert get(client, f"{TRS}/review") == before


@pytest.mark.parametrize(
    ("body", "status"),
    [
        ({"table": "prices", "key": {"day": "2026-06-30"}, "reason": ""}, 422),
        ({"table": "prices", "key": {"day": "1900-01-01"}, "reason": "x"}, 404),
        ({"table": "prices", "key": {"when": "2026-06-30"}, "reason": "x"}, 422),
        ({"table": "series_points", "key": {"day": "2026-06-30"}, "reason": "x"}, 422),
        ({"table": "prices", "key": {"day": "2026-06-30"}, "reason": "x" * 501}, 422),
    ],
)
def test_what_cannot_be_excluded_is_refused(
    client: TestClient, body: dict[str, Any], status: int
) -> None:
    got = client.post(f"{TRS}/exclusions", json=body)
    assert got.status_code == status
    assert got.json()["detail"]


def test_a_years_sum_says_that_its_payments_count_in_its_place(client: TestClient) -> None:
    paid = client.get("/api/payers/ELV/TRS/facts/dividends?count=1").json()["rows"][0]["key"]
    year = int(paid["ex_date"][:4]) - 1
    end = f"{year}-12-31"
    sum_of = {"amount": "9.99", "currency": "TLL", "payments_per_year": "1", "assumed": "ex_date"}
    enter(client, "dividends", exchange="ELV", symbol="TRS", ex_date=end, **sum_of)
    rows = client.get("/api/payers/ELV/TRS/facts/dividends?count=12").json()["rows"]
    aside = {r["key"]["ex_date"]: r["aside"] for r in rows if r["aside"]}
    assert aside == {end: "its payments count in its place"}


def test_notes_tell_since_when_and_by_whom(client: TestClient) -> None:
    payer = get(client, f"{TRS}/review")["payer"]
    assert payer["credit_rating"] == {"value": "A+", "published_on": "2016-09-12", "touch": None}
    assert get(client, f"{TRS}/review", as_of="2010-06-30")["payer"]["credit_rating"]["value"] == (
        "A"
    )
    enter(
        client,
        "payer_notes",
        exchange="ELV",
        symbol="TRS",
        field="credit_rating",
        published_on="2026-06-30",
        value="A",
    )
    rated = get(client, f"{TRS}/review")["payer"]["credit_rating"]
    assert (rated["value"], rated["touch"]) == ("A", "entered")


def test_a_payer_says_when_it_left_the_exchange(client: TestClient) -> None:
    assert get(client, "/api/payers/ELV/RVGF/review")["payer"]["delisted_on"] == "2022-09-16"
