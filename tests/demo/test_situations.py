"""Every situation that docs/demo-world.md names is in the world, as the core itself reads it."""

from collections.abc import Callable
from datetime import date
from itertools import pairwise
from pathlib import Path
from typing import Any

import pytest

from hearth_yield.actions.review_cache import ReviewCache
from hearth_yield.api.figures import Shown
from hearth_yield.api.worth import worth_answer
from hearth_yield.core.cover.cover import Basis
from hearth_yield.core.facts.statements import Span
from hearth_yield.core.judging.judge import State
from hearth_yield.core.question import Question
from hearth_yield.core.record.history import Outcome
from hearth_yield.core.review import Review
from hearth_yield.demo.cast import CAST
from hearth_yield.demo.script import TODAY
from hearth_yield.store.database import Database

from .world import world

EXCHANGE = {s.symbol: s.land.exchange for s in CAST}
Read = Callable[..., Review]


@pytest.fixture(scope="module")
def cache(demo_file: Path) -> Any:
    database = Database(demo_file)
    yield ReviewCache(database)
    database.close()


@pytest.fixture
def read(cache: ReviewCache) -> Read:
    def of(symbol: str, day: date = TODAY) -> Review:
        return cache.review(EXCHANGE[symbol], symbol, day, Question())

    return of


def rows(table: str, symbol: str) -> list[dict[str, Any]]:
    return [r for r in world()[table] if r["symbol"] == symbol]


def years(symbol: str, line: str, last: int = 10) -> list[float]:
    found = [s for s in rows("statements", symbol) if s["span"] == "year"]
    return [s.get(line, 0.0) for s in found][-last:]


def outcomes(review: Review) -> dict[int, Outcome]:
    return {y.year: y.outcome for y in review.record.years}


def test_a_steady_raiser_of_thirty_years(read: Read) -> None:
    found = read("TRS")
    assert found.record.raises_in_a_row.value == 29
    assert len(found.record.years) == 31
    assert (found.inflation.real_growth[20].value or 0) > 0.02


def test_a_raiser_slower_than_prices(read: Read) -> None:
    found = read("AMLH")
    assert found.record.raises_in_a_row.value == 29
    assert (found.inflation.real_growth[10].value or 0) < -0.01


def test_flat_for_a_decade(read: Read) -> None:
    for symbol in ("SKW", "DVTC"):
        found = read(symbol)
        assert found.record.growth[10].value == pytest.approx(0.0)
        assert found.record.years_without_reduction.value == 29


def test_a_cut_after_a_visible_slide(read: Read) -> None:
    assert outcomes(read("BRDM"))[2023] is Outcome.CUT
    before = read("BRDM", date(2022, 9, 30))
    assert before.state is State.OUTSIDE
    lead = before.cover.leading
    assert (lead.per_share_trend.value or 0) < 0
    payouts = [y.payout.value or 9 for y in lead.years[-4:]]
    assert payouts[-1] > payouts[0] + 0.4


def test_a_cut_out_of_a_clear_sky_in_a_slump_later_resumed(read: Read) -> None:
    found = outcomes(read("CLFN"))
    assert (found[2019], found[2021]) == (Outcome.SUSPENDED, Outcome.RESUMED)
    assert read("CLFN", date(2019, 5, 31)).state is State.WITHIN
    assert read("CLFN", date(2020, 6, 30)).record.declared_rate.value == 0


def test_rhythms_that_change(read: Read) -> None:
    """Resumed at another rhythm, and from quarterly to half-yearly with a raise."""
    for symbol, before, year in (
        ("CLFN", date(2019, 5, 31), 2021),
        ("EMBG", date(2020, 12, 31), 2021),
    ):
        assert (read(symbol, before).record.rhythm.value, read(symbol).record.rhythm.value) == (
            4,
            2,
        )
        assert outcomes(read(symbol))[year] in (Outcome.RESUMED, Outcome.RAISED)


def test_one_that_slid_stopped_and_resumed(read: Read) -> None:
    found = outcomes(read("CRF"))
    assert (found[2019], found[2021]) == (Outcome.SUSPENDED, Outcome.RESUMED)


def test_just_cut_with_the_trailing_yield_still_high(read: Read) -> None:
    found = read("GWK")
    assert found.record.last_cut == date(2026, 5, 20)
    assert (found.record.trailing_gap.value or 0) > 0.5
    assert read("GWK", date(2026, 5, 19)).record.years[-1].outcome is not Outcome.CUT


def test_cash_sinks_under_a_good_looking_earnings_payout(read: Read) -> None:
    found = read("MRB")
    lead, earnings = found.cover.bases[0], found.cover.bases[1]
    assert earnings.latest is not None
    assert lead.latest is not None
    assert (earnings.latest.payout.value or 9) < 0.60
    assert (lead.latest.payout.value or 0) > 1
    assert (lead.per_share_trend.value or 0) < 0
    assert (found.range.now.value or 0) > 0.05


