"""Holdings over the API: accounts, entries, positions with their working."""

from __future__ import annotations

import json
from typing import Any

import pytest
from fastapi.testclient import TestClient

from tests.conftest import get

TRS = {"exchange": "ELV", "symbol": "TRS"}


@pytest.fixture
def account(client: TestClient) -> int:
    return opened(client)


def opened(client: TestClient, **more: object) -> int:
    made = client.post("/api/accounts", json={"name": "Main", "currency": "tll"} | more)
    assert made.status_code == 201, made.text
    return int(made.json()["id"])


def enter(client: TestClient, account: int, kind: str, day: str, **more: Any) -> Any:
    body = {"account": account, "kind": kind, "day": day, **TRS, **more}
    return client.post("/api/entries", json=body)


def entered(client: TestClient, account: int, kind: str, day: str, **more: Any) -> int:
    made = enter(client, account, kind, day, **more)
    assert made.status_code == 201, made.text
    return int(made.json()["id"])


def position(client: TestClient, **query: Any) -> dict[str, Any]:
    (group,) = get(client, "/api/holdings", **query)["groups"]
    (found,) = group["positions"]
    return dict(found)


def test_symbol_shares_and_cost_make_a_position(client: TestClient, account: int) -> None:
    entered(client, account, "opening", "2026-06-01", shares="50", amount="1605.50")
    found = position(client)
    assert (found["name"], found["shares"]["value"]) == ("Tallow & Reed Soapworks", 50)
    price = get(client, "/api/payers/ELV/TRS/review")["head"][0]["figure"]["value"]
    assert found["value"]["value"] == pytest.approx(50 * price)
    assert found["yield_on_cost"]["value"] == pytest.approx(50 * 1.98 / 1605.50)
    assert found["share_of_value"]["value"] == 1.0
    assert found["lots"][0]["dated"] is False


def test_every_figure_of_a_position_opens_its_working(client: TestClient, account: int) -> None:
    entered(client, account, "buy", "2024-06-03", shares="50", price="60.10", fee="5")
    entered(client, account, "sell", "2025-06-02", shares="10", price="62", fee="5")
    for by in ("payer", "account"):
        for name, figure in position(client, by=by).items():
            if isinstance(figure, dict) and "key" in figure:
                key = figure["key"]
                opened = get(client, "/api/payers/ELV/TRS/working", key=key)
                assert opened["figure"]["value"] == figure["value"], name
                assert opened["formula"] or opened["inputs"] or opened["source"], name
    cost = get(client, "/api/payers/ELV/TRS/working", key="held.cost")
    assert cost["sample"]["rows"] == [
        {"day": "2024-06-03", "values": [40.0, 2408.0], "since": None}
    ]
    totals = get(client, "/api/holdings")["totals"]
    for figure in totals.values():
        opened = get(client, "/api/holdings/working", key=figure["key"])
        assert opened["figure"]["value"] == figure["value"]
        assert opened["inputs"]


def test_a_past_day_knows_what_was_entered_by_then(client: TestClient, account: int) -> None:
    entered(client, account, "buy", "2024-06-03", shares="50", price="60.10")
    entered(client, account, "sell", "2025-06-02", shares="50", price="62")
    assert position(client, as_of="2024-12-31")["shares"]["value"] == 50
    today = get(client, "/api/holdings")
    assert today["groups"] == []
    (ended,) = today["ended"]
    assert ended["realised"]["value"] == pytest.approx(50 * 1.90)


def test_what_cannot_be_is_asked_once(client: TestClient, account: int) -> None:
    entered(client, account, "buy", "2024-06-03", shares="50", price="60.10")
    asked = enter(client, account, "sell", "2025-06-02", shares="60", price="62", ask=True)
    assert (asked.status_code, asked.json()["type"]) == (409, "about:Unsure")
    assert "more of TRS would go from Main than was held: 10 are missing" in asked.json()["detail"]
    entered(client, account, "sell", "2025-06-02", shares="60", price="62")
    found = position(client)
    assert found["unresolved"] == "2025-06-02"
    assert found["shares"]["reason"] == "more went than was held on 2025-06-02"
    entered(client, account, "opening", "2024-01-02", shares="10", amount="500")
    assert get(client, "/api/holdings")["groups"] == []


