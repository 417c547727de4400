"""A payer that is owned and not reviewed (a fund, a bond), and payers known by their ISIN."""

import json
import re
from typing import Any

import pytest
from fastapi.testclient import TestClient

from tests.conftest import get
from tests.patience import ended, until

FUND = {
    "exchange": "ELV",
    "symbol": "ISLF",
    "name": "Isles Wide Fund",
    "isin": "QS00000ISLF5",
    "kind": "other",
    "country": "Sundrey Isles",
    "currency": "TLL",
}
ISLF = "/api/payers/ELV/ISLF"
ASKED = {"/api/payers/{exchange}/{symbol}/working": {"key": "payer.price"}}


def typed(client: TestClient, table: str, *rows: dict[str, Any]) -> Any:
    return client.post("/api/typed-facts", json={"table": table, "rows": list(rows)})


@pytest.fixture
def with_fund(client: TestClient) -> TestClient:
    assert typed(client, "payers", FUND).status_code == 201
    own = {"exchange": "ELV", "symbol": "ISLF"}
    closes = [own | {"day": f"2026-06-{d}", "close": "20"} for d in ("26", "29", "30")]
    assert typed(client, "prices", *closes).status_code == 201
    paid = [
        own | {"ex_date": f"{y}-05-04", "amount": "0.8", "currency": "TLL"}
        for y in range(2020, 2027)
    ]
    assert typed(client, "dividends", *paid).status_code == 201
    return client


def test_a_fund_is_read_and_not_judged(with_fund: TestClient) -> None:
    review = get(with_fund, f"{ISLF}/review")
    assert (review["tests"], review["state"]) == ([], None)
    figures = {s["id"]: s["figures"] for s in review["stages"]}
    assert figures["range"]["yield"]["value"] == pytest.approx(0.04)
    assert figures["record"]["declared_rate"]["value"] == pytest.approx(0.8)
    assert "debt_to_ebitda" not in figures["footing"]
    said = {s["id"]: s["finding"][0]["text"] for s in review["stages"]}
    assert said["cover"].startswith("Not judged: ")
    assert said["footing"].startswith("Not judged: ")
    assert said["worth"].startswith("Worth unknown: no model is on")
    assert {x["name"] for x in get(with_fund, f"{ISLF}/often-expected")} == {"dividend growth"}


def test_every_view_of_a_fund_answers_and_every_figure_opens(with_fund: TestClient) -> None:
    paths = get(with_fund, "/api/schema")["paths"]
    of_one = [p for p, does in paths.items() if "{symbol}/" in p and "get" in does]
    for path in (p for p in of_one if not re.search(r"\{(?!exchange|symbol)", p)):
        got = with_fund.get(path.format(exchange="ELV", symbol="ISLF"), params=ASKED.get(path, {}))
        assert got.status_code in (200, 409), (path, got.text[:200])
        told = got.json() if "json" in got.headers["content-type"] else {}
        for key in keys_of(told):
            opened = with_fund.get(f"{ISLF}/working", params={"key": key})
            assert opened.status_code == 200, (path, key, opened.text[:200])


def keys_of(part: Any) -> set[str]:
    if isinstance(part, dict):
        own = {part["key"]} if isinstance(part.get("key"), str) and "label" in part else set()
        return own.union(*(keys_of(v) for v in part.values()))
    return set().union(*(keys_of(v) for v in part)) if isinstance(part, list) else set()


def test_it_counts_in_no_state_and_house_rules_ask_nothing_of_it(with_fund: TestClient) -> None:
    with_fund.post("/api/measures")
    before = until(lambda: get(with_fund, "/api/standing"), is_so=lambda x: x["pending"] == 0)
    assert before["unjudged"] == 1
    assert sum(before["states"].values()) == before["held"] - 1
    kinds = [k["id"] for k in get(with_fund, "/api/house-rules")["kinds"]]
    assert "other" not in kinds


def test_of_a_payer_that_is_judged_the_fiscal_year_is_asked(client: TestClient) -> None:
    refused = typed(client, "payers", FUND | {"kind": "company"})
    assert refused.status_code == 422
    (fault,) = refused.json()["faults"]
    assert fault["column"] == "fiscal_year_end_month"
    assert "only a payer of kind other" in fault["expected"]


@pytest.mark.parametrize("isin", ["QS00000ISLF4", "ISLF", "QS00000ISLF52"])
def test_what_is_no_isin_is_refused(client: TestClient, isin: str) -> None:
    refused = typed(client, "payers", FUND | {"isin": isin})
    (fault,) = refused.json()["faults"]
    assert (fault["column"], fault["value"]) == ("isin", isin)
    assert "check digit" in fault["expected"]


