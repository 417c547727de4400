from dataclasses import replace
from datetime import date

import pytest

from hearth_yield.core.errors import MethodError
from hearth_yield.core.figures.figure import Figure, Unit, Unknown
from hearth_yield.core.figures.measure import Direction, Limit, Stage
from hearth_yield.core.figures.measure import TestSpec as RuleSpec
from hearth_yield.core.figures.measure import measure as declare
from hearth_yield.core.judging.house_rules import HouseRules
from hearth_yield.core.judging.judge import (
    State,
    cap_cushion,
    first_to_give,
    floor_cushion,
    run_test,
    tightest_first,
    worst_state,
)
from hearth_yield.core.judging.judge import Test as RuleTest
from hearth_yield.core.kinds import JUDGED, Kind
from hearth_yield.core.review import build_review

from ..build import payer, plain_years, steady

DAY = date(2026, 6, 30)


def measure(value: float | None, breach: str | None = None) -> Figure:
    return Figure(
        label="m", unit=Unit.FRACTION, value=value, reason=None if value else "why", breach=breach
    )


def rule(
    value: float | None,
    limit: float = 0.6,
    direction: Direction = Direction.CAP,
    *,
    required: bool = True,
    breach: str | None = None,
) -> RuleTest:
    held = Limit(value=limit, required=required)
    test = RuleSpec(direction=direction, limits={}, short=lambda _: "t", falls=lambda _: "cash")
    spec = declare(Stage.COVER, "t", "T", Unit.FRACTION, lambda _: None, test=test)
    return run_test(spec, measure(value, breach), held, None, close_under=0.10)


@pytest.mark.parametrize(
    ("value", "state"),
    [(0.61, "outside"), (0.60, "close"), (0.55, "close"), (0.54, "within"), (None, "unknown")],
)
def test_states_by_cushion(value: float | None, state: str) -> None:
    assert rule(value).state == state


def test_a_breach_is_over_without_size() -> None:
    test = rule(None, breach="cash burn")
    assert test.state is State.OUTSIDE
    assert test.cushion.value is None


def test_order_first_to_give_and_worst() -> None:
    passed = rule(1.0, 0.0, Direction.PASS)
    tests = [rule(0.2), passed, rule(0.55), rule(None, breach="loss"), rule(None), rule(0.7)]
    order = tightest_first(tests)
    assert [t.state.value for t in order] == [
        "outside",
        "outside",
        "close",
        "within",
        "within",
        "unknown",
    ]
    assert first_to_give(tests) is order[0]
    assert worst_state(tests) is State.OUTSIDE
    assert worst_state([rule(0.55), rule(None)]) is State.UNKNOWN


def test_a_list_shows_required_tests_before_advisory_ones() -> None:
    advisory, mild, hard = rule(0.9, required=False), rule(0.2), rule(0.7)
    assert tightest_first([advisory, mild, hard]) == [hard, mild, advisory]


def test_advisory_tests_decide_nothing() -> None:
    tests = [rule(0.9, required=False), rule(0.3)]
    assert worst_state(tests) is State.WITHIN
    assert first_to_give(tests) is tests[1]
    assert worst_state(tests[:1]) is None


def test_cushions_refuse_and_cross() -> None:
    with pytest.raises(MethodError):
        cap_cushion(1.0, 0.0)
    assert isinstance(floor_cushion(-1.0, 4.0), Unknown)


@pytest.mark.parametrize("kind", JUDGED)
def test_every_kind_is_reviewed_under_its_own_rules(kind: Kind) -> None:
    review = build_review(steady(payer=payer(kind)).cut(DAY), HouseRules())
    held = {t.id: t for t in review.tests}
    assert held["payout"].required
    assert held["net_income"].required == (kind is Kind.FINANCIAL)
    assert ("earnings_payout" in held) == (kind is Kind.COMPANY)


def test_a_payer_that_lost_money_reads_on() -> None:
    review = build_review(
        steady(statements=plain_years(2015, 2025, cash=-5.0)).cut(DAY), HouseRules()
    )
    assert review.state is State.OUTSIDE
    assert review.first_to_give is not None
    assert review.first_to_give.cushion.value is None
    words = "".join(p for p in review.stages[Stage.COVER].finding if isinstance(p, str))
    assert "Cash burn in fiscal 2025" in words


@pytest.mark.parametrize(
    ("direction", "unit", "value", "limit", "words"),
    [
        (Direction.CAP, Unit.FRACTION, 1.10, 0.60, "50 points above your 60 %"),
        (Direction.CAP, Unit.FRACTION, 0.61, 0.60, "1 point above your 60 %"),
        (Direction.CAP, Unit.FRACTION, 0.6001, 0.60, "just above your 60 %"),
        (Direction.CAP, Unit.MULTIPLE, 1.5, 1.2, "0.3× above your 1.2×"),
        (Direction.FLOOR, Unit.FRACTION, 0.115, 0.12, "0.5 points under your minimum of 12 %"),
        (Direction.FLOOR, Unit.MULTIPLE, 2.8, 4.0, "1.2× under your minimum of 4×"),
        (Direction.PASS, Unit.YEARS, 8.0, 10.0, "2 years under your minimum of 10"),
        (Direction.PASS, Unit.YEARS, 9.0, 10.0, "1 year under your minimum of 10"),
    ],
)
def test_how_far_beyond_a_limit_is_said_in_its_own_unit(
    direction: Direction, unit: Unit, value: float, limit: float, words: str
) -> None:
    crossed = RuleTest(
        id="x",
        short="x",
        stage=Stage.COVER,
        measure=Figure(label="x", unit=unit, value=value),
        limit=limit,
        direction=direction,
        required=True,
        cushion=Figure(label="c", unit=Unit.FRACTION, value=-0.1),
        state=State.OUTSIDE,
        falls=None,
        strict=False,
    )
    assert crossed.beyond == words
    assert replace(crossed, state=State.CLOSE).beyond is None
