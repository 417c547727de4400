"""Expectations: when one is on track, when it came true, and when it cannot be told."""

from datetime import date

import pytest

from hearth_yield.core.errors import InvalidInput
from hearth_yield.core.expecting.expectation import (
    Expectation,
    Judged,
    Side,
    Track,
    Way,
    check_expectation,
    judge,
)
from hearth_yield.core.figures.figure import Figure, Unit, unknown

SAID = date(2026, 6, 30)
LATER = date(2028, 6, 30)


def expected(
    way: Way,
    value: float,
    side: Side = Side.AT_LEAST,
    then: float | None = 2.0,
    until: date = date(2030, 6, 30),
    measure: str = "declared_rate",
) -> Expectation:
    return Expectation(measure=measure, way=way, side=side, value=value, until=until, then=then)


def now(value: float | None) -> Figure:
    if value is None:
        return unknown("x", Unit.PER_SHARE, "not paid")
    return Figure(label="x", unit=Unit.PER_SHARE, value=value, currency="TLL")


def judged(e: Expectation, *looks: tuple[date, float | None], factor: float = 1.0) -> Judged:
    return judge(e, SAID, [(day, now(v)) for day, v in looks], factor)


def test_a_growth_a_year_is_held_against_what_it_came_to() -> None:
    """2.00 to 2.2472 in two years is 6 % a year: 1.06² = 1.1236."""
    six = expected(Way.GROWTH, 0.06)
    found = judged(six, (LATER, 2.2472))
    assert found.value.value == pytest.approx(0.06, abs=2e-4)
    assert judged(six, (LATER, 2.30)).track is Track.ON
    assert judged(six, (LATER, 2.20)).track is Track.OFF
    assert judged(six, (date(2030, 6, 30), 2.60)).track is Track.MET
    assert judged(six, (date(2030, 6, 30), 2.40)).track is Track.MISSED


def test_a_split_is_no_fall() -> None:
    """After two for one 2.00 is 1.00 in today's shares."""
    six = expected(Way.GROWTH, 0.06)
    assert judged(six, (LATER, 1.15), factor=2.0).track is Track.ON


def test_less_than_a_year_says_nothing_of_a_growth_a_year() -> None:
    found = judged(expected(Way.GROWTH, 0.06), (date(2026, 12, 1), 2.0))
    assert (found.track, found.reason) == (Track.UNKNOWN, "less than a year has passed")


def test_a_level_to_reach_is_on_track_on_the_straight_way_to_it() -> None:
    """From 4.0 to 3.0 in four years is 3.5 after two."""
    below = expected(Way.LEVEL, 3.0, Side.AT_MOST, then=4.0, measure="debt_to_ebitda")
    found = judged(below, (LATER, 3.4))
    assert found.wanted.value == pytest.approx(3.5, abs=0.001)
    assert found.track is Track.ON
    assert judged(below, (LATER, 3.6)).track is Track.OFF
    assert judged(below, (date(2030, 6, 30), 3.0)).track is Track.MET


def test_an_amount_on_the_way_is_in_its_currency_and_opens_its_working() -> None:
    """From 2.00 to 3.00 in four years is 2.50 after two."""
    found = judged(expected(Way.LEVEL, 3.0), (LATER, 2.4)).wanted
    assert (found.value, found.currency) == (pytest.approx(2.5, abs=0.001), "TLL")
    assert [(i.value, i.currency) for i in found.inputs] == [(2.0, "TLL"), (3.0, "TLL")]


def test_a_level_that_holds_already_has_to_stay() -> None:
    below = expected(Way.LEVEL, 3.0, Side.AT_MOST, then=2.0, measure="debt_to_ebitda")
    found = judged(below, (LATER, 2.9))
    assert (found.track, found.wanted.value) == (Track.ON, 3.0)
    assert judged(below, (LATER, 3.1)).track is Track.OFF


def test_what_must_hold_throughout_fails_at_one_look() -> None:
    stays = expected(Way.THROUGHOUT, 0.01, Side.AT_MOST, then=0.0, measure="share_growth")
    year = date(2027, 6, 30)
    assert judged(stays, (year, 0.005), (LATER, 0.01)).track is Track.ON
    assert judged(stays, (year, 0.02), (LATER, 0.0)).track is Track.OFF


def test_an_unknown_measure_cannot_be_told_with_its_reason() -> None:
    found = judged(expected(Way.LEVEL, 3.0), (LATER, None))
    assert (found.track, found.value.value, found.reason) == (Track.UNKNOWN, None, "not paid")
    nil = judged(expected(Way.GROWTH, 0.06, then=0.0), (LATER, 2.0))
    assert nil.track is Track.UNKNOWN


@pytest.mark.parametrize(
    "wrong",
    [
        expected(Way.LEVEL, 1.0, measure="nothing"),
        expected(Way.LEVEL, 1.0, until=SAID),
        expected(Way.LEVEL, 1.0, until=date(2090, 1, 1)),
        expected(Way.GROWTH, 0.06, measure="payout"),
    ],
)
def test_what_cannot_be_expected_is_refused(wrong: Expectation) -> None:
    with pytest.raises(InvalidInput) as refused:
        check_expectation(wrong, SAID)
    assert refused.value.field == "expectations"


EVERY_SEPTEMBER = [date(y, 9, 12) for y in range(2021, 2026)]
SAID_EARLY = date(2026, 1, 15)


def at_raises(day: date, rate: float, *more: date, raised: list[date] | None = None) -> Judged:
    e = expected(Way.GROWTH, 0.055)
    known = [*(EVERY_SEPTEMBER if raised is None else raised), *more]
    return judge(e, SAID_EARLY, [(day, now(rate))], 1.0, known)


def test_growth_of_what_is_declared_is_read_at_raises() -> None:
    """A raise of 6.0 % in September is on track for 5.5 % until the next one is overdue."""
    early = at_raises(date(2026, 8, 20), 2.0)
    assert early.track is Track.UNKNOWN
    assert early.reason.endswith("cannot be told before September")
    raised = date(2026, 9, 14)
    for day in (raised, date(2027, 3, 1), date(2027, 9, 1), date(2027, 10, 20)):
        found = at_raises(day, 2.12, raised)
        assert found.value.value == pytest.approx(0.06), day
        assert found.track is Track.ON, day
    overdue = at_raises(date(2027, 11, 5), 2.12, raised)
    assert overdue.value.value == pytest.approx(1.06**0.5 - 1)
    assert overdue.track is Track.OFF
    again = at_raises(date(2027, 9, 20), 2.2366, raised, date(2027, 9, 10))
    assert again.value.value == pytest.approx(1.1183**0.5 - 1)


def test_a_september_without_a_raise_counts_once_it_is_over() -> None:
    assert at_raises(date(2026, 10, 10), 2.0).track is Track.UNKNOWN
    held = at_raises(date(2026, 11, 1), 2.0)
    assert (held.value.value, held.track) == (0.0, Track.OFF)


def test_who_raises_at_no_one_time_is_read_by_days() -> None:
    quarterly = [date(2025, m, 10) for m in (3, 6, 9, 12)] + [date(2024, 12, 10)]
    found = at_raises(date(2027, 1, 20), 2.12, raised=quarterly)
    assert found.value.value == pytest.approx(0.06, abs=1e-3)
    assert at_raises(date(2026, 9, 20), 2.12, raised=quarterly).track is Track.UNKNOWN
