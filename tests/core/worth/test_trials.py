"""What moves a value, what a price takes for granted, two inputs at once, and chance."""

import numpy as np
import pytest
from hypothesis import given as over
from hypothesis import settings
from hypothesis import strategies as st

from hearth_yield.core.errors import InvalidInput
from hearth_yield.core.figures.figure import Unknown
from hearth_yield.core.question import Question
from hearth_yield.core.worth.dividend_discount import two_stage_value
from hearth_yield.core.worth.trials.chance import Simulated, draw, worth_of_draws
from hearth_yield.core.worth.worth import Worth
from tests.conftest import sample

from ..build import RATE, review, steady

ONE = dict.fromkeys(
    ("two_stage", "fading", "yield_reversion", "cash_to_equity", "own_free_cash_flow"), False
)


def worth(**question: object) -> Worth:
    return review(steady(), question=Question(**question)).worth  # type: ignore[arg-type]


def only(id: str, **inputs: float) -> Worth:
    """With one model on."""
    return worth(switched=ONE | {id: True}, inputs=inputs)


def simulated(found: Worth) -> Simulated:
    held = found.trials.simulated()
    assert isinstance(held, Simulated)
    return held


def test_each_input_alone_at_its_low_and_its_high() -> None:
    found = only("two_stage", growth=0.06, later_growth=0.03, required_return=0.08)
    moves = {m.name: m for m in found.trials.moves}
    low = two_stage_value(RATE, 0.05, 5, 0.03, 0.08)
    assert moves["growth"].low.value == pytest.approx(low)
    high = two_stage_value(RATE, 0.06, 5, 0.03, 0.075)
    assert moves["required return"].high.value == pytest.approx(high)
    sizes = [m.size for m in found.trials.moves]
    assert sizes == sorted(sizes, reverse=True)
    assert found.moves_most == found.trials.moves[0].name


def test_what_the_price_implies_gives_the_price_back() -> None:
    found = worth(switched={"cash_to_equity": True}, inputs={"cash_start": 2.0})
    price = review(steady()).price.value
    assert price is not None
    implied = {i.id: i for i in found.trials.implied}
    past = {"yield_reversion", "own_free_cash_flow"}
    assert set(implied) == {"two_stage", "fading", "cash_to_equity"} | past
    for id, input in (("two_stage", "growth"), ("cash_to_equity", "cash_growth")):
        taken = implied[id].takes
        assert taken is not None
        assert taken.value is not None
        typed = {"cash_start": 2.0, input: taken.value}
        kept = {"growth": "later_growth", "cash_growth": "cash_lasting"}[input]
        typed[kept] = found.inputs[kept].figure.value or 0.0
        again = worth(switched={"cash_to_equity": True}, inputs=typed)
        model = next(m for m in again.models if m.id == id)
        assert model.middle.value == pytest.approx(price, rel=1e-5)


def test_a_price_that_no_input_explains_is_said() -> None:
    found = only("two_stage", required_return=0.4)
    (implied,) = found.trials.implied
    assert implied.takes is not None
    assert implied.takes.reason == "no growth that could be typed gives the price"
    assert implied.offers is not None
    assert implied.offers.known


def test_a_grid_is_the_value_at_each_pair_of_inputs() -> None:
    found = only("two_stage", growth=0.06, later_growth=0.03, required_return=0.08)
    grid = found.trials.grid("growth", "required_return")
    assert grid is not None
    assert grid.across_values == pytest.approx([0.03, 0.04, 0.05, 0.06, 0.07, 0.08, 0.09])
    assert grid.down_values[0] == pytest.approx(0.065)
    assert len(grid.values) == len(grid.values[0]) == 7
    for r, row in zip(grid.down_values, grid.values, strict=True):
        assert row == pytest.approx(
            [two_stage_value(RATE, g, 5, 0.03, r) for g in grid.across_values]
        )
    assert grid.values[3][3] == pytest.approx(found.combined.value)


def test_inputs_that_rest_on_a_moved_one_follow_it() -> None:
    """Constant growth goes by a growth for ever that is the person's own growth once typed."""
    found = only("constant_growth", required_return=0.08)
    grid = found.trials.grid("growth", "required_return")
    assert grid is not None
    assert grid.values[3][0] == pytest.approx(
        RATE * (1 + grid.across_values[0]) / (0.08 - grid.across_values[0])
    )
    assert all(v is not None for row in grid.values for v in row)
    assert grid.limitless is None
    fast, asked = grid.across_values[-1], grid.down_values[0]
    assert fast > asked - 0.02
    assert grid.values[0][-1] == pytest.approx(RATE * (1 + asked - 0.02) / 0.02)


@pytest.mark.parametrize(
    ("across", "down", "field"), [("luck", None, "across"), ("growth", "growth", "down")]
)
def test_a_grid_that_cannot_be_is_refused_by_name(
    across: str, down: str | None, field: str
) -> None:
    with pytest.raises(InvalidInput) as caught:
        worth().trials.grid(across, down)
    assert caught.value.field == field


def test_the_same_seed_draws_the_same() -> None:
    assert simulated(worth()) == simulated(worth())


def test_in_a_linear_case_the_mean_of_draws_is_the_analytic_one() -> None:
    """A multiple × earnings: the mean of a triangle is a third of the sum of its corners."""
    found = only("own_earnings", own_earnings=16.0)
    (model,) = found.on
    corners = [model.low.value or 0, model.middle.value or 0, model.high.value or 0]
    held = simulated(found)
    assert held.mean == pytest.approx(sum(corners) / 3, rel=1e-3)
    assert held.median == pytest.approx(corners[1], rel=2e-3)
    width = corners[2] - corners[0]
    tenth = corners[0] + width * (0.1 * 0.5) ** 0.5
    assert held.low == pytest.approx(tenth, rel=2e-3)
    assert sum(held.counts) == pytest.approx(held.draws * 0.99, rel=1e-3)


