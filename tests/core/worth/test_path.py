"""The return path: the worked figures, an outside oracle, and what must always hold."""

from datetime import date

import numpy_financial as npf
import pytest
from hypothesis import assume
from hypothesis import given as over
from hypothesis import strategies as st

from hearth_yield.core.facts.records import Estimate, Guidance
from hearth_yield.core.kinds import Kind
from hearth_yield.core.question import Question
from hearth_yield.core.review import Review
from hearth_yield.core.worth.path.arithmetic import Path, driven, expected_then, grown

from ..build import RATE, payer, review, steady, year_statement

TOLD = Path(
    price=54.0, dividends=grown(2.16, 0.05, 5)[1:], measures=grown(3.60, 0.06, 5), multiple=16.0
)
MEASURES = driven(1.5, 0.04, 0.12, 0.13, -0.01, 5)
DRIVEN = Path(price=22.0, dividends=grown(0.80, 0.05, 5)[1:], measures=MEASURES, multiple=16.0)


def near(value: float) -> object:
    return pytest.approx(value, abs=1e-4)


def points(value: float) -> object:
    """Parts of a return as the method prints them, to a hundredth of a point."""
    return pytest.approx(value, abs=5e-5)


def test_the_worked_figures_of_the_method() -> None:
    assert TOLD.sold_at == near(77.0818)
    assert TOLD.yearly == pytest.approx(0.114018, abs=1e-6)
    assert TOLD.income == points(0.0389)
    assert TOLD.part(TOLD.measures[-1] / TOLD.measures[0]) == points(0.0615)
    assert TOLD.part(TOLD.multiple / TOLD.multiple_today) == points(0.0136)
    assert TOLD.reinvested == pytest.approx(0.113951, abs=1e-6)
    assert TOLD.dividends[-1] / TOLD.price == pytest.approx(0.051051, abs=1e-6)
    assert TOLD.price_for(0.09) == near(59.7655)


def test_the_worked_figures_of_the_drivers() -> None:
    assert MEASURES[-1] == near(2.0790)
    assert DRIVEN.sold_at == near(33.2632)
    assert DRIVEN.yearly == pytest.approx(0.121995, abs=1e-6)
    assert DRIVEN.part(1.04**5) == points(0.0416)
    assert DRIVEN.part(0.13 / 0.12) == points(0.0170)
    assert DRIVEN.part(0.99**-5) == points(0.0107)
    assert DRIVEN.part(DRIVEN.multiple / DRIVEN.multiple_today) == points(0.0184)
    assert DRIVEN.income == points(0.0344)
    assert DRIVEN.dividends[-1] / DRIVEN.measures[-1] == pytest.approx(0.4911, abs=5e-5)
    assert DRIVEN.dividends[-1] / DRIVEN.price == pytest.approx(0.046410, abs=1e-6)
    assert DRIVEN.price_for(0.07) == near(27.4974)


prices = st.floats(5, 200)
rates = st.floats(0.0, 8.0)
growths = st.floats(-0.08, 0.15)
multiples = st.floats(4, 40)
years = st.integers(1, 20)


@over(prices, rates, growths, growths, multiples, years)
def test_the_return_is_what_irr_says_and_its_parts_sum_to_it(
    price: float, rate: float, rising: float, growth: float, multiple: float, n: int
) -> None:
    path = Path(
        price=price,
        dividends=grown(rate, rising, n)[1:],
        measures=grown(3.0, growth, n),
        multiple=multiple,
    )
    flows = [-price, *path.dividends[:-1], path.dividends[-1] + path.sold_at]
    found = path.yearly
    assert found is not None
    assume(abs(found) > 1e-6)
    assert float(npf.npv(found, flows)) == pytest.approx(0.0, abs=1e-6 * price)
    growing = path.part(path.measures[-1] / path.measures[0]) or 0.0
    rating = path.part(path.multiple / path.multiple_today) or 0.0
    assert (path.income or 0.0) + growing + rating == pytest.approx(found, abs=1e-9)
    assert path.price_for(found) == pytest.approx(price)


@over(prices, st.floats(0.2, 8.0), years)
def test_an_exit_at_todays_multiple_without_growth_gives_the_yield(
    price: float, rate: float, n: int
) -> None:
    path = Path(price=price, dividends=[rate] * n, measures=[2.0] * (n + 1), multiple=price / 2.0)
    assert path.yearly == pytest.approx(rate / price)
    assert path.reinvested == pytest.approx(rate / price)


@over(st.floats(0.5, 9), growths, st.floats(0.02, 0.4), years)
def test_drivers_with_a_constant_margin_and_share_count_are_plain_growth(
    start: float, growth: float, margin: float, n: int
) -> None:
    assert driven(start, growth, margin, margin, 0.0, n) == pytest.approx(grown(start, growth, n))


def path_of(**typed: float):
    question = Question(inputs=typed, path_measure="earnings")
    return review(steady(), question=question).worth.path


