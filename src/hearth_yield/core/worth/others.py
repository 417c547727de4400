"""The second opinions that stand beside the models that count. (docs/method.md, Worth)"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import cached_property

from ..figures.inputs import Input, choose
from ..figures.parts import HoldsFigures
from .declare import Ground, ModelSpec
from .inputs import INPUTS
from .models import MODELS, Model, counted, price_models
from .pairs import Pair, pairs_of


@dataclass(frozen=True, kw_only=True)
class Opinions(HoldsFigures):
    """The second opinions that do not count, with what they take; built when they are asked for.

    chosen: the inputs of the models that count.
    """

    ground: Ground = field(repr=False)
    counting: tuple[Model, ...] = field(repr=False)
    chosen: Mapping[str, Input] = field(repr=False)

    @cached_property
    def _specs(self) -> list[ModelSpec]:
        """Those that suit the payer."""
        here = counted(self.ground)
        return [
            s for s in MODELS.values() if s not in here and not s.unsuited(self.ground, self.chosen)
        ]

    @cached_property
    def unsuited(self) -> dict[str, str]:
        """Why each of the rest does not suit, by id."""
        here = counted(self.ground)
        found = {
            s.id: s.unsuited(self.ground, self.chosen) for s in MODELS.values() if s not in here
        }
        return {id: why for id, why in found.items() if why}

    @cached_property
    def inputs(self) -> dict[str, Input]:
        """What they take beside what is chosen already."""
        wanted = {id for s in self._specs for id in s.takes}
        found = choose(INPUTS, self.ground, self.ground.choices.inputs, wanted, self.chosen)
        return {id: x for id, x in found.items() if id not in self.chosen}

    @cached_property
    def models(self) -> tuple[Model, ...]:
        return price_models(self.ground, self._specs, {**self.chosen, **self.inputs})

    @cached_property
    def pairs(self) -> tuple[Pair, ...]:
        """Models that answer one question from two ends, whether they count or not."""
        inputs = {**self.chosen, **self.inputs}
        return pairs_of(self.ground, (*self.counting, *self.models), inputs)
