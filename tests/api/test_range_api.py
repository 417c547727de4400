"""Range over HTTP: the distance over the years, steps to buy in by, breadth; peers' multiples."""

from typing import Any

import pytest
from fastapi.testclient import TestClient

from tests.conftest import get
from tests.patience import until

TRS = "/api/payers/ELV/TRS"


def test_the_distance_tells_weeks_years_and_a_span(client: TestClient) -> None:
    asked = {"quantity": "earnings", "window": "10"}
    found = get(client, f"{TRS}/range/distance", span="2019-02-04..2024-03-28", **asked)
    assert len(found["days"]) == len(found["values"]) > 500
    assert any(y["estimated"] for y in found["years"])
    parts = [found["span"][n]["value"] for n in ("from_growth", "from_re_rating", "from_income")]
    assert sum(parts) == pytest.approx(found["span"]["yearly"]["value"])
    key = found["years"][0]["growth"]["key"]
    working = get(client, f"{TRS}/working", key=key, **asked)
    assert working["figure"]["value"] == found["years"][0]["growth"]["value"]
    then = get(client, f"{TRS}/range/distance", as_of="2015-06-30", **asked)
    assert max(then["days"]) <= "2015-06-30"


def keep(client: TestClient, **step: Any) -> Any:
    return client.put(f"{TRS}/range/entry-steps", json=step)


def test_steps_are_kept_told_at_todays_price_and_deleted(client: TestClient) -> None:
    made = keep(client, quantity="yield", target=0.04, amount="2500.50")
    assert made.status_code == 201
    assert keep(client, quantity="earnings", target=12.0, amount="1000").status_code == 201
    kept = get(client, f"{TRS}/range/entry-steps")
    found = kept["steps"]
    assert kept["total"] == 3500.5
    assert [s["price"] for s in found] == sorted((s["price"] for s in found), reverse=True)
    mine = next(s for s in found if s["quantity"] == "yield")
    aim = get(client, f"{TRS}/aim", aim=0.04)
    assert mine["price"] == pytest.approx(aim["target_price"]["value"])
    assert mine["amount"] == 2500.5
    assert client.delete(f"/api/entry-steps/{made.json()['id']}").status_code == 204
    assert client.delete(f"/api/entry-steps/{made.json()['id']}").status_code == 404
    assert len(get(client, f"{TRS}/range/entry-steps")["steps"]) == 1


@pytest.mark.parametrize(
    ("step", "field"),
    [
        ({"quantity": "affo", "target": 12.0, "amount": "10"}, "quantity"),
        ({"quantity": "yield", "target": 0.0, "amount": "10"}, "target"),
        ({"quantity": "yield", "target": 0.04, "amount": "0"}, "amount"),
        ({"quantity": "yield", "target": 0.04, "amount": "1.005"}, "amount"),
    ],
)
def test_a_step_that_cannot_be_is_refused_by_name(
    client: TestClient, step: dict[str, Any], field: str
) -> None:
    got = keep(client, **step)
    assert (got.status_code, got.json()["field"]) == (422, field)


def ready(client: TestClient, address: str, done: Any, **query: Any) -> Any:
    """What an address answers once its task is done."""
    return until(lambda: get(client, address, **query), is_so=done)


def test_breadth_is_read_once_and_looks_no_further_than_its_day(whole_client: TestClient) -> None:
    found = ready(whole_client, "/api/breadth", lambda f: f["ready"])
    assert len(found["days"]) == len(found["above"]) == len(found["known"])
    assert found["known"][-1] > 50
    assert len(found["names"]) == found["above"][-1]
    then = ready(whole_client, "/api/breadth", lambda f: f["ready"], as_of="2018-12-31")
    at = found["days"].index("2018-12-31")
    assert (then["above"][-1], then["known"][-1]) == (found["above"][at], found["known"][at])


def test_peers_are_taken_out_and_their_median_counts_in(whole_client: TestClient) -> None:
    trust = "/api/payers/ELV/ORCF"
    whole_client.post("/api/measures")
    found = ready(whole_client, f"{trust}/worth/peers", lambda f: not f["pending"])
    first = found["multiples"][0]
    assert (first["id"], first["count"]) == ("affo", len(found["peers"]))
    out = ",".join(f"{p['exchange']}/{p['symbol']}" for p in found["peers"][:2])
    fewer = get(whole_client, f"{trust}/worth/peers", out=out)
    assert fewer["multiples"][0]["count"] == first["count"] - 2
    multiple = round(first["median"], 4)
    counted = get(whole_client, f"{trust}/worth", on="peers_affo", inputs=f"peers_affo:{multiple}")
    model = next(m for m in counted["series"]["models"] if m["id"] == "peers_affo")
    assert model["on"]
    assert model["middle"]["value"] == pytest.approx(first["at_median"], rel=1e-4)
    unsuited = get(whole_client, f"{trust}/worth/opinions")["unsuited"]
    why = next(u["why"] for u in unsuited if u["id"] == "peers_affo")
    assert why == "no multiple of its peers is taken; choose them under Peers"
