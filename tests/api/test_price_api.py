"""The price over HTTP: its past, spans, other payers beside it, and the lines drawn on it."""

from typing import Any

import pytest
from fastapi.testclient import TestClient

from tests.conftest import get

TRS = "/api/payers/ELV/TRS"
LINE = {
    "name": "where I would buy",
    "first_day": "2024-01-05",
    "first_price": 50.0,
    "last_day": "2026-06-30",
    "last_price": 50.0,
}


def test_the_price_tells_its_spans_and_what_they_came_from(client: TestClient) -> None:
    found = get(client, f"{TRS}/range/price", quantity="earnings")
    own = found["own"]
    assert len(own["days"]) == len(own["values"]) == len(own["totals"]) > 2000
    assert own["totals"][-1] > own["values"][-1]
    assert [s["id"] for s in found["spans"]] == ["this_year", "1", "5", "10", "all"]
    ten = found["spans"][3]
    assert ten["total"]["value"] > ten["price"]["value"]
    parts = [ten[n]["value"] for n in ("from_growth", "from_re_rating", "from_income")]
    assert sum(parts) == pytest.approx(ten["yearly"]["value"])
    assert found["measure"] == "earnings per share"
    assert found["span"] is None
    at = own["days"].index(ten["begins"])
    assert ten["total"]["value"] == pytest.approx(own["totals"][-1] / own["totals"][at] - 1, 1e-4)


def test_shares_traded_stand_with_the_closes_where_they_are_told(client: TestClient) -> None:
    assert get(client, f"{TRS}/range/price")["volumes"] == []
    rows = [
        {"exchange": "ELV", "symbol": "TRS", "day": day, "close": "61", "volume": volume}
        for day, volume in (("2026-06-29", "125000"), ("2026-06-30", "98000"))
    ]
    assert (
        client.post("/api/typed-facts", json={"table": "prices", "rows": rows}).status_code == 201
    )
    found = get(client, f"{TRS}/range/price")
    assert found["own"]["days"][-2:] == ["2026-06-29", "2026-06-30"]
    assert found["volumes"][-3:] == [None, 125000, 98000]
    assert len(found["volumes"]) == len(found["own"]["days"])
    before = get(client, f"{TRS}/range/price", as_of="2026-06-29")
    assert before["volumes"][-1] == 125000
    assert get(client, f"{TRS}/range/price", as_of="2026-06-26")["volumes"] == []


def test_a_span_of_ones_own_opens_its_working(client: TestClient) -> None:
    span = "2019-02-04..2020-03-31"
    found = get(client, f"{TRS}/range/price", span=span)["span"]
    assert found["price"]["value"] < -0.2
    key = found["price"]["key"]
    working = get(client, f"{TRS}/working", key=key, span=span)
    assert working["figure"]["value"] == found["price"]["value"]
    refused = client.get(f"{TRS}/range/price", params={"span": "2020-03-31..2019-02-04"})
    assert (refused.status_code, refused.json()["field"]) == (422, "span")


def test_nothing_of_the_price_looks_ahead(client: TestClient) -> None:
    then = get(client, f"{TRS}/range/price", as_of="2015-06-30")
    assert max(then["own"]["days"]) <= "2015-06-30"
    assert max(p["ex_date"] for p in then["paid"]) <= "2015-06-30"
    assert max(then["market"]["days"]) <= "2015-06-30"


def test_other_payers_stand_beside_it(whole_client: TestClient) -> None:
    found = get(whole_client, "/api/price-courses", payers=["ELV/GWK", "RKM/DVTC"])
    assert [x["symbol"] for x in found] == ["GWK", "DVTC"]
    assert whole_client.get("/api/price-courses", params={"payers": "GWK"}).status_code == 422
    assert whole_client.get("/api/price-courses", params={"payers": "ELV/NONE"}).status_code == 404


def lines(client: TestClient, symbol: str = "TRS", **query: Any) -> Any:
    return get(client, f"/api/payers/ELV/{symbol}/range/lines", **query)


def test_a_line_is_drawn_moved_and_taken_away(client: TestClient) -> None:
    made = client.put(f"{TRS}/range/lines", json=LINE)
    assert made.status_code == 201
    id = made.json()["id"]
    assert lines(client) == [{"id": id, **LINE}]
    moved = client.put(f"{TRS}/range/lines", json={**LINE, "id": id, "last_price": 60.0})
    assert moved.json()["id"] == id
    (held,) = lines(client)
    assert (held["first_price"], held["last_price"]) == (50.0, 60.0)
    assert lines(client, "GWK") == []
    assert client.delete(f"/api/price-lines/{id}").status_code == 204
    assert lines(client) == []
    assert client.delete(f"/api/price-lines/{id}").status_code == 404


@pytest.mark.parametrize(
    ("change", "field"),
    [
        ({"first_price": 0.0}, "first_price"),
        ({"last_price": -1.0}, "last_price"),
        ({"last_day": "2024-01-05"}, "last_day"),
        ({"name": "x" * 61}, "name"),
    ],
)
def test_a_line_that_cannot_be_is_refused_by_field(
    client: TestClient, change: dict[str, Any], field: str
) -> None:
    refused = client.put(f"{TRS}/range/lines", json={**LINE, **change})
    assert (refused.status_code, refused.json()["field"]) == (422, field)
    assert lines(client) == []


def test_a_line_drawn_before_a_split_stands_in_the_shares_of_today(
    whole_client: TestClient,
) -> None:
    """Osprey Point Tools split 3 for 1 on 14 May 2012: 90.00 drawn before it is 30.00 since."""
    line = {**LINE, "first_price": 90.0, "last_price": 90.0}
    line |= {"first_day": "2010-01-05", "last_day": "2012-01-05"}
    made = whole_client.put(
        "/api/payers/ELV/OPT/range/lines", json=line, params={"as_of": "2012-03-01"}
    )
    assert made.status_code == 201, made.text
    assert lines(whole_client, "OPT", as_of="2012-03-01")[0]["first_price"] == 90.0
    assert lines(whole_client, "OPT")[0]["first_price"] == pytest.approx(30.0)
