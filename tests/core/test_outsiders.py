"""The core against packages that know nothing of it."""

import statistics
from datetime import date

import numpy as np
import numpy_financial as npf
import pytest
import scipy
from hypothesis import assume, given, settings
from hypothesis import strategies as st
from scipy.optimize import brentq

from hearth_yield.core.facts.payer_file import PayerFile
from hearth_yield.core.facts.records import Dividend
from hearth_yield.core.facts.robust import freak_years, quantile, theil_sen, years_since
from hearth_yield.core.finding.search import summarise
from hearth_yield.core.range.sample import longest_run_above, percentile_of, share_above
from hearth_yield.core.record.history import build_record
from hearth_yield.core.record.inflation import real_rate
from hearth_yield.core.worth.dividend_discount import constant_growth_value
from hearth_yield.core.worth.implied import implied_constant_growth

from .build import payer

numbers = st.floats(-1e6, 1e6, allow_nan=False)
samples = st.lists(st.integers(20, 90).map(lambda n: n / 1000), min_size=1, max_size=300)


@settings(max_examples=60, deadline=None)
@given(values=st.lists(numbers, min_size=2, max_size=12))
def test_theil_sen_against_scipy(values: list[float]) -> None:
    slope, intercept = theil_sen([(float(i), v) for i, v in enumerate(values)])
    theirs = scipy.stats.theilslopes(values, range(len(values)), method="joint")
    assert slope == pytest.approx(theirs.slope, rel=1e-9, abs=1e-9)
    assert intercept == pytest.approx(theirs.intercept, rel=1e-9, abs=1e-6)


@settings(max_examples=60, deadline=None)
@given(sample=samples, today=st.integers(20, 90).map(lambda n: n / 1000))
def test_percentile_against_scipy(sample: list[float], today: float) -> None:
    theirs = scipy.stats.percentileofscore(sample, today, kind="mean") / 100
    assert percentile_of(np.array(sample), today) == pytest.approx(theirs)
    share = 1 - scipy.stats.percentileofscore(sample, today, kind="weak") / 100
    assert share_above(np.array(sample), today) == pytest.approx(share)


@settings(max_examples=40, deadline=None)
@given(dividend=st.floats(0.01, 50), growth=st.floats(-0.1, 0.05), spread=st.floats(0.02, 0.2))
def test_constant_growth_against_discounted_cash(
    dividend: float, growth: float, spread: float
) -> None:
    wanted = growth + spread
    years = np.arange(1, 3000)
    flows = dividend * (1 + growth) ** years
    theirs = float(npf.npv(wanted, np.concatenate([[0.0], flows])))
    assert constant_growth_value(dividend, growth, wanted) == pytest.approx(theirs, rel=1e-9)


@settings(max_examples=40, deadline=None)
@given(price=st.floats(1, 500), rate=st.floats(0.05, 20), wanted=st.floats(0.03, 0.2))
def test_implied_growth_against_a_root_finder(price: float, rate: float, wanted: float) -> None:
    ours = implied_constant_growth(price, rate, wanted)
    assert isinstance(ours, float)

    def miss(g: float) -> float:
        return rate * (1 + g) / (wanted - g) - price

    assert ours == pytest.approx(brentq(miss, -0.999, wanted - 1e-9), abs=1e-7)


@settings(max_examples=40, deadline=None)
@given(nominal=st.floats(-0.5, 0.5), inflation=st.floats(-0.1, 0.3))
def test_real_growth_undoes_inflation(nominal: float, inflation: float) -> None:
    assert (1 + real_rate(nominal, inflation)) * (1 + inflation) == pytest.approx(1 + nominal)


@settings(max_examples=60, deadline=None)
@given(marks=st.lists(st.booleans(), max_size=80))
def test_longest_run_against_counting_in_text(marks: list[bool]) -> None:
    text = "".join("x" if m else "." for m in marks)
    longest = max((len(r) for r in text.split(".")), default=0)
    run, end = longest_run_above(np.array([1.0 if m else 0.0 for m in marks]), 0.5)
    assert run == longest
    assert (end == -1) == (longest == 0)
    if longest:
        assert text[end - run + 1 : end + 1] == "x" * run


@settings(max_examples=80, deadline=None)
@given(values=st.lists(numbers, min_size=1, max_size=60), q=st.floats(0, 1))
def test_quantiles_against_numpy(values: list[float], q: float) -> None:
    ours = quantile(np.sort(np.array(values)), q)
    assert ours == pytest.approx(float(np.quantile(values, q)), rel=1e-9, abs=1e-6)


@settings(max_examples=60, deadline=None)
@given(values=st.lists(numbers, min_size=2, max_size=60))
def test_quartiles_against_the_standard_library(values: list[float]) -> None:
    found = summarise(np.array([*values, np.nan, np.inf]))
    theirs = statistics.quantiles(values, n=4, method="inclusive")
    assert (found.lower, found.median, found.upper) == pytest.approx(tuple(theirs), abs=1e-6)
    assert found.n == len(values)


@settings(max_examples=60, deadline=None)
@given(
    values=st.lists(st.floats(1, 1000), min_size=7, max_size=10),
    freak=st.integers(0, 9),
    size=st.floats(-5000, 5000),
)
def test_freak_years_against_scipys_line_and_spread(
    values: list[float], freak: int, size: float
) -> None:
    values[freak % len(values)] += size
    ends = [date(2016 + i, 12, 31) for i in range(len(values))]
    axis = years_since(ends)
    flags = freak_years(ends, values)
    for i, value in enumerate(values):
        years = [x for j, x in enumerate(axis) if j != i]
        others = [y for j, y in enumerate(values) if j != i]
        fit = scipy.stats.theilslopes(others, years, method="joint")
        residuals = np.array(others) - (fit.slope * np.array(years) + fit.intercept)
        spread = scipy.stats.median_abs_deviation(
            residuals, center=lambda *_, **__: 0.0, scale="normal"
        )
        miss = abs(value - (fit.slope * axis[i] + fit.intercept))
        level = float(np.median(np.abs(others)))
        bounds = (3 * spread, 0.4 * level)
        if all(abs(miss - b) > 0.002 * max(miss, b, 1) for b in bounds):  # not on the edge
            assert flags[i] == all(miss > b for b in bounds)


@settings(max_examples=60, deadline=None)
@given(then=st.floats(0.01, 50), now=st.floats(0.01, 50), n=st.sampled_from([1, 3, 5, 10, 20]))
def test_growth_compounds_to_the_last_dividend_by_an_outside_calculator(
    then: float, now: float, n: int
) -> None:
    assume(abs(now / then - 1) > 1e-6)  # the calculator divides by the rate
    paid = tuple(
        Dividend(
            ex_date=date(2025 - n + i, 6, 10),
            currency="TLL",
            payments_per_year=1,
            amount=then if i == 0 else now,
        )
        for i in range(n + 1)
    )
    before = Dividend(
        ex_date=date(2024 - n, 6, 10), currency="TLL", amount=then, payments_per_year=1
    )
    record = build_record(PayerFile(payer=payer(), dividends=(before, *paid)).cut(date(2026, 1, 5)))
    found = record.growth[n].value
    assert found is not None
    assert npf.fv(found, n, 0, -then) == pytest.approx(now)
