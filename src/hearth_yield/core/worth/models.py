"""The models of worth: what each takes in, its value in three cases, and whether it suits a payer.

docs/method.md, Worth.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from enum import StrEnum

from ..cover import Cover
from ..facts import PayerFile
from ..figure import Figure, Touch, Unit, Unknown, derive, given, percent, touch_of
from ..payments import READ_BACK, hand_in
from ..ranges import YieldRange
from ..record import Record
from ..rules import HouseRules
from ..ties import above
from .dividend_discount import constant_growth_value, fading_value, two_stage_value
from .inputs import Chosen
from .multiples import yield_reversion_value

LEAST_PAYOUT = 0.40
LEAST_YIELD_WEEKS = 156
GROWTH_STEP = 0.01
RETURN_STEP = 0.005
YIELD_STEP = 0.10


class ModelId(StrEnum):
    CONSTANT_GROWTH = "constant_growth"
    TWO_STAGE = "two_stage"
    FADING = "fading"
    YIELD_REVERSION = "yield_reversion"


Case = Mapping[str, Figure]
"""Inputs by name, of one case."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Spread:
    """One input at its low, middle and high; low is the side on which worth is lower. name: what it
    is called where it moves the blend most."""

    name: str
    low: Figure
    middle: Figure
    high: Figure


@dataclass(frozen=True, slots=True, kw_only=True)
class Ground:
    """What the models of one payer are judged and fed by."""

    file: PayerFile
    record: Record
    cover: Cover
    span: YieldRange
    rules: HouseRules
    chosen: Chosen


@dataclass(frozen=True, slots=True, kw_only=True)
class ModelSpec:
    """takes: names of its inputs. value: from one case. unsuited: why it does not suit, or None.
    hand: whether a person had a hand in what decides that."""

    id: ModelId
    name: str
    takes: tuple[str, ...]
    value: Callable[[Ground, Case, str], Figure]
    unsuited: Callable[[Ground], str | None]
    hand: Callable[[Ground], Touch | None]


@dataclass(frozen=True, slots=True, kw_only=True)
class Model:
    """One model's answer. on: it counts in the blend; why_off: why it does not suit, or who set
    it aside. suited_by: that a person had a hand in what decides whether it suits."""

    id: ModelId
    name: str
    low: Figure
    middle: Figure
    high: Figure
    on: bool
    suits: bool
    why_off: str | None
    suited_by: Touch | None = None


def spreads_of(chosen: Chosen) -> dict[str, Spread]:
    """Every input with the width it is taken at: growth ∓ 1 point, the required return ± ½, the
    mean yield ± 10 %."""
    point, half, tenth = "1 point", "½ point", "10 %"

    def growth(figure: Figure) -> Spread:
        return Spread(
            name="growth",
            low=_shift(figure, lambda g: g - GROWTH_STEP, f"− {point}"),
            middle=figure,
            high=_shift(figure, lambda g: g + GROWTH_STEP, f"+ {point}"),
        )

    wanted, mean = chosen.required_return, chosen.mean_yield
    return {
        "growth": growth(chosen.growth),
        "lasting_growth": growth(chosen.lasting_growth),
        "later_growth": Spread(
            name="later growth",
            low=chosen.later_growth,
            middle=chosen.later_growth,
            high=chosen.later_growth,
        ),
        "required_return": Spread(
            name="the required return",
            low=_shift(wanted, lambda r: r + RETURN_STEP, f"+ {half}"),
            middle=wanted,
            high=_shift(wanted, lambda r: r - RETURN_STEP, f"− {half}"),
        ),
        "mean_yield": Spread(
            name="the mean yield",
            low=_shift(mean, lambda y: y * (1 + YIELD_STEP), f"+ {tenth}"),
            middle=mean,
            high=_shift(mean, lambda y: y * (1 - YIELD_STEP), f"− {tenth}"),
        ),
    }


def _shift(figure: Figure, by: Callable[[float], float], note: str) -> Figure:
    formula = f"{figure.label} {note}"
    return derive(f"{figure.label} ({note})", figure.unit, formula, [figure], by)


