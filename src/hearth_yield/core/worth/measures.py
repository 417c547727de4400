"""What Worth measures: each model, what they come to together, and every input as it counts."""

from __future__ import annotations

from functools import partial

from ..figures.figure import Figure, Unit
from ..figures.inputs import InputSpec
from ..figures.measure import Measure, Stage, measure
from .declare import EVERY_KIND, QUESTIONS, Answers, ModelSpec
from .inputs import INPUTS
from .models import MODELS
from .worth import ALWAYS, Worth

_worth = partial(measure, Stage.WORTH)
_FRACTION, _PER_SHARE = Unit.FRACTION, Unit.PER_SHARE
GROWTH = "growth"
LEADING = [spec for spec in MODELS.values() if spec.leads]
"""Second opinions are no measures: they are made when they are looked at, payer by payer."""
TAKEN = {*ALWAYS, *(id for spec in LEADING if spec.leads == EVERY_KIND for id in spec.takes)}


def _model(spec: ModelSpec) -> Measure:
    def read(worth: Worth) -> Figure | None:
        return next((m.middle for m in worth.models if m.id == spec.id), None)

    name = f"{spec.name[:1].lower()}{spec.name[1:]}"
    return _worth(spec.id, f"Worth by {name}", _PER_SHARE, read, better="neither", frozen=True)


def _answer(question: Answers) -> Measure:
    def read(worth: Worth) -> Figure | None:
        return next((a.middle for a in worth.answers if a.id == question), None)

    name = QUESTIONS[question].lower()
    return _worth(
        f"worth_of_{question}", f"Worth by {name}", _PER_SHARE, read, better="neither", frozen=True
    )


def _input(spec: InputSpec) -> Measure:
    name = f"{spec.name[:1].upper()}{spec.name[1:]} used"
    return _worth(
        f"{spec.id}_used",
        name,
        spec.unit,
        lambda worth: worth.input(spec.id),
        better="neither",
        digits=spec.digits,
        columns={"worth": 50} if spec.id == GROWTH else {},
        frozen=True,
    )


MEASURES: tuple[Measure, ...] = (
    *map(_model, LEADING),
    *(_answer(question) for question in QUESTIONS if question != "others"),
    _worth(
        "combined",
        "Combined value",
        _PER_SHARE,
        lambda w: w.combined,
        columns={"worth": 20},
        frozen=True,
        better="neither",
    ),
    _worth(
        "buy_below",
        "Buy-below price",
        _PER_SHARE,
        lambda w: w.buy_below,
        columns={"worth": 30},
        frozen=True,
        better="neither",
    ),
    _worth("trim_above", "Trim-above price", _PER_SHARE, lambda w: w.trim_above, better="neither"),
    _worth(
        "price_against_buy_below",
        "Price vs buy-below",
        _FRACTION,
        lambda w: w.price_against_buy_below,
        "price [over|under] your buy-below by {}",
        columns={"overview": 80, "worth": 40},
        better="low",
        compared={"worth": 10},
    ),
    _worth(
        "price_against_combined",
        "Price vs combined value",
        _FRACTION,
        lambda w: w.price_against_combined,
        "price [over|under] its combined value by {}",
        better="low",
        compared={"overview": 90, "worth": 20},
    ),
    _worth(
        "implied_growth",
        "Implied growth",
        _FRACTION,
        lambda w: w.implied_growth,
        "growth that the price implies",
        columns={"worth": 60},
        frozen=True,
        better="low",
        compared={"worth": 40},
    ),
    _worth(
        "implied_return",
        "Return the price offers",
        _FRACTION,
        lambda w: w.implied_return,
        "return that the price offers",
        columns={"worth": 65},
        frozen=True,
        better="high",
        compared={"worth": 30},
    ),
    _worth(
        "implied_return_after_tax",
        "Return the price offers, after tax",
        _FRACTION,
        lambda w: w.implied_return_after_tax,
        "return that the price offers after tax",
        better="high",
    ),
    *(_input(spec) for spec in INPUTS.values() if spec.bounds and spec.id in TAKEN),
    _worth(
        "spread",
        "Spread of the answers",
        _FRACTION,
        lambda w: w.spread,
        "spread of the answers",
        digits=0,
        columns={"worth": 70},
        better="low",
        compared={"worth": 50},
    ),
)