@pytest.mark.parametrize(("symbol", "year"), [("FND", 2021), ("DNTE", 2020)])
def test_freak_years_of_profit_and_loss(read: Read, symbol: str, year: int) -> None:
    earnings = read(symbol).cover.of(Basis.EARNINGS)
    assert earnings is not None
    assert [y.label for y in earnings.years if y.freak] == [f"fiscal {year}"]


def test_the_freak_loss_left_cash_intact(read: Read) -> None:
    found = read("DNTE").cover
    loss = next(y for y in found.bases[1].years if y.label == "fiscal 2020")
    cash = next(y for y in found.bases[0].years if y.label == "fiscal 2020")
    assert loss.payout.breach == "loss"
    assert (cash.payout.value or 9) < 0.60


def test_equity_bought_back_to_a_sliver() -> None:
    equity, assets = years("EBTD", "equity")[-1], years("EBTD", "total_assets")[-1]
    debt = years("EBTD", "long_term_debt")[-1]
    assert 0 < equity < 0.10 * assets
    assert debt > 5 * equity


def test_net_cash() -> None:
    assert years("KSTM", "cash")[-1] > 0.5 * years("KSTM", "total_assets")[-1]
    assert years("KSTM", "long_term_debt")[-1] == 0


def test_growing_revenue_falling_profit() -> None:
    revenue, profit = years("FLXM", "revenue", 7), years("FLXM", "net_income", 7)
    assert revenue[-1] > 1.15 * revenue[0]
    assert profit[-1] < 0.75 * profit[0]
    assert sum(a > b for a, b in pairwise(profit)) >= 4


def test_costs_outrunning_revenue() -> None:
    revenue = years("GRNB", "revenue")
    costs = [
        a + b
        for a, b in zip(
            years("GRNB", "cost_of_revenue"), years("GRNB", "operating_expenses"), strict=True
        )
    ]
    assert costs[-1] / costs[0] > revenue[-1] / revenue[0] > 1.1


def test_a_share_count_that_melts() -> None:
    shares = years("HWTC", "diluted_shares")
    assert sum(b < a for a, b in pairwise(shares)) >= 8
    assert shares[-1] < 0.7 * shares[0]


def test_trusts_that_issue_units_with_growth_per_unit_and_without(read: Read) -> None:
    for symbol in ("LRT", "HRWO"):
        units = years(symbol, "diluted_shares")
        assert units[-1] > 1.25 * units[0]
    assert (read("LRT").cover.leading.per_share_trend.value or 0) > 0
    assert (read("HRWO").cover.leading.per_share_trend.value or 0) <= 0


def test_a_trust_under_its_net_asset_value(read: Read) -> None:
    owned = years("GLNW", "total_assets")[-1] - years("GLNW", "total_liabilities")[-1]
    per_unit = owned / years("GLNW", "diluted_shares")[-1]
    assert (read("GLNW").price.value or 99) < 0.85 * per_unit


def test_a_trust_with_one_tenant_at_two_fifths() -> None:
    tenants = [e for e in rows("exposures", "MLTS") if e["basis"] == "tenant"]
    newest = max(e["fiscal_year"] for e in tenants)
    named = [e for e in tenants if e["fiscal_year"] == newest and "other" not in e["name"]]
    assert max(e["share"] for e in named) == pytest.approx(0.40)


def test_a_partnership_covered_by_its_own_measure_and_not_by_free_cash(read: Read) -> None:
    distributable, free = read("WPP").cover.bases
    assert (distributable.through_cycle.value or 9) < 0.90
    assert (free.through_cycle.value or 0) > 1.0
    cash = years("WPP", "distributable_cash_flow")
    assert max(b / a for a, b in pairwise(cash)) > 1.15
    assert min(b / a for a, b in pairwise(cash)) < 0.90


def test_financials_are_judged_by_earnings(read: Read) -> None:
    for symbol in ("PLG", "STNB", "HVSV", "CRNR", "ELDB"):
        assert read(symbol).cover.leading.basis is Basis.EARNINGS


def test_interim_and_final_with_tax_credits(read: Read) -> None:
    assert read("THWM").record.uneven
    paid = rows("dividends", "THWM")
    assert {(d["credited_fraction"], d["credit_tax_rate"]) for d in paid} == {(1.0, 0.2)}
    assert {s["span"] for s in rows("statements", "THWM")} == {"half", "year"}


@pytest.mark.parametrize(("symbol", "rhythm"), [("SBRC", 12), ("MPWK", 1), ("ADRP", 1)])
def test_monthly_and_annual_payers(read: Read, symbol: str, rhythm: int) -> None:
    assert read(symbol).record.rhythm.value == rhythm


def test_specials_and_returns_of_capital_stay_apart(read: Read) -> None:
    specials = [d for d in rows("dividends", "NTLG") if d["kind"] == "special"]
    assert len(specials) == 5
    found = read("NTLG").record
    assert found.raises_in_a_row.value == 14
    assert any(d["kind"] == "return_of_capital" for d in rows("dividends", "ORCF"))