def price_models(
    ground: Ground, spreads: Mapping[str, Spread], switched: Mapping[str, bool]
) -> tuple[Model, ...]:
    """Every model in its three cases."""
    cases = {
        case: {name: getattr(s, case) for name, s in spreads.items()}
        for case in ("low", "middle", "high")
    }
    return tuple(_model(ground, spec, cases, switched) for spec in MODELS)


def _model(
    ground: Ground, spec: ModelSpec, cases: Mapping[str, Case], switched: Mapping[str, bool]
) -> Model:
    low, middle, high = (spec.value(ground, cases[c], c) for c in ("low", "middle", "high"))
    unsuited = spec.unsuited(ground)
    on = switched.get(spec.id, unsuited is None)
    why = None
    if not on:
        why = unsuited or "set aside by you"
    elif not middle.known:
        on, why = False, middle.reason
    return Model(
        id=spec.id,
        name=spec.name,
        low=low,
        middle=middle,
        high=high,
        on=on,
        suits=unsuited is None,
        why_off=why,
        suited_by=None if spec.id in switched else spec.hand(ground),
    )


def moves_most(
    ground: Ground, models: Sequence[Model], spreads: Mapping[str, Spread]
) -> str | None:
    """The input that moves the blend most, taken at its low and its high with all others at their
    middle; one that leaves a model without a limit moves it without limit."""
    on = [s for s in MODELS if any(m.id == s.id and m.on for m in models)]
    middle = {name: s.middle for name, s in spreads.items()}
    sizes: dict[str, float] = {}
    for name in dict.fromkeys(spreads[n].name for s in on for n in s.takes):
        ends = []
        for case in ("low", "high"):
            here = {
                n: getattr(s, case) if s.name == name else middle[n] for n, s in spreads.items()
            }
            values = [s.value(ground, here, case).value for s in on]
            known = [v for v in values if v is not None]
            ends.append(sum(known) / len(on) if len(known) == len(on) else float("inf"))
        sizes[name] = 0.0 if ends[0] == ends[1] else abs(ends[1] - ends[0])
    widest = max(sizes, key=lambda n: sizes[n], default=None)
    return widest if widest is not None and sizes[widest] > 0 else None


def _dividend_value(
    rate: Figure,
    label: str,
    formula: str,
    inputs: Sequence[Figure],
    lasting: int,
    value: Callable[..., float],
) -> Figure:
    """A dividend discounted. lasting: which of the inputs, the required return last, is the growth
    that goes on for ever."""

    def compute(d: float, *x: float) -> float | Unknown:
        if d <= 0:
            return Unknown("nothing is being paid")
        if not above(x[-1], x[lasting]):
            return Unknown(
                f"growth {percent(x[lasting], 1)} is not below the required return "
                f"{percent(x[-1], 1)}; the sum has no limit"
            )
        return value(d, *x)

    return derive(label, Unit.PER_SHARE, formula, [rate, *inputs], compute, currency=rate.currency)


def _constant_growth(ground: Ground, case: Case, name: str) -> Figure:
    return _dividend_value(
        ground.record.declared_rate,
        f"constant growth, {name}",
        "declared rate × (1 + growth) ÷ (required return − growth)",
        [case["lasting_growth"], case["required_return"]],
        0,
        constant_growth_value,
    )


def _rule(label: str, years: int) -> Figure:
    return given(label, Unit.YEARS, float(years), "house rule")


def _two_stage(ground: Ground, case: Case, name: str) -> Figure:
    return _dividend_value(
        ground.record.declared_rate,
        f"two stages, {name}",
        "present value of the dividends of the early years + that of constant growth at the later "
        "growth from then on",
        [
            case["growth"],
            _rule("early years", ground.rules.early_years),
            case["later_growth"],
            case["required_return"],
        ],
        2,
        lambda d, g, n, later, r: two_stage_value(d, g, round(n), later, r),
    )


