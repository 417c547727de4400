"""House rules over HTTP: what a change would do, saving, restoring, exceptions, refusals."""

from typing import Any

import pytest
from fastapi.testclient import TestClient

from hearth_yield.store.database import Database
from tests.conftest import get
from tests.databases import PAYERS, client_of
from tests.patience import ended

TRS = "/api/payers/ELV/TRS"


def held(client: TestClient) -> Any:
    return get(client, "/api/house-rules")


def with_limit(rules: Any, kind: str, test: str, value: float, required: bool = True) -> Any:
    mine = {**rules["limits"].get(kind, {}), test: {"value": value, "required": required}}
    return {**rules, "limits": {**rules["limits"], kind: mine}}


def preview(client: TestClient, rules: Any) -> Any:
    got = client.post("/api/house-rules/preview", json=rules)
    assert got.status_code == 200, got.text
    return got.json()


def save(client: TestClient, rules: Any, note: str = "") -> int:
    got = client.put("/api/house-rules", json={"rules": rules, "note": note})
    assert got.status_code == 201, got.text
    version: int = got.json()["version"]
    return version


def test_what_a_change_would_do_is_what_it_does(client: TestClient) -> None:
    before = held(client)
    assert (before["version"], before["versions"]) == (0, [])
    rules = with_limit(before["rules"], "company", "debt_to_ebitda", 0.5)
    effect = preview(client, rules)
    moved = {m["symbol"]: m for m in effect["moved"]}
    was = get(client, f"{TRS}/review")["state"]
    assert (moved["TRS"]["before"], moved["TRS"]["after"]) == (was, "outside")
    assert sum(effect["after"].values()) == sum(effect["before"].values())

    assert save(client, rules, "less debt") == 1
    review = get(client, f"{TRS}/review")
    assert review["state"] == "outside"
    (test,) = [t for t in review["tests"] if t["id"] == "debt_to_ebitda"]
    assert (test["limit"], test["exempt"]) == (0.5, None)
    after = held(client)
    assert (after["version"], after["versions"][0]["note"]) == (1, "less debt")
    assert preview(client, after["rules"])["changed"] == 0

    assert client.post("/api/house-rules/0/restore").json() == {"version": 2}
    assert get(client, f"{TRS}/review")["state"] == was
    assert client.post("/api/house-rules/1/restore").json() == {"version": 3}
    assert get(client, f"{TRS}/review")["state"] == "outside"
    assert client.post("/api/house-rules/9/restore").status_code == 404


def test_an_exception_counts_for_its_sector_and_a_payers_own_before_it(client: TestClient) -> None:
    rules = held(client)["rules"]
    sector = get(client, f"{TRS}/review")["payer"]["sector"]["value"]

    def own(scope: str, name: str, value: float) -> Any:
        limit = {"value": value, "required": True}
        return {"scope": scope, "name": name, "measure": "debt_to_assets", "limit": limit}

    of_sector = own("sector", sector, 0.05)
    assert {m["symbol"] for m in preview(client, rules | {"exemptions": [of_sector]})["moved"]} > {
        "TRS"
    }
    both = rules | {"exemptions": [of_sector, own("payer", "ELV/TRS", 0.80)]}
    assert "TRS" not in {m["symbol"] for m in preview(client, both)["moved"]}
    save(client, both)
    (test,) = [t for t in get(client, f"{TRS}/review")["tests"] if t["id"] == "debt_to_assets"]
    assert (test["limit"], test["exempt"]) == (0.80, "your limit for it alone")


def test_a_past_day_is_judged_by_the_rules_of_today(client: TestClient) -> None:
    day = "2012-06-29"
    before = get(client, f"{TRS}/review", as_of=day)["state"]
    rules = with_limit(held(client)["rules"], "company", "payout", 0.05)
    save(client, rules)
    assert before != "outside"
    assert get(client, f"{TRS}/review", as_of=day)["state"] == "outside"


