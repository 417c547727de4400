"""The year: what it brought, in tables that sum, and in files that an office program computes."""

from __future__ import annotations

import csv
import io
from pathlib import Path
from typing import Any

import pytest
from fastapi.testclient import TestClient

from tests.conftest import get
from tests.recalculated import line, recalculated

from .test_holdings_api import entered, opened
from .test_income_api import set_taxes

YEAR = "/api/holdings/year"


def year(client: TestClient, number: int) -> Any:
    return get(client, YEAR, year=number)


@pytest.fixture
def lived(client: TestClient) -> TestClient:
    """100 at 60, 40 of them sold at 66 with a fee of 4 and a tax of 6; 33.00 gross came with 9.90
    withheld, and 5.00 of capital; interest of 1.25, a fee of 3.00."""
    account = opened(client, entered_from="2024-01-01", keeps_cash=True)
    entered(client, account, "buy", "2024-01-02", shares="100", price="60")
    entered(client, account, "sell", "2025-03-04", shares="40", price="66", fee="4", tax="6")
    entered(client, account, "dividend", "2025-04-01", amount="33", withheld="9.90")
    entered(client, account, "return_of_capital", "2025-05-01", amount="5")
    for kind, amount in (("interest", "1.25"), ("fee", "3")):
        body = {"account": account, "kind": kind, "day": "2025-06-02", "amount": amount}
        assert client.post("/api/entries", json=body).status_code == 201
    return client


def test_dividends_sales_and_the_rest_are_summed(lived: TestClient) -> None:
    found = year(lived, 2025)
    (paid,) = found["dividends"]
    assert (paid["gross"], paid["withheld"], paid["net"]) == (33.0, 9.9, 23.1)
    sale = found["sales"][0]
    assert (sale["proceeds"], sale["cost"], sale["gain"]) == (2636.0, 2400.0, 236.0)
    assert (sale["bought"], sale["held"]) == ("2024-01-02", 427)
    assert {o["what"]: o["amount"] for o in found["others"]} == {
        "Fee": 3.0,
        "Interest": 1.25,
        "Returned capital": 5.0,
    }
    assert (found["sums"]["gross"], found["sums"]["net"]) == (33.0, 23.1)
    assert found["sums"]["gain"] == pytest.approx(sum(s["gain"] for s in found["sales"]))
    assert found["years"] == [2026, 2025, 2024]
    assert year(lived, 2024)["dividends"] == []


def test_what_is_withheld_above_the_rate_stands_apart(lived: TestClient) -> None:
    country = year(lived, 2025)["dividends"][0]["country"]
    set_taxes(lived, {country: 0.15})
    assert year(lived, 2025)["dividends"][0]["beyond"] == 4.95


def test_a_past_day_ends_the_year_there(lived: TestClient) -> None:
    found = get(lived, YEAR, year=2025, as_of="2025-03-31")
    assert (len(found["sales"]), found["dividends"]) == (1, [])


def test_the_workbook_sums_as_an_office_program_computes_it(
    lived: TestClient, tmp_path: Path
) -> None:
    raw = lived.get(f"{YEAR}/file", params={"year": 2025}).content
    sheets = recalculated({"year": raw}, tmp_path)["year"]
    sums = year(lived, 2025)["sums"]
    head, row, *_ = sheets["Dividends"]
    assert dict(zip(head, row, strict=False))["Gross"] == 33
    paid, sold = ([n for n in line(sheets[s], "In all") if n != ""] for s in ("Dividends", "Sales"))
    assert paid == [sums["gross"], sums["net"]]
    assert sold == [pytest.approx(sums["gain"])]


def test_the_csv_has_the_tables_one_below_the_other(lived: TestClient) -> None:
    raw = lived.get(f"{YEAR}/file", params={"year": 2025, "form": "csv"}).content
    lines = list(csv.reader(io.StringIO(raw.decode("utf-8-sig"))))
    assert [cells[0] for cells in lines if len(cells) == 1] == [
        *("Dividends", "By country", "Sales", "Others", "Unresolved")
    ]
    assert dict(zip(lines[1], lines[2], strict=True))["Withheld"] == "9.90"


def test_the_demos_year_is_what_positions_received(whole_client: TestClient) -> None:
    """All years together: dividends net, and gains of all sales."""
    held = get(whole_client, "/api/holdings")
    every = [p for g in held["groups"] for p in g["positions"]] + held["ended"]
    years = [year(whole_client, y) for y in year(whole_client, 2026)["years"]]
    received = sum(p["received"]["value"] or 0 for p in every)
    assert sum(y["sums"]["net"] for y in years) == pytest.approx(received, abs=0.01)
    realised = sum(p["realised"]["value"] or 0 for p in every)
    assert sum(y["sums"]["gain"] for y in years) == pytest.approx(realised, abs=0.01)


def test_dividends_by_country_sum_to_those_by_payer(whole_client: TestClient) -> None:
    found = year(whole_client, 2025)
    countries = found["countries"]
    assert len(countries) > 1
    for name in ("gross_at_home", "at_home", "payments"):
        parts = [d[name] or 0 for d in found["dividends"]]
        assert sum(c[name] for c in countries) == pytest.approx(sum(parts))
    for c in countries:
        mine = [
            d
            for d in found["dividends"]
            if (d["country"], d["currency"]) == (c["country"], c["currency"])
        ]
        for name in ("gross", "withheld", "beyond", "net"):
            assert c[name] == pytest.approx(sum(d[name] for d in mine))


def test_no_more_is_taken_of_a_dividend_than_there_is(lived: TestClient) -> None:
    rules = get(lived, "/api/house-rules")["rules"]
    settings = rules["settings"] | {"dividend_tax": 0.4, "withheld_credited": 0.0}
    body = {"rules": rules | {"withheld": {"Rookmark": 0.7}, "settings": settings}}
    refused = lived.put("/api/house-rules", json=body)
    assert refused.status_code == 422
    assert "more is taken of a dividend" in refused.text
    settings["withheld_credited"] = 1.0
    assert lived.put("/api/house-rules", json=body).status_code == 201
