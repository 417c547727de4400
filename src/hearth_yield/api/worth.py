"""What Worth shows besides its figures: the models, their inputs, and what they say together."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Literal

from hearth_yield.core.figures.inputs import Input
from hearth_yield.core.figures.measure import Stage
from hearth_yield.core.review import Review
from hearth_yield.core.worth.inputs import CHANCES, INPUTS
from hearth_yield.core.worth.models import MODELS, Model
from hearth_yield.core.worth.pairs import pair_in_words
from hearth_yield.core.worth.words import answered, in_words, marks, moves_most

from .answer import wire
from .figures import FieldOut, FigureOut, PartOut, Shown, StageOut, field_out
from .wire import fill

AnswersName = Literal["dividends", "past", "cash", "others"]


@wire
class ModelYearOut:
    year: int
    growth: float
    amount: float
    worth: float


@wire
class ModelPartOut:
    """A part of a model's middle value."""

    name: str
    worth: float


@wire
class ModelOut:
    """answers: which question. lead: it counts by itself where it suits; else it is a second
    opinion. takes: ids of its inputs. weighted: its cases by their chances; weight: within its
    question; reason: why the person set it aside. years: its yearly working in the middle case, of
    what amount names; parts: what that comes from."""

    id: str
    name: str
    question: str
    answers: AnswersName
    lead: bool
    takes: list[str]
    low: FigureOut
    middle: FigureOut
    high: FigureOut
    weighted: FigureOut
    weight: float
    on: bool
    suits: bool
    why_off: str | None
    reason: str
    amount: str
    years: list[ModelYearOut]
    parts: list[ModelPartOut]


@wire
class AnswerOut:
    """What a question says: the mean of its models that are on. weight: between the questions;
    share: of the combined value; without: the combined value had it not counted; why: its weight in
    words; typed: the person set it; models: how many are on."""

    id: AnswersName
    name: str
    low: FigureOut
    middle: FigureOut
    high: FigureOut
    weight: FigureOut
    share: FigureOut
    without: FigureOut
    why: str
    typed: bool
    models: int


@wire
class MarkOut:
    """A figure that is marked on the axis of values."""

    name: str
    figure: FigureOut
    kind: str


@wire
class UnsuitedOut:
    """A second opinion that does not suit the payer, and why."""

    id: str
    name: str
    answers: AnswersName
    why: str


@wire
class OpinionsSeries:
    """models: the second opinions that suit and do not count; said: what moves the combined value
    most, and how those differ that answer one question from two ends; unsuited: the rest. inputs:
    what they take besides those that Worth takes anyway, and the chances of the cases."""

    models: list[ModelOut]
    said: list[list[PartOut]]
    unsuited: list[UnsuitedOut]
    inputs: list[FieldOut]


@wire
class WorthSeries:
    """answered: what it is worth, what the price takes for granted, what it offers. models: those
    that may count; answers: of the questions that have one on; combined_low, combined_high: all of
    them at their low and at their high. said: what they say together, sentence by sentence."""

    answered: list[PartOut]
    answers: list[AnswerOut]
    combined: FigureOut
    combined_low: FigureOut
    combined_high: FigureOut
    models: list[ModelOut]
    inputs: list[FieldOut]
    marks: list[MarkOut]
    said: list[list[PartOut]]


@wire
class WorthAnswer:
    """What a moved input changes."""

    stage: StageOut
    series: WorthSeries


def worth_series(shown: Shown, review: Review) -> WorthSeries:
    worth = review.worth
    shown.know("worth.market_return", worth.market_return)
    shown.know("worth.inputs", worth.inputs)
    shown.know("worth.leaving_out", worth.leaving_out)
    if worth.choices.inputs:
        shown.know("worth.second_buy_below", worth.second_buy_below)
        shown.know("worth.trim_above", worth.trim_above)
        shown.know("worth.weighted", worth.weighted)
    shown.know("worth.answers", worth.answers)
    shown.know("worth.trials.granted", worth.trials.granted)
    return fill(
        WorthSeries,
        worth,
        "worth",
        answered=shown.sentence(answered(worth, review.price, review.record)),
        models=[_model(shown, m, f"worth.models.{m.key}") for m in worth.models],
        inputs=_fields(_without_chances(worth.inputs), "worth.inputs"),
        marks=[
            MarkOut(name=name, figure=shown.figure(figure), kind=kind)
            for name, figure, kind in marks(review.price, worth)
        ],
        said=[shown.sentence(s) for s in in_words(worth, review.price)],
    )


def _without_chances(held: Mapping[str, Input]) -> dict[str, Input]:
    """The chances of the cases come with the second opinions: they are looked at on demand."""
    return {id: x for id, x in held.items() if id not in CHANCES}


def _fields(held: Mapping[str, Input], at: str) -> list[FieldOut]:
    """Those that can be typed."""
    return [
        field_out(INPUTS[i.id], i, f"{at}.{i.key}") for i in held.values() if INPUTS[i.id].bounds
    ]


def opinions_series(shown: Shown) -> OpinionsSeries:
    others = shown.review.worth.others
    shown.know("worth.others.pairs", others.pairs)
    said = [moves_most(shown.review.worth), *map(pair_in_words, others.pairs)]
    return OpinionsSeries(
        said=[shown.sentence(s) for s in said if s],
        models=[_model(shown, m, f"worth.others.models.{m.key}") for m in others.models],
        unsuited=[
            UnsuitedOut(id=id, name=MODELS[id].name, answers=MODELS[id].answers, why=why)
            for id, why in others.unsuited.items()
        ],
        inputs=[
            *_fields({id: shown.review.worth.inputs[id] for id in CHANCES}, "worth.inputs"),
            *_fields(others.inputs, "worth.others.inputs"),
        ],
    )


def worth_answer(shown: Shown) -> WorthAnswer:
    return WorthAnswer(stage=shown.stage(Stage.WORTH), series=worth_series(shown, shown.review))


def _model(shown: Shown, model: Model, at: str) -> ModelOut:
    spec = MODELS[model.id]
    return fill(
        ModelOut,
        model,
        at,
        question=spec.question,
        answers=spec.answers,
        takes=list(spec.takes),
        reason=shown.review.worth.choices.reasons.get(model.id, ""),
        amount=spec.amount,
        parts=[ModelPartOut(name=name, worth=worth) for name, worth in model.parts],
    )
