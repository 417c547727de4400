from typing import Any

import pytest
from fastapi.testclient import TestClient

from hearth_yield.api.problems import STATUSES, problem_of
from hearth_yield.core import errors
from hearth_yield.core.stages import STAGES
from tests.conftest import get

TRS = "/api/payers/ELV/TRS"


def test_status_names_the_pinned_day(whole_client: TestClient) -> None:
    assert get(whole_client, "/api/status") | {"version": ""} == {
        "today": "2026-06-30",
        "pinned": True,
        "newest_price": "2026-06-30",
        "payers": 60,
        "feed": False,
        "unseen": 6,
        "version": "",
    }


def test_payers_are_found_by_sector_and_kind(whole_client: TestClient) -> None:
    found = get(whole_client, "/api/payers", q="property homes")["rows"]
    assert [r["symbol"] for r in found] == ["LRT", "ORCF", "SBRC"]


def test_a_past_day_lists_only_what_was_listed(whole_client: TestClient) -> None:
    listing = get(whole_client, "/api/payers", as_of="2020-06-30")
    assert listing["held"] == 59
    assert "NWO" not in {r["symbol"] for r in listing["rows"]}


def test_every_figure_of_a_review_opens_its_working(client: TestClient) -> None:
    parts = ("review", "record", "cover", "range", "worth")
    shown = [get(client, f"{TRS}/{part}", aim=0.034) for part in parts]
    keys: set[str] = set()

    def collect(node: Any) -> None:
        if isinstance(node, dict):
            if "key" in node and "unit" in node:
                keys.add(node["key"])
            for child in node.values():
                collect(child)
        elif isinstance(node, list):
            for child in node:
                collect(child)

    collect(shown)
    assert len(keys) > 250
    assert "" not in keys
    for key in sorted(keys)[::9]:
        working = get(client, f"{TRS}/working", key=key, aim=0.034)
        assert working["figure"]["label"]


def test_a_working_leads_down_to_a_dated_sourced_fact(client: TestClient) -> None:
    path, working = "", get(client, f"{TRS}/working", key="worth.buy_below")
    while working["inputs"]:
        path = working["inputs"][0]["path"]
        working = get(client, f"{TRS}/working", key="worth.buy_below", path=path)
    assert working["source"]["file_name"] == "the Sundrey Isles"
    assert "2026-01-01" < working["figure"]["known_on"] <= "2026-06-30"
    assert working["trail"][0] == "buy-below price"


def test_inputs_move_worth_and_nothing_else(client: TestClient) -> None:
    plain, drawn = get(client, f"{TRS}/review"), get(client, f"{TRS}/cover")
    inputs = "growth:0.03,required_return:0.09"
    moved = get(client, f"{TRS}/review", inputs=inputs)
    # four payments of 0.495, 3 % for ever, 9 % required: 2.0394 ÷ 0.06
    worth = get(client, f"{TRS}/worth", inputs=inputs)["series"]
    assert worth["models"][0]["middle"]["value"] == pytest.approx(33.99, abs=5e-5)
    assert get(client, f"{TRS}/cover", inputs=inputs) == drawn
    *before, last = moved["stages"]
    assert before == plain["stages"][:-1]
    answer = {"stage": last, "series": worth}
    assert get(client, f"{TRS}/worth", inputs=inputs) == answer


def test_an_aim_by_price_and_by_yield_agree(client: TestClient) -> None:
    by_price = get(client, f"{TRS}/aim", aim_price=50.0)
    again = get(client, f"{TRS}/aim", aim=by_price["target"]["value"])
    assert again == by_price
    assert by_price["target_price"]["value"] == pytest.approx(50.0)


@pytest.mark.parametrize(
    ("path", "query", "status", "field"),
    [
        (f"{TRS}/worth", {"inputs": "growth:2"}, 422, "growth"),
        (f"{TRS}/worth", {"inputs": "required_return:x"}, 422, "required_return"),
        (f"{TRS}/worth", {"on": "magic"}, 422, "models"),
        (f"{TRS}/worth", {"inputs": "luck:1"}, 422, "inputs"),
        (f"{TRS}/review", {"quantity": "luck"}, 422, "quantity"),
        (f"{TRS}/review", {"base_years": "long ago"}, 422, "base_years"),
        (f"{TRS}/review", {"window": "7"}, 422, "window"),
        (f"{TRS}/review", {"as_of": "2027-01-01"}, 422, "as_of"),
        (f"{TRS}/review", {"as_of": "yesterday"}, 422, "as_of"),
        (f"{TRS}/aim", {"aim": -0.1}, 422, "aim"),
        (f"{TRS}/aim", {"aim_price": 0}, 422, "aim_price"),
        (f"{TRS}/working", {"key": "nope"}, 404, "key"),
        (f"{TRS}/working", {"key": "payer.price", "path": "7"}, 404, "path"),
        ("/api/payers/ELV/NONE/review", {}, 404, "symbol"),
        ("/api/payers", {"sort": "colour"}, 422, "sort"),
        ("/api/nowhere", {}, 404, "path"),
    ],
)
def test_refusals_name_field_value_and_rule(
    client: TestClient, path: str, query: dict[str, Any], status: int, field: str
) -> None:
    got = client.get(path, params=query)
    assert got.status_code == status
    assert got.headers["content-type"] == "application/problem+json"
    assert got.json()["field"] == field


