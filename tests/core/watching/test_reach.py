"""How far a price is from a target, and how often it was there."""

from datetime import date, timedelta

import pytest

from hearth_yield.core.facts.records import PayerFile, PriceHistory, Split
from hearth_yield.core.figures.figure import Figure, Unit, unknown
from hearth_yield.core.watching.reach import Aim, reach_of

from ..build import steady

TODAY = date(2026, 6, 30)


def priced(value: float) -> Figure:
    return Figure(label="price", unit=Unit.PER_SHARE, value=value)


def file_of(closes: list[tuple[date, float]], splits: tuple[Split, ...] = ()) -> PayerFile:
    return steady(prices=PriceHistory.of(closes), splits=splits).cut(TODAY)


def days_back(*closes: float) -> list[tuple[date, float]]:
    """The last one today, a day apart."""
    first = TODAY - timedelta(days=len(closes) - 1)
    return [(first + timedelta(days=n), c) for n, c in enumerate(closes)]


def test_a_price_above_what_one_would_pay_has_to_fall() -> None:
    """66 against 60 is 10 % of the target above it."""
    found = reach_of(file_of(days_back(66.0)), priced(66.0), Aim.BUY, 60.0)
    assert found.distance.value == pytest.approx(0.10)
    assert not found.reached


def test_at_the_target_it_is_reached_from_either_side() -> None:
    file = file_of(days_back(60.0))
    assert reach_of(file, priced(60.0), Aim.BUY, 60.0).reached
    assert reach_of(file, priced(59.0), Aim.STEP, 60.0).reached
    assert reach_of(file, priced(60.0), Aim.TRIM, 60.0).reached
    below = reach_of(file, priced(54.0), Aim.TRIM, 60.0)
    assert (below.reached, below.distance.value) == (False, pytest.approx(0.10))


def test_how_often_it_was_there_counts_the_closes_of_a_year() -> None:
    closes = [(TODAY - timedelta(days=400), 10.0), *days_back(58.0, 61.0, 60.0, 62.0)]
    found = reach_of(file_of(closes), priced(62.0), Aim.BUY, 60.0)
    assert (found.met, found.closes) == (0.5, 4)
    assert found.last_met == TODAY - timedelta(days=1)
    trim = reach_of(file_of(closes), priced(62.0), Aim.TRIM, 61.0)
    assert (trim.met, trim.last_met) == (0.5, TODAY)


def test_closes_of_before_a_split_are_in_todays_shares() -> None:
    """120 before two for one is 60 now."""
    split = Split(effective_on=TODAY, new_shares=2, old_shares=1)
    found = reach_of(file_of(days_back(120.0, 61.0), (split,)), priced(61.0), Aim.BUY, 60.0)
    assert (found.met, found.last_met) == (0.5, TODAY - timedelta(days=1))


def test_an_unknown_price_has_no_distance_and_is_not_there() -> None:
    none = unknown("price", Unit.PER_SHARE, "no close is held")
    found = reach_of(file_of([]), none, Aim.BUY, 60.0)
    assert (found.distance.value, found.met, found.reached) == (None, None, False)
    assert "no close is held" in (found.distance.reason or "")
