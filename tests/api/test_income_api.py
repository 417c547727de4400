"""Income over the API, on the demo's household and on ledgers of a few lines."""

from __future__ import annotations

from datetime import date
from typing import Any

import pytest
from fastapi.testclient import TestClient

from tests.conftest import get

from .test_holdings_api import entered, opened

INCOME = "/api/holdings/income"


def income(client: TestClient, **query: Any) -> Any:
    return get(client, INCOME, **query)


def sums(found: Any) -> dict[str, float]:
    return {c["why"]: c["by"] for c in found["changes"]}


def set_taxes(client: TestClient, withheld: dict[str, float], **settings: float) -> None:
    rules = get(client, "/api/house-rules")["rules"]
    body = {"rules": rules | {"withheld": withheld, "settings": rules["settings"] | settings}}
    assert client.put("/api/house-rules", json=body).status_code == 201


def test_a_year_is_the_next_twelve_months_and_the_change_of_a_year(
    whole_client: TestClient,
) -> None:
    found = income(whole_client)
    assert found["a_year"]["value"] == pytest.approx(found["ahead"], rel=0.02)
    months = sum(m["gone_ex"] + m["declared"] + m["expected"] for m in found["months"])
    assert months == pytest.approx(found["ahead"])
    assert sum(m["came"] for m in found["months"]) == pytest.approx(found["came"])
    before = found["before"]["value"]
    assert before + sum(sums(found).values()) == pytest.approx(found["a_year"]["value"])
    assert sum(e["by"] for e in found["events"]) == pytest.approx(sum(sums(found).values()))


def test_what_never_came_and_what_came_short_are_told(whole_client: TestClient) -> None:
    found = income(whole_client)
    answers = {d["answer"]: d for d in found["dues"]}
    assert set(answers) <= {"missing", "short", "to_come"}
    missing, short = answers["missing"], answers["short"]
    assert missing["came"] is None
    assert missing["gross"] == pytest.approx(missing["shares"] * missing["each"], abs=0.005)
    assert 0 < short["came"] < short["net"]


@pytest.mark.parametrize("asked", [{}, {"since": "2020-01-01", "tax": "before"}])
def test_every_figure_of_income_opens_its_working(
    whole_client: TestClient, asked: dict[str, str]
) -> None:
    found = income(whole_client, **asked)
    for name in ("a_year", "a_month", "before", "change", "linked", "real", "prices"):
        key = found[name]["key"]
        opened_ = get(whole_client, "/api/holdings/working", key=key)
        assert opened_["figure"]["value"] == pytest.approx(found[name]["value"])


def test_a_past_day_knows_the_declarations_of_that_day_only(whole_client: TestClient) -> None:
    then = income(whole_client, as_of="2025-06-30")
    now = income(whole_client)
    assert then["a_year"]["value"] == pytest.approx(now["before"]["value"], rel=1e-9)
    assert all(p["comes"] > "2025-06-30" for p in then["payments"])
    assert all(d["comes"] <= "2025-06-30" for d in then["dues"])


def test_tax_is_taken_by_country_and_account_where_it_is_set(client: TestClient) -> None:
    plain, sheltered = opened(client), opened(client, name="Sheltered", sheltered=True)
    for account in (plain, sheltered):
        entered(client, account, "buy", "2024-06-03", shares="100", price="60")
    gross = income(client)["a_year"]["value"]
    assert not income(client)["taxed"]
    country = get(client, "/api/payers/ELV/TRS/review")["payer"]["country"]
    set_taxes(client, {country: 0.15}, dividend_tax=0.25)
    found = income(client)
    assert found["taxed"]
    assert found["a_year"]["value"] == pytest.approx(gross / 2 * 0.75 + gross / 2 * 0.85)
    assert income(client, tax="before")["a_year"]["value"] == pytest.approx(gross)
    set_taxes(client, {country: 0.15}, dividend_tax=0.25, withheld_credited=0.0)
    assert income(client)["a_year"]["value"] == pytest.approx(gross / 2 * 0.60 + gross / 2 * 0.85)
    assert income(client, as_of="2024-06-02")["a_year"]["value"] is None


def test_a_ledger_made_from_the_record_has_received_all(client: TestClient) -> None:
    account = opened(client, entered_from="2024-01-01")
    entered(client, account, "buy", "2024-01-02", shares="100", price="60")
    rows = get(client, "/api/payers/ELV/TRS/facts/dividends", count=100)["rows"]
    cells = [r["cells"] for r in rows if r["cells"]["ex_date"] > "2024-01-02"]
    for cell in cells:
        if (cell["pay_date"] or "9") <= "2026-06-30":
            entered(
                client, account, "dividend", cell["pay_date"], amount=f"{100 * cell['amount']:.2f}"
            )
    assert [d["answer"] for d in income(client)["dues"] if d["answer"] != "to_come"] == []


def test_an_entry_answers_what_was_missing(client: TestClient) -> None:
    account = opened(client, entered_from="2024-01-01")
    entered(client, account, "buy", "2024-01-02", shares="100", price="60")
    missing = [d for d in income(client)["dues"] if d["answer"] == "missing"]
    newest = missing[0]
    entered(client, account, "dividend", newest["comes"], amount=f"{newest['gross']:.2f}")
    left = [d for d in income(client)["dues"] if d["answer"] == "missing"]
    assert [d["comes"] for d in left] == [d["comes"] for d in missing[1:]]
    assert income(client)["month"]["month"] == date(2026, 6, 1).isoformat()[:7]


def test_without_anything_it_says_so(empty_client: TestClient) -> None:
    found = income(empty_client, as_of="2026-06-30")
    assert found["a_year"]["reason"] == "nothing is held"
    assert (found["payments"], found["dues"], found["changes"]) == ([], [], [])


def test_by_month_and_payer_sums_to_the_twelve_months_and_to_the_years(
    whole_client: TestClient,
) -> None:
    ahead = get(whole_client, f"{INCOME}/paid")
    whole = income(whole_client)
    assert ahead["total"] == pytest.approx(whole["ahead"])
    assert ahead["sums"] == pytest.approx([m["total"] for m in whole["months"]])
    past = get(whole_client, f"{INCOME}/paid", year=2025)
    (of_year,) = [y["total"] for y in past["years"] if y["year"] == 2025]
    assert past["total"] == pytest.approx(of_year) == pytest.approx(sum(past["sums"]))
    assert [r["total"] for r in past["rows"]] == sorted(
        (r["total"] for r in past["rows"]), reverse=True
    )
    real = get(whole_client, f"{INCOME}/paid", year=2015, real=True)
    then = get(whole_client, f"{INCOME}/paid", year=2015)
    assert 1.1 < real["total"] / then["total"] < 2


def test_what_came_is_known_on_a_past_day_as_far_as_it_had_come(whole_client: TestClient) -> None:
    early = get(whole_client, f"{INCOME}/paid", year=2025, as_of="2025-05-31")
    late = get(whole_client, f"{INCOME}/paid", year=2025)
    assert early["sums"][:4] == pytest.approx(late["sums"][:4])
    assert early["sums"][5:] == [0.0] * 7
