"""Everything that can be tried on the value of one payer; each made when it is asked for."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from functools import cached_property

from ...figures.figure import Figure, Unknown
from ...figures.parts import HoldsFigures
from ...range.multiples import SUITS
from ...range.quantity import YIELD
from ..declare import Ground, ModelSpec
from ..expected import estimated_growth
from .chance import Simulated, simulate
from .grid import Grid, grid_of, movable
from .implied import Implied, implied_of
from .moves import Move, moves_most, moves_of
from .revalue import Valuer


@dataclass(frozen=True, kw_only=True)
class Trials(HoldsFigures):
    """valuer: of the combined value. specs: the models that are on, whether they have a part in it
    or not."""

    valuer: Valuer = field(repr=False)
    specs: Sequence[ModelSpec] = field(repr=False)

    @property
    def ground(self) -> Ground:
        return self.valuer.ground

    @cached_property
    def moves(self) -> tuple[Move, ...]:
        return moves_of(self.valuer)

    @cached_property
    def moves_most(self) -> str | None:
        return moves_most(self.valuer)

    @cached_property
    def implied(self) -> tuple[Implied, ...]:
        return tuple(implied_of(self.valuer, spec) for spec in self.specs)

    @cached_property
    def granted(self) -> Figure | None:
        """The growth of the early years that the price takes for granted, where two stages are
        among its models; growth for ever is none of it."""
        staged = next((s for s in self.specs if s.id == "two_stage"), None)
        return implied_of(self.valuer, staged).takes if staged else None

    @cached_property
    def expected(self) -> dict[str, Figure]:
        """What analysts expect to grow by, of the dividend and of the measure that leads."""
        leading = SUITS[self.ground.file.payer.kind][:1]
        return {q.id: estimated_growth(self.ground, q) for q in (YIELD, *leading)}

    def simulated(self) -> Simulated | Unknown:
        return simulate(self.valuer)

    def movable(self) -> list[str]:
        return movable(self.valuer)

    def grid(self, across: str | None = None, down: str | None = None) -> Grid | None:
        return grid_of(self.valuer, across, down)
