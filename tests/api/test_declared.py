"""A measure, a model and a quantity that are declared in one place are found everywhere."""

import json
from collections.abc import Iterator
from datetime import date
from typing import Any

import pytest
from fastapi.testclient import TestClient

from hearth_yield.actions.ensure_measures import ensure_measures
from hearth_yield.core.figures.figure import Unit
from hearth_yield.core.figures.measure import Stage, measure
from hearth_yield.core.judging.house_rules import HouseRules
from hearth_yield.core.range.multiples import QUANTITIES
from hearth_yield.core.range.quantity import YIELD, Quantity
from hearth_yield.core.record.declared_rate import rate_steps
from hearth_yield.core.stages import MEASURES
from hearth_yield.store.database import Database
from tests.conftest import get
from tests.databases import client_of
from tests.declared import throw_away_measure, throw_away_model  # noqa: F401 - fixtures

TRS = "/api/payers/ELV/TRS"
DAY = date(2026, 6, 30)


@pytest.fixture
def client(demo: Database) -> Iterator[TestClient]:
    with client_of(demo) as opened:
        yield opened


@pytest.mark.usefixtures("throw_away_measure")
def test_a_declared_measure_is_found_everywhere(client: TestClient, demo: Database) -> None:
    review = get(client, f"{TRS}/review")
    record = review["stages"][0]
    held = record["figures"]["payments_held"]
    assert held["value"] > 100
    assert get(client, f"{TRS}/working", key=held["key"])["formula"] == "payments, counted"
    (shown,) = [k for k in record["key_figures"] if k["id"] == "payments_held"]
    assert shown["note"][0]["text"] == "counted one by one"
    (test,) = [t for t in review["tests"] if t["id"] == "payments_held"]
    assert (test["limit"], test["falls"], test["short"]) == (100, "the count", "payments held")
    assert test["cushion"]["value"] == pytest.approx(1 - 100 / held["value"])

    found = get(client, "/api/catalogue")
    assert "payments_held" in {m["id"] for m in found["measures"]}
    assert next(s for s in found["sets"] if s["id"] == "record")["columns"][0] == "payments_held"

    ensure_measures(demo, HouseRules(close_under=0.11), DAY)  # the rules differ: made again
    ensure_measures(demo, HouseRules(), DAY)
    where = '{"join":"all","parts":[{"id":"payments_held","op":"at_least","value":100}]}'
    rows = get(client, "/api/payers", columns="payments_held", where=where, sort="payments_held")
    assert 0 < rows["found"] < rows["held"]
    cells = [r["cells"]["payments_held"] for r in rows["rows"]]
    assert [c["value"] for c in cells] == sorted(c["value"] for c in cells)
    assert cells[0]["key"] == held["key"]

    sets = {s["id"]: s["lines"] for s in get(client, "/api/compare/sets")}
    assert sets["record"].startswith("payments_held:high:1,")
    (strip,) = get(client, f"{TRS}/footing/peers")["strips"][:1]
    assert (strip["id"], strip["words"]) == ("payments_held", "more payments")

    body = {"verdict": "hold", "words": "counted", "as_of": "2026-06-30"}
    assert client.post(f"{TRS}/decisions", json=body).status_code == 201
    (decision,) = get(client, f"{TRS}/decisions")
    (kept,) = [c for c in decision["changes"] if c["key"] == held["key"]]
    assert (kept["then"], kept["moved"]) == (held["value"], False)


def test_a_measure_that_was_not_kept_is_not_read_for_another(
    client: TestClient, demo: Database, monkeypatch: pytest.MonkeyPatch
) -> None:
    """What is kept stands under its own id, whatever order it was kept in; what was declared since
    is unknown until it is made."""
    asked = "yield,declared_rate,raises"
    before = get(client, "/api/payers", columns=asked)
    with demo.write() as connection:
        for payer, text in connection.exec_driver_sql("SELECT payer_id, body FROM kept_measures"):
            held = json.loads(text)
            held["values"] = dict(reversed(held["values"].items()))
            connection.exec_driver_sql(
                "UPDATE kept_measures SET body = ? WHERE payer_id = ?", (json.dumps(held), payer)
            )
    assert get(client, "/api/payers", columns=asked)["rows"] == before["rows"]
    new = measure(
        Stage.PAYER, "declared_since", "Since", Unit.COUNT, lambda _: None, better="neither"
    )
    monkeypatch.setitem(MEASURES, new.id, new)
    row = get(client, "/api/payers", columns=new.id, sort=new.id)["rows"][0]
    cell = row["cells"][new.id]
    assert (cell["value"], cell["reason"]) == (None, "not made yet")