def test_a_path_of_a_payer_is_the_path_of_its_figures() -> None:
    """Growth, exit and years typed; the price, the rate and earnings are the payer's own."""
    typed = {"path_years": 4, "path_growth": 0.04, "path_dividends": 0.03, "path_multiple": 12.0}
    found = path_of(**typed)
    price, start = found.ground.file.price.value, found.inputs["path_start"].figure.value
    assert price is not None
    assert start is not None
    flows = [-price] + [RATE * 1.03**t for t in range(1, 5)]
    flows[-1] += 12.0 * start * 1.04**4
    assert found.yearly["middle"].value == pytest.approx(float(npf.irr(flows)), abs=1e-9)
    assert (found.yearly["low"].value or 0) < (found.yearly["middle"].value or 0)
    assert sum(p.figure.value or 0.0 for p in found.parts) == pytest.approx(
        found.yearly["middle"].value
    )
    assert [y.year for y in found.years] == [1, 2, 3, 4]
    assert found.years[-1].price == pytest.approx(found.sold_at["middle"].value)


def test_a_payout_that_passes_the_limit_is_named_by_its_year() -> None:
    found = path_of(path_years=10, path_growth=0.0, path_dividends=0.1)
    assert found.payout_limit == pytest.approx(0.6)
    first = next(y.year for y in found.years if (y.payout or 0) > 0.6)
    assert found.passes_limit == first
    assert path_of(path_growth=0.0, path_dividends=0.0).passes_limit is None


def test_a_measure_that_is_not_positive_is_a_reason_and_nothing_fails() -> None:
    found = path_of(path_start=-1.0)
    assert found.yearly["middle"].reason == "earnings per share is not positive"
    assert found.years == ()


def test_a_trusts_path_grows_a_unit_as_its_worth_does() -> None:
    """Rents in all, and units issued for them: one growth per unit in Worth and Return path."""
    rents = tuple(
        year_statement(
            y,
            net_income=30.0,
            affo=80.0 * 1.06 ** (y - 2016),
            ffo=90.0 * 1.06 ** (y - 2016),
            operating_cash_flow=100.0,
            dividends_paid=50.0,
            diluted_shares=40.0 * 1.02 ** (y - 2016),
        )
        for y in range(2016, 2026)
    )
    found = review(steady(payer=payer(Kind.PROPERTY_TRUST), statements=rents)).worth
    growth = found.path.inputs["path_growth"].figure.value
    inputs = found.inputs
    total, dilution = inputs["funds_growth"].figure.value, inputs["dilution"].figure.value
    assert growth is not None
    assert total is not None
    assert dilution == pytest.approx(0.02)
    assert growth == pytest.approx((1 + total) / 1.02 - 1)


def estimate(year: int, mean: float) -> Estimate:
    return Estimate(
        fiscal_year=year, measure="eps", mean=mean, published_on=date(2026, 5, 1), analysts=3
    )


def by(way: str, *held: Estimate, guidance: tuple[Guidance, ...] = (), **inputs: float) -> Review:
    file = steady(estimates=held, guidance=guidance)
    asked = Question(inputs=inputs, path_measure="earnings", path_by=way)
    return review(file, question=asked)


def test_what_is_expected_comes_first_and_then_the_trend() -> None:
    """2.00, then 2.40 and 2.52, then 3 % a year → 2.7537 in year five."""
    assert expected_then([2.00, 2.40, 2.52], 0.03, 5)[-1] == near(2.7537)
    assert expected_then([2.00, 2.40, 2.52], 0.03, 1) == [2.00, 2.40]
    path = by(
        "estimates", estimate(2026, 2.40), estimate(2027, 2.52), path_start=2.0, path_growth=0.03
    ).worth.path
    assert [y.measure for y in path.years] == near_all([2.40, 2.52, 2.5956, 2.6735, 2.7537])
    assert path.inputs["path_growth"].figure.value == 0.03
    plain = by("estimates", estimate(2026, 2.40), estimate(2027, 2.52)).worth.path
    assert "after 2 years of estimates" in plain.inputs["path_growth"].origin


def near_all(values: list[float]) -> object:
    return pytest.approx(values, abs=1e-4)


def test_estimates_that_do_not_follow_one_another_end_the_row() -> None:
    path = by("estimates", estimate(2026, 2.40), estimate(2028, 9.0), path_growth=0.0).worth.path
    assert [y.measure for y in path.years] == near_all([2.40] * 5)


def test_an_expected_loss_or_none_expected_is_a_reason() -> None:
    loss = by("estimates", estimate(2026, -0.10)).worth.path
    assert loss.yearly["middle"].reason == "an expected year is not positive"
    none = by("estimates").worth.path
    assert "no estimate of fiscal 2026" in (none.yearly["middle"].reason or "")


def test_guidance_is_one_year_and_then_the_trend() -> None:
    told = Guidance(
        fiscal_year=2026, measure="eps", low=2.3, high=2.5, published_on=date(2026, 3, 1)
    )
    path = by("guidance", guidance=(told,), path_growth=0.05).worth.path
    assert [y.measure for y in path.years][:2] == near_all([2.40, 2.52])
