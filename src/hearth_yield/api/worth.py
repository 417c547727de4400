"""What Worth shows besides its figures: the models, their inputs, and what they say together."""

from __future__ import annotations

from dataclasses import dataclass

from pydantic import BaseModel

from hearth_yield.core.figures.measure import Stage
from hearth_yield.core.review import Review
from hearth_yield.core.worth.inputs import INPUTS
from hearth_yield.core.worth.models import CASES, MODELS, Model
from hearth_yield.core.worth.words import in_words, marks

from .figures import FieldOut, FigureOut, PartOut, Shown, StageOut, field_out


@dataclass(slots=True, kw_only=True)
class ModelYearOut:
    year: int
    growth: float
    dividend: float
    present_value: float


class ModelOut(BaseModel):
    """takes: ids of its inputs. years: its yearly working in the middle case, where it has one."""

    id: str
    name: str
    question: str
    takes: list[str]
    low: FigureOut
    middle: FigureOut
    high: FigureOut
    on: bool
    suits: bool
    why_off: str | None
    years: list[ModelYearOut]


class MarkOut(BaseModel):
    """A figure that is marked on the axis of values."""

    name: str
    figure: FigureOut
    kind: str


class WorthSeries(BaseModel):
    """said: what the models say together, sentence by sentence."""

    models: list[ModelOut]
    inputs: list[FieldOut]
    marks: list[MarkOut]
    said: list[list[PartOut]]


class WorthAnswer(BaseModel):
    """What a moved input changes."""

    stage: StageOut
    series: WorthSeries


def worth_series(shown: Shown, review: Review) -> WorthSeries:
    worth = review.worth
    shown.know("worth.market_return", worth.market_return)
    return WorthSeries(
        models=[_model(shown, m) for m in worth.models],
        inputs=[
            field_out(INPUTS[i.id], i, f"worth.inputs.{i.key}")
            for i in worth.inputs.values()
            if INPUTS[i.id].bounds
        ],
        marks=[
            MarkOut(name=name, figure=shown.figure(figure), kind=kind)
            for name, figure, kind in marks(review.price, worth)
        ],
        said=[shown.sentence(s) for s in in_words(worth, review.record)],
    )


def worth_answer(shown: Shown) -> WorthAnswer:
    return WorthAnswer(stage=shown.stage(Stage.WORTH), series=worth_series(shown, shown.review))


def _model(shown: Shown, model: Model) -> ModelOut:
    spec = MODELS[model.id]
    return ModelOut(
        id=model.id,
        name=model.name,
        question=spec.question,
        takes=list(spec.takes),
        on=model.on,
        suits=model.suits,
        why_off=model.why_off,
        years=[
            ModelYearOut(
                year=y.year, growth=y.growth, dividend=y.dividend, present_value=y.present_value
            )
            for y in model.years
        ],
        **shown.members(model, f"worth.models.{model.key}", CASES),
    )
