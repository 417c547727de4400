"""Worth of one payer: its models together, the combined value and the buy-below price."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from ..facts.payer_file import PayerFile
from ..figures.figure import Figure, Unit, Unknown, derive, given
from ..figures.inputs import Input, choose
from ..figures.measure import Stage
from ..figures.ties import above
from ..judging.judge import State, Test
from ..range.quantity import YIELD
from .after_tax import kept_after_tax
from .combined import Answer, combine
from .declare import Choices, Ground
from .implied import implied_constant_growth
from .inputs import CHANCES, INPUTS, OWN
from .justified import justified_multiple
from .models import MODELS, Model, check_choices, counted, price_models
from .others import Opinions
from .path.path import ReturnPath
from .trials.revalue import valuer_of
from .trials.trials import Trials

RULE = "house rule"
ALWAYS = ("growth", "lasting_growth", "required_return", "margin_of_safety")
"""Inputs that Worth takes whatever models count."""
SPREAD_CALLED_OUT = 0.60
TAKEN_FOR_GRANTED = "takes for granted a dividend that is over your payout limit"
OUTSIDE = "takes for granted a payer that is outside your limits: "


@dataclass(frozen=True, slots=True, kw_only=True)
class Worth:
    inputs: Mapping[str, Input]
    models: tuple[Model, ...]
    answers: tuple[Answer, ...]
    combined: Figure
    combined_low: Figure
    combined_high: Figure
    weighted: Figure
    spread: Figure
    spread_called_out: bool
    leaving_out: Figure
    buy_below: Figure
    second_buy_below: Figure
    trim_above: Figure
    price_against_buy_below: Figure
    price_against_combined: Figure
    implied_growth: Figure
    implied_return: Figure
    implied_return_after_tax: Figure
    kept_after_tax: Figure
    market_return: Figure
    justified: Figure | None
    others: Opinions
    trials: Trials
    path: ReturnPath

    @property
    def credited(self) -> bool:
        """Whether its dividends carry a tax credit."""
        return len(self.kept_after_tax.inputs) > 1

    @property
    def choices(self) -> Choices:
        """What the person chose of it."""
        return self.trials.ground.choices

    @property
    def moves_most(self) -> str | None:
        """The input that moves the combined value most."""
        return self.trials.moves_most

    @property
    def counting(self) -> list[Answer]:
        """The answers that have a part in the combined value."""
        return [a for a in self.answers if a.counts]

    @property
    def on(self) -> list[Model]:
        return [m for m in self.models if m.on]

    def input(self, id: str) -> Figure:
        return self.inputs[id].figure


def _price_against(file: PayerFile, label: str, other: Figure) -> Figure:
    return derive(
        label,
        Unit.FRACTION,
        f"price ÷ {other.label} − 1",
        [file.price, other],
        lambda p, v: p / v - 1 if v > 0 else Unknown(f"{other.label} is not positive"),
    )


def build_worth(ground: Ground) -> Worth:
    """The models, their combined value and what the price implies."""
    file, record, choices = ground.file, ground.record, ground.choices
    check_choices(choices)
    specs = counted(ground)
    wanted = {*ALWAYS, *OWN, *CHANCES, *(id for s in specs for id in s.takes)}
    inputs = choose(INPUTS, ground, choices.inputs, wanted)
    models = price_models(ground, specs, inputs)
    together = combine(ground, models)
    combined, spread = together.value, together.spread
    trials = Trials(
        valuer=valuer_of(ground, inputs, together), specs=[MODELS[m.id] for m in models if m.on]
    )
    kept = kept_after_tax(file, ground.rules)
    buy_below = _buy_below(ground, combined, inputs["margin_of_safety"].figure)
    return Worth(
        inputs=inputs,
        models=models,
        answers=together.answers,
        combined=combined,
        combined_low=together.low,
        combined_high=together.high,
        weighted=together.weighted,
        spread=spread,
        leaving_out=together.leaving_out,
        spread_called_out=spread.value is not None and above(spread.value, SPREAD_CALLED_OUT),
        buy_below=buy_below,
        second_buy_below=_at_margin(
            "second buy-below price", combined, inputs["second_margin"].figure
        ),
        trim_above=derive(
            "trim-above price",
            Unit.PER_SHARE,
            "combined value × (1 + premium)",
            [combined, inputs["trim_premium"].figure],
            lambda value, p: value * (1 + p),
            currency=file.payer.currency,
        ),
        price_against_buy_below=_price_against(file, "price vs buy-below", buy_below),
        price_against_combined=_price_against(file, "price vs combined value", combined),
        implied_return=_offered(ground, inputs, None),
        implied_return_after_tax=_offered(ground, inputs, kept),
        kept_after_tax=kept,
        market_return=given(
            "assumed market return", Unit.FRACTION, ground.rules.market_return, RULE
        ),
        implied_growth=derive(
            "growth the price implies",
            Unit.FRACTION,
            "(required return × price − declared rate) ÷ (price + declared rate)",
            [file.price, record.declared_rate, inputs["required_return"].figure],
            implied_constant_growth,
        ),
        justified=_justified(ground, inputs),
        others=Opinions(ground=ground, counting=models, chosen=inputs),
        trials=trials,
        path=ReturnPath(ground=ground, held=inputs),
    )


def _justified(ground: Ground, inputs: Mapping[str, Input]) -> Figure | None:
    """Of the multiple that Range shows; none of a yield, nor of one that debt has a part in."""
    shown = ground.shown
    if shown.quantity is YIELD or shown.beside is not None:
        return None
    return justified_multiple(
        shown,
        ground.record.declared_rate,
        inputs["lasting_growth"].figure,
        inputs["required_return"].figure,
    )


def _buy_below(ground: Ground, combined: Figure, margin: Figure) -> Figure:
    """With a caution for every required test that is outside its limit: of the dividend, which may
    not last, and of what carries it."""
    found = _at_margin("buy-below price", combined, margin)
    if not found.known:
        return found
    return found.but(cautions=(*found.cautions, *granted(ground.tests)))


def _at_margin(label: str, combined: Figure, margin: Figure) -> Figure:
    return derive(
        label,
        Unit.PER_SHARE,
        f"combined value × (1 − {margin.label})",
        [combined, margin],
        lambda value, m: value * (1 - m),
        currency=combined.currency,
    )


def granted(tests: Sequence[Test]) -> tuple[str, ...]:
    """What a price takes for granted of a payer: its required tests that are crossed."""
    crossed = [t for t in tests if t.required and t.state is State.OUTSIDE]
    paid = [t for t in crossed if t.stage is Stage.COVER and t.falls]
    others = ", ".join(t.short for t in crossed if t not in paid)
    return (*((TAKEN_FOR_GRANTED,) if paid else ()), *((OUTSIDE + others,) if others else ()))


def _offered(ground: Ground, inputs: Mapping[str, Input], kept: Figure | None) -> Figure:
    """The return at which constant growth equals the price: r = D0 × kept × (1 + g) ÷ P + g.

    Source: Gordon 1962 rearranged; docs/method.md, Worth. 2.40, 3 %, 49.44 → 8 %.
    """
    growth = inputs["lasting_growth"].figure
    held = [ground.record.declared_rate, growth, ground.file.price]

    def compute(rate: float, g: float, price: float, part: float = 1.0) -> float | Unknown:
        if rate <= 0:
            return Unknown("nothing is being paid")
        return rate * part * (1 + g) / price + g if price > 0 else Unknown("no price")

    after = ", after tax" if kept else ""
    return derive(
        f"return that the price offers{after}",
        Unit.FRACTION,
        f"declared rate {'× part kept ' if kept else ''}× (1 + growth) ÷ price + growth",
        [*held, kept] if kept else held,
        compute,
    )
