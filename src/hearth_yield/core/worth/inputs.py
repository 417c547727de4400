"""The inputs of Worth as they are declared, and as they count for one payer. (docs/method.md)"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from ..facts.points import newest_point
from ..figures.figure import Figure, Unit, derive, given
from ..figures.inputs import Default, Inputs, InputSpec, left_open
from ..range.beta import beta_of
from ..range.quantity import YIELD
from . import opinions
from .declare import Ground
from .default_growth import default_growth, own_spans
from .growth import FASTER, SLOWER, for_ever
from .own_past import usual_of
from .path.inputs import INPUTS as PATH_INPUTS


def _required_return(ground: Ground, _: Inputs) -> Default:
    """The flat rule of its kind; or built up, where the person chose that and both are known."""
    payer, rules = ground.file.payer, ground.rules
    origin = f"house rule for {payer.kind.plural}"
    flat = given("required return", Unit.FRACTION, rules.required_return(payer.kind), origin)
    if not rules.builds_up(payer.kind, payer.exchange, payer.symbol):
        return Default(flat, origin)
    built = built_up_return(ground)
    if built.known:
        return Default(built, "risk-free yield + beta × premium")
    why = f"not built up: {built.reason}"
    return Default(flat.but(notes=(*flat.notes, why)), f"{origin}; beta or risk-free yield unknown")


def built_up_return(ground: Ground) -> Figure:
    """risk-free yield + beta × premium. Source: docs/method.md, Required return. 3.1 % + 0.8 × 5 %
    → 7.1 %."""
    premium = given("premium", Unit.FRACTION, ground.rules.premium, "house rule")
    return derive(
        "required return",
        Unit.FRACTION,
        "risk-free yield + beta × premium",
        [risk_free(ground), beta_of(ground.file).beta, premium],
        lambda free, beta, over: free + beta * over,
    )


def risk_free(ground: Ground) -> Figure:
    """The newest risk-free yield of the payer's currency, as current as it is on the day."""
    return newest_point(
        "risk-free yield",
        Unit.YIELD,
        ground.file.risk_free_yield,
        "risk_free_yield",
        ground.file.day,
    )


def _mean_yield(ground: Ground, _: Inputs) -> Default:
    return usual_of(ground, YIELD)


def _margin_of_safety(ground: Ground, _: Inputs) -> Default:
    rule = ground.rules.margin_of_safety
    return Default(given("margin of safety", Unit.FRACTION, rule, "house rule"), "house rule")


def _chance_spec(
    case: str, default: Callable[[Ground, Inputs], Default], rest_of: tuple[str, ...] = ()
) -> InputSpec:
    return InputSpec(
        rest_of=rest_of,
        id=f"chance_{case}",
        shown="cases",
        label=f"Chance of the {case} case",
        name=f"chance of the {case} case",
        unit=Unit.FRACTION,
        default=default,
        bounds=(0.0, 1.0),
        step=0.05,
        digits=0,
    )


def _chance(case: str, value: Callable[[Ground], float]) -> Callable[[Ground, Inputs], Default]:
    def read(ground: Ground, _: Inputs) -> Default:
        name = f"chance of the {case} case"
        return Default(given(name, Unit.FRACTION, value(ground), "house rule"), "house rule")

    return read


def _middle_chance(_: Ground, chosen: Inputs) -> Default:
    ends = [chosen[id].figure for id in ENDS]
    rest = derive(
        "chance of the middle case",
        Unit.FRACTION,
        "1 − the chances of low and high, not under 0",
        ends,
        lambda low, high: max(0.0, 1 - low - high),
    )
    return Default(rest, "the rest")


def _unset(name: str) -> Callable[[Ground, Inputs], Default]:
    """An input that is not there until the person types it."""
    return lambda *_: left_open(name, Unit.FRACTION, "not set")


ENDS = ("chance_low", "chance_high")
CHANCES = ("chance_low", "chance_middle", "chance_high")
OWN = ("second_margin", "trim_premium")


def _is_sided(spec: InputSpec) -> bool:
    """Whether its low and high may be typed: those of the models, and what a path is sold at."""
    if spec in PATH_INPUTS:
        return spec.sided
    return spec.bounds is not None and spec.id not in ALIKE


ALIKE = ("margin_of_safety", *OWN, *CHANCES)
"""The same in every case."""
INPUTS: dict[str, InputSpec] = {
    spec.id: replace(spec, sided=_is_sided(spec))
    for spec in (
        InputSpec(
            id="growth",
            shown="always",
            label="Dividend growth",
            name="growth",
            unit=Unit.FRACTION,
            default=default_growth,
            bounds=(-0.5, 0.5),
            low=SLOWER,
            high=FASTER,
            spread="growth ∓ 1 point",
            draws="growth",
            offers=own_spans,
        ),
        InputSpec(
            id="lasting_growth",
            label="Growth for ever",
            name="growth",
            unit=Unit.FRACTION,
            follows="growth",
            along=replace(for_ever("growth"), as_typed=True),
            draws="growth",
        ),
        InputSpec(
            id="later_growth",
            shown="always",
            label="Later growth",
            name="later growth",
            unit=Unit.FRACTION,
            bounds=(-0.5, 0.5),
            along=for_ever("growth"),
            low=SLOWER,
            high=FASTER,
            draws="growth",
        ),
        InputSpec(
            id="required_return",
            shown="always",
            label="Required return",
            name="required return",
            unit=Unit.FRACTION,
            default=_required_return,
            bounds=(0.001, 0.5),
            low=(lambda r: r + 0.005, "+ ½ point"),
            high=(lambda r: r - 0.005, "− ½ point"),
            spread="required return ± ½ point",
            draws="return",
        ),
        InputSpec(
            id="mean_yield",
            shown="always",
            label="Mean yield",
            name="mean yield",
            unit=Unit.YIELD,
            default=_mean_yield,
            bounds=(0.0001, 1.0),
            step=0.0005,
            low=(lambda y: y * 1.1, "+ 10 %"),
            high=(lambda y: y * 0.9, "− 10 %"),
            spread="mean yield ± 10 %",
            draws="exit_yield",
        ),
        InputSpec(
            id="margin_of_safety",
            shown="always",
            label="Margin of safety",
            name="margin of safety",
            unit=Unit.FRACTION,
            default=_margin_of_safety,
            bounds=(0.0, 0.95),
            step=0.01,
            digits=0,
        ),
        InputSpec(
            id="second_margin",
            shown="cases",
            label="Second margin of safety",
            name="second margin of safety",
            unit=Unit.FRACTION,
            default=_unset("second margin of safety"),
            bounds=(0.0, 0.95),
            step=0.01,
            digits=0,
        ),
        InputSpec(
            id="trim_premium",
            shown="cases",
            label="Trim above, by",
            name="premium to trim above",
            unit=Unit.FRACTION,
            default=_unset("premium to trim above"),
            bounds=(0.0, 5.0),
            step=0.05,
            digits=0,
        ),
        _chance_spec("low", _chance("low", lambda ground: ground.rules.chance_low)),
        _chance_spec("high", _chance("high", lambda ground: ground.rules.chance_high)),
        _chance_spec("middle", _middle_chance, ENDS),
        *opinions.INPUTS,
        *PATH_INPUTS,
    )
}
"""In the order they are read and shown; a default may read those declared before it."""
