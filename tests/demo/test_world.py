"""The made-up world: consistent with itself, the same every time, and holding its situations."""

import hashlib
import json
from collections import defaultdict
from datetime import date
from itertools import pairwise
from typing import Any

import pytest

from hearth_yield.actions.desk import Desk
from hearth_yield.core.record import Outcome
from hearth_yield.core.review import Question, Review
from hearth_yield.core.rules import State
from hearth_yield.demo.scripts import SCRIPTS, TODAY
from hearth_yield.demo.world import build_world
from hearth_yield.store.database import Database

WORLD = build_world()


def yearly(symbol: str) -> list[dict[str, Any]]:
    return [s for s in WORLD["statements"] if s["symbol"] == symbol and s["span"] == "year"]


def review(database: Database, symbol: str, day: date = TODAY) -> Review:
    return Desk(database).review("ELV", symbol, day, Question())


def test_the_same_seed_gives_the_same_bytes() -> None:
    a, b = (json.dumps(w, default=str) for w in (WORLD, build_world()))
    assert hashlib.sha256(a.encode()).digest() == hashlib.sha256(b.encode()).digest()
    assert json.dumps(build_world(seed=1), default=str) != a


def test_balance_sheets_balance_to_the_last_unit() -> None:
    for s in WORLD["statements"]:
        assert s["total_assets"] == s["total_liabilities"] + s["equity"], (
            s["symbol"],
            s["period_end"],
        )


def test_quarters_sum_to_their_year() -> None:
    quarters = defaultdict(list)
    for s in WORLD["statements"]:
        if s["span"] == "quarter":
            quarters[s["symbol"], s["period_end"].year].append(s)
    for s in WORLD["statements"]:
        parts = quarters[s["symbol"], s["period_end"].year]
        if s["span"] == "year" and len(parts) == 4:
            for line in ("revenue", "net_income", "operating_cash_flow", "dividends_paid"):
                assert sum(p[line] for p in parts) == s[line]


@pytest.mark.parametrize("script", SCRIPTS, ids=lambda s: s.symbol)
def test_dividends_agree_with_the_cash_flow_statement(script: Any) -> None:
    for s in yearly(script.symbol):
        if script.listed and s["period_end"].year <= script.listed.year:
            continue
        paid = [
            d for d in WORLD["dividends"]
            if d["symbol"] == script.symbol and d["pay_date"].year == s["period_end"].year
        ]  # fmt: skip
        per_share = sum(d["amount"] for d in paid)
        if script.split and s["period_end"].year == script.split[0].year:
            continue
        implied = s["dividends_paid"] / s["diluted_shares"]
        assert implied == pytest.approx(per_share, rel=0.03, abs=1e-9), s["period_end"]


def test_cash_flows_explain_the_cash() -> None:
    for script in SCRIPTS:
        if script.kind == "financial" or script.listed:
            continue
        books = yearly(script.symbol)
        for before, now in pairwise(books):
            debt = sum(now[k] - before[k] for k in ("short_term_debt", "long_term_debt"))
            moved = (
                now["operating_cash_flow"] - now["capital_expenditure"] - now["dividends_paid"]
                - now["buybacks"] + now["share_issuance"] + debt
                + now.get("gains_on_property_sales", 0.0)
            )  # fmt: skip
            assert now["cash"] - before["cash"] == moved, (script.symbol, now["period_end"])


def test_nothing_is_known_after_the_demos_today() -> None:
    assert max(p["day"] for p in WORLD["prices"]) <= TODAY
    assert max(s["published_on"] for s in WORLD["statements"]) <= TODAY
    assert max(d["declared_on"] for d in WORLD["dividends"]) <= TODAY
    assert max(p["published_on"] for p in WORLD["series_points"]) <= TODAY


def test_a_long_steady_raiser(demo: Database) -> None:
    found = review(demo, "TRS")
    assert found.record.raises_in_a_row.value == 24
    assert (found.inflation.real_growth[20].value or 0) > 0.02


def test_a_flat_payer_loses_to_prices(demo: Database) -> None:
    found = review(demo, "SKW")
    assert found.record.growth[10].value == pytest.approx(0.0)
    assert (found.inflation.real_growth[10].value or 0) < 0


def test_one_that_cut_last_month_with_the_trailing_yield_still_high(demo: Database) -> None:
    found = review(demo, "GWK")
    assert found.record.last_cut == date(2026, 5, 20)
    assert (found.record.trailing_gap.value or 0) > 0.5
    assert review(demo, "GWK", date(2026, 5, 19)).record.years[-1].outcome is not Outcome.CUT


def test_cash_sinks_under_a_good_looking_earnings_payout(demo: Database) -> None:
    found = review(demo, "MRB")
    lead, earnings = found.cover.bases[0], found.cover.bases[1]
    assert earnings.latest is not None
    assert lead.latest is not None
    assert (earnings.latest.payout.value or 9) < 0.60
    assert (lead.latest.payout.value or 0) > 1
    assert (lead.per_share_trend.value or 0) < 0
    assert found.state is State.UNCOVERED


def test_one_freak_year_of_profit(demo: Database) -> None:
    earnings = review(demo, "FND").cover.bases[1]
    assert [y.label for y in earnings.years if y.freak] == ["fiscal 2021"]


def test_a_split_leaves_growth_whole(demo: Database) -> None:
    found = review(demo, "OPT")
    assert all(y.outcome is not Outcome.CUT for y in found.record.years)
    assert (found.record.growth[20].value or 0) > 0.08


def test_interim_and_final_payments(demo: Database) -> None:
    assert review(demo, "PLG").record.uneven


def test_one_that_suspended_and_resumed(demo: Database) -> None:
    halted = review(demo, "CRF", date(2020, 6, 30))
    assert halted.record.declared_rate.value == 0
    outcomes = {y.year: y.outcome for y in review(demo, "CRF").record.years}
    assert outcomes[2019] is Outcome.SUSPENDED
    assert outcomes[2021] is Outcome.RESUMED


def test_one_newly_listed_and_one_that_pays_nothing_yet(demo: Database) -> None:
    newcomer, saver = review(demo, "NWO"), review(demo, "QLN")
    assert newcomer.range.mean.value is None
    assert newcomer.record.growth[5].value is None
    assert saver.record.years == ()
    assert saver.worth.blend.value is None
