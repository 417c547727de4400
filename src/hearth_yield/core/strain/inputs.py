"""What a strain asks for, and the defaults of what it is not told. (docs/method.md, Strain)"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

from ..facts.payer_file import PayerFile
from ..facts.periods import Period, fiscal_years
from ..figures.figure import Unit, Unknown, derive, given, percent
from ..figures.inputs import Default, Input, Inputs, InputSpec, choose, left_open
from ..figures.saying import is_told
from ..footing.business import tax_rate
from ..kinds import Kind
from .season import no_month
from .worst import worst_fall

ALL = "all"
FALL, MARGIN = "fall", "margin"
"""The inputs that the map of a strain moves."""
A_FIFTH = 0.20
MILDEST = 0.10
"""No fall by default is milder: a dozen good years are no promise."""
A_YEAR = 12
MOST_TAX = 0.60


@dataclass(frozen=True, slots=True, kw_only=True)
class Strain:
    """What is asked: a part of revenue (None: all of it) and inputs by id, in place of the
    defaults."""

    part: str | None = None
    inputs: Mapping[str, float] = field(default_factory=dict)


@dataclass(frozen=True, slots=True, kw_only=True)
class StrainGround:
    """What the defaults are read off: the newest twelve months, and the years before."""

    file: PayerFile
    period: Period


def _flat(label: str, unit: Unit, value: float, origin: str) -> Default:
    return Default(given(label, unit, value, f"house default: {origin}"), origin)


def _fall(ground: StrainGround | None, _: Inputs) -> Default:
    """As far as its revenue fell at worst, not less than a tenth; a fifth where that is unknown.
    Of every payer together there is none: each takes its own."""
    if ground is None:
        return left_open("fall", Unit.FRACTION, "each payer’s own worst")
    worst = worst_fall(fiscal_years(ground.file))
    if worst.value is None:
        return _flat("fall", Unit.FRACTION, A_FIFTH, f"{worst.reason}: a fifth")
    figure = derive(
        "fall",
        Unit.FRACTION,
        f"its worst fall of revenue, not less than {percent(MILDEST)}",
        [worst],
        lambda fell: max(fell, MILDEST),
    )
    if worst.value >= MILDEST:
        return Default(figure, f"its own worst, {worst.period}")
    fell = f"fell {percent(worst.value, 1)} at most" if is_told(worst) else "never fell"
    return Default(figure, f"it {fell} in the years on record: a tenth")


def _flow_through(ground: StrainGround, _: Inputs) -> Default:
    """1 − cost of revenue ÷ revenue; where that is not reported, all of it."""
    parts = [ground.period.line("cost_of_revenue"), ground.period.line("revenue")]

    def compute(cost: float, revenue: float) -> float | Unknown:
        return 1 - cost / revenue if revenue > 0 else Unknown("revenue was not positive")

    figure = derive("flow-through", Unit.FRACTION, "1 − cost of revenue ÷ revenue", parts, compute)
    if figure.value is not None and 0 < figure.value <= 1:
        return Default(figure, "all costs but those of goods stay")
    return _flat("flow-through", Unit.FRACTION, 1.0, "cost of revenue is not reported: all of it")


def _tax(ground: StrainGround, _: Inputs) -> Default:
    """tax ÷ profit before tax of the newest twelve months; where that is unknown, none."""
    figure = tax_rate(ground.period)
    if figure.value is not None and 0 <= figure.value <= MOST_TAX:
        return Default(figure, "of the newest twelve months")
    why = "a loss before tax" if "loss" in (figure.reason or "") else "tax is not reported"
    return _flat("tax rate", Unit.FRACTION, 0.0, f"{why}: nothing is saved")


INPUTS: Mapping[str, InputSpec] = {
    spec.id: spec
    for spec in (
        InputSpec(
            id=FALL,
            label="Falls by",
            name="fall",
            unit=Unit.FRACTION,
            bounds=(0.0, 1.0),
            step=0.01,
            digits=1,
            default=_fall,
        ),
        InputSpec(
            id="months",
            label="For months",
            name="months",
            unit=Unit.COUNT,
            bounds=(1, A_YEAR),
            step=1,
            digits=0,
            default=lambda *_: _flat("months", Unit.COUNT, A_YEAR, "a whole year"),
        ),
        InputSpec(
            id="first_month",
            asked_as="month",
            label="From",
            name="first month",
            unit=Unit.COUNT,
            bounds=(0, A_YEAR),
            step=1,
            digits=0,
            default=lambda *_: Default(no_month(), "spread evenly"),
        ),
        InputSpec(
            id=MARGIN,
            label="Margin falls by",
            suffix="points",
            name="margin points",
            unit=Unit.FRACTION,
            bounds=(0.0, 0.5),
            step=0.005,
            digits=1,
            default=lambda *_: _flat("margin points", Unit.FRACTION, 0.0, "none"),
        ),
        InputSpec(
            id="interest",
            label="Interest rises by",
            suffix="points",
            name="points of interest",
            unit=Unit.FRACTION,
            bounds=(0.0, 0.2),
            step=0.0025,
            digits=2,
            default=lambda *_: _flat("points of interest", Unit.FRACTION, 0.0, "none"),
        ),
        InputSpec(
            id="credit_losses",
            label="Credit losses, of assets",
            name="credit losses",
            unit=Unit.FRACTION,
            bounds=(0.0, 0.2),
            step=0.0025,
            digits=2,
            default=lambda ground, _: _flat(
                "credit losses", Unit.FRACTION, 0.0, "none" if ground else "none; of lenders alone"
            ),
        ),
        InputSpec(
            id="flow_through",
            label="Flow-through",
            name="flow-through",
            unit=Unit.FRACTION,
            bounds=(0.0, 1.0),
            step=0.01,
            digits=0,
            default=_flow_through,
        ),
        InputSpec(
            id="tax_rate",
            label="Tax rate",
            name="tax rate",
            unit=Unit.FRACTION,
            bounds=(0.0, MOST_TAX),
            step=0.01,
            digits=0,
            default=_tax,
        ),
    )
}
"""In the order they are shown."""
WHOLE = frozenset({"months", "first_month"})
OF_LENDERS = frozenset({"credit_losses"})
"""Those that no other payer has."""
OF_ONE = frozenset({"flow_through", "tax_rate"})
"""Those that each payer has of its own, and that cannot be typed for all."""
EVERY_PAYER = {id: spec for id, spec in INPUTS.items() if id not in OF_ONE}


def inputs_of(ground: StrainGround, typed: Mapping[str, float]) -> dict[str, Input]:
    """As they count for one payer; what is typed for lenders is left out for others. Raises
    InvalidInput for values out of bounds."""
    lends = ground.file.payer.kind is Kind.FINANCIAL
    specs = {id: spec for id, spec in INPUTS.items() if lends or id not in OF_LENDERS}
    return choose(specs, ground, {id: value for id, value in typed.items() if id in specs})


def inputs_of_all(typed: Mapping[str, float]) -> dict[str, Input]:
    """As they count for every payer. Raises InvalidInput for values out of bounds."""
    return choose(EVERY_PAYER, None, {id: v for id, v in typed.items() if id in EVERY_PAYER})
