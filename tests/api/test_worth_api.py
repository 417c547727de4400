"""Worth over HTTP: trials, the return path, cases kept under a name."""

from typing import Any

import pytest
from fastapi.testclient import TestClient

from tests.conftest import get

TRS = "/api/payers/ELV/TRS"


def test_a_figure_of_a_trial_opens_its_working(client: TestClient) -> None:
    found = get(client, f"{TRS}/worth/trials", inputs="growth:0.05")
    first = found["moves"][0]
    working = get(client, f"{TRS}/working", key=first["low"]["key"], inputs="growth:0.05")
    assert working["figure"]["value"] == first["low"]["value"]
    implied = next(i for i in found["implied"] if i["id"] == "two_stage")
    working = get(client, f"{TRS}/working", key=implied["takes"]["key"], inputs="growth:0.05")
    assert "gives the price" in working["formula"]


def test_grid_and_chance_answer_for_what_is_asked(client: TestClient) -> None:
    grid = get(client, f"{TRS}/worth/grid", across="mean_yield", down="growth")
    assert (grid["across"]["id"], grid["down"]["id"]) == ("mean_yield", "growth")
    assert len(grid["values"]) == 7
    refused = client.get(f"{TRS}/worth/grid", params={"across": "margin_of_safety"})
    assert (refused.status_code, refused.json()["field"]) == (422, "across")
    chance = get(client, f"{TRS}/worth/chance")
    assert chance["draws"] == 100_000
    assert chance["low"] < chance["median"] < chance["high"]
    off = "two_stage,fading,yield_reversion,own_free_cash_flow,cash_to_equity"
    none = get(client, f"{TRS}/worth/chance", off=off)
    assert none["reason"].startswith("no model is on")
    assert get(client, f"{TRS}/worth/grid", off=off) is None


def test_a_path_is_told_by_measure_and_by_what_makes_it_grow(client: TestClient) -> None:
    plain = get(client, f"{TRS}/worth/path")
    assert plain["measure"] == "earnings"
    parts = sum(p["figure"]["value"] for p in plain["parts"])
    assert parts == pytest.approx(plain["yearly"]["middle"]["value"])
    driven = get(client, f"{TRS}/worth/path", path_by="drivers")
    assert [p["id"] for p in driven["parts"]] == [
        "income",
        "revenue",
        "margin",
        "shares",
        "re_rating",
    ]
    key = driven["parts"][1]["figure"]["key"]
    working = get(client, f"{TRS}/working", key=key, path_by="drivers")
    assert working["figure"]["value"] == driven["parts"][1]["figure"]["value"]
    by_yield = get(client, f"{TRS}/worth/path", path_measure="yield", inputs="path_yield:0.04")
    last = by_yield["years"][-1]
    following = last["dividend"] * (1 + by_yield["inputs"][1]["figure"]["value"])
    assert by_yield["sold_at"]["middle"]["value"] == pytest.approx(following / 0.04)
    refused = client.get(f"{TRS}/worth/path", params={"inputs": "path_yield:0"})
    assert (refused.status_code, refused.json()["field"]) == (422, "path_yield")


def test_reasons_that_cannot_be_read_are_refused(client: TestClient) -> None:
    for text in ("[1]", "{", '{"two_stage":7}', '{"two_stage":"' + "x" * 201 + '"}'):
        refused = client.get(f"{TRS}/worth", params={"reasons": text})
        assert (refused.status_code, refused.json()["field"]) == (422, "reasons")
    held = get(client, f"{TRS}/worth", off="fading", reasons='{"fading":"a guess, no more"}')
    model = next(m for m in held["series"]["models"] if m["id"] == "fading")
    assert model["why_off"] == "switched off by you: a guess, no more"


def keep(client: TestClient, name: str, **question: Any) -> int:
    got = client.put(f"{TRS}/worth/cases", params=question, json={"name": name})
    return got.status_code


def test_cases_are_kept_compared_replaced_and_deleted(client: TestClient) -> None:
    assert keep(client, "careful", inputs="growth:0.03,required_return:0.09") == 204
    assert keep(client, "hopeful", inputs="growth:0.07", on="cash_to_multiple") == 204
    found = get(client, f"{TRS}/worth/cases", inputs="growth:0.05")
    assert [c["name"] for c in found["cases"]] == ["as shown now", "careful", "hopeful"]
    rows = {(r["kind"], r["id"]): r["cells"] for r in found["rows"]}
    assert [c["value"] for c in rows["input", "growth"]] == [0.05, 0.03, 0.07]
    careful = get(client, f"{TRS}/worth", **found["cases"][1]["question"])
    combined = careful["stage"]["figures"]["combined"]["value"]
    assert rows["sum", "combined"][1]["value"] == combined
    assert rows["model", "cash_to_multiple"][0]["value"] is None
    assert rows["model", "cash_to_multiple"][2]["value"] is not None
    assert keep(client, "careful", inputs="growth:0.02") == 204
    again = get(client, f"{TRS}/worth/cases")
    assert [c["name"] for c in again["cases"]][1:] == ["careful", "hopeful"]
    assert again["cases"][1]["question"] == {"inputs": "growth:0.02"}
    assert client.delete(f"/api/worth/cases/{again['cases'][1]['id']}").status_code == 204
    assert client.delete(f"/api/worth/cases/{again['cases'][1]['id']}").status_code == 404
    assert len(get(client, f"{TRS}/worth/cases")["cases"]) == 2


@pytest.mark.parametrize(
    ("name", "question", "field"),
    [
        ("", {"inputs": "growth:0.03"}, "name"),
        ("empty", {}, "inputs"),
        ("wrong", {"inputs": "growth:9"}, "growth"),
    ],
)
def test_a_case_that_cannot_be_is_refused_by_name(
    client: TestClient, name: str, question: dict[str, Any], field: str
) -> None:
    got = client.put(f"{TRS}/worth/cases", params=question, json={"name": name})
    assert (got.status_code, got.json()["field"]) == (422, field)


def test_a_payer_keeps_so_many_cases_and_no_more(client: TestClient) -> None:
    for n in range(12):
        assert keep(client, f"case {n}", inputs=f"growth:0.0{n + 10}") == 204
    assert keep(client, "one more", inputs="growth:0.01") == 422
    assert keep(client, "case 3", inputs="growth:0.01") == 204
