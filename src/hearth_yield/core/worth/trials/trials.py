"""Everything that can be tried on the value of one payer; each made when it is asked for."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from functools import cached_property

from ...figures.figure import Unknown
from ...figures.inputs import Input
from ...figures.parts import HoldsFigures
from ..declare import Ground
from ..models import Model
from .chance import Simulated, simulate
from .grid import Grid, grid_of, movable
from .implied import Implied, implied_of
from .moves import Move, moves_of
from .revalue import Valuer, valuer_of


@dataclass(frozen=True, kw_only=True)
class Trials(HoldsFigures):
    """models: all that may count; those that are on are tried."""

    ground: Ground = field(repr=False)
    inputs: Mapping[str, Input] = field(repr=False)
    models: Sequence[Model] = field(repr=False)

    @property
    def valuer(self) -> Valuer:
        on = [m for m in self.models if m.on]
        return valuer_of(self.ground, self.inputs, on)

    @cached_property
    def moves(self) -> tuple[Move, ...]:
        return moves_of(self.valuer)

    @property
    def moves_most(self) -> str | None:
        return self.moves[0].name if self.moves else None

    @cached_property
    def implied(self) -> tuple[Implied, ...]:
        valuer = self.valuer
        return tuple(implied_of(valuer, spec) for spec in valuer.specs)

    def simulated(self) -> Simulated | Unknown:
        return simulate(self.valuer)

    def movable(self) -> list[str]:
        return movable(self.valuer)

    def grid(self, across: str | None = None, down: str | None = None) -> Grid | None:
        return grid_of(self.valuer, across, down)
