"""Rules: tests, limits, cushions and states. (docs/method.md, Tests, limits, cushions)"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from enum import StrEnum

from .cover import Basis, BasisCover, Cover
from .errors import MethodError
from .facts import Kind
from .figure import Figure, Unit, Unknown, derive, given, unknown
from .inflation import Inflation
from .record import Record
from .statements import words
from .ties import above, at_least

THIN = 0.20
SHORT = {Basis.FREE_CASH_FLOW: "FCF", Basis.DISTRIBUTABLE_CASH: "distributable"}


class State(StrEnum):
    COVERED = "covered"
    THIN = "thin"
    UNCOVERED = "uncovered"
    UNKNOWN = "unknown"


WORST_FIRST = (State.UNCOVERED, State.UNKNOWN, State.THIN, State.COVERED)


class Direction(StrEnum):
    CAP = "cap"
    FLOOR = "floor"
    PASS = "pass"  # noqa: S105 - a pass-or-fail floor, not a password


class Stage(StrEnum):
    RECORD = "record"
    COVER = "cover"
    FOOTING = "footing"
    RANGE = "range"
    WORTH = "worth"
    DECISION = "decision"


@dataclass(frozen=True, slots=True, kw_only=True)
class Limit:
    """A house rule for one test. required: it decides the state; else it only advises."""

    value: float
    required: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class Test:
    """A measure held against a limit. falls: what the cushion says can fall; short: its name where
    there is little room."""

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


DEFAULT_RETURNS: dict[Kind, float] = {
    Kind.COMPANY: 0.08,
    Kind.PROPERTY_TRUST: 0.085,
    Kind.FINANCIAL: 0.09,
    Kind.PARTNERSHIP: 0.10,
}


@dataclass(frozen=True, slots=True, kw_only=True)
class HouseRules:
    """The person's limits by kind and test, and what they ask of a price.

    highest_growth: the most that is taken to go on for ever; faster growth ends in it, after
    early_years at once or over fade_years.
    """

    required_returns: dict[Kind, float] = field(default_factory=lambda: dict(DEFAULT_RETURNS))
    margin_of_safety: float = 0.20
    highest_growth: float = 0.04
    early_years: int = 5
    fade_years: int = 8
    limits: dict[Kind, dict[str, Limit]] = field(default_factory=lambda: DEFAULT_LIMITS)


def _required(value: float) -> Limit:
    return Limit(value=value, required=True)


def _advisory(value: float) -> Limit:
    return Limit(value=value, required=False)


_EVERY_KIND = {
    "leading_trend": _advisory(0.0),
    "net_income": _advisory(0.0),
    "raises": _advisory(10),
    "no_reduction": _advisory(10),
    "real_growth": _advisory(0.0),
}
DEFAULT_LIMITS: dict[Kind, dict[str, Limit]] = {
    Kind.COMPANY: _EVERY_KIND
    | {
        "leading_payout": _required(0.60),
        "leading_paid": _advisory(0.60),
        "leading_cycle": _required(0.60),
        "earnings_payout": _required(0.60),
    },
    Kind.PROPERTY_TRUST: _EVERY_KIND
    | {
        "leading_payout": _required(0.85),
        "leading_paid": _advisory(0.85),
        "leading_cycle": _required(0.85),
    },
    Kind.PARTNERSHIP: _EVERY_KIND
    | {
        "leading_payout": _required(0.90),
        "leading_paid": _advisory(0.90),
        "leading_cycle": _required(0.90),
        "free_cash_flow_payout": _advisory(1.00),
    },
    Kind.FINANCIAL: _EVERY_KIND
    | {
        "leading_payout": _required(0.60),
        "leading_paid": _advisory(0.60),
        "leading_cycle": _required(0.60),
        "net_income": _required(0.0),
    },
}


def cap_cushion(measure: float, limit: float) -> float:
    """How far the thing underneath can fall before a cap is reached: 1 − m/L.

    Source: docs/method.md. Payout 0.55 against 0.60 → 0.0833.
    """
    if limit <= 0:
        raise MethodError("a cap must be above 0", field="limit", value=limit, rule="limit > 0")
    return 1 - measure / limit


def floor_cushion(measure: float, limit: float) -> float | Unknown:
    """How far the measure can fall before a floor is reached: 1 − L/m.

    A measure that is not positive has crossed it without size.
    Source: docs/method.md. Interest cover 7.2, floor 4 → 0.4444.
    """
    if measure <= 0:
        return Unknown("not positive", breach="below the floor")
    return 1 - limit / measure


def state_of(cushion: Figure, passed: bool | None) -> State:
    """uncovered when crossed, thin below a cushion of 20 %, covered otherwise."""
    if cushion.breach or passed is False:
        return State.UNCOVERED
    if passed:
        return State.COVERED
    if cushion.value is None:
        return State.UNKNOWN
    if not at_least(1 + cushion.value, 1.0):
        return State.UNCOVERED
    return State.COVERED if at_least(cushion.value, THIN) else State.THIN


def run_test(
    id: str,
    stage: Stage,
    measure: Figure,
    limit: Limit,
    direction: Direction,
    falls: str | None = None,
    short: str = "",
) -> Test:
    """Hold one measure against one limit."""
    label = f"cushion: {measure.label}"
    asked = given("limit", measure.unit, limit.value, "house rule")
    passed: bool | None = None
    if direction is Direction.CAP:
        formula = f"1 − measure ÷ limit: how far {falls} can fall"
        cushion = derive(label, Unit.FRACTION, formula, [measure, asked], cap_cushion)
    elif direction is Direction.FLOOR:
        formula = f"1 − limit ÷ measure: how far {falls} can fall"
        cushion = derive(label, Unit.FRACTION, formula, [measure, asked], floor_cushion)
    else:
        strict = id == "net_income"
        if measure.value is not None:
            compare = above if strict else at_least
            passed = compare(measure.value, limit.value)
        cushion = derive(
            label,
            Unit.FRACTION,
            f"passes when the measure is {'above' if strict else 'at least'} the limit",
            [measure, asked],
            lambda *_: Unknown("pass or fail, without size"),
        )
    return Test(
        id=id,
        short=short or measure.label,
        stage=stage,
        measure=measure,
        limit=limit.value,
        direction=direction,
        required=limit.required,
        cushion=_carry_breach(cushion, measure),
        state=state_of(_carry_breach(cushion, measure), passed),
        falls=falls,
    )


def _carry_breach(cushion: Figure, measure: Figure) -> Figure:
    if measure.breach and not cushion.breach:
        return cushion.but(breach=measure.breach, reason=f"crossed: {measure.breach}")
    return cushion


def build_tests(
    kind: Kind, record: Record, inflation: Inflation, cover: Cover, rules: HouseRules
) -> list[Test]:
    """Every test the built stages feed that the kind's house rules hold a limit for."""
    limits = rules.limits[kind]
    return [
        run_test(c.id, c.stage, c.measure, limits[c.id], c.direction, c.falls, c.short)
        for c in (*_cover_candidates(cover), *_record_candidates(record, inflation))
        if c.id in limits
    ]


