"""Beta against an outside regression, and a required return that is built up."""

from dataclasses import replace
from datetime import date, timedelta

import numpy as np
import pytest
import scipy

from hearth_yield.core.facts.payer_file import PayerFile
from hearth_yield.core.facts.records import DividendKind, PriceHistory, Series, SeriesPoint
from hearth_yield.core.judging.house_rules import HouseRules
from hearth_yield.core.kinds import Kind
from hearth_yield.core.question import Question
from hearth_yield.core.range.beta import beta_of
from hearth_yield.core.review import build_review
from tests.core.build import TODAY, paid, steady

FRIDAYS = [date(2021, 1, 1) + timedelta(days=7 * n) for n in range(286)]
RANDOM = np.random.default_rng(7)
MARKET = 100 * np.exp(np.cumsum(RANDOM.normal(0.001, 0.02, len(FRIDAYS))))
OWN = 40 * np.exp(np.cumsum(0.8 * np.diff(np.log(MARKET), prepend=np.log(100))))
NOISY = OWN * np.exp(np.cumsum(RANDOM.normal(0, 0.01, len(FRIDAYS))))


def series(values: np.ndarray, code: str = "MKT") -> Series:
    return Series(
        code=code,
        name=code,
        currency="TLL",
        points=tuple(
            SeriesPoint(day=d, published_on=d, value=float(v))
            for d, v in zip(FRIDAYS, values, strict=True)
        ),
    )


def file_of(closes: np.ndarray, **more: object) -> PayerFile:
    rows = [(d, float(v)) for d, v in zip(FRIDAYS, closes, strict=True)]
    base = {"prices": PriceHistory.of(rows), "market_index": series(MARKET), "dividends": ()}
    return steady(**(base | more))


def test_a_payer_that_moves_by_four_fifths_of_the_market_has_a_beta_of_0_8() -> None:
    found = beta_of(file_of(OWN).cut(TODAY))
    assert found.beta.value == pytest.approx(0.8)
    assert found.error.value == pytest.approx(0, abs=1e-9)
    assert found.r_squared.value == pytest.approx(1)


def test_slope_error_and_fit_are_those_of_an_outside_regression() -> None:
    found = beta_of(file_of(NOISY).cut(TODAY))
    theirs = scipy.stats.linregress(np.diff(np.log(MARKET))[-260:], np.diff(np.log(NOISY))[-260:])
    assert found.beta.value == pytest.approx(theirs.slope)
    assert found.error.value == pytest.approx(theirs.stderr)
    assert found.r_squared.value == pytest.approx(theirs.rvalue**2)


def test_a_dividend_is_part_of_its_weeks_return() -> None:
    """Without the dividend the week of the ex-date would read as a fall."""
    gone = NOISY.copy()
    gone[200:] -= 1.0
    ex = paid(FRIDAYS[200], 1.0)
    with_it = beta_of(file_of(gone, dividends=(ex,)).cut(TODAY)).beta.value
    without = beta_of(file_of(gone).cut(TODAY)).beta.value
    assert with_it is not None
    assert with_it != pytest.approx(without, abs=1e-6)


def test_capital_that_is_returned_is_part_of_its_weeks_return() -> None:
    gone = NOISY.copy()
    gone[200:] -= 1.0
    plain = paid(FRIDAYS[200], 1.0)
    back = replace(plain, kind=DividendKind.RETURN_OF_CAPITAL)
    found = [beta_of(file_of(gone, dividends=(x,)).cut(TODAY)).beta.value for x in (plain, back)]
    assert found[0] == found[1]


def test_too_few_weeks_and_no_index_are_unknown() -> None:
    short = PriceHistory.of([(d, 40.0) for d in FRIDAYS[-50:]])
    assert "of at least 104 weeks" in (
        beta_of(steady(prices=short, market_index=series(MARKET)).cut(TODAY)).beta.reason or ""
    )
    assert "no market index" in (beta_of(steady().cut(TODAY)).beta.reason or "")


def required(rules: HouseRules, **more: object) -> tuple[float | None, str]:
    base: dict[str, object] = {
        "dividends": steady().dividends,
        "risk_free_yield": series(np.full(len(FRIDAYS), 0.031), "RF"),
    }
    review = build_review(file_of(OWN, **(base | more)).cut(TODAY), rules)
    held = review.worth.inputs["required_return"]
    return held.figure.value, held.origin


def test_a_required_return_is_built_up_where_the_person_chose_it() -> None:
    """3.1 % + beta × 5 %, beta being a little off 0.8 for its dividends."""
    flat, built = HouseRules(), HouseRules(built_up=(Kind.COMPANY,))
    assert required(flat) == (0.08, "house rule for companies")
    value, origin = required(built)
    assert value == pytest.approx(0.071, abs=2e-3)
    assert origin == "risk-free yield + beta × premium"
    own = replace(built, built_up_payers={"ELV/TST": False})
    assert required(own)[0] == 0.08
    alone = HouseRules(built_up_payers={"ELV/TST": True}, premium=0.0)
    assert required(alone)[0] == pytest.approx(0.031)


def test_what_is_missing_leaves_the_flat_rule_and_says_so() -> None:
    value, origin = required(HouseRules(built_up=(Kind.COMPANY,)), market_index=None)
    assert value == 0.08
    assert "beta or risk-free yield unknown" in origin


def test_what_the_price_offers_is_yield_and_growth_and_less_after_tax() -> None:
    """Gordon: 2.40 growing 3 % at 49.44 → 8 %; a quarter taxed away → 6.75 %."""
    dividends = tuple(paid(date(y, 5, 10), 2.40, payments_per_year=1) for y in range(2014, 2027))
    prices = PriceHistory.of([(date(2026, 6, 26), 49.44)])
    file = steady(dividends=dividends, prices=prices)
    question = Question(inputs={"growth": 0.03})
    worth = build_review(file.cut(TODAY), HouseRules(dividend_tax=0.25), question).worth
    assert worth.implied_return.value == pytest.approx(0.08)
    assert worth.implied_return_after_tax.value == pytest.approx(0.0675)
