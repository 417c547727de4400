"""Rules: tests, limits, cushions and states. (docs/method.md, Tests, limits, cushions)"""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from enum import StrEnum

from ..errors import MethodError
from ..figures.figure import Figure, Unit, Unknown, derive, given
from ..figures.measure import Direction, Limit, Measure, Stage, TestSpec
from ..figures.ties import above, at_least
from .house_rules import HouseRules, Whom


class State(StrEnum):
    """Of a test against the person's own limit; whether cash covers the dividend is another.

    PAYING_NOTHING is of a payer alone: where nothing is paid, nothing is safe or unsafe."""

    WITHIN = "within"
    CLOSE = "close"
    OUTSIDE = "outside"
    UNKNOWN = "unknown"
    PAYING_NOTHING = "paying_nothing"


OLD_STATES = {"over": State.OUTSIDE.value}
"""What a state was called before, in addresses, backups and what was kept."""
WORST_FIRST = (State.OUTSIDE, State.UNKNOWN, State.CLOSE, State.WITHIN, State.PAYING_NOTHING)
STATES_IN_WORDS = {
    State.WITHIN: "within limits",
    State.CLOSE: "close to a limit",
    State.OUTSIDE: "outside a limit",
    State.UNKNOWN: "unknown",
    State.PAYING_NOTHING: "paying nothing",
}
"""As it is said of a payer."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Test:
    """A measure held against a limit. falls: what the cushion says can fall; short: its name where
    there is little room. exempt: whose own limit it is, where that is not the kind's."""

    __test__ = False

    id: str
    short: str
    stage: Stage
    measure: Figure
    limit: float
    direction: Direction
    required: bool
    cushion: Figure
    state: State
    falls: str | None
    strict: bool
    exempt: str | None = None

    @property
    def beyond(self) -> str | None:
        """How far it is beyond its limit, in its own unit: "50 points above your 60 %", "1.2× under
        your 4×", "2 years under your minimum of 10"; None where it is not, or has no size."""
        value = self.measure.value
        if self.state is not State.OUTSIDE or value is None:
            return None
        side = "above your" if self.direction is Direction.CAP else "under your minimum of"
        apart = _in_unit(abs(value - self.limit), self.measure.unit, apart=True)
        return f"{apart} {side} {_in_unit(self.limit, self.measure.unit)}"


def _in_unit(value: float, unit: Unit, *, apart: bool = False) -> str:
    """An amount as it is said; what lies between two fractions is points."""
    scale = {Unit.FRACTION: 100, Unit.YIELD: 100, Unit.MONEY: 1e-6}.get(unit, 1)
    number = value * scale
    digits = 0 if abs(number) >= 10 or round(number, 1) == round(number) else 1
    text = f"{number:,.{digits}f}"
    if apart and round(number, 1) == 0:
        text = "just"
    one = text == "1"
    match unit:
        case Unit.FRACTION | Unit.YIELD:
            points = " point" if one else " points"
            return text if text == "just" else text + (points if apart else " %")
        case Unit.MULTIPLE:
            return text if text == "just" else f"{text}×"
        case Unit.MONEY:
            return text if text in ("just", "0") else f"{text} m"
        case Unit.YEARS:
            years = " year" if one else " years"
            return text + (years if apart and text != "just" else "")
    return text


def cap_cushion(measure: float, limit: float) -> float:
    """How far the thing underneath can fall before a cap is reached: 1 − m/L.

    Under 0 (more cash than debt) nothing underneath is needed: 1.
    Source: docs/method.md. Payout 0.55 against 0.60 → 0.0833.
    """
    if limit <= 0:
        raise MethodError("a cap must be above 0", field="limit", value=limit, rule="limit > 0")
    return 1 - max(measure, 0.0) / limit


def floor_cushion(measure: float, limit: float) -> float | Unknown:
    """How far the measure can fall before a floor is reached: 1 − L/m.

    A measure that is not positive has crossed it without size.
    Source: docs/method.md. Interest cover 7.2, floor 4 → 0.4444.
    """
    if measure <= 0:
        return Unknown("not positive", breach="below the floor")
    return 1 - limit / measure


def state_of(cushion: Figure, passed: bool | None, close_under: float) -> State:
    """outside when the limit is crossed, close below a cushion of close_under, within otherwise."""
    if cushion.breach or passed is False:
        return State.OUTSIDE
    if passed:
        return State.WITHIN
    if cushion.value is None:
        return State.UNKNOWN
    if not at_least(1 + cushion.value, 1.0):
        return State.OUTSIDE
    return State.WITHIN if at_least(cushion.value, close_under) else State.CLOSE


