"""The distance of the price from what is usual, windows of one's own, entry steps, breadth."""

from dataclasses import replace
from datetime import date, timedelta
from decimal import Decimal

import numpy as np
import pytest
from hypothesis import given as over
from hypothesis import strategies as st

from hearth_yield.core.errors import InvalidInput, MethodError
from hearth_yield.core.facts.records import Estimate, PriceHistory
from hearth_yield.core.figures.measure import Stage
from hearth_yield.core.finding.breadth import above_own_mean, breadth_of, quarter_ends_to
from hearth_yield.core.question import Question, read_question, write_question
from hearth_yield.core.range.distance import Distance
from hearth_yield.core.range.entry_steps import EntryStep, priced_steps
from hearth_yield.core.range.multiples import PRICE_TO_EARNINGS
from hearth_yield.core.range.ruler import ruler_of
from hearth_yield.core.record.history import build_record

from ..build import RATE, TODAY, review, steady, weekly_prices

STEADY = steady(prices=weekly_prices(date(2010, 1, 8), date(2026, 6, 26), 30.0, drift=0.001))


def distance(quantity: str = "earnings", window: str = "5") -> Distance:
    found = review(STEADY, question=Question(quantity=quantity, window=window))
    held: Distance = found.stages[Stage.RANGE].result.distance
    return held


@pytest.mark.parametrize("quantity", ["yield", "earnings", "ev_ebitda"])
def test_the_distance_is_the_price_over_what_the_usual_value_would_pay(quantity: str) -> None:
    held = distance(quantity)
    ruler, usual = held.ruler, held.ruler.typical.value
    assert usual is not None
    weeks = ruler.weeks
    for at in (0, 100, -1):
        if quantity == "yield":
            fair = weeks.bases[at] / usual
        else:
            fair = weeks.bases[at] * usual - weeks.besides[at]
        assert held.weeks[at] == pytest.approx(weeks.closes[at] / fair - 1)


def test_half_the_weeks_lie_above_a_median() -> None:
    held = distance("earnings")
    assert (held.weeks > 0).sum() == pytest.approx(len(held.weeks) / 2, abs=1)


def test_the_measure_grows_year_by_year_and_estimates_follow() -> None:
    expected = tuple(
        Estimate(fiscal_year=y, measure="eps", mean=m, published_on=date(2026, 6, 1), analysts=4)
        for y, m in ((2026, 2.2), (2027, 2.42))
    )
    file = replace(STEADY, estimates=expected)
    question = Question(quantity="earnings", window="10")
    held = review(file, question=question).stages[Stage.RANGE].result.distance
    years = {y.year: y for y in held.years}
    assert not years[2025].estimated
    assert years[2026].estimated
    assert years[2027].growth.value == pytest.approx(0.1)
    assert [y.year for y in held.years] == list(range(2016, 2028))


def test_a_window_between_two_days_holds_the_weeks_between_them() -> None:
    first, last = date(2015, 3, 2), date(2018, 11, 30)
    ruler = ruler_of(STEADY.cut(TODAY), build_record(STEADY.cut(TODAY)), f"{first}..{last}")
    days = ruler.weeks.days.astype(date).tolist()
    assert days[0] >= first
    assert days[-1] <= last
    assert len(days) == pytest.approx((last - first).days / 7, abs=2)
    assert ruler.mean.value == pytest.approx(float(ruler.weeks.values.mean()))
    assert ruler.mean.label == "2015-03-02 to 2018-11-30 mean yield"
    short = ruler_of(STEADY.cut(TODAY), build_record(STEADY.cut(TODAY)), "2020-01-01..2020-03-01")
    assert short.mean.value is None


@pytest.mark.parametrize("text", ["7", "2020-01-01..", "2020-02-01..2020-01-01", "x..y"])
def test_a_window_that_cannot_be_is_refused(text: str) -> None:
    with pytest.raises(InvalidInput) as caught:
        read_question({"window": text})
    assert caught.value.field == "window"
    asked = read_question({"window": "2019-02-04..2020-03-31"})
    assert read_question(write_question(asked)) == asked
    with pytest.raises(MethodError):
        ruler_of(STEADY.cut(TODAY), build_record(STEADY.cut(TODAY)), "7")


