"""Figures, sentences and stages as they cross the wire: one shape for every stage."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date
from typing import Literal

from hearth_yield.core.facts.records import Dividend
from hearth_yield.core.figures.figure import Figure
from hearth_yield.core.figures.inputs import Input, InputSpec
from hearth_yield.core.figures.measure import Sentence, Size, Stage
from hearth_yield.core.figures.parts import collect
from hearth_yield.core.judging.judge import Test, passed
from hearth_yield.core.names import name_of, named_figures, named_measures
from hearth_yield.core.review import Review
from hearth_yield.core.stages import MEASURES, STAGES, measures_of

from .answer import wire
from .schemas import DirectionName, StageName, StateName, UnitName


@dataclass(slots=True)
class FigureOut:
    """value is null when unknown, and reason then says why. key opens its working. cautions: what
    should be known before relying on it. was: its value when its newest input was current.

    A dataclass, as a review holds hundreds of them: built in a fifth of a model's time.
    """

    key: str
    label: str
    unit: UnitName
    value: float | None
    reason: str | None = None
    breach: str | None = None
    spared: str | None = None
    currency: str | None = None
    period: str | None = None
    known_on: date | None = None
    notes: tuple[str, ...] = ()
    touch: Literal["entered", "edited"] | None = None
    cautions: tuple[str, ...] = ()
    was: float | None = None


def figure_out(figure: Figure, key: str) -> FigureOut:
    return FigureOut(
        key,
        figure.label,
        figure.unit.value,
        figure.value,
        figure.reason,
        figure.breach,
        figure.spared,
        figure.currency,
        figure.period,
        figure.known_on,
        figure.notes,
        figure.touch.value if figure.touch else None,
        figure.cautions,
        figure.was,
    )


@wire
class PartOut:
    """One piece of a sentence. size: the figure is told without its sign."""

    text: str | None = None
    day: date | None = None
    figure: FigureOut | None = None
    size: bool = False


@wire
class KeyFigureOut:
    """A measure that stands among the key figures of its stage. group: the basis it is taken on.
    note: what is said beside it."""

    id: str
    name: str
    group: str | None
    signed: bool
    digits: int | None
    note: list[PartOut]


@wire
class HeadOut:
    """A measure in the head of the review."""

    name: str
    figure: FigureOut
    note: list[PartOut]


@wire
class TestOut:
    """id: of the measure that is held against the limit. strict: at the limit does not pass.
    exempt: whose own limit it is, where that is not the kind's. beyond: how far it is outside its
    limit, in its own unit."""

    id: str
    short: str
    stage: StageName
    measure: FigureOut
    limit: float
    direction: DirectionName
    strict: bool
    required: bool
    cushion: FigureOut
    state: StateName
    falls: str | None
    exempt: str | None
    beyond: str | None


@wire
class StageOut:
    """One step of the job. passed: of the tests made of it; unknown never passes. figures: its
    measures by id; those the payer's kind does not use are missing."""

    id: StageName
    name: str
    question: str
    state: StateName | None
    passed: int
    tested: int
    finding: list[PartOut]
    figures: dict[str, FigureOut]
    key_figures: list[KeyFigureOut]


@wire
class OfferOut:
    """What might be typed for an input, as the facts have it."""

    name: str
    value: float


@wire
class FieldOut:
    """An input the person can type. low_bound, high_bound: what it must lie between. spread: how
    far it is taken to either side, in words. suffix: what its number counts, where its unit does
    not say it. low, high: at the other cases, where a person may type those too. advice: what
    should be known of its value. shown: always, with the low and high cases, or where something
    that takes it is looked at."""

    id: str
    label: str
    unit: UnitName
    low_bound: float
    high_bound: float
    step: float
    digits: int
    origin: str
    spread: str
    suffix: str
    figure: FigureOut
    low: float | None = None
    high: float | None = None
    offers: list[OfferOut]
    advice: str | None = None
    shown: Literal["always", "cases", "taken"] = "taken"
    asked_as: Literal["number", "month"] = "number"


@wire
class NamedFigureOut:
    """A figure among others of a kind. digits: where its unit's own are not meant; note: the day it
    is of."""

    name: str
    figure: FigureOut
    digits: int | None = None
    note: date | None = None


@wire
class PaymentOut:
    ex_date: date
    pay_date: date | None
    declared_on: date | None
    amount: float


