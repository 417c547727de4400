"""The models that count, valued again with other inputs."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from ...figures.figure import Figure, Touch, Unit, Unknown, derive
from ...figures.inputs import Case, Input, rechosen
from ..combined import Combined
from ..declare import Ground, ModelSpec
from ..inputs import INPUTS
from ..models import MODELS
from ..trace import PLAIN


@dataclass(frozen=True, slots=True, kw_only=True)
class Valuer:
    """The models that have a part in the combined value, of one payer, with its inputs as they
    count.

    weights: their parts, in the order of `specs`. none: why there is no combined value.
    touch: that a person had a hand in what counts.
    """

    ground: Ground
    inputs: Mapping[str, Input]
    specs: Sequence[ModelSpec]
    weights: Sequence[float]
    none: str | None
    touch: Touch | None = None

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
        """The combined value in one case, or why one of the models has no answer."""
        if self.none is not None:
            return Unknown(self.none)
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
        formula = "Σ part of each model × its value"
        return derive(
            label,
            Unit.PER_SHARE,
            formula,
            held,
            lambda *v: self.mean(v),
            currency=self.ground.file.payer.currency,
        ).with_touch(self.touch)

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


def valuer_of(ground: Ground, inputs: Mapping[str, Input], together: Combined) -> Valuer:
    """Of the models that have a part in the combined value."""
    parts = {id: part for id, part in together.parts.items() if part > 0}
    return Valuer(
        ground=ground,
        inputs=inputs,
        specs=[MODELS[id] for id in parts],
        weights=list(parts.values()),
        none=together.value.reason,
        touch=together.touch,
    )


def middle(inputs: Mapping[str, Input]) -> dict[str, Figure]:
    return {id: i.figure for id, i in inputs.items()}