def _fading(ground: Ground, case: Case, name: str) -> Figure:
    return _dividend_value(
        ground.record.declared_rate,
        f"fading growth, {name}",
        "declared rate × [(1 + later growth) + half the fade × (growth − later growth)] ÷ "
        "(required return − later growth)",
        [
            case["growth"],
            _rule("years of fading", ground.rules.fade_years),
            case["later_growth"],
            case["required_return"],
        ],
        2,
        fading_value,
    )


def _yield_reversion(ground: Ground, case: Case, name: str) -> Figure:
    rate = ground.record.declared_rate
    return derive(
        f"yield reversion, {name}",
        Unit.PER_SHARE,
        "declared rate ÷ mean yield",
        [rate, case["mean_yield"]],
        lambda d, y: yield_reversion_value(d, y) if d > 0 else Unknown("nothing is being paid"),
        currency=rate.currency,
    )


def _dividend_unsuited(ground: Ground) -> str | None:
    payout = ground.cover.leading.declared
    if payout.value is None:
        return payout.reason if payout.breach else f"{payout.label} unknown: {payout.reason}"
    if payout.value < LEAST_PAYOUT:
        return (
            f"pays out {percent(payout.value)} at the declared rate; under {percent(LEAST_PAYOUT)} "
            "a dividend says little of what the payer is worth"
        )
    return None


def _is_fast(ground: Ground) -> bool:
    """Whether the dividend grows faster than is taken to go on for ever."""
    growth = ground.chosen.growth.value
    return growth is not None and above(growth, ground.rules.highest_growth)


def _constant_unsuited(ground: Ground) -> str | None:
    unsuited = _dividend_unsuited(ground)
    if unsuited is None and _is_fast(ground):
        return (
            f"grows {percent(ground.chosen.growth.value or 0.0, 1)} a year; more than "
            f"{percent(ground.rules.highest_growth)} is not taken to go on for ever"
        )
    return unsuited


def _stages_unsuited(ground: Ground) -> str | None:
    unsuited = _dividend_unsuited(ground)
    if unsuited is None and not _is_fast(ground):
        return (
            f"growth is not above the {percent(ground.rules.highest_growth)} that may go on for "
            "ever; constant growth says it all"
        )
    return unsuited


def _reversion_unsuited(ground: Ground) -> str | None:
    weeks = len(ground.span.weeks.yields)
    if weeks < LEAST_YIELD_WEEKS:
        return f"{weeks} weeks of yields; {LEAST_YIELD_WEEKS} are needed"
    last = ground.record.last_cut
    if last is not None and (ground.file.day - last).days <= 365:
        return f"the dividend was reduced on {last.isoformat()}, within 12 months"
    return None


def _dividend_hand(ground: Ground) -> Touch | None:
    return touch_of([ground.cover.leading.declared.touch, hand_in(ground.file, date.min)])


def _reversion_hand(ground: Ground) -> Touch | None:
    since = ground.file.day - READ_BACK
    return touch_of([ground.span.count.touch, hand_in(ground.file, since)])


MODELS = (
    ModelSpec(
        id=ModelId.CONSTANT_GROWTH,
        name="Constant growth",
        takes=("lasting_growth", "required_return"),
        value=_constant_growth,
        unsuited=_constant_unsuited,
        hand=_dividend_hand,
    ),
    ModelSpec(
        id=ModelId.TWO_STAGE,
        name="Two stages",
        takes=("growth", "later_growth", "required_return"),
        value=_two_stage,
        unsuited=_stages_unsuited,
        hand=_dividend_hand,
    ),
    ModelSpec(
        id=ModelId.FADING,
        name="Fading growth",
        takes=("growth", "later_growth", "required_return"),
        value=_fading,
        unsuited=_stages_unsuited,
        hand=_dividend_hand,
    ),
    ModelSpec(
        id=ModelId.YIELD_REVERSION,
        name="Yield reversion",
        takes=("mean_yield",),
        value=_yield_reversion,
        unsuited=_reversion_unsuited,
        hand=_reversion_hand,
    ),
)
"""In the order they are shown."""