def payment_out(dividend: Dividend, amount: float) -> PaymentOut:
    return PaymentOut(
        ex_date=dividend.ex_date,
        pay_date=dividend.pay_date,
        declared_on=dividend.declared_on,
        amount=amount,
    )


class Shown:
    """The figures of one review as they are shown, each under the key its working is asked by."""

    def __init__(self, review: Review) -> None:
        self.review = review
        self._keys = _keys(named_measures(review))
        self._whole = False

    def figure(self, figure: Figure, key: str = "") -> FigureOut:
        """key: where the caller has it; else it is looked up."""
        return figure_out(figure, key or self._key_of(figure))

    def know(self, path: str, part: object) -> None:
        """Name the figures of one part, where a sentence tells some of them: naming every figure of
        the review would have to build them all."""
        found: dict[str, Figure] = {}
        collect(part, path, found)
        self._keys = _keys(found) | self._keys

    def _key_of(self, figure: Figure) -> str:
        if id(figure) not in self._keys and not self._whole:
            self._keys = _keys(named_figures(self.review)) | self._keys
            self._whole = True
        return self._keys.get(id(figure), "")

    def sentence(self, parts: Sentence) -> list[PartOut]:
        return [self._part(p) for p in parts]

    def _part(self, part: str | date | Figure | Size) -> PartOut:
        match part:
            case str():
                return PartOut(text=part)
            case date():
                return PartOut(day=part)
            case Size():
                return PartOut(figure=self.figure(part.figure), size=True)
        return PartOut(figure=self.figure(part))

    def test(self, test: Test, measure: str = "", cushion: str = "") -> TestOut:
        """measure, cushion: the keys of its figures, where they are not the review's own."""
        return TestOut(
            id=test.id,
            short=test.short,
            stage=test.stage.value,
            measure=figure_out(test.measure, measure or name_of(test.id)),
            limit=test.limit,
            direction=test.direction.value,
            strict=test.strict,
            required=test.required,
            cushion=figure_out(test.cushion, cushion or f"tests.{test.id}.cushion"),
            state=test.state.value,
            falls=test.falls,
            exempt=test.exempt,
            beyond=test.beyond,
        )

    def head(self) -> list[HeadOut]:
        """The measures in the head of the review, in the order of the job."""
        found = []
        for m in MEASURES.values():
            figure = self.review.figure(m.id)
            if m.head and figure and (figure.known or m.head.even_unknown):
                held = self.review.stages.get(m.stage)
                note = m.head.note(held.result) if held else ()
                shown = figure_out(figure, name_of(m.id))
                found.append(HeadOut(name=m.head.name, figure=shown, note=self.sentence(note)))
        return found

    def stage(self, stage: Stage) -> StageOut:
        held, spec = self.review.stages[stage], STAGES[stage]
        return StageOut(
            id=stage.value,
            name=spec.name,
            question=spec.question,
            state=held.state.value if held.state else None,
            passed=passed(held.tests),
            tested=len(held.tests),
            finding=self.sentence(held.finding),
            figures={id: figure_out(f, f"{stage.value}.{id}") for id, f in held.figures.items()},
            key_figures=[
                KeyFigureOut(
                    id=m.id,
                    name=m.key.name,
                    group=m.group,
                    signed=m.signed,
                    digits=m.digits,
                    note=self.sentence(m.key.note(held.result)),
                )
                for m in measures_of(stage)
                if m.key is not None and m.id in held.figures
            ],
        )


def field_out(spec: InputSpec, held: Input, path: str) -> FieldOut:
    low, high = spec.bounds or (0.0, 0.0)
    return FieldOut(
        id=spec.id,
        label=spec.label,
        unit=spec.unit.value,
        low_bound=low,
        high_bound=high,
        step=spec.step,
        digits=spec.digits,
        origin=held.origin,
        spread=spec.spread,
        suffix=spec.suffix,
        figure=figure_out(held.figure, f"{path}.figure"),
        low=held.low.value if spec.sided else None,
        high=held.high.value if spec.sided else None,
        offers=[
            OfferOut(name=o.origin, value=o.figure.value)
            for o in held.offers
            if o.figure.value is not None
        ],
        advice=spec.advice(held.figure.value)
        if spec.advice and held.figure.value is not None
        else None,
        shown=spec.shown,
        asked_as=spec.asked_as,
    )


def _keys(named: dict[str, Figure]) -> dict[int, str]:
    """Names by figure; of a figure with several, the first."""
    return {id(f): k for k, f in reversed(named.items())}