@dataclass(frozen=True, slots=True)
class _Candidate:
    id: str
    short: str
    stage: Stage
    measure: Figure
    direction: Direction = Direction.PASS
    falls: str | None = None


def _none(name: str) -> Figure:
    return unknown(f"{name} payout", Unit.FRACTION, "no fiscal year is held")


def _declared(on: BasisCover | None, name: str) -> Figure:
    return on.declared if on is not None else _none(name)


def _cover_candidates(cover: Cover) -> list[_Candidate]:
    """Payouts are judged on what is promised now; what was paid last year only advises."""
    lead = cover.leading
    name = words(lead.basis)
    brief = SHORT.get(lead.basis, name)

    def cap(id: str, short: str, measure: Figure, falls: str) -> _Candidate:
        return _Candidate(id, short, Stage.COVER, measure, Direction.CAP, falls)

    paid = lead.latest.payout if lead.latest else _none(name)
    earnings = _declared(cover.of(Basis.EARNINGS), "earnings")
    cash = _declared(cover.of(Basis.FREE_CASH_FLOW), "free cash flow")
    return [
        cap("leading_payout", f"{brief} payout", lead.declared, name),
        cap("leading_paid", f"{brief} payout, as paid", paid, name),
        cap("leading_cycle", f"{brief} payout, cycle", lead.through_cycle, name),
        cap("earnings_payout", "earnings payout", earnings, "earnings"),
        cap("free_cash_flow_payout", "FCF payout", cash, "free cash flow"),
        _Candidate("leading_trend", f"{brief} trend", Stage.COVER, lead.per_share_trend),
        _Candidate("net_income", "net income", Stage.COVER, cover.net_income),
    ]


def _record_candidates(record: Record, inflation: Inflation) -> list[_Candidate]:
    kept, real = record.years_without_reduction, inflation.real_growth[10]
    return [
        _Candidate("raises", "raises", Stage.RECORD, record.raises_in_a_row),
        _Candidate("no_reduction", "no reduction", Stage.RECORD, kept),
        _Candidate("real_growth", "real growth", Stage.RECORD, real),
    ]


def tightness(test: Test) -> tuple[int, float]:
    """Sort key: crossed without size, then by cushion, then passed sign tests, then unknown."""
    if test.cushion.value is not None:
        return (1, test.cushion.value)
    if test.state is State.UNCOVERED:
        return (0, 0.0)
    return (3, 0.0) if test.state is State.UNKNOWN else (2, 0.0)


def tightest_first(tests: Sequence[Test]) -> list[Test]:
    """Required tests before advisory ones, each group by what gives first."""
    return sorted(tests, key=lambda t: (not t.required, tightness(t)))


def worst_state(tests: Sequence[Test]) -> State | None:
    """The worst state of the required tests; None when there are none."""
    states = [t.state for t in tests if t.required]
    return min(states, key=WORST_FIRST.index) if states else None


def first_to_give(tests: Sequence[Test]) -> Test | None:
    """The required test with the smallest cushion."""
    required = [t for t in tests if t.required and t.state is not State.UNKNOWN]
    return tightest_first(required)[0] if required else None