@pytest.mark.parametrize("symbol", ["QLN", "NWO", "GWK", "CRF", "PLG", "LRT", "WPP", "MRB"])
@pytest.mark.parametrize("day", ["2026-06-30", "2019-12-31", "2003-01-15", "2001-01-05"])
def test_every_situation_on_any_day_reads_on(client: TestClient, symbol: str, day: str) -> None:
    review = get(client, f"/api/payers/ELV/{symbol}/review", as_of=day, window="all")
    assert [s["id"] for s in review["stages"]] == [s.value for s in STAGES]
    assert all(s["finding"] for s in review["stages"])


def test_a_decision_that_contradicts_itself_is_asked_about(client: TestClient) -> None:
    body = {"verdict": "buy", "words": "now", "buy_below": "0.5", "as_of": "2026-06-30"}
    asked = client.post(f"{TRS}/decisions", json=body | {"ask": True})
    assert (asked.status_code, asked.json()["type"]) == (409, "about:Unsure")
    assert "until it is reached, the decision counts as waiting" in asked.json()["detail"]
    assert get(client, f"{TRS}/decisions") == []
    assert client.post(f"{TRS}/decisions", json=body).status_code == 201
    meant = body | {"buy_below": "900", "ask": True}
    assert client.post(f"{TRS}/decisions", json=meant).status_code == 201


def test_a_decision_is_recorded_refused_and_taken_back(client: TestClient) -> None:
    body = {"verdict": "wait", "words": "later", "buy_below": "54.9", "as_of": "2026-06-30"}
    made = client.post(f"{TRS}/decisions", json=body)
    assert made.status_code == 201
    (kept,) = get(client, f"{TRS}/decisions")
    assert (kept["words"], kept["buy_below"], kept["buy_below_written"]) == ("later", 54.9, "54.9")
    for field, value in (
        ("verdict", "x"),
        ("words", ""),
        ("buy_below", "cheap"),
        ("buy_below", "-3"),
    ):
        refused = client.post(f"{TRS}/decisions", json=body | {field: value})
        assert refused.status_code == 422
        assert refused.json()["field"] == field
    past = client.post(f"{TRS}/decisions", json=body | {"as_of": "2019-05-03"})
    assert past.status_code == 409
    assert client.delete(f"/api/decisions/{kept['id']}").status_code == 204
    assert get(client, f"{TRS}/decisions") == []
    assert client.post(f"/api/decisions/{kept['id']}/restore").status_code == 204


def test_an_empty_household_answers_everywhere(empty_client: TestClient) -> None:
    listing = get(empty_client, "/api/payers")
    assert (listing["rows"], listing["held"], listing["pending"]) == ([], 0, 0)
    assert get(empty_client, "/api/sources") == []
    assert get(empty_client, "/api/status")["newest_price"] is None


def test_every_class_of_error_has_a_status_and_words() -> None:
    def below(c: type) -> set[type]:
        return {c} | {x for s in c.__subclasses__() for x in below(s)}

    for error_class in below(errors.HearthError):
        assert error_class in STATUSES
        extra = {"faults": []} if error_class is errors.RejectedImport else {}
        problem = problem_of(error_class("words", **extra))
        assert problem.detail == "words"
        assert problem.status >= 400


@pytest.mark.parametrize(
    ("path", "name"),
    [
        ("/api/payers/ELV/TRS/review?windw=10", "windw"),
        ("/api/payers/ELV/TRS/worth?inputs=growth:0.03&imputs=growth:0.04", "imputs"),
        ("/api/payers?colums=yield", "colums"),
        ("/api/house-rules?as_of=2026-06-30&weather=fine", "weather"),
    ],
)
def test_a_parameter_that_no_route_knows_is_refused_by_name(
    client: TestClient, path: str, name: str
) -> None:
    refused = client.get(path)
    assert refused.status_code == 422
    assert refused.json()["field"] == name
    assert name not in refused.json()["rule"].split(", ")