@pytest.mark.parametrize(
    ("change", "field"),
    [
        ({"settings": {"luck": 1}}, "settings"),
        ({"settings": {"margin_of_safety": 2}}, "margin_of_safety"),
        ({"settings": {"fade_years": 7.5}}, "fade_years"),
        ({"returns": {"company": 3}}, "required_returns"),
        ({"limits": {"company": {"luck": {"value": 1, "required": True}}}}, "limits"),
        ({"limits": {"company": {"payout": {"value": 0, "required": True}}}}, "limits"),
        (
            {
                "exemptions": [
                    {
                        "scope": "sector",
                        "name": "Rope",
                        "measure": "luck",
                        "limit": {"value": 1, "required": True},
                    }
                ]
            },
            "exemptions",
        ),
    ],
)
def test_rules_that_cannot_be_are_refused_by_field(
    client: TestClient, change: Any, field: str
) -> None:
    rules = held(client)["rules"]
    for got in (
        client.post("/api/house-rules/preview", json=rules | change),
        client.put("/api/house-rules", json={"rules": rules | change}),
    ):
        assert (got.status_code, got.json()["field"]) == (422, field)
    assert held(client)["version"] == 0


def test_looking_back_runs_in_the_background_and_is_kept_until_facts_change(
    twenty: Database,
) -> None:
    client = client_of(twenty)
    rules = held(client)["rules"]
    assert get(client, "/api/look-back") == {
        "ready": False,
        "payers": 0,
        "year_ends": 0,
        "left_out": [],
        "job": None,
    }
    early = client.post("/api/look-back/verdict", json=rules)
    assert (early.status_code, early.json()["field"]) == (404, "as_of")
    job = client.post("/api/look-back").json()
    client.delete(f"/api/jobs/{job['id']}")
    ended(client, job["id"])
    assert not get(client, "/api/look-back")["ready"]
    again = client.post("/api/look-back").json()
    assert ended(client, again["id"])["state"] == "done"
    status = get(client, "/api/look-back")
    assert (status["ready"], status["payers"]) == (True, PAYERS)

    verdict = client.post("/api/look-back/verdict", json=rules).json()
    assert verdict["cuts"] == len(verdict["rows"]) > PAYERS / 5
    assert verdict["flagged"] + verdict["missed"] + verdict["unknown"] == verdict["cuts"]
    assert verdict["alarms"] + verdict["calm"] == verdict["year_ends"]
    loose = with_limit(rules, "company", "payout", 5.0)
    milder = client.post("/api/look-back/verdict", json=loose).json()
    assert milder["false_alarms"] < verdict["false_alarms"]
    asked = {"rules": rules, "measure": "payout", "kind": "company"}
    assert len(client.post("/api/look-back/curve", json=asked).json()) > 10
    refused = client.post("/api/look-back/curve", json=asked | {"measure": "luck"})
    assert (refused.status_code, refused.json()["field"]) == (422, "measure")

    save(client, rules, "the same")
    assert get(client, "/api/look-back")["ready"]
    client = client_of(twenty)  # started again
    assert get(client, "/api/look-back")["year_ends"] == status["year_ends"]
    assert client.post("/api/look-back/verdict", json=rules).json() == verdict
    edit = {"table": "prices", "key": {"day": "2026-06-30"}, "reason": "a misread close"}
    assert client.post(f"{TRS}/exclusions", json=edit).status_code == 201
    assert not get(client, "/api/look-back")["ready"]


def test_a_dearer_required_return_lowers_what_one_would_pay(whole_client: TestClient) -> None:
    rules = held(whole_client)["rules"]
    dearer = rules | {"returns": {k: v + 0.01 for k, v in rules["returns"].items()}}
    address = "/api/house-rules/preview-prices"
    found = whole_client.post(address, json=dearer).json()
    assert found["moved"] > 30
    assert found["by"] < 0
    assert found["in_reach"]["then"] <= found["in_reach"]["now"]
    same = whole_client.post(address, json=rules).json()
    assert (same["moved"], same["by"], same["crossings"]) == (0, None, [])
    before = get(whole_client, f"{TRS}/review")
    save(whole_client, dearer)
    crossed = {c["symbol"]: c for c in found["crossings"]}
    for symbol, row in list(crossed.items())[:3]:
        stages = get(whole_client, f"/api/payers/{row['exchange']}/{symbol}/review")["stages"]
        worth = next(s for s in stages if s["id"] == "worth")
        assert worth["figures"]["buy_below"]["value"] == pytest.approx(row["after"])
    assert get(whole_client, f"{TRS}/review") != before


def test_a_higher_tax_takes_from_what_is_kept_of_a_return(client: TestClient) -> None:
    rules = held(client)["rules"]
    taxed = rules | {"settings": rules["settings"] | {"dividend_tax": 0.25, "market_return": 0.2}}
    found = client.post("/api/house-rules/preview-prices", json=taxed).json()
    assert found["moved"] == 0
    assert found["after_tax"]["then"] < found["after_tax"]["now"]
    assert found["beats_market"]["then"] < found["beats_market"]["now"]
