"""Growth that goes on for ever: followed, held, and one value for one question in all places."""

from __future__ import annotations

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from hearth_yield.core.kinds import Kind
from hearth_yield.core.question import Question
from hearth_yield.core.worth.dividend_discount import constant_growth_value, two_stage_value
from hearth_yield.core.worth.models import MODELS, Model
from hearth_yield.core.worth.worth import Worth
from tests.core.build import RATE, review, steady


def worth(on: str = "", **inputs: float) -> Worth:
    switched = {id: id == on for id, spec in MODELS.items() if Kind.COMPANY in spec.leads}
    question = Question(inputs=inputs, switched={**switched, on: True} if on else {})
    return review(steady(), question=question).worth


def sides(found: Worth, id: str) -> tuple[float | None, ...]:
    held = found.inputs[id]
    return held.low.value, held.figure.value, held.high.value


def only(found: Worth) -> Model:
    (model,) = found.on
    return model


@pytest.mark.parametrize(
    ("growth", "want"),
    [
        (0.06, (0.03, 0.04, 0.04)),
        (0.045, (0.03, 0.04, 0.04)),
        (0.035, (0.025, 0.035, 0.04)),
        (0.02, (0.01, 0.02, 0.03)),
        (-0.01, (-0.02, -0.01, 0.0)),
    ],
)
def test_later_growth_follows_growth_up_to_the_highest_for_ever(
    growth: float, want: tuple[float, ...]
) -> None:
    assert sides(worth("two_stage", growth=growth), "later_growth") == pytest.approx(want)


def test_later_growth_that_is_typed_stands_a_point_to_either_side() -> None:
    typed = worth("two_stage", growth=0.06, later_growth=0.05)
    assert sides(typed, "later_growth") == pytest.approx((0.04, 0.05, 0.06))


def test_a_slower_low_case_is_slower_for_ever() -> None:
    typed = worth("two_stage", growth=0.06, **{"growth.low": 0.02})
    assert sides(typed, "later_growth") == pytest.approx((0.02, 0.04, 0.04))


def test_cash_in_total_grows_no_faster_than_three_percent_for_ever() -> None:
    found = worth("cash_to_equity", cash_growth=0.08)
    assert sides(found, "cash_lasting") == pytest.approx((0.02, 0.03, 0.03))
    slow = worth("cash_to_equity", cash_growth=0.01)
    assert sides(slow, "cash_lasting") == pytest.approx((0.0, 0.01, 0.02))


def test_a_high_case_has_no_more_than_its_return_allows() -> None:
    """4 % for ever at 5.5 %: held to 3.5 % in the middle, to 3 % at 5 %, to 4 % at 6 %."""
    typed = worth("constant_growth", growth=0.04, required_return=0.055)
    assert typed.on == [], "4 % is typed, 1.5 points under 5.5 %"
    followed = worth("two_stage", growth=0.06, required_return=0.055)
    model = only(followed)
    assert model.high.value == pytest.approx(two_stage_value(RATE, 0.07, 5, 0.03, 0.05))
    assert model.middle.value == pytest.approx(two_stage_value(RATE, 0.06, 5, 0.035, 0.055))
    assert model.low.value == pytest.approx(two_stage_value(RATE, 0.05, 5, 0.03, 0.06))


def test_a_grid_and_a_typed_input_give_one_value() -> None:
    found = worth("two_stage", growth=0.05)
    grid = found.trials.grid("growth", "required_return")
    assert grid is not None
    for n, r in enumerate(grid.down_values):
        for m, g in enumerate(grid.across_values):
            typed = worth("two_stage", growth=g, required_return=r).combined.value
            assert grid.values[n][m] == pytest.approx(typed)


def test_a_move_is_worth_what_typing_it_is_worth() -> None:
    found = worth("two_stage", growth=0.035)
    moved = next(m for m in found.trials.moves if m.id == "growth")
    for input, value in ((moved.low_input, moved.low), (moved.high_input, moved.high)):
        assert input.value is not None
        typed = worth("two_stage", growth=input.value)
        assert value.value == pytest.approx(typed.combined.value)


@settings(max_examples=40, deadline=None)
@given(
    growth=st.floats(-0.05, 0.2),
    r=st.floats(0.03, 0.15),
    on=st.sampled_from(["two_stage", "fading"]),
)
def test_cases_rise_from_low_to_high_and_none_is_without_limit(
    growth: float, r: float, on: str
) -> None:
    model = only(worth(on, growth=growth, required_return=r))
    low, middle, high = model.low.value, model.middle.value, model.high.value
    assert low is not None
    assert middle is not None
    assert high is not None
    assert low <= middle * (1 + 1e-9)
    assert middle <= high * (1 + 1e-9)


@settings(max_examples=40, deadline=None)
@given(
    g=st.floats(0.0, 0.12),
    step=st.sampled_from([1e-3, 1e-4, 1e-5]),
    r=st.floats(0.05, 0.12),
    d=st.floats(0.1, 10),
)
def test_nothing_jumps_where_growth_meets_its_bound(
    g: float, step: float, r: float, d: float
) -> None:
    """Two points under r, D(1 + g) ÷ (r − g) rises by at most D × 1.2 ÷ 0.02² a unit of growth."""
    apart = constant_growth_value(d, g + step, r) - constant_growth_value(d, g, r)
    assert 0 <= apart <= d * 1.2 / 0.02**2 * step
