"""Every model of worth there is, and one loop that prices them. (docs/method.md, Worth)"""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass

from ..errors import InvalidInput
from ..figures.figure import Figure, Touch, Unit, Unknown, derive
from ..figures.inputs import Case, Inputs
from ..figures.parts import HoldsFigures
from . import dividends, opinions
from .declare import QUESTIONS, Answers, Choices, Ground, ModelSpec
from .inputs import CHANCES
from .reversion import REVERSION

MODELS: dict[str, ModelSpec] = {
    spec.id: spec for spec in (*dividends.MODELS, REVERSION, *opinions.MODELS)
}
"""In the order they are shown."""
CASES = ("low", "middle", "high")
NOT_JUDGED = "a fund, bond or other is valued only by what you switch on"
NOT_COUNTED = "a second opinion; switch it on to count it in"
HEAVIEST = 100


@dataclass(frozen=True, slots=True)
class ModelYear:
    """One year of a model's working, in money per share; growth as a fraction. factor: of its
    discount; worth: of the amount, today."""

    year: int
    growth: float
    amount: float
    factor: float
    worth: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Model(HoldsFigures):
    """What one model says.

    answers: which question. weighted: its cases by their chances. lead: it counts by itself where
    it suits. on: it counts in the answer to its question, by its weight; why_off: why it does not
    suit, or who switched it off and why. suited_by: that a person had a hand in what decides
    whether it suits. years, parts: where the middle value comes from.
    """

    id: str
    name: str
    answers: Answers
    low: Figure
    middle: Figure
    high: Figure
    weighted: Figure
    lead: bool
    on: bool
    suits: bool
    why_off: str | None
    weight: float = 1.0
    suited_by: Touch | None = None
    years: tuple[ModelYear, ...] = ()
    parts: tuple[tuple[str, float], ...] = ()

    @property
    def key(self) -> str:
        return self.id


def check_choices(choices: Choices) -> None:
    """Refuses models that there are not, and weights that say nothing."""
    chosen = (("models", choices.switched), ("reasons", choices.reasons))
    for name, held, known in (
        *((name, held, (*MODELS,)) for name, held in chosen),
        ("weights", choices.weights, (*QUESTIONS, *MODELS)),
    ):
        for id in held:
            if id not in known:
                raise InvalidInput(
                    "no such model", field=name, value=id, rule=f"one of {', '.join(known)}"
                )
    for id, weight in choices.weights.items():
        if id in QUESTIONS:
            _check_vote(id, weight)
        elif not 0 < weight <= HEAVIEST:
            raise InvalidInput(
                "a weight must be above 0; a model that should not count is switched off",
                field="weights",
                value=f"{id}:{weight:g}",
                rule=f"above 0, up to {HEAVIEST}",
            )


def _check_vote(id: str, weight: float) -> None:
    if not 0 <= weight <= HEAVIEST:
        raise InvalidInput(
            "the weight of a question must not be under 0",
            field="weights",
            value=f"{id}:{weight:g}",
            rule=f"0 to {HEAVIEST}",
        )


def cases_of(inputs: Inputs) -> dict[str, Case]:
    """Inputs by id, of each case."""
    return {
        "low": {id: i.low for id, i in inputs.items()},
        "middle": {id: i.figure for id, i in inputs.items()},
        "high": {id: i.high for id, i in inputs.items()},
    }


def price_models(ground: Ground, specs: Iterable[ModelSpec], inputs: Inputs) -> tuple[Model, ...]:
    """Models in their three cases."""
    cases = cases_of(inputs)
    return tuple(_priced(ground, spec, inputs, cases) for spec in specs)


def _priced(ground: Ground, spec: ModelSpec, inputs: Inputs, cases: Mapping[str, Case]) -> Model:
    choices = ground.choices
    low, middle, high = (spec.value(ground, cases[c], f"{spec.name.lower()}, {c}") for c in CASES)
    judged = ground.file.payer.kind.is_judged
    unsuited = spec.unsuited(ground, inputs) if judged else NOT_JUDGED
    lead = spec.lead(ground)
    on = choices.switched.get(spec.id, lead and unsuited is None)
    why = None if on else unsuited or _set_aside(spec, lead, choices)
    if on and not middle.known:
        on, why = False, middle.reason
    trace = spec.traced(ground, cases["middle"])
    return Model(
        id=spec.id,
        name=spec.name,
        answers=spec.answers,
        low=low,
        middle=middle,
        high=high,
        weighted=_weighted(spec, (low, middle, high), inputs),
        lead=lead,
        on=on,
        suits=unsuited is None,
        why_off=why,
        weight=choices.weights.get(spec.id, 1.0),
        suited_by=None if spec.id in choices.switched else spec.touch(ground),
        years=tuple(ModelYear(year, **held) for year, held in trace.years.items()),
        parts=tuple(trace.parts),
    )


def _set_aside(spec: ModelSpec, lead: bool, choices: Choices) -> str:
    if not lead:
        return NOT_COUNTED
    reason = choices.reasons.get(spec.id)
    return f"switched off by you: {reason}" if reason else "switched off by you"


def _weighted(spec: ModelSpec, values: Sequence[Figure], inputs: Inputs) -> Figure:
    """Σ chance × value ÷ Σ chance of the three cases."""
    chances = [inputs[id].figure for id in CHANCES]

    def compute(*x: float) -> float | Unknown:
        value, chance = x[:3], x[3:]
        if sum(chance) <= 0:
            return Unknown("no case has a chance")
        return sum(v * c for v, c in zip(value, chance, strict=True)) / sum(chance)

    return derive(
        f"{spec.name.lower()}, by its chances",
        Unit.PER_SHARE,
        "low, middle and high × their chances ÷ the sum of the chances",
        [*values, *chances],
        compute,
        currency=values[0].currency,
    )


def counted(ground: Ground) -> list[ModelSpec]:
    """Models that may count: those that lead, and second opinions a person switched on."""
    switched = ground.choices.switched
    return [s for s in MODELS.values() if s.lead(ground) or switched.get(s.id, False)]
