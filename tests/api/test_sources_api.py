"""The Sources place over HTTP: what is held, facts as rows, entries, edits, reports."""

from typing import Any

import pytest
from fastapi.testclient import TestClient

from tests.conftest import get

TRS = "/api/payers/ELV/TRS"


def held(client: TestClient, symbol: str) -> dict[str, Any]:
    (row,) = [r for r in get(client, "/api/coverage", q=symbol)["rows"] if r["symbol"] == symbol]
    return {k["kind"]: k for k in row["kinds"]}


def test_what_is_held_is_told_by_kind_with_age_and_gaps(whole_client: TestClient) -> None:
    plain = held(whole_client, "TRS")
    assert (plain["prices"]["newest"], plain["prices"]["age"]) == ("2026-06-30", "fresh")
    assert (plain["years"]["count"], plain["quarters"]["count"]) == (30, 49)
    assert all(k["gaps"] == [] for k in plain.values())
    assert held(whole_client, "TNSY")["quarters"]["gaps"] == [
        "2018-09-30",
        "2023-06-30",
        "2025-09-30",
    ]
    assert held(whole_client, "QLN")["dividends"]["age"] == "none"
    assert held(whole_client, "RVGF")["prices"]["age"] == "fresh"


def test_holdings_come_in_windows(whole_client: TestClient) -> None:
    whole = get(whole_client, "/api/coverage", count=400)
    assert whole["found"] == len(whole["rows"]) == 60
    assert get(whole_client, "/api/coverage", first=10, count=5)["rows"] == whole["rows"][10:15]
    assert get(whole_client, "/api/coverage", q="100%")["found"] == 0


def test_restated_statements_stand_side_by_side_with_what_follows_from_them(
    client: TestClient,
) -> None:
    rows = get(client, "/api/payers/ELV/SLTM/facts/statements", count=400)["rows"]
    twice = [
        r for r in rows if (r["key"]["period_end"], r["key"]["span"]) == ("2022-12-31", "year")
    ]
    assert len(twice) == 2
    newest = rows[1]["cells"]
    assert rows[1]["derived"]["free_cash_flow"] == (
        newest["operating_cash_flow"] - newest["capital_expenditure"]
    )
    assert rows[1]["derived"]["net_debt"] == (
        newest["short_term_debt"] + newest["long_term_debt"] - newest["cash"]
    )
    assert "ebitda" in rows[1]["derived"]
    assert rows[1]["derived"]["ebitda"] == newest["ebit"] + newest["depreciation_amortization"]


@pytest.mark.parametrize(
    "table",
    [
        "dividends",
        "prices",
        "splits",
        "dividend_notices",
        "estimates",
        "guidance",
        "exposures",
        "payer_notes",
    ],
)
def test_every_table_of_a_payer_can_be_read(client: TestClient, table: str) -> None:
    found = get(client, f"{TRS}/facts/{table}", count=3)
    names = {c["name"] for c in found["columns"]}
    assert all(set(r["cells"]) <= names for r in found["rows"])
    assert len(found["rows"]) == min(3, found["found"])


def test_a_published_line_is_not_derived(client: TestClient) -> None:
    entry = {
        "table": "statements",
        "unit": "1",
        "rows": [
            {
                "exchange": "ELV",
                "symbol": "TRS",
                "period_end": "2026-06-30",
                "span": "quarter",
                "published_on": "2026-06-30",
                "currency": "TLL",
                "ebit": "5",
                "ebitda": "9",
                "depreciation_amortization": "1",
            }
        ],
    }
    assert client.post("/api/typed-facts", json=entry).status_code == 201
    row = get(client, f"{TRS}/facts/statements", count=1)["rows"][0]
    assert row["by_hand"]
    assert "ebitda" not in row["derived"]


