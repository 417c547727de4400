"""A payer that cut, raised or stopped is judged by what it promises now: cover, growth, worth."""

from dataclasses import replace
from datetime import date

import pytest

from hearth_yield.core.cover.cover import build_cover
from hearth_yield.core.facts.payer_file import PayerFile
from hearth_yield.core.facts.records import PriceHistory
from hearth_yield.core.figures.measure import Stage
from hearth_yield.core.judging.judge import State
from hearth_yield.core.kinds import Kind
from hearth_yield.core.question import Question
from hearth_yield.core.record.history import build_record
from hearth_yield.core.worth.models import Model

from .build import (
    notice,
    paid,
    payer,
    plain_years,
    price_index,
    review,
    steady,
    weekly_prices,
    year_statement,
    yearly_raises,
)

DAY = date(2026, 6, 30)


def after_a_cut() -> PayerFile:
    """1.00 a quarter out of 5.00 a year of cash until 2025, 0.60 a quarter from 2026 on."""
    before = [paid(date(y, m, 10), 1.00) for y in range(2010, 2026) for m in (2, 5, 8, 11)]
    after = [paid(date(2026, m, 10), 0.60) for m in (2, 5)]
    return PayerFile(
        payer=payer(),
        dividends=(*before, *after),
        statements=plain_years(2012, 2025, cash=50.0, paid=40.0),
        prices=weekly_prices(date(2012, 1, 6), date(2026, 6, 26)),
        price_index=price_index(2009, date(2026, 5, 1)),
    )


def test_after_a_cut_cover_judges_what_is_promised_now() -> None:
    """2.40 of 5.00 is 48 %, now and through the cycle; 4.00 of 5.00 was paid."""
    found = review(after_a_cut())
    lead = found.cover.leading
    assert lead.declared.value == pytest.approx(0.48)
    assert lead.through_cycle.value == pytest.approx(0.48)
    assert lead.through_cycle_paid.value == pytest.approx(0.80)
    tests = {t.id: t for t in found.tests}
    assert tests["payout"].state is State.WITHIN
    assert (tests["payout_paid"].state, tests["payout_paid"].required) == (State.OUTSIDE, False)
    assert found.state is State.WITHIN


def test_a_raise_does_not_re_base_the_past() -> None:
    """2.00 was paid of 5.00 until 2025; 4.00 is declared now."""
    file = after_a_cut()
    doubled = tuple(paid(d.ex_date, 0.5 if d.ex_date.year < 2026 else 1.0) for d in file.dividends)
    lead = review(
        replace(file, dividends=doubled, statements=plain_years(2012, 2025, cash=50.0, paid=20.0))
    ).cover.leading
    assert lead.declared.value == pytest.approx(0.80)
    assert lead.through_cycle.value == pytest.approx(0.40)


def test_nothing_paid_is_nothing_to_judge() -> None:
    found = review(replace(after_a_cut(), notices=(notice(date(2026, 6, 1)),)))
    lead = found.cover.leading
    assert lead.declared.reason == lead.through_cycle.reason == "nothing is being paid"
    assert found.state is State.PAYING_NOTHING
    words = "".join(p if isinstance(p, str) else "#" for p in found.stages[Stage.COVER].finding)
    assert words.startswith(
        "Nothing is being paid; the last payout was # of free cash flow, in fis"
    )


def test_years_before_a_resumption_do_not_count_through_the_cycle() -> None:
    file = after_a_cut()
    again = [paid(date(y, m, 10), 0.60) for y in (2024, 2025, 2026) for m in (2, 5, 8, 11)][:-2]
    stopped = [d for d in file.dividends if d.ex_date.year < 2022]
    lead = review(
        replace(file, dividends=(*stopped, *again), notices=(notice(date(2022, 1, 5)),))
    ).cover.leading
    assert "2 of at least 3" in (lead.through_cycle.reason or "")
    assert lead.declared.value == pytest.approx(0.48)


def test_yield_reversion_alone_says_what_it_leans_on() -> None:
    off = dict.fromkeys(("two_stage", "fading", "cash_to_equity", "own_free_cash_flow"), False)
    found = review(steady(), question=Question(switched=off))
    words = "".join(p if isinstance(p, str) else "#" for p in found.stages[Stage.WORTH].finding)
    assert words.startswith("Its own past alone: #, which leans on its own price history")


def test_an_aim_from_todays_yield_is_not_called_the_persons() -> None:
    default, own = review(steady()).aim, review(steady(), question=Question(aim=0.04)).aim
    assert default is not None
    assert own is not None
    assert default.target.notes == ("today's yield, until you set one",)
    assert own.target.notes == ("yours",)


def test_no_suited_model_asks_for_years_before_the_first_dividend() -> None:
    file = steady(dividends=tuple(yearly_raises(2023, 2026, 0.25, 0.0)[:-2]))
    statements = plain_years(2012, 2025, cash=100.0, paid=0.0, shares=50.0)
    found: dict[str, Model] = {
        m.id: m for m in review(replace(file, statements=statements)).worth.models
    }
    assert found["constant_growth"].on


def test_prices_of_a_delisted_payer_may_be_a_single_close() -> None:
    file = steady(prices=PriceHistory.of([(date(2026, 6, 26), 40.0)]))
    assert review(file).price.value == 40.0


def test_overpaid_years_say_of_how_many() -> None:
    found = review(steady(statements=plain_years(2022, 2025, paid=120.0))).cover.leading.overpaid
    assert (found.value, found.period) == (4, "of 4")


def test_three_odd_years_in_ten_and_none_stands_out() -> None:
    """100 give or take 2, and three of 180 to 220."""
    cash = [100.0, 102.0, 200.0, 99.0, 101.0, 180.0, 98.0, 100.0, 220.0, 101.0]
    statements = [
        year_statement(2016 + i, net_income=c, diluted_shares=10.0, dividends_paid=50.0)
        for i, c in enumerate(cash)
    ]
    cut = PayerFile(payer=payer(Kind.FINANCIAL), statements=tuple(statements)).cut(DAY)
    lead = build_cover(cut, build_record(cut)).leading
    assert lead.swings
    assert not any(y.freak for y in lead.years)
