"""Decisions with expectations, and the journal that holds them against what came."""

from datetime import date
from decimal import Decimal
from typing import Any

import pytest
from fastapi.testclient import TestClient

from hearth_yield.actions.decide import Memo, decide
from hearth_yield.actions.review_cache import ReviewCache
from hearth_yield.core.expecting.expectation import Expectation, Side, Way
from hearth_yield.core.question import Question
from hearth_yield.store.database import Database
from tests.conftest import get
from tests.databases import client_of

TODAY = "2026-06-30"
GROWS = {
    "measure": "declared_rate",
    "way": "growth",
    "side": "at_least",
    "value": 0.05,
    "until": "2029-12-31",
}


def record(client: TestClient, **more: Any) -> Any:
    body = {"verdict": "hold", "words": "Steady.", "as_of": TODAY, **more}
    return client.post("/api/payers/ELV/TRS/decisions", json=body)


def test_a_decision_keeps_its_memo_and_what_its_expectations_were_said_of(
    client: TestClient,
) -> None:
    made = record(
        client,
        pros="29 raises",
        cons="Close to a limit",
        risks="Tallow prices",
        trim_above="75.5",
        next_look="2026-12-01",
        expectations=[GROWS],
    )
    assert made.status_code == 201, made.text
    (held,) = get(client, "/api/payers/ELV/TRS/decisions")
    assert (held["pros"], held["trim_above"], held["next_look"]) == (
        "29 raises",
        75.5,
        "2026-12-01",
    )
    (expected,) = held["expectations"]
    assert expected["then"] == pytest.approx(1.98, abs=0.01)
    assert (expected["track"], expected["unit"]) == ("unknown", "fraction")


@pytest.mark.parametrize(
    ("more", "field"),
    [
        ({"next_look": TODAY}, "next_look"),
        ({"trim_above": "0"}, "trim_above"),
        ({"expectations": [GROWS | {"measure": "nothing"}]}, "expectations"),
        ({"expectations": [GROWS | {"until": "2020-01-01"}]}, "expectations"),
        ({"expectations": [GROWS] * 13}, "expectations"),
    ],
)
def test_a_memo_that_cannot_be_is_refused_by_field(
    client: TestClient, more: dict[str, Any], field: str
) -> None:
    refused = record(client, **more)
    assert (refused.status_code, refused.json()["field"]) == (422, field)
    assert get(client, "/api/payers/ELV/TRS/decisions") == []


@pytest.fixture
def decided(demo: Database) -> Database:
    """Two decisions of five years ago."""
    cache, day = ReviewCache(demo), date(2021, 6, 30)
    for symbol, verdict, growth in (("TRS", "buy", 0.02), ("CRF", "avoid", 0.5)):
        expectation = Expectation(
            measure="declared_rate",
            way=Way.GROWTH,
            side=Side.AT_LEAST,
            value=growth,
            until=date(2025, 6, 30),
            then=None,
        )
        decide(
            cache,
            "ELV",
            symbol,
            today=day,
            as_of=day,
            recorded_at="2021-06-30T10:00:00+00:00",
            verdict=verdict,
            words="As it stands.",
            buy_below=None,
            question=Question(),
            memo=Memo(expectations=[expectation]),
        )
    return demo


@pytest.mark.parametrize(("below", "counts"), [("40", "wait"), ("900", "buy")])
def test_a_decision_to_buy_counts_as_waiting_until_its_price_is_reached(
    twenty: Database, below: str, counts: str
) -> None:
    """Decided a year before at 40, under every close since; at 900 it was reached on the day."""
    day = date(2025, 6, 30)
    decide(
        ReviewCache(twenty),
        "ELV",
        "TRS",
        today=day,
        as_of=day,
        recorded_at="2025-06-30T10:00:00+00:00",
        verdict="buy",
        words="At the right price.",
        buy_below=Decimal(below),
        question=Question(),
    )
    with client_of(twenty) as client:
        found = get(client, "/api/journal")
    (entry,) = found["entries"]
    assert (entry["verdict"], entry["waiting"]) == ("buy", counts == "wait")
    assert [r["verdict"] for r in found["by_verdict"]] == [counts]