def test_a_total_far_from_shares_times_price_is_asked(client: TestClient, account: int) -> None:
    body: dict[str, Any] = {"shares": "50", "price": "60.10", "fee": "5", "ask": True}
    asked = enter(client, account, "buy", "2024-06-03", amount="3050.00", **body)
    assert "is not what shares, price, fee and tax come to, 3,010.00" in asked.json()["detail"]
    entered(client, account, "buy", "2024-06-03", amount="3012.10", **body)
    assert position(client)["cost"]["value"] == 3012.10


def test_an_entry_is_changed_deleted_and_put_back(client: TestClient, account: int) -> None:
    id = entered(client, account, "buy", "2024-06-03", shares="50", price="60.10")
    body = {"account": account, "kind": "buy", "day": "2024-06-03", **TRS}
    changed = client.put(f"/api/entries/{id}", json=body | {"shares": "40", "price": "60.10"})
    assert changed.status_code == 204
    (kept,) = get(client, "/api/entries")["entries"]
    assert (kept["shares"], kept["price"], kept["currency"]) == ("40", "60.10", "TLL")
    assert client.delete(f"/api/entries/{id}").status_code == 204
    assert get(client, "/api/entries")["found"] == 0
    assert client.post(f"/api/entries/{id}/restore").status_code == 204
    assert position(client)["shares"]["value"] == 40


@pytest.mark.parametrize(
    ("more", "field"),
    [
        ({"kind": "buy", "shares": "0", "price": "1"}, "shares"),
        ({"kind": "buy", "shares": "-5", "price": "1"}, "shares"),
        ({"kind": "buy", "shares": "5"}, "price"),
        ({"kind": "buy", "shares": "5", "price": "1", "withheld": "1"}, "withheld"),
        ({"kind": "buy", "shares": "0.000000001", "price": "1"}, "shares"),
        ({"kind": "buy", "shares": "5", "amount": "1.005"}, "amount"),
        ({"kind": "buy", "shares": "5", "price": "1", "symbol": ""}, "payer"),
        ({"kind": "buy", "shares": "5", "price": "1", "day": "2027-01-01"}, "day"),
        ({"kind": "dividend", "amount": "5", "withheld": "6"}, "withheld"),
        ({"kind": "dividend", "amount": "5", "returned": "6"}, "returned"),
        ({"kind": "transfer", "shares": "5", "to": 99}, "to"),
        ({"kind": "conversion", "new": "0"}, "new"),
        ({"kind": "conversion", "moves": "1.5"}, "moves"),
        ({"kind": "stated"}, "shares"),
        ({"kind": "buy", "shares": "5", "price": "1e12"}, "price"),
        ({"kind": "conversion", "new": "1e9"}, "new"),
        (
            {
                "kind": "sell",
                "shares": "5",
                "price": "1",
                "chosen": [{"day": "2024-01-02", "shares": "-3"}],
            },
            "chosen",
        ),
        (
            {
                "kind": "buy",
                "shares": "5",
                "price": "1",
                "chosen": [{"day": "2024-01-02", "shares": "3"}],
            },
            "chosen",
        ),
        ({"kind": "buy", "shares": "5", "price": "1", "currency": "€"}, "currency"),
        (
            {"kind": "exchange", "amount": "5", "into_amount": "6", "into_currency": "EURO"},
            "into_currency",
        ),
    ],
)
def test_an_entry_that_says_too_little_names_the_field(
    client: TestClient, account: int, more: dict[str, Any], field: str
) -> None:
    body = {"account": account, "day": "2024-06-03", **TRS} | more
    refused = client.post("/api/entries", json=body)
    assert (refused.status_code, refused.json()["field"]) == (422, field)
    assert get(client, "/api/entries")["found"] == 0