@pytest.mark.usefixtures("throw_away_model")
def test_a_declared_model_is_priced_moved_switched_and_combined(client: TestClient) -> None:
    def priced(**query: str) -> tuple[dict[str, Any], dict[str, Any]]:
        answer = get(client, f"{TRS}/worth", **query)
        (mine,) = [m for m in answer["series"]["models"] if m["id"] == "years_of_dividends"]
        return answer, mine

    rate = get(client, f"{TRS}/review")["stages"][0]["figures"]["declared_rate"]["value"]
    answer, model = priced()
    assert [model[c]["value"] for c in ("low", "middle", "high")] == pytest.approx(
        [rate * 15, rate * 20, rate * 25]
    )
    assert model["takes"] == ["years_of_it", "weight"]
    (field,) = [i for i in answer["series"]["inputs"] if i["id"] == "years_of_it"]
    assert (field["label"], field["origin"], field["figure"]["value"]) == (
        "Years of it",
        "a guess",
        20,
    )
    models = answer["series"]["models"]
    on = [m["middle"]["value"] for m in models if m["on"] and m["answers"] == "dividends"]
    combined = answer["stage"]["figures"]["combined"]["value"]
    assert rate * 20 in on
    held = {a["id"]: a for a in answer["series"]["answers"]}
    assert held["dividends"]["middle"]["value"] == pytest.approx(sum(on) / len(on))
    parts = [a["share"]["value"] * a["middle"]["value"] for a in held.values()]
    assert combined == pytest.approx(sum(parts))

    answer, model = priced(inputs="years_of_it:10,weight:2")
    assert model["middle"]["value"] == pytest.approx(rate * 20)
    (field,) = [i for i in answer["series"]["inputs"] if i["id"] == "years_of_it"]
    assert (field["origin"], field["figure"]["value"]) == ("yours", 10)

    answer, model = priced(off="years_of_dividends")
    assert (model["on"], model["why_off"]) == (False, "switched off by you")
    assert answer["stage"]["figures"]["combined"]["value"] != pytest.approx(combined)
    refused = client.get(f"{TRS}/worth", params={"inputs": "years_of_it:90"})
    assert (refused.status_code, refused.json()["field"]) == (422, "years_of_it")


def test_a_declared_quantity_has_the_whole_ruler(
    client: TestClient, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Price over dividend: the yield turned over, so its statistics follow from the yield's."""
    turned = Quantity(
        id="price_to_dividend",
        name="price to dividend",
        short="dividend",
        unit=Unit.MULTIPLE,
        base=YIELD.base,
        base_name="declared rate",
        steps=rate_steps,
        value=lambda rate, price, _: price / rate,
        price=lambda rate, value, _: rate * value,
        formula="price ÷ declared rate",
        price_formula="declared rate × {}",
        nothing="nothing is being paid",
        by_hand=YIELD.by_hand,
        cheap_when_high=False,
        typical="mean",
    )
    monkeypatch.setitem(QUANTITIES, turned.id, turned)
    plain = get(client, f"{TRS}/review", aim="0.04")
    other = get(client, f"{TRS}/review", quantity=turned.id, aim="25")
    yields, ruler = get(client, f"{TRS}/range"), get(client, f"{TRS}/range", quantity=turned.id)
    assert (ruler["name"], ruler["unit"]) == ("price to dividend", "multiple")
    assert ruler["figures"]["now"]["value"] == pytest.approx(1 / yields["figures"]["now"]["value"])
    assert ruler["figures"]["lower_quartile"]["value"] == pytest.approx(
        1 / yields["figures"]["upper_quartile"]["value"], rel=1e-3
    )
    assert other["aim"]["target_price"]["value"] == pytest.approx(
        plain["aim"]["target_price"]["value"]
    )
    assert other["aim"]["weeks_offered"]["value"] == plain["aim"]["weeks_offered"]["value"]
    assert other["aim"]["closes_52"]["value"] == plain["aim"]["closes_52"]["value"]