def test_entries_preview_then_keep_and_the_report_remembers(client: TestClient) -> None:
    entry = {
        "table": "prices",
        "rows": [{"exchange": "ELV", "symbol": "TRS", "day": "2026-06-28", "close": "20"}],
    }
    shown = client.post("/api/typed-facts/preview", json=entry).json()
    assert [f["warning"] for f in shown["faults"]] == [True]
    refused = client.post("/api/typed-facts", json=entry)
    assert (refused.status_code, len(refused.json()["faults"])) == (422, 1)
    kept = client.post("/api/typed-facts", json=entry | {"accepted": [0]})
    assert kept.status_code == 201
    report = get(client, f"/api/sources/{kept.json()['source']}/report")
    assert report["rows"] == {"prices": 1}
    assert report["warnings"][0]["file"] == "typed in"
    assert held(client, "TRS")["prices"]["by_hand"]
    assert client.post(f"/api/imports/{kept.json()['source']}/undo").status_code == 204
    assert not held(client, "TRS")["prices"]["by_hand"]


def test_an_adjustment_from_the_working_and_the_way_back(client: TestClient) -> None:
    working = get(client, f"{TRS}/working", key="cover.net_income")
    fact = working["fact"]
    assert fact["field"] == "net_income"
    made = client.post(
        f"{TRS}/edits",
        json={
            "table": fact["table"],
            "key": fact["key"],
            "field": fact["field"],
            "value": fact["raw"] / 2,
            "reason": "tax refund",
        },
    )
    assert made.status_code == 201
    working = get(client, f"{TRS}/working", key="cover.net_income")
    assert working["figure"]["touch"] == "edited"
    assert working["fact"]["raw"] == fact["raw"]
    assert working["fact"]["edit"] == made.json()["id"]
    (listed,) = get(client, "/api/edits")
    assert (listed["original"], listed["reason"]) == (fact["raw"], "tax refund")
    assert get(client, "/api/coverage", q="TRS")["rows"][0]["edited"] == 1
    assert client.delete(f"/api/edits/{listed['id']}").status_code == 204
    assert get(client, f"{TRS}/working", key="cover.net_income")["figure"]["touch"] is None
    assert client.post(f"/api/edits/{listed['id']}/restore").status_code == 204
    assert client.delete("/api/edits/999").status_code == 404


def test_a_year_is_excluded_and_named(client: TestClient) -> None:
    body = {"period_end": "2021-12-31", "basis": "earnings", "reason": "sold the warehouses"}
    assert client.post("/api/payers/ELV/FND/excluded-years", json=body).status_code == 201
    review = get(client, "/api/payers/ELV/FND/review")
    bases = get(client, "/api/payers/ELV/FND/cover")["bases"]
    (earnings,) = [b for b in bases if b["basis"] == "earnings"]
    told = {y["label"]: y["excluded"] for y in earnings["years"]}
    assert told["fiscal 2021"] == "sold the warehouses"
    assert review["stages"][1]["figures"]["earnings_cycle"]["touch"] == "edited"


@pytest.mark.parametrize(
    ("path", "body", "status"),
    [
        ("/api/typed-facts", {"table": "prices", "rows": []}, 422),
        ("/api/typed-facts", {"table": "recipes", "rows": [{"a": "b"}]}, 422),
        (f"{TRS}/edits", {"table": "x", "key": {}, "field": "y", "value": 1, "reason": "z"}, 422),
        (f"{TRS}/excluded-years", {"period_end": "soon", "basis": "x", "reason": "y"}, 422),
        (
            "/api/payers/ELV/NOBODY/excluded-years",
            {"period_end": "2021-12-31", "basis": "earnings", "reason": "y"},
            404,
        ),
    ],
)
def test_what_cannot_be_done_is_refused(
    client: TestClient, path: str, body: dict[str, Any], status: int
) -> None:
    assert client.post(path, json=body).status_code == status


def test_a_table_or_payer_that_is_not_there_is_named(client: TestClient) -> None:
    assert client.get(f"{TRS}/facts/recipes").json()["field"] == "table"
    assert client.get("/api/payers/ELV/NOBODY/facts/prices").status_code == 404
    assert client.get("/api/sources/99/report").status_code == 404
