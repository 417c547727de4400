"""What one input of a model would have to be for its value to be today's price."""

from __future__ import annotations

from dataclasses import dataclass

from ...figures.figure import Figure, Unit, Unknown, derive, unknown
from ...figures.inputs import Input
from ...figures.parts import HoldsFigures
from ...figures.solve import root
from ..declare import ModelSpec
from ..inputs import INPUTS
from .revalue import Valuer, middle, number

RETURNS = ("return",)
OTHERS = ("growth", "exit_multiple", "exit_yield")
LIMITLESS = 1e12
"""Stands for a value without limit, so that a root is sought under it."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Implied(HoldsFigures):
    """Of one model: the growth (or where it has none the exit) and the return that the price takes
    for granted, with the others at their middle; against: what is taken instead."""

    id: str
    name: str
    takes: Figure | None
    takes_against: Input | None
    offers: Figure | None
    offers_against: Input | None

    @property
    def key(self) -> str:
        return self.id


def implied_of(valuer: Valuer, spec: ModelSpec) -> Implied:
    first = _drawn(valuer, spec, OTHERS)
    asked = _drawn(valuer, spec, RETURNS)
    return Implied(
        id=spec.id,
        name=spec.name,
        takes=_solved(valuer, spec, first) if first else None,
        takes_against=valuer.inputs[first] if first else None,
        offers=_solved(valuer, spec, asked) if asked else None,
        offers_against=valuer.inputs[asked] if asked else None,
    )


def _drawn(valuer: Valuer, spec: ModelSpec, kinds: tuple[str, ...]) -> str | None:
    """The first input of a model that moves with one of these, growth before an exit."""
    held = [id for id in spec.takes if id in valuer.inputs]
    return next((id for kind in kinds for id in held if INPUTS[id].draws == kind), None)


def _solved(valuer: Valuer, spec: ModelSpec, id: str) -> Figure:
    """The value of an input between its bounds at which the model gives the price."""
    ground, price, declared = valuer.ground, valuer.ground.file.price, INPUTS[id]
    held = middle(valuer.inputs)
    label, rests = f"{declared.name} that the price implies", [price]
    if price.value is None:
        return unknown(label, declared.unit, price.reason or "")
    rests += [x for x in spec.reads(ground, held) if x is not held[id]]
    low, high = declared.bounds or INPUTS["growth"].bounds or (0.0, 1.0)
    refused: list[str] = []

    def left(x: float) -> float:
        moved = held | {id: held[id].but(value=x, reason=None)}
        found = number(spec, ground, moved)
        if isinstance(found, Unknown):
            refused.append(found.reason)
            return LIMITLESS
        return found - (price.value or 0.0)

    def compute(*_: float) -> float | Unknown:
        found = root(left, low, high)
        if found is not None and abs(left(found)) < max(1e-6, 1e-6 * (price.value or 0.0)):
            return found
        if refused and len(set(refused)) == 1 and "no limit" not in refused[0]:
            return Unknown(refused[0])
        return Unknown(f"no {declared.name} that could be typed gives the price")

    formula = f"the {declared.name} at which {spec.name.lower()} gives the price"
    unit = Unit.YIELD if declared.unit is Unit.YIELD else declared.unit
    return derive(label, unit, formula, rests, compute)