def test_a_chance_is_the_share_of_draws_over_the_price() -> None:
    price = review(steady()).price.value or 0.0
    earned = only("own_earnings", own_earnings=16.0).on[0].middle.value or 0.0
    even = only("own_earnings", own_earnings=16.0 * price / earned)
    assert simulated(even).above == pytest.approx(0.5, abs=0.01)
    dear = only("own_earnings", own_earnings=4.0 * price / earned)
    assert simulated(dear).above == 0.0


def test_exit_yield_falls_as_growth_rises_and_the_draws_stay_in_their_triangles() -> None:
    found = worth(switched={"exit": True})
    held = draw(found.trials.valuer, 20_000, 7)
    assert np.corrcoef(held["growth"], held["exit_yield"])[0, 1] == pytest.approx(-0.5, abs=0.03)
    assert abs(np.corrcoef(held["growth"], held["required_return"])[0, 1]) < 0.03
    for id, drawn in held.items():
        ends = sorted((found.inputs[id].low.value or 0, found.inputs[id].high.value or 0))
        assert ends[0] <= drawn.min()
        assert drawn.max() <= ends[1]


def test_draws_near_the_return_are_held_under_it_and_none_is_made_again() -> None:
    """5 % for ever against 7 % is at the edge: faster draws count as two points under theirs."""
    found = only("constant_growth", growth=0.05, required_return=0.07)
    drawn = draw(found.trials.valuer, 5_000, 3)
    asked, grown = drawn["required_return"], drawn["lasting_growth"]
    assert (asked - grown).min() < 0.02
    values = worth_of_draws(found.trials.valuer, drawn)
    held = np.minimum(grown, asked - 0.02)
    assert values == pytest.approx(RATE * (1 + held) / (asked - held))
    assert simulated(found).draws == 100_000


def test_growth_typed_too_near_the_return_is_not_drawn() -> None:
    never = only("constant_growth", growth=0.0745, required_return=0.075)
    assert isinstance(never.trials.simulated(), Unknown)


growths = st.floats(-0.04, 0.05)
returns = st.floats(0.075, 0.14)


@settings(max_examples=sample(30, 100), deadline=None)
@over(growths, returns, st.floats(0.02, 0.07))
def test_every_draw_is_what_the_models_say_of_it(growth: float, r: float, y: float) -> None:
    """The first draws, valued one at a time with the same inputs typed."""
    on = dict.fromkeys(("two_stage", "fading", "yield_reversion", "exit"), True)
    on["constant_growth"] = False
    typed = {"growth": growth, "required_return": r, "mean_yield": y, "exit_yield": y}
    found = worth(switched=on, inputs=typed)
    drawn = draw(found.trials.valuer, 2, 11)
    values = worth_of_draws(found.trials.valuer, drawn)
    for n in range(2):
        same = {id: float(x[n]) for id, x in drawn.items() if id != "lasting_growth"}
        again = worth(switched=on, inputs=same)
        assert again.combined.value == pytest.approx(values[n])


def test_cases_weigh_by_their_chances_and_chances_scale() -> None:
    typed = {"chance_low": 0.5, "chance_middle": 0.3, "chance_high": 0.2}
    (model,) = only("two_stage", **typed).on
    by_hand = (
        0.5 * (model.low.value or 0)
        + 0.3 * (model.middle.value or 0)
        + 0.2 * (model.high.value or 0)
    )
    assert model.weighted.value == pytest.approx(by_hand)
    halved = {id: p / 2 for id, p in typed.items()}
    (again,) = only("two_stage", **halved).on
    assert again.weighted.value == pytest.approx(by_hand)


def test_a_case_typed_at_one_end_moves_that_end_alone() -> None:
    """The slower growth is also the most that it grows later."""
    plain = only("two_stage", growth=0.06)
    typed = only("two_stage", growth=0.06, **{"growth.low": 0.01})
    (before,), (after,) = plain.on, typed.on
    assert after.low.value == pytest.approx(two_stage_value(RATE, 0.01, 5, 0.01, 0.085))
    assert (after.middle.value, after.high.value) == (before.middle.value, before.high.value)


def test_weights_and_reasons_of_models() -> None:
    found = worth(
        weights={"two_stage": 3.0, "past": 2.0},
        switched={"fading": False, "exit": True, "cash_to_equity": False},
        reasons={"fading": "the fade is a guess"},
    )
    values = {m.id: m.middle.value or 0.0 for m in found.on}
    dividends = (3 * values["two_stage"] + values["exit"]) / 4
    past = (values["yield_reversion"] + values["own_free_cash_flow"]) / 2
    assert found.combined.value == pytest.approx((dividends + 2 * past) / 3)
    aside = next(m for m in found.models if m.id == "fading")
    assert aside.why_off == "switched off by you: the fade is a guess"
    for refused in ({"two_stage": 0.0}, {"past": -0.1}, {"luck": 1.0}):
        with pytest.raises(InvalidInput) as caught:
            worth(weights=refused)
        assert caught.value.field == "weights"


def test_two_margins_and_a_price_to_trim_above() -> None:
    found = worth(inputs={"second_margin": 0.1, "trim_premium": 0.25})
    combined = found.combined.value or 0.0
    assert found.second_buy_below.value == pytest.approx(0.9 * combined)
    assert found.trim_above.value == pytest.approx(1.25 * combined)
    assert worth().trim_above.reason == "premium to trim above unknown: not set"