def test_accounts_are_named_once_closed_and_deleted_when_empty(client: TestClient) -> None:
    id = opened(client)
    again = client.post("/api/accounts", json={"name": " main ", "currency": "TLL"})
    assert (again.status_code, again.json()["field"]) == (422, "name")
    entered(client, id, "buy", "2024-06-03", shares="1", price="60")
    kept = client.delete(f"/api/accounts/{id}")
    assert "1 entry is in it" in kept.json()["detail"]
    closed = {"name": "Main", "currency": "TLL", "closed_on": "2024-12-31", "method": "average"}
    assert client.put(f"/api/accounts/{id}", json=closed).status_code == 204
    late = enter(client, id, "buy", "2025-01-02", shares="1", price="60")
    assert (late.status_code, late.json()["field"]) == (422, "day")
    other = opened(client, name="Spare")
    assert client.delete(f"/api/accounts/{other}").status_code == 204
    assert [a["name"] for a in get(client, "/api/holdings")["accounts"]] == ["Main"]


def test_an_entry_comes_back_only_into_an_account_that_is_there(client: TestClient) -> None:
    id = opened(client)
    entry = entered(client, id, "buy", "2024-06-03", shares="1", price="60")
    kept = client.put(f"/api/accounts/{id}", json={"name": "Main", "currency": "THK"})
    assert (kept.status_code, kept.json()["field"]) == (409, "currency")
    assert client.delete(f"/api/entries/{entry}").status_code == 204
    assert client.delete(f"/api/accounts/{id}").status_code == 204
    refused = client.post(f"/api/entries/{entry}/restore")
    assert (refused.status_code, refused.json()["field"]) == (409, "account")
    assert get(client, "/api/holdings")["groups"] == []
    assert client.post(f"/api/accounts/{id}/restore").status_code == 204
    assert client.post(f"/api/entries/{entry}/restore").status_code == 204
    assert position(client)["shares"]["value"] == 1


def test_two_doubts_are_asked_at_once(client: TestClient, account: int) -> None:
    body: dict[str, Any] = {"shares": "5", "price": "60", "amount": "900", "ask": True}
    asked = enter(client, account, "sell", "2024-06-03", **body).json()["detail"]
    assert "is not what shares, price, fee and tax come to" in asked
    assert "5 are missing" in asked


def test_cash_of_an_account_that_keeps_it(client: TestClient) -> None:
    id = opened(client, keeps_cash=True)
    plain = {"exchange": "", "symbol": ""}
    entered(client, id, "deposit", "2024-06-03", amount="5000", **plain)
    entered(client, id, "buy", "2024-06-04", shares="10", price="60", fee="5")
    assert get(client, "/api/holdings")["cash"] == [
        {"account": id, "currency": "TLL", "amount": 4395.0}
    ]


@pytest.mark.parametrize("by", ["account", "sector", "country", "currency", "kind", "state"])
def test_groups_hold_all_positions_and_sum_to_the_whole(client: TestClient, by: str) -> None:
    one, other = opened(client), opened(client, name="Other")
    entered(client, one, "buy", "2024-06-03", shares="50", price="60.10")
    entered(client, other, "buy", "2024-06-03", shares="5", price="60.10")
    entered(client, other, "buy", "2024-06-03", shares="500", price="20", symbol="GWK")
    found = get(client, "/api/holdings", by=by)
    sums = [g["totals"]["value"]["value"] for g in found["groups"]]
    assert sum(sums) == pytest.approx(found["totals"]["value"]["value"])
    assert sum(g["share_of_income"]["value"] for g in found["groups"]) == pytest.approx(1)
    assert found["positions"] == 2


