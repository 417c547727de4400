"""How far a price is from a target, and how often it was there."""

from datetime import date, timedelta

import pytest

from hearth_yield.core.errors import InvalidInput
from hearth_yield.core.facts.payer_file import PayerFile
from hearth_yield.core.facts.records import PriceHistory, Split
from hearth_yield.core.figures.figure import Figure, Unit
from hearth_yield.core.judging.house_rules import HouseRules
from hearth_yield.core.names import figure_at
from hearth_yield.core.question import read_question, write_question
from hearth_yield.core.review import review_of
from hearth_yield.core.watching.reach import Aim, reach_of

from ..build import steady

TODAY = date(2026, 6, 30)


RATE = Figure(label="declared rate", unit=Unit.PER_SHARE, value=3.0)


def file_of(closes: list[tuple[date, float]], splits: tuple[Split, ...] = ()) -> PayerFile:
    return steady(prices=PriceHistory.of(closes), splits=splits).cut(TODAY)


def days_back(*closes: float) -> list[tuple[date, float]]:
    """The last one today, a day apart."""
    first = TODAY - timedelta(days=len(closes) - 1)
    return [(first + timedelta(days=n), c) for n, c in enumerate(closes)]


def test_a_price_above_what_one_would_pay_has_to_fall() -> None:
    """66 against 60 is 10 % of the target above it."""
    found = reach_of(file_of(days_back(66.0)), RATE, Aim.BUY, 60.0)
    assert found.distance.value == pytest.approx(0.10)
    assert not found.reached


def test_at_the_target_it_is_reached_from_either_side() -> None:
    file = file_of(days_back(60.0))
    assert reach_of(file, RATE, Aim.BUY, 60.0).reached
    assert reach_of(file_of(days_back(59.0)), RATE, Aim.STEP, 60.0).reached
    assert reach_of(file, RATE, Aim.TRIM, 60.0).reached
    below = reach_of(file_of(days_back(54.0)), RATE, Aim.TRIM, 60.0)
    assert (below.reached, below.distance.value) == (False, pytest.approx(0.10))


def test_how_often_it_was_there_counts_the_closes_of_a_year() -> None:
    closes = [(TODAY - timedelta(days=400), 10.0), *days_back(58.0, 61.0, 60.0, 62.0)]
    found = reach_of(file_of(closes), RATE, Aim.BUY, 60.0)
    assert found.met.value == 0.5
    assert [i.value for i in found.met.inputs] == [2, 4]
    assert found.last_met == TODAY - timedelta(days=1)
    trim = reach_of(file_of(closes), RATE, Aim.TRIM, 61.0)
    assert (trim.met.value, trim.last_met) == (0.5, TODAY)


def test_closes_of_before_a_split_are_in_todays_shares() -> None:
    """120 before two for one is 60 now."""
    split = Split(effective_on=TODAY, new_shares=2, old_shares=1)
    found = reach_of(file_of(days_back(120.0, 61.0), (split,)), RATE, Aim.BUY, 60.0)
    assert (found.met.value, found.last_met) == (0.5, TODAY - timedelta(days=1))


def test_an_unknown_price_has_no_distance_and_is_not_there() -> None:
    found = reach_of(file_of([]), RATE, Aim.BUY, 60.0)
    assert (found.distance.value, found.met.value, found.reached) == (None, None, False)
    assert "no prices are held" in (found.distance.reason or "")
    assert found.met.reason == "no closes of the past 365 days are held"


def test_what_is_declared_yields_so_much_at_the_target() -> None:
    """3.00 a year at 60 is 5 %."""
    found = reach_of(file_of(days_back(66.0)), RATE, Aim.BUY, 60.0)
    assert found.yield_there.value == pytest.approx(0.05)
    assert found.yield_there.formula == "declared rate ÷ buy-below price"


def test_it_is_asked_of_a_review_and_read_back_as_written() -> None:
    file = file_of(days_back(66.0))
    question = read_question({"reach": "trim_above:90.5"})
    assert question.reach == (Aim.TRIM, 90.5)
    assert write_question(question) == {"reach": "trim_above:90.5"}
    figure = figure_at(review_of(file, TODAY, HouseRules(), question), "reach.distance")
    assert figure is not None
    assert figure.value == pytest.approx(1 - 66 / 90.5)
    assert figure_at(review_of(file, TODAY, HouseRules()), "reach.distance") is None


@pytest.mark.parametrize("text", ["buy_below:0", "buy_below:-1", "sell:30", "buy_below", "step:x"])
def test_what_cannot_be_waited_for_is_refused(text: str) -> None:
    with pytest.raises(InvalidInput) as refused:
        read_question({"reach": text})
    assert refused.value.field == "reach"