def run_test(
    spec: Measure, measure: Figure, limit: Limit, result: object, close_under: float
) -> Test:
    """Hold one measure against one limit. result: what the names of its test are read off."""
    test = spec.test
    if test is None:
        raise MethodError("no test is declared", field="id", value=spec.id, rule="a tested measure")
    falls = test.falls(result) if test.falls else None
    asked = given("limit", measure.unit, limit.value, "house rule")
    cushion, passed = _cushion(test, measure, asked, falls)
    cushion = _without_size(cushion, measure)
    return Test(
        id=spec.id,
        short=test.short(result),
        stage=spec.stage,
        measure=measure,
        limit=limit.value,
        direction=test.direction,
        required=limit.required,
        cushion=cushion,
        state=state_of(cushion, passed, close_under),
        falls=falls,
        strict=test.strict,
    )


def _cushion(
    test: TestSpec, measure: Figure, limit: Figure, falls: str | None
) -> tuple[Figure, bool | None]:
    """The cushion, and of a test without size whether it is passed."""
    label, ends = f"cushion: {measure.label}", [measure, limit]
    if test.size is not None:
        formula, compute = test.size
        return derive(
            label, Unit.FRACTION, f"{formula}: how far {falls} can fall", ends, compute
        ), None
    if test.direction is Direction.CAP:
        formula = f"1 − measure ÷ limit: how far {falls} can fall"
        return derive(label, Unit.FRACTION, formula, ends, cap_cushion), None
    if test.direction is Direction.FLOOR:
        formula = f"1 − limit ÷ measure: how far {falls} can fall"
        return derive(label, Unit.FRACTION, formula, ends, floor_cushion), None
    compare = above if test.strict else at_least
    passed = None
    if measure.value is not None and limit.value is not None:
        passed = compare(measure.value, limit.value)
    formula = f"passes when the measure is {'above' if test.strict else 'at least'} the limit"
    no_size = Unknown("pass or fail, without size")
    return derive(label, Unit.FRACTION, formula, ends, lambda *_: no_size), passed


def _without_size(cushion: Figure, measure: Figure) -> Figure:
    """A breach is crossed without size; where nothing is owed, all can fall."""
    if measure.breach and not cushion.breach:
        return cushion.but(breach=measure.breach, reason=f"crossed: {measure.breach}")
    if measure.spared:
        return cushion.but(value=1.0, reason=None, notes=(measure.spared,))
    return cushion


def judge(
    result: object,
    figures: Mapping[str, Figure],
    specs: Iterable[Measure],
    whom: Whom,
    rules: HouseRules,
) -> list[Test]:
    """The tests of one stage that the house rules hold a limit for.

    figures: the stage's measures by id; result: what the names of its tests are read off.
    """
    found = []
    for spec in specs:
        limit, figure = rules.limit_of(spec, whom), figures.get(spec.id)
        if limit is None or figure is None:
            continue
        test = run_test(spec, figure, limit, result, rules.close_under)
        own = rules.exemption(spec, whom)
        found.append(replace(test, exempt=own.words) if own else test)
    return found


def tightness(test: Test) -> tuple[int, float]:
    """Sort key: crossed without size, then by cushion, then passed sign tests, then unknown."""
    if test.cushion.value is not None:
        return (1, test.cushion.value)
    if test.state is State.OUTSIDE:
        return (0, 0.0)
    return (3, 0.0) if test.state is State.UNKNOWN else (2, 0.0)


def tightest_first(tests: Sequence[Test]) -> list[Test]:
    """Required tests before advisory ones, each group by what gives first."""
    return sorted(tests, key=lambda t: (not t.required, tightness(t)))


def worst_state(tests: Sequence[Test]) -> State | None:
    """The worst state of the required tests; None when there are none."""
    states = [t.state for t in tests if t.required]
    return min(states, key=WORST_FIRST.index) if states else None


def payer_state(tests: Sequence[Test], rate: Figure) -> State | None:
    """The worst state of the required tests of who pays; rate: what is paid a year at present."""
    return State.PAYING_NOTHING if rate.value == 0 else worst_state(tests)


def passed(tests: Sequence[Test]) -> int:
    """How many are within their limits, or close to them: unknown never passes."""
    return sum(t.state in (State.WITHIN, State.CLOSE) for t in tests)


def first_to_give(tests: Sequence[Test]) -> Test | None:
    """The required test with the smallest cushion."""
    required = [t for t in tests if t.required and t.state is not State.UNKNOWN]
    return tightest_first(required)[0] if required else None