def test_a_line_of_words_is_read(client: TestClient) -> None:
    line = get(client, "/api/entry-line", text="Bought 50 TRS at 21.40 today")
    assert line == {
        "kind": "buy",
        "shares": "50",
        "price": "21.40",
        "day": "2026-06-30",
        "payers": [TRS | {"name": "Tallow & Reed Soapworks", "currency": "TLL"}],
    }
    named = get(client, "/api/entry-line", text="sold 1,200.5 shares of tallow at 61 on 2026-06-29")
    assert (named["kind"], named["shares"]) == ("sell", "1200.5")
    assert [p["symbol"] for p in named["payers"]] == ["TRS"]
    assert get(client, "/api/entry-line", text="bought 50 at 21.40 today")["payers"] is None
    assert get(client, "/api/entry-line", text="how is TRS") is None


def test_what_is_typed_is_in_the_payers_currency_unless_it_is_said(
    client: TestClient, account: int
) -> None:
    abroad = {"exchange": "RKM", "symbol": "ADRP"}
    entered(client, account, "buy", "2024-06-03", shares="50", price="60.10", **abroad)
    (kept,) = get(client, "/api/entries")["entries"]
    assert (kept["currency"], kept["amount"], kept["comes_to"]) == ("THK", None, "3005.00")
    found = position(client)
    assert (found["currency"], found["cost"]["value"]) == ("THK", 3005.0)
    assert found["cost_at_home"]["value"] not in (None, 3005.0)
    settled = {"shares": "50", "price": "60.10", "settled": "4100.00", **abroad}
    entered(client, account, "buy", "2025-06-03", **settled)
    lots = position(client)["lots"]
    assert lots[1]["cost_at_home"] == 4100.0


def test_a_review_knows_what_is_held_and_what_a_sum_would_make_of_it(
    client: TestClient, account: int
) -> None:
    assert get(client, "/api/payers/ELV/TRS/held")["position"] is None
    entered(client, account, "buy", "2024-06-03", shares="50", price="60.10")
    entered(client, account, "buy", "2024-06-03", shares="100", price="20", symbol="GWK")
    held = get(client, "/api/payers/ELV/TRS/held", outlay="10000")
    price = held["position"]["price"]["value"]
    more = 10_000 // price
    after = held["after"]
    assert after["shares"]["value"] == 50 + more
    assert after["cost"]["value"] == pytest.approx(3005 + more * price)
    assert after["yield_on_cost"]["value"] == pytest.approx(
        (50 + more) * 1.98 / (3005 + more * price)
    )
    total = get(client, "/api/holdings")["totals"]["value"]["value"]
    share = (50 + more) * price / (total + more * price)
    assert after["share_of_value"]["value"] == pytest.approx(share)
    for figure in after.values():
        opened = get(client, "/api/payers/ELV/TRS/working", key=figure["key"], outlay="10000")
        assert opened["figure"]["value"] == figure["value"]
    nobody = get(client, "/api/payers/ELV/AMLH/held", outlay="1000")
    assert (nobody["position"], nobody["after"]["cost"]["value"] <= 1000) == (None, True)


def test_an_entry_leaves_reviews_as_they_were_made(client: TestClient, account: int) -> None:
    before = get(client, "/api/payers/ELV/TRS/review")
    entered(client, account, "buy", "2024-06-03", shares="50", price="60.10")
    assert get(client, "/api/payers/ELV/TRS/review") == before


def where(id: str, op: str, **more: Any) -> str:
    return json.dumps({"join": "all", "parts": [{"id": id, "op": op, **more}]})


