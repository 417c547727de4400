"""Worth of one payer: its models together, the blend and the buy-below price."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from ..cover import Cover
from ..facts import PayerFile
from ..figure import Figure, Touch, Unit, Unknown, derive, touch_of, unknown
from ..ranges import YieldRange
from ..record import Record
from ..rules import HouseRules, Stage, State, Test
from ..ties import above
from .implied import implied_constant_growth
from .inputs import WorthInputs, check_inputs, choose
from .models import Ground, Model, ModelId, moves_most, price_models, spreads_of

SPREAD_CALLED_OUT = 0.60
TAKEN_FOR_GRANTED = "takes for granted a dividend that is over your payout limit"


@dataclass(frozen=True, slots=True, kw_only=True)
class Worth:
    growth: Figure
    lasting_growth: Figure
    later_growth: Figure
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
    origins: Mapping[str, str]

    @property
    def on(self) -> list[Model]:
        return [m for m in self.models if m.on]


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
        lambda *v: (max(v[:-1]) - min(v[:-1])) / v[-1] if v[-1] else Unknown("it is nil"),
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
    tests: Sequence[Test],
    inputs: WorthInputs,
) -> Worth:
    """The models, their blend and what the price implies, from defaults or the person's inputs."""
    check_inputs(inputs, [m.value for m in ModelId])
    chosen = choose(file, record, cover, span, rules, tests, inputs)
    ground = Ground(file=file, record=record, cover=cover, span=span, rules=rules, chosen=chosen)
    spreads = spreads_of(chosen)
    models = price_models(ground, spreads, inputs.switched)
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
    if buy_below.known and over_payout_limit(tests):
        buy_below = buy_below.but(cautions=(*buy_below.cautions, TAKEN_FOR_GRANTED))
    return Worth(
        growth=chosen.growth,
        lasting_growth=chosen.lasting_growth,
        later_growth=chosen.later_growth,
        required_return=chosen.required_return,
        mean_yield=chosen.mean_yield,
        margin_of_safety=chosen.margin_of_safety,
        models=models,
        blend=blend,
        spread=spread,
        spread_called_out=spread.value is not None and above(spread.value, SPREAD_CALLED_OUT),
        moves_most=moves_most(ground, models, spreads),
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
        origins=chosen.origins,
    )


def over_payout_limit(tests: Sequence[Test]) -> bool:
    """Whether a required payout test is crossed: values then rest on a dividend that may not
    last."""
    return any(
        t.required and t.stage is Stage.COVER and t.falls and t.state is State.UNCOVERED
        for t in tests
    )
