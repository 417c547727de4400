"""The Payers place over HTTP: searches, windows, groups, saved views, measures in the making."""

import json
import threading
from typing import Any

import pytest
from fastapi.testclient import TestClient

from hearth_yield.actions.ensure_measures import ensure_measures
from hearth_yield.actions.find_payers import Found, find_payers
from tests.conftest import get
from tests.patience import SECONDS, ended, until

WHERE = {"join": "all", "parts": [{"id": "yield", "op": "at_least", "value": 0.04}]}


def ready(client: TestClient, **params: Any) -> Any:
    """The listing once its measures are made, which asking for it does not do by itself."""
    day = {"as_of": params["as_of"]} if "as_of" in params else {}
    client.post("/api/measures", params=day)
    return until(
        lambda: get(client, "/api/payers", **params), is_so=lambda found: found["pending"] == 0
    )


def test_a_search_is_a_window_on_what_it_found(client: TestClient) -> None:
    search = {"where": json.dumps(WHERE), "sort": "yield"}
    asked = search | {"columns": "yield,kind"}
    whole = get(client, "/api/payers", **asked)
    values = [r["cells"]["yield"]["value"] for r in whole["rows"]]
    assert values == sorted(values)
    assert min(values) >= 0.04
    assert whole["counts"] == [whole["found"]] == [len(values)]
    window = get(client, "/api/payers", **asked, first=2, count=3)
    assert window["rows"] == whole["rows"][2:5]
    assert window["found"] == whole["found"]
    assert get(client, "/api/payers/keys", **search) == [
        {"exchange": r["exchange"], "symbol": r["symbol"]} for r in whole["rows"]
    ]


def test_figures_of_the_table_open_their_working(client: TestClient) -> None:
    columns = "yield,payout,growth_10,price_against_buy_below,cushion"
    rows = get(client, "/api/payers", columns=columns)["rows"]
    for row in rows[:4]:
        for cell in row["cells"].values():
            path = f"/api/payers/{row['exchange']}/{row['symbol']}/working"
            opened = get(client, path, key=cell["key"])
            assert opened["figure"]["value"] == cell["value"]


def test_a_past_day_is_made_in_the_background_when_asked_and_says_so(client: TestClient) -> None:
    first = get(client, "/api/payers", as_of="2015-06-30")
    assert first["pending"] == first["held"] > 0
    assert first["job"] is None  # a GET makes nothing
    assert not any(r["ready"] for r in first["rows"])
    job = client.post("/api/measures", params={"as_of": "2015-06-30"}).json()
    assert job["state"] in ("running", "done")
    done = ready(client, as_of="2015-06-30")
    assert all(r["ready"] and r["state"] for r in done["rows"])