def test_payers_are_found_and_sorted_by_what_is_held_of_them(
    client: TestClient, account: int
) -> None:
    entered(client, account, "buy", "2024-06-03", shares="50", price="60.10", fee="5")
    other = {"exchange": "ELV", "symbol": "AMLH"}
    entered(client, account, "buy", "2024-06-03", shares="10", price="20", **other)
    entered(client, account, "sell", "2025-06-03", shares="10", price="20", **other)
    (row,) = get(
        client,
        "/api/payers",
        where=where("held", "is", words=["held"]),
        columns="held,held_shares,held_yield_on_cost,held_cost_at_home",
    )["rows"]
    cells = row["cells"]
    assert (row["symbol"], cells["held"]["word"]) == ("TRS", "held")
    assert (cells["held_shares"]["value"], cells["held_cost_at_home"]["value"]) == (50, 3010)
    for cell in (cells["held_shares"], cells["held_yield_on_cost"]):
        opened = get(client, "/api/payers/ELV/TRS/working", key=cell["key"])
        assert opened["figure"]["value"] == pytest.approx(cell["value"])
    (before,) = get(client, "/api/payers", where=where("held", "is", words=["held before"]))["rows"]
    assert before["symbol"] == "AMLH"
    cell = get(client, "/api/payers", columns="held_shares", sort="held_shares")["rows"][-1]
    assert cell["cells"]["held_shares"]["reason"] == "nothing of it is held"
    first = get(client, "/api/payers", sort="held_shares", columns="held_shares")["rows"][0]
    assert first["symbol"] == "TRS"
    assert get(client, "/api/payers", where=where("held_shares", "known"))["found"] == 1
    words = {m["id"]: m for m in get(client, "/api/catalogue")["measures"]}
    assert {w["word"]: w["payers"] for w in words["held"]["choices"]}["held before"] == 1
    assert words["held_cost_at_home"]["currency"] == "TLL"


def test_a_past_day_finds_what_was_held_by_then(client: TestClient, account: int) -> None:
    entered(client, account, "buy", "2024-06-03", shares="50", price="60.10")
    asked = where("held", "is", words=["held"])
    assert get(client, "/api/payers", where=asked, as_of="2024-06-03")["found"] == 1
    assert get(client, "/api/payers", where=asked, as_of="2024-06-02")["found"] == 0
    assert get(client, "/api/payers/groups", by="held", as_of="2024-06-03")[0]["word"] == "held"


def test_payers_are_compared_by_what_is_held_of_them(client: TestClient, account: int) -> None:
    entered(client, account, "buy", "2024-06-03", shares="50", price="60.10")
    found = get(
        client,
        "/api/compare",
        payer=["ELV/TRS", "ELV/AMLH"],
        lines="held_share_of_value:low:1,held_yield_on_cost:high:1",
    )
    share, on_cost = found["lines"]
    assert share["stage"] == "household"
    mine, none = share["cells"]
    assert (mine["compared"], none["compared"]) == (1.0, None)
    assert none["figure"]["reason"] == "nothing of it is held"
    key = on_cost["cells"][0]["figure"]["key"]
    opened = get(client, "/api/payers/ELV/TRS/working", key=key)
    assert opened["figure"]["value"] == pytest.approx(50 * 1.98 / 3005)


def test_the_journal_holds_a_decision_against_what_was_done(
    client: TestClient, account: int
) -> None:
    body = {"verdict": "buy", "words": "x", "as_of": "2026-06-30", "buy_below": "75"}
    made = client.post("/api/payers/ELV/TRS/decisions", json=body)
    assert made.status_code == 201, made.text
    entered(client, account, "buy", "2026-06-29", shares="50", price="60")
    (entry,) = get(client, "/api/journal")["entries"]
    assert entry["followed"]["bought"] is None
    entered(client, account, "buy", "2026-06-30", shares="50", price="60", fee="5")
    (entry,) = get(client, "/api/journal")["entries"]
    bought, against = entry["followed"]["bought"], entry["followed"]["against_buy_below"]
    assert (bought["shares"]["value"], bought["price"]["value"]) == (50, 60.1)
    assert against["value"] == pytest.approx(60.1 / 75 - 1)
    for figure in (bought["shares"], bought["price"], against):
        opened = get(client, "/api/payers/ELV/TRS/working", key=figure["key"])
        assert opened["figure"]["value"] == figure["value"]


def test_watch_says_what_is_held(client: TestClient, account: int) -> None:
    assert client.put("/api/watch/ELV/TRS", json={"note": "n"}).status_code == 204
    (row,) = get(client, "/api/watch")
    assert row["held"] is None
    entered(client, account, "buy", "2026-06-29", shares="50", price="60")
    (row,) = get(client, "/api/watch")
    assert (row["held"]["shares"]["value"], row["held"]["share_of_value"]["value"]) == (50, 1.0)


