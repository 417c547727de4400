from dataclasses import replace
from datetime import date
from typing import Any

import numpy_financial as npf
import pytest

from hearth_yield.core.errors import InvalidInput
from hearth_yield.core.facts.records import Dividend
from hearth_yield.core.judging.house_rules import HouseRules
from hearth_yield.core.question import Question
from hearth_yield.core.review import build_review
from hearth_yield.core.worth.dividend_discount import constant_growth_value
from hearth_yield.core.worth.implied import implied_constant_growth
from hearth_yield.core.worth.models import Model
from hearth_yield.core.worth.worth import Worth

from ..build import RATE, paying_out, steady, yearly_raises

DAY = date(2026, 6, 30)


def worth(
    day: date = DAY, file=None, switched: dict[str, bool] | None = None, **inputs: float
) -> Worth:
    question = Question(inputs=inputs, switched=switched or {})
    return build_review((file or steady()).cut(day), HouseRules(), question).worth


def test_constant_growth_is_the_limit_of_discounted_dividends() -> None:
    flows = [0.0] + [2.40 * 1.03**t for t in range(1, 1200)]
    assert constant_growth_value(2.40, 0.03, 0.08) == pytest.approx(npf.npv(0.08, flows))


@pytest.mark.parametrize("price", [12.0, 49.44, 110.0])
def test_implied_growth_gives_the_price_back(price: float) -> None:
    growth = implied_constant_growth(price, 2.40, 0.08)
    assert isinstance(growth, float)
    assert constant_growth_value(2.40, growth, 0.08) == pytest.approx(price)


def on(w: Worth, question: str = "") -> dict[str, float]:
    """Models that are on, of one question where it is named."""
    held = (m for m in w.models if m.on and question in ("", m.answers))
    return {m.id: m.middle.value or 0.0 for m in held}


def model(w: Worth, id: str) -> Model:
    return next(m for m in w.models if m.id == id)


def test_a_faster_payer_is_offered_stages_and_a_fade_and_not_constant_growth() -> None:
    assert set(on(worth(), "dividends")) == {"two_stage", "fading"}
    assert "not taken to go on for ever" in (model(worth(), "constant_growth").why_off or "")
    slow = steady(dividends=tuple(yearly_raises(2002, 2026, 0.2, 0.02)[:-2]))
    assert set(on(worth(file=slow), "dividends")) == {"constant_growth"}


def test_no_growth_over_the_highest_goes_on_for_ever() -> None:
    w = worth(switched={"constant_growth": True})
    assert w.input("growth").value == pytest.approx(0.05)
    assert w.input("lasting_growth").value == w.input("later_growth").value == 0.04
    assert on(w)["constant_growth"] == pytest.approx(RATE * 1.04 / 0.04)


def test_a_payer_that_grows_faster_is_never_worth_less() -> None:
    """At the highest growth for ever all dividend models say the same, and rise from there."""
    blends = [
        list(on(worth(growth=g), "dividends").values())
        for g in (0.038, 0.0399, 0.04, 0.0401, 0.045, 0.06, 0.09)
    ]
    means = [sum(b) / len(b) for b in blends]
    assert means == sorted(means)
    assert means[3] == pytest.approx(means[2], rel=2e-3)


def test_buy_below_takes_the_margin_off() -> None:
    w = worth(margin_of_safety=0.25)
    assert w.buy_below.value == pytest.approx(0.75 * (w.combined.value or 0))
    assert all((m.low.value or 0) < (m.middle.value or 0) < (m.high.value or 0) for m in w.models)


def test_a_model_switched_off_leaves_the_combined_value_and_keeps_its_value() -> None:
    others = ("yield_reversion", "own_free_cash_flow", "cash_to_equity", "fading")
    w = worth(switched=dict.fromkeys(others, False))
    off = model(w, "yield_reversion")
    assert (off.on, off.why_off) == (False, "switched off by you")
    assert off.middle.known
    assert w.combined.value == model(w, "two_stage").middle.value
    assert w.spread.value is None


def test_a_growth_above_the_return_leaves_the_model_off_with_the_reason() -> None:
    w = worth(growth=0.09, switched={"constant_growth": True})
    off = model(w, "constant_growth")
    assert not off.on
    assert "not two points under the required return" in (off.why_off or "")
    assert "constant_growth" not in on(w)


def test_a_small_payout_leaves_the_models_on_and_the_dividends_without_a_vote() -> None:
    w = worth(file=steady(statements=paying_out(0.2)))
    assert model(w, "two_stage").on
    share = next(a for a in w.answers if a.id == "dividends").share.value
    assert share == pytest.approx(0.0)


def test_a_recent_cut_turns_yield_reversion_off() -> None:
    base = steady()
    cut = Dividend(
        ex_date=date(2026, 8, 10), amount=0.05, currency="TLL", declared_on=date(2026, 6, 20)
    )
    w = worth(file=replace(base, dividends=(*base.dividends, cut)))
    assert "2026-06-20" in (model(w, "yield_reversion").why_off or "")


@pytest.mark.parametrize(
    ("inputs", "name"),
    [
        ({}, "required return"),
        (
            {
                "switched": dict.fromkeys(
                    ("two_stage", "fading", "cash_to_equity", "own_free_cash_flow"), False
                )
            },
            "mean yield",
        ),
        ({"switched": {"constant_growth": True}, "growth": 0.055}, "required return"),
    ],
)
def test_what_moves_most_is_an_input_also_near_where_a_model_has_no_limit(
    inputs: dict[str, Any], name: str
) -> None:
    """½ point of the required return moves a model that ends in r − 4 % by an eighth, one point of
    early growth by a twentieth; growth for ever is held to two points under the return."""
    assert worth(**inputs).moves_most == name


def test_without_dividends_or_statements_all_is_unknown_and_nothing_fails() -> None:
    w = worth(file=steady(dividends=(), statements=()))
    assert w.combined.value is None
    assert w.buy_below.value is None
    assert w.implied_growth.value is None
    assert not any(m.on for m in w.models)


@pytest.mark.parametrize(
    ("field", "value"),
    [("growth", 0.9), ("required_return", 0.0), ("mean_yield", -0.1), ("margin_of_safety", 1.0)],
)
def test_inputs_out_of_bounds_name_field_value_and_rule(field: str, value: float) -> None:
    with pytest.raises(InvalidInput) as caught:
        worth(**{field: value})
    assert (caught.value.field, caught.value.value) == (field, value)
    assert caught.value.rule