def test_a_special_goes_ex_with_a_regular_dividend() -> None:
    paid = rows("dividends", "CRNR")
    regular = {d["ex_date"] for d in paid if d["kind"] == "regular"}
    assert {d["ex_date"] for d in paid if d["kind"] == "special"} <= regular


def test_two_splits_and_one_reverse_split_leave_growth_whole(read: Read) -> None:
    assert len(rows("splits", "ORVN")) == 2
    assert all(o is not Outcome.CUT for o in outcomes(read("ORVN")).values())
    (reverse,) = rows("splits", "PKRC")
    assert reverse["new_shares"] < reverse["old_shares"]
    assert outcomes(read("PKRC"))[2021] is Outcome.RAISED


def test_newly_listed_delisted_and_never_paid(read: Read) -> None:
    newcomer, gone, saver = read("NWO"), read("RVGF"), read("QLN")
    assert newcomer.range.mean.value is None
    assert newcomer.record.growth[5].value is None
    assert gone.payer.delisted_on == date(2022, 9, 16)
    assert gone.record.declared_rate.value is None
    assert saver.record.years == ()
    assert {a.id for a in saver.worth.counting} == {"past", "cash"}, "no dividend to be worth"


def test_negative_growth(read: Read) -> None:
    assert (read("LMSQ").record.growth[10].value or 0) < -0.04


def test_a_very_low_payout_and_a_fast_raiser(read: Read) -> None:
    found = read("IVBR")
    assert (found.cover.leading.through_cycle.value or 9) < 0.20
    assert (found.record.growth[10].value or 0) > 0.15


def means(symbol: str, year: int, measure: str = "eps") -> list[float]:
    return [
        e["mean"]
        for e in sorted(rows("estimates", symbol), key=lambda e: e["published_on"])
        if (e["fiscal_year"], e["measure"]) == (year, measure)
    ]


def test_estimates_halved_within_half_a_year() -> None:
    found = means("JNPQ", 2026)
    assert found[-1] < 0.55 * max(found)


def test_estimates_always_beaten_and_always_missed() -> None:
    for symbol, beaten in (("KSTM", True), ("FLXM", False)):
        actual = dict(zip(range(2016, 2026), years(symbol, "diluted_eps"), strict=True))
        assert all((actual[y] > means(symbol, y)[-1]) is beaten for y in actual)


def test_restated_accounts_stand_side_by_side(read: Read) -> None:
    versions = [
        s
        for s in rows("statements", "SLTM")
        if s["span"] == "year" and s["period_end"].year == 2022
    ]
    assert [v["net_income"] for v in versions] == sorted(
        (v["net_income"] for v in versions), reverse=True
    )
    first, then = (v["published_on"] for v in versions)
    assert (then - first).days > 300


def test_missing_quarters() -> None:
    ends = [s["period_end"] for s in rows("statements", "TNSY") if s["span"] == "quarter"]
    gaps = [a for a, b in pairwise(sorted(ends)) if (b - a).days > 100]
    assert len(gaps) == 3


def test_a_payer_of_another_land(read: Read) -> None:
    found = read("RKLC")
    assert (found.payer.currency, found.payer.country) == ("THK", "Thornmark")
    assert found.inflation.real_growth[10].known


def test_a_handful_is_within_reach_and_some_only_look_cheap(read: Read) -> None:
    """Under the buy-below price by more than one answer."""
    found = {State.WITHIN: 0, State.OUTSIDE: 0}
    for script in CAST:
        review = read(script.symbol)
        price, below = review.price.value, review.worth.buy_below.value
        if price is None or below is None or price > below or review.state not in found:
            continue
        middles = [a.middle.value for a in review.worth.counting]
        found[review.state] += sum(m is not None and m > price for m in middles) > 1
    assert 3 <= found[State.WITHIN] <= 10
    assert found[State.OUTSIDE] >= 1


def test_the_document_names_every_payer_and_no_stranger() -> None:
    text = (Path(__file__).parents[2] / "docs" / "demo-world.md").read_text()
    for script in CAST:
        assert f"`{script.symbol}`" in text, script.symbol


def test_quarters_reach_back_twelve_years() -> None:
    ends = [s["period_end"] for s in rows("statements", "TRS") if s["span"] == Span.QUARTER]
    assert ends[0] == date(2014, 3, 31)
    assert ends[-1] == date(2026, 3, 31)


def test_what_worth_says_names_its_figures_without_building_all_of_them(read: Read) -> None:
    """A moved input is answered while a person types: no sentence may need every figure there
    is."""
    for symbol in ("TRS", "GWK", "QLN", "NWO", "CRNR", "MPWK", "ORCF", "TDGT", "RVGF", "LMSQ"):
        shown = Shown(read(symbol))
        worth_answer(shown)
        assert not shown._whole, symbol