def test_a_refund_of_tax_is_below_nil(client: TestClient, account: int) -> None:
    body = {"account": account, "kind": "tax", "day": "2026-06-01", "amount": "-2.50"}
    assert client.post("/api/entries", json=body).status_code == 201
    (kept,) = get(client, "/api/entries")["entries"]
    assert kept["amount"] == "-2.50"


def test_a_statement_that_differs_from_the_ledger_is_told(client: TestClient, account: int) -> None:
    entered(client, account, "buy", "2024-06-03", shares="50", price="60")
    entered(client, account, "stated", "2025-12-31", shares="52")
    (stated,) = get(client, "/api/holdings")["stated"]
    assert (stated["said"], stated["ledger"], stated["apart"]) == (52, 50, True)
    assert get(client, "/api/holdings", as_of="2025-12-30")["stated"] == []
    assert position(client)["shares"]["value"] == 50


def test_chosen_lots_and_the_institutions_name_outlast_an_edit(
    client: TestClient, account: int
) -> None:
    entered(client, account, "buy", "2024-06-03", shares="50", price="60")
    entered(client, account, "buy", "2024-07-03", shares="50", price="70")
    chosen = [{"day": "2024-07-03", "shares": "10"}]
    sale = {"shares": "10", "price": "80", "chosen": chosen}
    id = entered(client, account, "sell", "2025-06-02", **sale)
    lots = position(client)["lots"]
    assert [(lot["day"], lot["shares"]) for lot in lots] == [("2024-06-03", 50), ("2024-07-03", 40)]
    kept = get(client, "/api/entries")["entries"][0]
    assert (kept["chosen"], kept["edits"]) == (chosen, 0)
    body = {"account": account, "kind": "sell", "day": "2025-06-02", **TRS, **sale, "fee": "5"}
    assert client.put(f"/api/entries/{id}", json=body | {"edits": 0}).status_code == 204
    refused = client.put(f"/api/entries/{id}", json=body | {"edits": 0})
    assert refused.status_code == 409
    assert refused.json()["detail"] == "it was changed elsewhere meanwhile; nothing was saved"
    assert client.put(f"/api/entries/{id}", json=body | {"edits": 1, "fee": "6"}).status_code == 204
    former = get(client, f"/api/entries/{id}/former")
    assert [(f["entry"]["fee"], f["entry"]["edits"]) for f in former] == [("5.00", 1), (None, 0)]


def test_a_dividend_that_the_record_counts_already_is_asked(
    client: TestClient, account: int
) -> None:
    entered(client, account, "buy", "2024-06-03", shares="50", price="60")
    rows = get(client, "/api/payers/ELV/TRS/facts/dividends", count=20)["rows"]
    paid = next(r["cells"]["pay_date"] for r in rows if r["cells"]["pay_date"] < "2026-06-01")
    own = opened(client, name="Own", entered_from="2024-01-01")
    entered(client, own, "buy", "2024-06-03", shares="50", price="60")
    refused = enter(client, account, "dividend", paid, amount="20", ask=True)
    assert refused.status_code == 409
    assert f"the payment of {paid} counts already" in refused.json()["detail"]
    assert enter(client, own, "dividend", paid, amount="20", ask=True).status_code == 201
    assert (
        enter(client, account, "dividend", "2024-06-03", amount="20", ask=True).status_code == 201
    )


def test_sums_stand_in_the_currency_that_is_chosen(client: TestClient, account: int) -> None:
    entered(client, account, "buy", "2024-06-03", shares="50", price="60")
    assert get(client, "/api/holdings")["home"] == "TLL"
    at_home = position(client)["value_at_home"]["value"]
    assert client.put("/api/home-currency", json={"currency": "thk"}).status_code == 204
    assert get(client, "/api/holdings")["home"] == "THK"
    assert position(client)["value_at_home"]["value"] != at_home
    refused = client.put("/api/home-currency", json={"currency": "T1"})
    assert refused.json()["rule"] == "three letters"