def test_a_payer_is_found_by_its_isin(with_fund: TestClient) -> None:
    (found,) = get(with_fund, "/api/names", q="QS00000ISLF5")
    assert (found["symbol"], found["isin"]) == ("ISLF", "QS00000ISLF5")
    assert get(with_fund, "/api/payers", q="qs00000islf5")["found"] == 1


def test_a_file_names_its_payers_by_isin(with_fund: TestClient) -> None:
    trs = get(with_fund, "/api/names", q="TRS")[0]["isin"]
    raw = f"ISIN,Ex-date,Dividend\nQS00000ISLF5,2027-05-04,0.9\n{trs},2027-03-02,2.4\n".encode()
    got = with_fund.post("/api/imports/preview", files={"files": ("paid.csv", raw)}).json()
    (table,) = got["found"][0]["tables"]
    asked = [s["id"] for s in table["settings"] if s["answer"] is None]
    assert not [a for a in asked if "payer" in a or "strangers" in a], asked
    assert not table["left_out"]


def test_a_list_of_payers_brings_their_isins(client: TestClient) -> None:
    lines = (
        "Ticker,Company,ISIN",
        "AA1,Anvil Works,QS0000000AA6",
        "BB1,Bellows Makers,QS0000000BB2",
    )
    raw = "\n".join(lines).encode()
    answers = {"0.exchange": "ELV", "0.country": "Sundrey Isles", "0.currency": "TLL"}
    answers["0.payer_kind"] = "company"
    settled = f'{{"answers": {json.dumps(answers)}}}'
    got = client.post(
        "/api/imports/preview", files={"files": ("payers.csv", raw)}, data={"settled": settled}
    ).json()
    assert {t["table"]: t["added"] for t in got["tables"]} == {"payers": 2}
    job = client.post("/api/imports", json={"token": got["token"], "accepted": []}).json()
    assert ended(client, job["id"])["state"] == "done"
    assert [n["symbol"] for n in get(client, "/api/names", q="QS0000000BB2")] == ["BB1"]


def test_what_is_done_over_every_payer_goes_past_a_fund(with_fund: TestClient) -> None:
    """Looking back, a strain, breadth, signals and other house rules; and it can be compared,
    decided on, printed and exported."""
    for task in ("look-back", "strained-payers?strain=fall:0.2", "signals", "measures"):
        begun = with_fund.post(f"/api/{task}")
        assert begun.status_code < 300, (task, begun.text)
        done = ended(with_fund, begun.json()["id"])
        assert done["state"] == "done", (task, done)
    rules = get(with_fund, "/api/house-rules")["rules"]
    for effect in ("preview", "preview-prices"):
        assert with_fund.post(f"/api/house-rules/{effect}", json=rules).status_code == 200
    assert until(lambda: get(with_fund, "/api/breadth"), is_so=lambda found: found["ready"])
    both = get(with_fund, "/api/compare", payer=["ELV/ISLF", "ELV/TRS"])
    assert [p["symbol"] for p in both["payers"]] == ["ISLF", "TRS"]
    body = {"verdict": "hold", "words": "A fund.", "as_of": "2026-06-30"}
    made = with_fund.post(f"{ISLF}/decisions", json=body)
    assert made.status_code == 201
    id = get(with_fund, f"{ISLF}/decisions")[0]["id"]
    assert with_fund.get(f"/api/decisions/{id}/memo").status_code == 200
    assert get(with_fund, "/api/watch")
    assert get(with_fund, "/api/journal")


def test_a_list_says_which_of_its_payers_are_funds(client: TestClient) -> None:
    raw = b"Ticker,Company,Type\nAA1,Anvil Works,Stock\nIF1,Isles Fund,ETF\nIB1,Isles 2031,Bond\n"
    answers = {"0.exchange": "ELV", "0.country": "Sundrey Isles", "0.currency": "TLL"}
    settled = json.dumps({"answers": answers})
    files = {"files": ("owned.csv", raw)}
    got = client.post("/api/imports/preview", files=files, data={"settled": settled}).json()
    job = client.post("/api/imports", json={"token": got["token"], "accepted": []}).json()
    assert ended(client, job["id"])["state"] == "done"
    kinds = {n: get(client, "/api/names", q=n)[0]["kind"] for n in ("AA1", "IF1", "IB1")}
    assert kinds == {"AA1": "company", "IF1": "other", "IB1": "other"}
