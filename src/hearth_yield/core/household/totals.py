"""Sums of positions at home: they hold what is known and name what is not. (docs/method.md,
Household)"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from functools import cached_property

from ..figures.figure import Figure, Unit, Unknown, derive, unknown
from ..figures.parts import HoldsFigures
from .positions import Position

Read = Callable[[Position], Figure]


@dataclass(frozen=True, kw_only=True)
class Totals(HoldsFigures):
    """Of positions that are held, together or of one group."""

    positions: tuple[Position, ...]
    home: str

    @cached_property
    def value(self) -> Figure:
        """Nothing where nothing is held."""
        return self._sum("value", lambda p: p.value_at_home)

    @cached_property
    def cost(self) -> Figure:
        return self._sum("cost", lambda p: p.cost_at_home)

    @cached_property
    def income(self) -> Figure:
        return self._sum("declared income a year", lambda p: p.income_at_home)

    @cached_property
    def gain(self) -> Figure:
        return self._sum("gain since bought", lambda p: p.gain)

    @cached_property
    def current_yield(self) -> Figure:
        return self._ratio("yield", "value", lambda p: p.value_at_home)

    @cached_property
    def yield_on_cost(self) -> Figure:
        return self._ratio("yield on cost", "cost", lambda p: p.cost_at_home)

    def _sum(self, label: str, read: Read, among: Sequence[Position] | None = None) -> Figure:
        found = [(p.quote.name, read(p)) for p in (self.positions if among is None else among)]
        known = [f.but(label=f"{f.label} of {name}") for name, f in found if f.known]
        without = [f"without {name}: {f.reason}" for name, f in found if not f.known]
        if not known:
            why = without[0] if without else "nothing is held"
            return unknown(label, Unit.INDEX, why, currency=self.home)
        return Figure(
            label=label,
            unit=Unit.INDEX,
            value=sum(f.value or 0.0 for f in known),
            formula="sum over the positions",
            inputs=tuple(known),
            notes=tuple(without),
            currency=self.home,
        )

    def _ratio(self, label: str, under: str, read: Read) -> Figure:
        """Of those of whom both sides are known."""
        both = [p for p in self.positions if p.income_at_home.known and read(p).known]
        return derive(
            label,
            Unit.YIELD,
            f"declared income a year ÷ {under}",
            [
                self._sum("declared income a year", lambda p: p.income_at_home, both),
                self._sum(under, read, both),
            ],
            lambda income, base: income / base if base > 0 else Unknown("nothing was paid"),
        )


def share_of(part: Figure, whole: Figure, label: str) -> Figure:
    """A position's part of a sum."""
    return derive(
        label,
        Unit.FRACTION,
        f"{part.label} ÷ {whole.label} of all",
        [part, whole],
        lambda p, w: p / w if w > 0 else Unknown("nothing is held"),
    )