def test_the_journal_tells_what_became_of_each(decided: Database) -> None:
    with client_of(decided) as client:
        found = get(client, "/api/journal")
        assert [e["symbol"] for e in found["entries"]] == ["CRF", "TRS"]
        tracks = {e["symbol"]: e["expectations"][0]["track"] for e in found["entries"]}
        assert tracks["TRS"] == "met"
        assert (found["held"], found["judged"]) == (
            sum(t == "met" for t in tracks.values()),
            sum(t != "unknown" for t in tracks.values()),
        )
        buy = next(r for r in found["by_verdict"] if r["verdict"] == "buy")
        trs = next(e for e in found["entries"] if e["symbol"] == "TRS")
        since = trs["since"]
        assert buy["mean_total"] == since["total"]["value"]
        (became,) = trs["expectations"]
        assert became["reason"] == ""
        for name in ("now", "wanted"):
            opened = get(client, "/api/payers/ELV/TRS/working", key=became[name]["key"])
            assert opened["figure"]["value"] == became[name]["value"]
        assert (
            "÷" in get(client, "/api/payers/ELV/TRS/working", key=became["now"]["key"])["formula"]
        )
        for wrong in ("expected.999.0.value", "expected.1.9.value", "expected.1.0.then"):
            get(client, "/api/payers/ELV/TRS/working", 404, key=wrong)
        get(client, "/api/payers/ELV/CRF/working", 404, key=became["now"]["key"])
        for name in ("price", "total", "market", "against_market"):
            asked = {"key": since[name]["key"], "span": since["span"]}
            opened = get(client, "/api/payers/ELV/TRS/working", **asked)
            assert opened["figure"] == since[name]
        price = get(client, "/api/payers/ELV/TRS/range/price", span="2021-06-30..2026-06-30")
        assert price["span"]["total"]["value"] == pytest.approx(since["total"]["value"])


def test_a_past_day_of_the_journal_knows_only_that_day(decided: Database) -> None:
    with client_of(decided) as client:
        assert get(client, "/api/journal", as_of="2021-06-29")["found"] == 0
        then = get(client, "/api/journal", as_of="2022-01-31")
        assert {e["expectations"][0]["track"] for e in then["entries"]} == {"unknown"}


def test_a_note_on_looking_back_is_all_that_changes(decided: Database) -> None:
    with client_of(decided) as client:
        before = get(client, "/api/journal")["entries"]
        address = f"/api/decisions/{before[0]['id']}/looked-back"
        assert client.put(address, json={"words": "Too cautious."}).status_code == 204
        after = get(client, "/api/journal")["entries"]
        assert after[0]["looked_back"] == "Too cautious."
        assert [e | {"looked_back": ""} for e in after] == before
        assert client.put("/api/decisions/99/looked-back", json={"words": "x"}).status_code == 404


def test_what_is_often_expected_stands_at_the_limits_of_the_payers_kind(client: TestClient) -> None:
    """Of a bank no debt to EBITDA is held against anything; a trust may pay out more, and carries
    more debt; a person's own limit is the one that is offered."""
    found = {who: often(client, who) for who in ("TRS", "ORCF", "PLG")}
    assert found["TRS"]["payout"] == ("payout", "throughout", "at_most", 0.6)
    assert found["TRS"]["dividend growth"] == ("declared_rate", "growth", "at_least", 0.05)
    assert found["ORCF"]["debt"] == ("debt_to_ebitda", "level", "at_most", 6.5)
    assert found["ORCF"]["payout"][3] == 0.85
    assert found["PLG"].keys() == {"dividend growth", "payout", "share count"}
    rules = get(client, "/api/house-rules")["rules"]
    limits = {"company": {"payout": {"value": 0.55, "required": True}}}
    body = {"rules": rules | {"limits": limits}, "note": ""}
    assert client.put("/api/house-rules", json=body).status_code == 201
    assert often(client, "TRS")["payout"][3] == 0.55


def often(client: TestClient, who: str) -> dict[str, tuple[str, str, str, float]]:
    found = get(client, f"/api/payers/ELV/{who}/often-expected")
    return {o["name"]: (o["measure"], o["way"], o["side"], o["value"]) for o in found}