def test_a_task_that_ends_while_it_is_asked_about_is_asked_about_again(
    client: TestClient, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Else the page would be told of measures to come and of a task that is over, and wait."""
    day = {"as_of": "2013-06-30"}
    here = client.app.state.context  # type: ignore[attr-defined]
    begun = threading.Event()

    def found_before_the_end(*asked: Any) -> Found:
        found = find_payers(*asked)
        begun.set()
        job.thread.join(SECONDS)
        return found

    monkeypatch.setattr("hearth_yield.api.payers.find_payers", found_before_the_end)
    making, held_back = ensure_measures, threading.Event()

    def after_being_asked(*asked: Any) -> None:
        begun.wait(SECONDS)
        making(*asked)
        held_back.set()

    monkeypatch.setattr("hearth_yield.api.context.ensure_measures", after_being_asked)
    job = here.jobs.get(client.post("/api/measures", params=day).json()["id"])
    listing = get(client, "/api/payers", **day)
    assert held_back.is_set()
    assert listing["pending"] > 0
    assert listing["job"]["state"] == "running"
    again = get(client, "/api/payers", **day)
    assert (again["pending"], again["job"]) == (0, None)


def test_making_is_cancelled_and_taken_up_again(whole_client: TestClient) -> None:
    job = whole_client.post("/api/measures", params={"as_of": "2014-06-30"}).json()
    whole_client.delete(f"/api/jobs/{job['id']}")
    assert ended(whole_client, job["id"])["state"] == "cancelled"
    listing = get(whole_client, "/api/payers", as_of="2014-06-30")
    assert listing["pending"] > 0
    assert listing["job"]["state"] == "cancelled"
    asked = {"as_of": "2014-06-30", "again": True}
    assert whole_client.post("/api/measures", params=asked).json()["state"] == "running"
    assert ready(whole_client, as_of="2014-06-30")["held"]


def test_groups_hold_all_that_was_found(client: TestClient) -> None:
    held = get(client, "/api/payers")["held"]
    for by in ("sector", "kind"):
        found = get(client, "/api/payers/groups", by=by, columns="yield,kind,payout")
        assert sum(g["payers"] for g in found) == held
        assert all(set(g["summaries"]) == {"yield", "payout"} for g in found)
        for g in found:
            s = g["summaries"]["yield"]
            assert s["n"] == 0 or s["lower"] <= s["median"] <= s["upper"]


def test_measures_name_their_unit_and_choices_their_words(client: TestClient) -> None:
    found = {m["id"]: m for m in get(client, "/api/catalogue")["measures"]}
    assert found["yield"]["unit"] == "yield"
    assert found["deviation"]["words"] == "yield above its 5-year mean by {}"
    assert found["deviation"]["turned"] == "yield below its 5-year mean by {}"
    assert (found["deviation"]["under"], found["yield"]["under"]) == ("below", None)
    assert {c["word"] for c in found["kind"]["choices"]} == {
        "company",
        "financial",
        "partnership",
        "property_trust",
    }


@pytest.mark.parametrize(
    ("path", "params", "field"),
    [
        ("/api/payers", {"sort": "colour"}, "sort"),
        ("/api/payers", {"columns": "colour"}, "columns"),
        ("/api/payers", {"where": "not json"}, "where"),
        ("/api/payers", {"where": '{"join":"all","parts":[{"id":"x","op":"is"}]}'}, "where"),
        ("/api/payers", {"where": '{"join":"all","parts":[' + "1," * 9000 + "1]}"}, "where"),
        ("/api/payers/groups", {"by": "colour"}, "by"),
    ],
)
def test_what_cannot_be_asked_is_refused_by_field(
    client: TestClient, path: str, params: dict[str, str], field: str
) -> None:
    got = client.get(path, params=params)
    assert got.status_code == 422
    assert (got.json()["field"], bool(got.json()["rule"])) == (field, True)


def test_searches_and_columns_are_saved_replaced_and_removed(client: TestClient) -> None:
    def put(**body: Any) -> int:
        return client.put("/api/saved", json=body).status_code

    assert put(name="High", search={"where": WHERE, "sort": "yield"}) == 204
    assert put(name="High", search={"where": WHERE, "sort": "raises"}) == 204
    assert put(name="Mine", columns={"columns": ["yield", "dividends", "first"]}) == 204
    found = {v["name"]: v for v in get(client, "/api/saved")}
    assert found["High"]["search"]["sort"] == "raises"
    assert found["Mine"]["columns"]["columns"] == ["yield", "dividends", "first"]
    assert client.delete(f"/api/saved/{found['High']['id']}").status_code == 204
    assert client.delete(f"/api/saved/{found['High']['id']}").status_code == 404
    assert [v["name"] for v in get(client, "/api/saved")] == ["Mine"]


@pytest.mark.parametrize(
    "body",
    [
        {"name": ""},
        {"name": "neither"},
        {"name": "bad column", "columns": {"columns": ["colour"]}},
        {"name": "no columns", "columns": {"columns": []}},
        {"name": "long" * 30, "search": {}},
    ],
)
def test_views_that_say_nothing_are_not_saved(client: TestClient, body: dict[str, Any]) -> None:
    assert client.put("/api/saved", json=body).status_code == 422
    assert get(client, "/api/saved") == []


def test_many_payers_are_exported_by_post(client: TestClient) -> None:
    got = client.post("/api/export", json={"payers": ["ELV/TRS", "ELV/GWK"]})
    assert got.headers["content-type"] == "application/zip"
    assert client.post("/api/export", json={"payers": ["ELV/NOPE"]}).status_code == 404


def test_the_currency_of_most_found_heads_their_amounts(client: TestClient) -> None:
    assert get(client, "/api/payers")["currency"] == "TLL"
    where = {"join": "all", "parts": [{"id": "country", "op": "is", "words": ["Thornmark"]}]}
    assert get(client, "/api/payers", where=json.dumps(where))["currency"] == "THK"
    assert get(client, "/api/payers", q="nobody at all")["currency"] is None


def test_measures_are_listed_by_stage_and_basis(whole_client: TestClient) -> None:
    found = {m["id"]: m for m in get(whole_client, "/api/catalogue")["measures"]}
    assert found["free_cash_flow_payout"]["group"] == "free cash flow"
    assert found["payout"]["group"] is None
    assert found["affo_cycle"]["stage"] == "cover"
    industries = {c["word"]: c["payers"] for c in found["industry"]["choices"]}
    assert sum(industries.values()) == 59  # one is delisted
    assert len(industries) == 17


def test_a_trust_is_searched_by_its_ffo(whole_client: TestClient) -> None:
    where = {"join": "all", "parts": [{"id": "ffo_payout", "op": "known"}]}
    rows = get(whole_client, "/api/payers", where=json.dumps(where), columns="ffo_payout")["rows"]
    assert {r["kind"] for r in rows} == {"property_trust"}
    assert len(rows) == 8


def test_what_gives_first_says_that_it_rests_on_an_adjusted_figure(client: TestClient) -> None:
    (row,) = get(client, "/api/payers", q="marlpit")["rows"]
    key = row["first"]["cushion"]["key"]
    asked = {"key": key, "path": "0.0.0"}
    fact = client.get("/api/payers/ELV/MRB/working", params=asked).json()
    assert fact["fact"]["table"] == "dividends"
    made = {
        "table": "dividends",
        "key": fact["fact"]["key"],
        "field": "amount",
        "value": fact["fact"]["raw"] * 1.01,
        "reason": "rounding",
    }
    assert client.post("/api/payers/ELV/MRB/edits", json=made).status_code == 201
    (row,) = ready(client, q="marlpit")["rows"]
    assert row["first"]["cushion"]["touch"] == "edited"


def test_an_address_of_before_still_finds_what_is_outside_its_limits(client: TestClient) -> None:
    def found(word: str) -> list[str]:
        where = {"join": "all", "parts": [{"id": "state", "op": "is", "words": [word]}]}
        rows = get(client, "/api/payers", where=json.dumps(where))["rows"]
        return [r["symbol"] for r in rows]

    assert found("over") == found("outside")
    assert "GWK" in found("over")
