from dataclasses import replace
from datetime import date

import numpy_financial as npf
import pytest

from hearth_yield.core.errors import InvalidInput, MethodError
from hearth_yield.core.facts import Dividend
from hearth_yield.core.review import Question, build_review
from hearth_yield.core.rules import HouseRules
from hearth_yield.core.worth.blend import Worth, WorthInputs
from hearth_yield.core.worth.dividend_discount import constant_growth_value
from hearth_yield.core.worth.implied import implied_constant_growth

from .build import plain_years, steady

DAY = date(2026, 6, 30)


def worth(day: date = DAY, file=None, **inputs: object) -> Worth:
    question = Question(inputs=WorthInputs(**inputs))  # type: ignore[arg-type]
    return build_review((file or steady()).cut(day), HouseRules(), question).worth


def test_constant_growth_is_the_limit_of_discounted_dividends() -> None:
    flows = [0.0] + [2.40 * 1.03**t for t in range(1, 1200)]
    assert constant_growth_value(2.40, 0.03, 0.08) == pytest.approx(npf.npv(0.08, flows))


def test_return_at_or_below_growth_is_refused_by_name() -> None:
    with pytest.raises(MethodError) as caught:
        constant_growth_value(2.40, 0.08, 0.08)
    assert caught.value.field == "growth"


@pytest.mark.parametrize("price", [12.0, 49.44, 240.0])
def test_implied_growth_gives_the_price_back(price: float) -> None:
    growth = implied_constant_growth(price, 2.40, 0.08)
    assert isinstance(growth, float)
    assert constant_growth_value(2.40, growth, 0.08) == pytest.approx(price)


def test_default_growth_is_held_under_the_required_return_and_says_so() -> None:
    w = worth(required_return=0.07)
    assert w.growth.value == pytest.approx(0.04)
    assert any("held to 3 points" in n for n in w.growth.notes)


def test_the_blend_is_the_mean_and_buy_below_takes_the_margin_off() -> None:
    w = worth(margin_of_safety=0.25)
    middles = [m.middle.value or 0 for m in w.models]
    assert all(m.on for m in w.models)
    assert w.blend.value == pytest.approx(sum(middles) / 2)
    assert w.buy_below.value == pytest.approx(0.75 * sum(middles) / 2)
    assert all((m.low.value or 0) < (m.middle.value or 0) < (m.high.value or 0) for m in w.models)


def test_a_model_set_aside_leaves_the_blend_and_keeps_its_value() -> None:
    w = worth(switched={"yield_reversion": False})
    off = w.models[1]
    assert (off.on, off.why_off) == (False, "set aside by you")
    assert off.middle.known
    assert w.blend.value == w.models[0].middle.value
    assert w.spread.value is None


def test_a_growth_above_the_return_leaves_the_model_off_with_the_reason() -> None:
    w = worth(growth=0.09)
    assert not w.models[0].on
    assert "not below the required return" in (w.models[0].why_off or "")
    assert w.blend.value == w.models[1].middle.value


def test_a_small_payout_does_not_suit_a_dividend_model_but_may_be_switched_on() -> None:
    file = steady(statements=plain_years(2002, 2025, paid=20.0))
    assert "pays out 20 %" in (worth(file=file).models[0].why_off or "")
    assert worth(file=file, switched={"constant_growth": True}).models[0].on


def test_a_recent_cut_turns_yield_reversion_off() -> None:
    base = steady()
    cut = Dividend(
        ex_date=date(2026, 8, 10), amount=0.05, currency="TLL", declared_on=date(2026, 6, 20)
    )
    w = worth(file=replace(base, dividends=(*base.dividends, cut)))
    assert "2026-06-20" in (w.models[1].why_off or "")


def test_without_dividends_everything_is_unknown_and_nothing_fails() -> None:
    w = worth(file=steady(dividends=()))
    assert w.blend.value is None
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
