"""Worth of one payer: models, their inputs, the blend and the buy-below price."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field, replace
from datetime import date
from enum import StrEnum

from ..cover import Cover
from ..declared_rate import READ_BACK, hand_in
from ..errors import InvalidInput
from ..facts import PayerFile
from ..figure import Figure, Touch, Unit, Unknown, derive, given, percent, touch_of, unknown
from ..ranges import YieldRange
from ..record import Record
from ..rules import HouseRules
from .dividend_discount import constant_growth_value
from .implied import implied_constant_growth
from .multiples import yield_reversion_value

GROWTH_FLOOR = -0.05
GROWTH_BELOW_RETURN = 0.03
GROWTH_STEP = 0.01
RETURN_STEP = 0.005
YIELD_STEP = 0.10
LEAST_PAYOUT = 0.40
LEAST_RECORD_YEARS = 5
LEAST_YIELD_WEEKS = 156
SPREAD_CALLED_OUT = 0.60


class ModelId(StrEnum):
    CONSTANT_GROWTH = "constant_growth"
    YIELD_REVERSION = "yield_reversion"


@dataclass(frozen=True, slots=True, kw_only=True)
class WorthInputs:
    """What the person typed; None leaves the default. switched: models turned on or off."""

    growth: float | None = None
    required_return: float | None = None
    mean_yield: float | None = None
    margin_of_safety: float | None = None
    switched: dict[str, bool] = field(default_factory=dict)


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


@dataclass(frozen=True, slots=True, kw_only=True)
class Worth:
    growth: Figure
    required_return: Figure
    mean_yield: Figure
    margin_of_safety: Figure
    models: tuple[Model, ...]
    blend: Figure
    spread: Figure
    spread_called_out: bool
    moves_most: str | None
    buy_below: Figure
    price_against_buy_below: Figure
    price_against_blend: Figure
    implied_growth: Figure


def default_growth(record: Record, required_return: float) -> Figure:
    """The lower of 5- and 10-year dividend growth, within [−5 %, r − 3 points]."""
    label = "growth"
    spans = [record.growth[5], record.growth[10]]
    known = [g for g in spans if g.known]
    if not known:
        return unknown(
            label,
            Unit.FRACTION,
            "no 5- or 10-year growth on record; type your own",
            inputs=tuple(spans),
        )
    ceiling = required_return - GROWTH_BELOW_RETURN
    notes: tuple[str, ...] = ("house default: the lower of 5- and 10-year growth",)
    if len(known) == 1:
        notes += (f"only {known[0].label} is known",)
    lowest = min(g.value for g in known if g.value is not None)
    if lowest > ceiling:
        notes += (f"held to {GROWTH_BELOW_RETURN * 100:.0f} points under the required return",)
    if lowest < GROWTH_FLOOR:
        notes += ("held to no less than −5 %",)
    return derive(
        label,
        Unit.FRACTION,
        "lower of 5- and 10-year dividend growth, between −5 % and required return − 3 points",
        known,
        lambda *g: max(GROWTH_FLOOR, min(*g, ceiling)),
        notes=notes,
    )


def check_inputs(inputs: WorthInputs) -> None:
    """Refuse inputs no model can work with, naming field, value and rule."""
    bounds = {
        "growth": (-0.5, 0.5),
        "required_return": (0.001, 0.5),
        "mean_yield": (0.0001, 1.0),
        "margin_of_safety": (0.0, 0.95),
    }
    for name, (low, high) in bounds.items():
        value = getattr(inputs, name)
        if value is not None and not low <= value <= high:
            raise InvalidInput(
                f"{name.replace('_', ' ')} must lie between {low:.4g} and {high:.4g}",
                field=name,
                value=value,
                rule=f"{low:.4g} ≤ {name.replace('_', ' ')} ≤ {high:.4g}",
            )
    known = {m.value for m in ModelId}
    for name in inputs.switched:
        if name not in known:
            raise InvalidInput(
                "no such model",
                field="models",
                value=name,
                rule=f"one of {', '.join(sorted(known))}",
            )


def _constant_growth(rate: Figure, growth: Figure, wanted: Figure, case: str) -> Figure:
    def compute(d: float, g: float, r: float) -> float | Unknown:
        if d <= 0:
            return Unknown("nothing is being paid")
        if r <= g:
            return Unknown(
                f"growth {percent(g, 1)} is not below the required return {percent(r, 1)}; "
                "the sum has no limit"
            )
        return constant_growth_value(d, g, r)

    return derive(
        f"constant growth, {case}",
        Unit.PER_SHARE,
        "declared rate × (1 + growth) ÷ (required return − growth)",
        [rate, growth, wanted],
        compute,
        currency=rate.currency,
    )


def _yield_reversion(rate: Figure, mean: Figure, case: str) -> Figure:
    return derive(
        f"yield reversion, {case}",
        Unit.PER_SHARE,
        "declared rate ÷ mean yield",
        [rate, mean],
        lambda d, y: yield_reversion_value(d, y) if d > 0 else Unknown("nothing is being paid"),
        currency=rate.currency,
    )


def _shift(figure: Figure, by: Callable[[float], float], note: str) -> Figure:
    formula = f"{figure.label} {note}"
    return derive(f"{figure.label} ({note})", figure.unit, formula, [figure], by)


def _dividend_model_unsuited(record: Record, cover: Cover) -> str | None:
    payout = cover.leading.through_cycle
    years = [y for y in record.years if y.complete and y.total.value]
    if len(years) < LEAST_RECORD_YEARS:
        plural = "" if len(years) == 1 else "s"
        return f"{len(years)} complete year{plural} of dividends; {LEAST_RECORD_YEARS} are needed"
    if payout.value is None:
        return f"{payout.label} unknown: {payout.reason}"
    if payout.value < LEAST_PAYOUT:
        return (
            f"pays out {percent(payout.value)} through the cycle; under {percent(LEAST_PAYOUT)} "
            "a dividend says little of what the payer is worth"
        )
    return None


def _yield_reversion_unsuited(file: PayerFile, record: Record, span: YieldRange) -> str | None:
    weeks = len(span.weeks.yields)
    if weeks < LEAST_YIELD_WEEKS:
        return f"{weeks} weeks of yields; {LEAST_YIELD_WEEKS} are needed"
    day = file.day
    if record.last_cut is not None and (day - record.last_cut).days <= 365:
        return f"the dividend was reduced on {record.last_cut.isoformat()}, within 12 months"
    return None


def _model(
    id: ModelId,
    name: str,
    values: tuple[Figure, Figure, Figure],
    unsuited: str | None,
    by_hand: Touch | None,
    switched: dict[str, bool],
) -> Model:
    low, middle, high = values
    on = switched.get(id, unsuited is None)
    why = None
    if not on:
        why = unsuited or "set aside by you"
    elif not middle.known:
        on, why = False, middle.reason
    return Model(
        id=id, name=name, low=low, middle=middle, high=high, on=on, suits=unsuited is None,
        why_off=why, suited_by=None if id in switched else by_hand,
    )  # fmt: skip


def blend_of(models: Sequence[Model], currency: str) -> Figure:
    """Mean of the middle values of the models that are on; none on: unknown."""
    label = "blended value"
    on = [m.middle for m in models if m.on]
    if not on:
        why = "no model is on: " + "; ".join(f"{m.name}: {m.why_off}" for m in models)
        return unknown(label, Unit.PER_SHARE, why, currency=currency).also(_chosen_by(models))
    return derive(
        label,
        Unit.PER_SHARE,
        "mean of the models that are on",
        on,
        lambda *v: sum(v) / len(v),
        currency=currency,
    ).also(_chosen_by(models))


def _chosen_by(models: Sequence[Model]) -> Touch | None:
    """That a person had a hand in which models are on, or in one that has no answer."""
    return touch_of([t for m in models for t in (m.suited_by, None if m.on else m.middle.touch)])


def spread_of(models: Sequence[Model], blend: Figure) -> Figure:
    """(max − min) ÷ blend of the middle values; unknown with one model."""
    label = "how far the models lie apart"
    on = [m.middle for m in models if m.on]
    if len(on) < 2:
        none = unknown(label, Unit.FRACTION, "fewer than two models are on")
        return none.also(_chosen_by(models))
    return derive(
        label,
        Unit.FRACTION,
        "(highest − lowest) ÷ blended value",
        [*on, blend],
        lambda *v: (max(v[:-1]) - min(v[:-1])) / v[-1],
    )


def _models(
    file: PayerFile,
    record: Record,
    cover: Cover,
    span: YieldRange,
    chosen: _Chosen,
    switched: dict[str, bool],
) -> tuple[Model, ...]:
    growth, wanted, mean = chosen.growth, chosen.required_return, chosen.mean_yield
    rate = record.declared_rate
    point, half = "1 point", "½ point"
    constant = (
        _constant_growth(
            rate,
            _shift(growth, lambda g: g - GROWTH_STEP, f"− {point}"),
            _shift(wanted, lambda r: r + RETURN_STEP, f"+ {half}"),
            "low",
        ),
        _constant_growth(rate, growth, wanted, "middle"),
        _constant_growth(
            rate,
            _shift(growth, lambda g: g + GROWTH_STEP, f"+ {point}"),
            _shift(wanted, lambda r: r - RETURN_STEP, f"− {half}"),
            "high",
        ),
    )
    reversion = (
        _yield_reversion(rate, _shift(mean, lambda y: y * (1 + YIELD_STEP), "+ 10 %"), "low"),
        _yield_reversion(rate, mean, "middle"),
        _yield_reversion(rate, _shift(mean, lambda y: y * (1 - YIELD_STEP), "− 10 %"), "high"),
    )
    return (
        _model(
            ModelId.CONSTANT_GROWTH,
            "Constant growth",
            constant,
            _dividend_model_unsuited(record, cover),
            touch_of([cover.leading.through_cycle.touch, hand_in(file, date.min)]),
            switched,
        ),
        _model(
            ModelId.YIELD_REVERSION,
            "Yield reversion",
            reversion,
            _yield_reversion_unsuited(file, record, span),
            touch_of([span.count.touch, hand_in(file, file.day - READ_BACK)]),
            switched,
        ),
    )


def _moves_most(models: Sequence[Model]) -> str | None:
    """The input whose low-to-high range moves the blend most."""
    sizes = {
        m.id: m.high.value - m.low.value
        for m in models
        if m.on and m.low.value is not None and m.high.value is not None
    }
    if not sizes:
        return None
    widest = max(sizes, key=lambda k: sizes[k])
    return {
        ModelId.CONSTANT_GROWTH: "growth against the required return",
        ModelId.YIELD_REVERSION: "the mean yield",
    }[widest]


@dataclass(frozen=True, slots=True, kw_only=True)
class _Chosen:
    growth: Figure
    required_return: Figure
    mean_yield: Figure
    margin_of_safety: Figure


def _choose(record: Record, span: YieldRange, rules: HouseRules, inputs: WorthInputs) -> _Chosen:
    """The person's inputs, and the house's defaults for the rest, each with its origin."""

    def ruled(label: str, typed: float | None, rule: float) -> Figure:
        origin = "house rule" if typed is None else "yours"
        return given(label, Unit.FRACTION, rule if typed is None else typed, origin)

    wanted = ruled("required return", inputs.required_return, rules.required_return)
    return _Chosen(
        required_return=wanted,
        margin_of_safety=ruled("margin of safety", inputs.margin_of_safety, rules.margin_of_safety),
        growth=default_growth(record, wanted.value or 0.0)
        if inputs.growth is None
        else given("growth", Unit.FRACTION, inputs.growth, "yours"),
        mean_yield=replace(span.mean, notes=(*span.mean.notes, "house default: the 5-year mean"))
        if inputs.mean_yield is None
        else given("mean yield", Unit.YIELD, inputs.mean_yield, "yours"),
    )


def _price_against(file: PayerFile, label: str, other: Figure) -> Figure:
    return derive(
        label,
        Unit.FRACTION,
        f"price ÷ {other.label} − 1",
        [file.price, other],
        lambda p, v: p / v - 1 if v > 0 else Unknown(f"{other.label} is not positive"),
    )


def build_worth(
    file: PayerFile,
    record: Record,
    cover: Cover,
    span: YieldRange,
    rules: HouseRules,
    inputs: WorthInputs,
) -> Worth:
    """Two models, their blend and what the price implies, from defaults or the person's inputs."""
    check_inputs(inputs)
    chosen = _choose(record, span, rules, inputs)
    models = _models(file, record, cover, span, chosen, inputs.switched)
    blend = blend_of(models, file.payer.currency)
    spread = spread_of(models, blend)
    buy_below = derive(
        "buy-below price",
        Unit.PER_SHARE,
        "blended value × (1 − margin of safety)",
        [blend, chosen.margin_of_safety],
        lambda b, m: b * (1 - m),
        currency=file.payer.currency,
    )
    return Worth(
        growth=chosen.growth,
        required_return=chosen.required_return,
        mean_yield=chosen.mean_yield,
        margin_of_safety=chosen.margin_of_safety,
        models=models,
        blend=blend,
        spread=spread,
        spread_called_out=spread.value is not None and spread.value > SPREAD_CALLED_OUT,
        moves_most=_moves_most(models),
        buy_below=buy_below,
        price_against_buy_below=_price_against(file, "price vs buy-below", buy_below),
        price_against_blend=_price_against(file, "price vs blended value", blend),
        implied_growth=derive(
            "growth the price implies",
            Unit.FRACTION,
            "(required return × price − declared rate) ÷ (price + declared rate)",
            [file.price, record.declared_rate, chosen.required_return],
            implied_constant_growth,
        ),
    )
