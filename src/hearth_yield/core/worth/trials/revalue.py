"""The models that count, valued again with other inputs."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from ...figures.figure import Figure, Unit, Unknown, derive
from ...figures.inputs import Case, Input, rechosen
from ..declare import Ground, ModelSpec
from ..inputs import INPUTS
from ..models import MODELS, Model
from ..trace import PLAIN


@dataclass(frozen=True, slots=True, kw_only=True)
class Valuer:
    """Some models by their weights, of one payer, with its inputs as they count.

    weights: by model, in the order of `specs`.
    """

    ground: Ground
    inputs: Mapping[str, Input]
    specs: Sequence[ModelSpec]
    weights: Sequence[float]

    @property
    def takes(self) -> tuple[str, ...]:
        """Ids of what the models take, and of what those rest on, in the order of declaration."""
        wanted = {id for s in self.specs for id in s.takes}
        for id, held in reversed(list(self.inputs.items())):
            if id in wanted:
                wanted |= held.rests_on
        return tuple(id for id in INPUTS if id in wanted)

    def instead(self, moved: Mapping[str, float]) -> dict[str, Input]:
        """The inputs had the person typed these; those that rest on them follow."""
        return rechosen(INPUTS, self.ground, self.inputs, self.ground.choices.inputs, moved)

    def at(self, case: Case) -> float | Unknown:
        """The mean of the models in one case, or why one of them has no answer."""
        values = []
        for spec in self.specs:
            found = number(spec, self.ground, case)
            if isinstance(found, Unknown):
                return found
            values.append(found)
        return self.mean(values)

    def figure_at(self, label: str, case: Case) -> Figure:
        """The same with its working."""
        held = [s.value(self.ground, case, s.name.lower()) for s in self.specs]
        formula = "mean of the models that are on"
        return derive(
            label,
            Unit.PER_SHARE,
            formula,
            held,
            lambda *v: self.mean(v),
            currency=self.ground.file.payer.currency,
        )

    def mean(self, values: Sequence[float]) -> float:
        total = sum(w * x for w, x in zip(self.weights, values, strict=True))
        return total / sum(self.weights)


def number(spec: ModelSpec, ground: Ground, case: Case) -> float | Unknown:
    """A model's answer without its working; the same functions give both."""
    values = []
    for x in spec.reads(ground, case):
        if x.value is None:
            return Unknown(x.reason or "")
        values.append(x.value)
    return spec.refused(values, case) or float(spec.worth(PLAIN, *values))


def valuer_of(ground: Ground, inputs: Mapping[str, Input], models: Sequence[Model]) -> Valuer:
    """Of the models that are given, by their weights."""
    return Valuer(
        ground=ground,
        inputs=inputs,
        specs=[MODELS[m.id] for m in models],
        weights=[m.weight for m in models],
    )


def middle(inputs: Mapping[str, Input]) -> dict[str, Figure]:
    return {id: i.figure for id, i in inputs.items()}
