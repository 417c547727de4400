"""Models by stages: the worked figures, numpy-financial, and what must always hold."""

import math

import numpy_financial as npf
import pytest
from hypothesis import assume
from hypothesis import given as over
from hypothesis import strategies as st

from hearth_yield.core.worth.dividend_discount import (
    constant_growth_value,
    fading_value,
    two_stage_value,
)
from hearth_yield.core.worth.staged import (
    cash_value,
    cash_value_to_multiple,
    dividends_to_exit,
    funds_path_value,
    graham_growth_value,
    kept_of_dividend,
    lasting_value,
    next_year_multiple_value,
)
from hearth_yield.core.worth.trace import RecordedTrace, stages_worth

TEN = [(5, 0.05), (5, 0.03)]


def near(value: float) -> object:
    return pytest.approx(value, abs=1e-4)


def test_the_worked_figures_of_the_method() -> None:
    assert cash_value(412 / 96, TEN, 0.02, 0.085, 0.0) == near(79.1634)
    assert cash_value(412 / 96, TEN, 0.02, 0.085, 0.01) == near(73.2518)
    assert stages_worth(412 / 96, TEN, 0.085).worth == near(35.0929)
    assert cash_value_to_multiple(412 / 96, [(5, 0.05)], 15, 0.085, 0.0) == near(74.1095)
    firm = cash_value(467.5, TEN, 0.02, 0.07, 0.0)
    assert firm == pytest.approx(11_282.81, abs=0.01)
    assert (firm - 1_220) / 96 == near(104.8210)
    sales = 1_200 * 0.12 * 0.90 / 96
    assert cash_value(sales, TEN, 0.02, 0.085, 0.0) == near(24.9019)
    assert cash_value(sales, TEN, 0.02, 0.085, -0.01) == near(24.9019)
    four = stages_worth(sales, [(4, 0.05)], 0.10)
    assert (four.worth, 14 * four.amount * four.factor) == (near(4.8136), near(15.6909))
    assert cash_value_to_multiple(sales, [(4, 0.05)], 14, 0.10, -0.02) == near(20.5045)
    even = [(5, 0.02), (5, 0.02)]
    assert cash_value(480 / 96, even, 0.02, 0.085, 0.0) == near(78.4615)
    assert cash_value(480 / 96, even, 0.02, 0.085, -0.025) == near(78.4615)
    assert cash_value(480 / 96, even, 0.02, 0.085, 0.03) == near(62.7839)
    total = [(3, 0.06), (3, 0.05), (4, 0.04)]
    assert funds_path_value(2.00, total, 0.03, 0.70, 16, 0.085) == near(27.2582)
    stages = [(5, 0.04), (5, 0.02)]
    assert dividends_to_exit(0.84, stages, 0.06, 0.09) == near(14.4924)
    assert kept_of_dividend(0.25, 1.0, 0.2) == pytest.approx(0.9375)
    assert dividends_to_exit(0.84, stages, 0.06, 0.09, 0.9375) == near(14.0930)
    half = kept_of_dividend(0.25, 0.5, 0.2)
    assert dividends_to_exit(0.84, stages, 0.06, 0.09, half) == near(13.4940)
    path = [(3, 0.07), (3, 0.05), (4, 0.03)]
    assert funds_path_value(2.65, path, 0.015, 0.74, 17, 0.085) == near(43.1574)
    assert graham_growth_value(3.10, 0.04, 8.5, 2, 0.051) == near(44.1294)
    assert graham_growth_value(3.10, -0.04, 7, 1, 0.051) == near(8.0235)
    assert graham_growth_value(3.10, -0.09, 7, 1, 0.051) == near(-5.3490)
    assert next_year_multiple_value(16, 3.80, 1.60, 0.08) == near(57.7778)


rates = st.floats(0.03, 0.2)
growths = st.floats(-0.1, 0.25)


@over(st.floats(0.1, 50), growths, growths, st.integers(1, 8), st.integers(1, 8), rates)
def test_present_value_is_what_npv_says(
    start: float, one: float, two: float, n: int, m: int, r: float
) -> None:
    rates = [one] * n + [two] * m
    amounts = [start * math.prod(1 + g for g in rates[: t + 1]) for t in range(n + m)]
    trace = RecordedTrace()
    end = stages_worth(start, [(n, one), (m, two)], r, trace=trace)
    assert end.worth == pytest.approx(float(npf.npv(r, [0.0, *amounts])), rel=1e-9)
    assert end.amount == pytest.approx(amounts[-1])
    assert [year["amount"] for year in trace.years.values()] == pytest.approx(amounts)
    assert sum(worth for _, worth in trace.parts) == pytest.approx(end.worth)


@over(st.floats(0.1, 50), st.floats(-0.1, 0.02), st.integers(1, 20), rates)
def test_one_rate_throughout_is_constant_growth(d: float, g: float, n: int, r: float) -> None:
    assume(g <= r - 0.02)
    assert cash_value(d, [(n, g)], g, r, 0.0) == pytest.approx(constant_growth_value(d, g, r))


@over(st.floats(0.1, 50), growths, st.floats(-0.05, 0.02), st.integers(1, 20), rates)
def test_one_stage_then_for_ever_is_the_two_stage_model(
    d: float, g: float, later: float, n: int, r: float
) -> None:
    assert cash_value(d, [(n, g)], later, r, 0.0) == pytest.approx(
        two_stage_value(d, g, n, later, r)
    )


@over(st.floats(0.1, 50), st.floats(-0.05, 0.02), st.integers(1, 20), rates)
def test_an_exit_at_the_yield_growth_justifies_is_holding_on(
    d: float, g: float, n: int, r: float
) -> None:
    """Sold at a yield of r − g on the next dividend, it is worth what it is worth for ever."""
    assume(g <= r - 0.02)
    assert dividends_to_exit(d, [(n, g)], r - g, r) == pytest.approx(constant_growth_value(d, g, r))


@over(st.floats(0.1, 50), st.floats(0.0, 0.03))
def test_dilution_takes_away(start: float, b: float) -> None:
    plain = cash_value(start, TEN, 0.02, 0.085, 0.0)
    assert cash_value(start, TEN, 0.02, 0.085, b) <= plain * (1 + 1e-12)


def test_growth_for_ever_is_held_to_two_points_under_the_required_return() -> None:
    at_most = lasting_value(10.0, 0.03, 0.05, 0.5)
    assert at_most == pytest.approx(10.0 * 1.03 / 0.02 * 0.5)
    assert lasting_value(10.0, 0.05, 0.05, 0.5) == pytest.approx(at_most)
    assert constant_growth_value(10.0, 0.20, 0.05) == pytest.approx(10.0 * 1.03 / 0.02)
    assert fading_value(10.0, 0.08, 8.0, 0.07, 0.05) == pytest.approx(
        fading_value(10.0, 0.08, 8.0, 0.03, 0.05)
    )


@over(st.floats(0.5, 20), st.floats(-0.02, 0.03), st.floats(0.06, 0.15), st.floats(-0.2, 0.0))
def test_shares_bought_back_at_a_fair_price_change_no_value(
    cash: float, g: float, r: float, b: float
) -> None:
    """All of the cash is counted once: what buys shares back is part of it, and those that stay own
    no more than they were bought for."""
    assert cash_value(cash, [(6, g)], g, r, b) == cash_value(cash, [(6, g)], g, r, 0.0)
    sold = cash_value_to_multiple(cash, [(6, g)], 12.0, r, b)
    assert sold == cash_value_to_multiple(cash, [(6, g)], 12.0, r, 0.0)
