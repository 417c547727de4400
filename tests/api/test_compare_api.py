"""Compare over HTTP: measures, points, firmness, currencies and saved comparisons."""

from typing import Any

import pytest
from fastapi.testclient import TestClient

from tests.conftest import get

FEW = ["ELV/TRS", "ELV/AMLH", "ELV/CRF"]


def first(found: Any) -> list[str]:
    return [p["symbol"] for p in found["payers"] if p["rank"] == 1]


def test_a_few_payers_side_by_side(client: TestClient) -> None:
    found = get(client, "/api/compare", payer=FEW)
    assert [p["symbol"] for p in found["payers"]] == ["TRS", "AMLH", "CRF"]
    assert sum(p["points"] for p in found["payers"]) == pytest.approx(9)
    assert sum(p["firmness"] for p in found["payers"]) == pytest.approx(1)
    line = next(x for x in found["lines"] if x["id"] == "yield")
    values = [c["compared"] for c in line["cells"]]
    assert [c["best"] for c in line["cells"]] == [v == max(values) for v in values]
    assert {a["id"] for a in found["axes"]} == {"yield", "growth", "payout", "worth", "return"}


def test_every_figure_of_the_axes_opens_its_working(client: TestClient) -> None:
    found = get(client, "/api/compare", payer=["ELV/TRS"])
    keyed = [p["figure"] for a in found["axes"] for p in a["rows"][0] if p["figure"]["key"]]
    assert len(keyed) >= 12
    for figure in keyed:
        working = get(client, "/api/payers/ELV/TRS/working", key=figure["key"])
        assert working["figure"]["value"] == figure["value"], figure["key"]


def test_a_weight_and_a_direction_act(client: TestClient) -> None:
    more = get(client, "/api/compare", payer=FEW, lines="yield:high:3,raises:high:1")
    less = get(client, "/api/compare", payer=FEW, lines="yield:low:3,raises:high:0")
    assert first(more) != first(less)
    assert [x["better"] for x in less["lines"]] == ["low", "high"]


def test_the_default_direction_is_the_measures_own(client: TestClient) -> None:
    found = get(client, "/api/compare", payer=FEW, lines="payout,growth_5")
    assert [(x["better"], x["weight"]) for x in found["lines"]] == [("low", 1), ("high", 1)]


def test_amounts_in_two_currencies_are_compared_in_one(client: TestClient) -> None:
    found = get(client, "/api/compare", payer=["ELV/TRS", "RKM/ADRP"], lines="price:high:1")
    assert (found["currency"], found["converted"]) == ("TLL", ["THK"])
    own, other = found["lines"][0]["cells"]
    assert own["compared"] == own["figure"]["value"]
    assert other["figure"]["currency"] == "THK"
    assert other["compared"] != other["figure"]["value"]
    shares = get(client, "/api/compare", payer=["ELV/TRS", "RKM/ADRP"], lines="yield:high:1")
    assert shares["converted"] == []


def test_a_past_day_knows_only_that_day(client: TestClient) -> None:
    then = get(client, "/api/compare", payer=FEW, as_of="2020-06-30")
    now = get(client, "/api/compare", payer=FEW)
    assert then["lines"][0]["cells"][0]["compared"] != now["lines"][0]["cells"][0]["compared"]


@pytest.mark.parametrize(
    ("query", "field"),
    [
        ({"payer": ["ELV/TRS", "ELV/TRS"]}, "payer"),
        ({"payer": FEW, "lines": "nothing:high:1"}, "lines"),
        ({"payer": FEW, "lines": "yield:sideways:1"}, "lines"),
        ({"payer": FEW, "lines": "yield:high:-1"}, "lines"),
        ({"payer": FEW, "lines": "yield:high:nan"}, "lines"),
        ({"payer": FEW, "lines": "yield,yield"}, "lines"),
        ({"payer": ["TRS"]}, "payer"),
    ],
)
def test_what_cannot_be_compared_is_told(
    client: TestClient, query: dict[str, object], field: str
) -> None:
    assert get(client, "/api/compare", 422, **query)["field"] == field
    assert get(client, "/api/compare", 404, payer=["ELV/NOBODY"])["field"] == "symbol"


def test_a_comparison_is_saved_under_a_name(client: TestClient) -> None:
    body = {"name": "Mine", "comparison": {"payers": FEW, "lines": "yield:high:2"}}
    assert client.put("/api/saved", json=body).status_code == 204
    (held,) = [s for s in get(client, "/api/saved") if s["comparison"]]
    assert held["comparison"] == body["comparison"]
    wrong = {"name": "Mine", "comparison": {"payers": [], "lines": "nothing"}}
    assert client.put("/api/saved", json=wrong).status_code == 422
