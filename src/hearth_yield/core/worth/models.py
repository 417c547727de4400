"""Every model of worth there is, and one loop that prices them. (docs/method.md, Worth)"""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from functools import cached_property

from ..errors import InvalidInput
from ..figures.figure import Figure, Touch
from ..figures.inputs import Case, Input, choose
from ..figures.parts import HoldsFigures
from . import dividends, opinions
from .declare import Ground, ModelSpec, ModelYear
from .inputs import INPUTS
from .reversion import REVERSION

MODELS: dict[str, ModelSpec] = {
    spec.id: spec for spec in (*dividends.MODELS, REVERSION, *opinions.MODELS)
}
"""In the order they are shown."""
CASES = ("low", "middle", "high")
NOT_COUNTED = "a second opinion; switch it on to count it in"


@dataclass(frozen=True, slots=True, kw_only=True)
class Model(HoldsFigures):
    """One model's answer. on: it counts in the combined value; why_off: why it does not suit, or
    who switched it off. suited_by: that a person had a hand in what decides whether it suits."""

    id: str
    name: str
    low: Figure
    middle: Figure
    high: Figure
    on: bool
    suits: bool
    why_off: str | None
    suited_by: Touch | None = None
    years: tuple[ModelYear, ...] = ()

    @property
    def key(self) -> str:
        return self.id


def check_switched(switched: Mapping[str, bool]) -> None:
    for id in switched:
        if id not in MODELS:
            raise InvalidInput(
                "no such model", field="models", value=id, rule=f"one of {', '.join(MODELS)}"
            )


def price_models(
    ground: Ground,
    specs: Iterable[ModelSpec],
    inputs: Mapping[str, Input],
    switched: Mapping[str, bool],
) -> tuple[Model, ...]:
    """Models in their three cases. switched: models the person turned on or off."""
    cases = {
        "low": {id: i.low for id, i in inputs.items()},
        "middle": {id: i.figure for id, i in inputs.items()},
        "high": {id: i.high for id, i in inputs.items()},
    }
    return tuple(_priced(ground, spec, inputs, cases, switched) for spec in specs)


def _priced(
    ground: Ground,
    spec: ModelSpec,
    inputs: Mapping[str, Input],
    cases: Mapping[str, Case],
    switched: Mapping[str, bool],
) -> Model:
    low, middle, high = (spec.value(ground, cases[c], f"{spec.name.lower()}, {c}") for c in CASES)
    unsuited = spec.unsuited(ground, inputs)
    on = switched.get(spec.id, spec.lead and unsuited is None)
    why = None if on else unsuited or ("switched off by you" if spec.lead else NOT_COUNTED)
    if on and not middle.known:
        on, why = False, middle.reason
    return Model(
        id=spec.id,
        name=spec.name,
        low=low,
        middle=middle,
        high=high,
        on=on,
        suits=unsuited is None,
        why_off=why,
        suited_by=None if spec.id in switched else spec.touch(ground),
        years=tuple(spec.years(ground, cases["middle"])) if spec.years else (),
    )


def counted(switched: Mapping[str, bool]) -> list[ModelSpec]:
    """Models that may count: those that lead, and second opinions a person switched on."""
    return [s for s in MODELS.values() if s.lead or switched.get(s.id, False)]


@dataclass(frozen=True, kw_only=True)
class Opinions(HoldsFigures):
    """The second opinions that do not count, with what they take; built when they are asked for."""

    ground: Ground = field(repr=False)
    chosen: Mapping[str, Input] = field(repr=False)
    typed: Mapping[str, float]
    switched: Mapping[str, bool]

    @cached_property
    def _specs(self) -> list[ModelSpec]:
        """Those that suit the payer."""
        here = counted(self.switched)
        return [
            s for s in MODELS.values() if s not in here and not s.unsuited(self.ground, self.chosen)
        ]

    @cached_property
    def unsuited(self) -> dict[str, str]:
        """Why each of the rest does not suit, by id."""
        here = counted(self.switched)
        found = {
            s.id: s.unsuited(self.ground, self.chosen) for s in MODELS.values() if s not in here
        }
        return {id: why for id, why in found.items() if why}

    @cached_property
    def inputs(self) -> dict[str, Input]:
        """What they take beside what is chosen already."""
        wanted = {id for s in self._specs for id in s.takes}
        found = choose(INPUTS, self.ground, self.typed, wanted, self.chosen)
        return {id: x for id, x in found.items() if id not in self.chosen}

    @cached_property
    def models(self) -> tuple[Model, ...]:
        return price_models(self.ground, self._specs, {**self.chosen, **self.inputs}, self.switched)


def moves_most(ground: Ground, models: Sequence[Model], inputs: Mapping[str, Input]) -> str | None:
    """The input that moves the combined value most, taken at its low and its high with all others
    at their middle; one that leaves a model without a limit moves it without limit."""
    on = [MODELS[m.id] for m in models if m.on]
    middle = {id: i.figure for id, i in inputs.items()}
    names = {id: INPUTS[id].name for id in inputs}
    sizes: dict[str, float] = {}
    for name in dict.fromkeys(names[id] for spec in on for id in spec.takes):
        ends = []
        for case in ("low", "high"):
            here = middle | {id: getattr(inputs[id], case) for id in inputs if names[id] == name}
            values = [spec.value(ground, here, case).value for spec in on]
            known = [v for v in values if v is not None]
            ends.append(sum(known) / len(on) if len(known) == len(on) else float("inf"))
        sizes[name] = 0.0 if ends[0] == ends[1] else abs(ends[1] - ends[0])
    widest = max(sizes, key=lambda n: sizes[n], default=None)
    return widest if widest is not None and sizes[widest] > 0 else None