def step(quantity: str, target: float) -> EntryStep:
    return EntryStep(quantity=quantity, target=target, amount=Decimal("500"), kept_on=TODAY)


def test_a_step_is_a_price_today_and_the_highest_comes_first() -> None:
    cut = STEADY.cut(TODAY)
    record = build_record(cut)
    earned = PRICE_TO_EARNINGS.base(cut, record).value or 0.0
    price = cut.price.value or 0.0
    held = priced_steps(cut, record, [step("yield", 0.04), step("earnings", 30.0)])
    assert [e.step.quantity for e in held] == ["earnings", "yield"]
    assert held[0].price.value == pytest.approx(30 * earned)
    assert held[1].price.value == pytest.approx(RATE / 0.04)
    assert held[1].against.value == pytest.approx(RATE / 0.04 / price - 1)


DAYS = [date(2020, 3, 31), date(2024, 6, 30), TODAY]


def test_above_its_own_mean_is_told_from_the_weeks_before_a_day() -> None:
    """A price that rises for years at a steady dividend yields less than it did."""
    rising = steady(prices=weekly_prices(date(2010, 1, 8), date(2026, 6, 26), 10.0, drift=0.02))
    falling = steady(prices=weekly_prices(date(2010, 1, 8), date(2026, 6, 26), 90.0, drift=-0.001))
    assert above_own_mean(rising.cut(TODAY), DAYS).tolist() == [0.0, 0.0, 0.0]
    assert above_own_mean(falling.cut(TODAY), DAYS).tolist() == [1.0, 1.0, 1.0]
    before = above_own_mean(rising.cut(TODAY), [date(2009, 1, 1), date(2010, 6, 30)])
    assert np.isnan(before).all()


@over(st.integers(0, 400))
def test_what_came_later_changes_no_earlier_quarter(days_on: int) -> None:
    day = date(2021, 3, 31)
    later = STEADY.cut(day + timedelta(days=days_on))
    assert above_own_mean(later, [day]).tolist() == above_own_mean(STEADY.cut(day), [day]).tolist()


def test_breadth_counts_those_that_are_known() -> None:
    payers = [
        (("ELV", "AAA", "Alder"), np.array([1.0, 0.0, np.nan])),
        (("ELV", "BBB", "Birch"), np.array([1.0, np.nan, 1.0])),
        (("ELV", "CCC", "Cedar"), np.array([0.0, np.nan, 1.0])),
    ]
    found = breadth_of(DAYS, payers)
    assert (found.above, found.known) == ([2, 0, 2], [3, 1, 2])
    assert [symbol for _, symbol, _ in found.names] == ["BBB", "CCC"]
    assert found.shares == [pytest.approx(2 / 3), 0.0, 1.0]
    assert found.usual == pytest.approx((2 / 3 + 0 + 1) / 3)
    assert (breadth_of(DAYS, []).known, breadth_of(DAYS, []).usual) == ([0, 0, 0], None)


def test_quarter_ends_run_up_to_the_day() -> None:
    ends = quarter_ends_to(date(2026, 5, 17))
    assert ends[-2:] == [date(2026, 3, 31), date(2026, 5, 17)]
    assert ends[0] == date(2006, 3, 31)
    assert quarter_ends_to(date(2026, 6, 30))[-2:] == [date(2026, 3, 31), date(2026, 6, 30)]


def test_prices_that_ended_long_before_a_day_say_nothing_of_it() -> None:
    ended = steady(prices=weekly_prices(date(2010, 1, 8), date(2019, 6, 28), 30.0))
    assert isinstance(ended.prices, PriceHistory)
    found = above_own_mean(ended.cut(TODAY), [date(2019, 6, 30), date(2024, 6, 30)])
    assert not np.isnan(found[0])
    assert np.isnan(found[1])
