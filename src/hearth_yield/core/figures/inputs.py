"""How an input is declared: once. What a person types is checked, the rest is the house's default.

(docs/architecture.md, How it grows)
"""

from __future__ import annotations

from collections.abc import Callable, Collection, Mapping
from dataclasses import dataclass
from typing import Any

from ..errors import InvalidInput
from .figure import Figure, Unit, derive, given
from .parts import HoldsFigures

YOURS = "yours"


@dataclass(frozen=True, slots=True)
class Default:
    """An input as the house has it, and where it comes from in a few words."""

    figure: Figure
    origin: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Input(HoldsFigures):
    """An input as it counts, and at its low and high: low is the side on which worth is lower.
    origin: where it comes from in a few words; "yours" where the person typed it."""

    id: str
    figure: Figure
    low: Figure
    high: Figure
    origin: str

    @property
    def key(self) -> str:
        return self.id

    @property
    def typed(self) -> bool:
        return self.origin == YOURS


Inputs = Mapping[str, Input]
Case = Mapping[str, Figure]
"""Inputs by id, of one case: low, middle or high."""
Shift = tuple[Callable[[float], float], str]
"""What is done to an input, and how that is said: (lambda g: g − 0.01, "− 1 point")."""


@dataclass(frozen=True, slots=True, kw_only=True)
class InputSpec:
    """Something a model or a strain takes in.

    label: of its field; name: what it is called in a sentence. bounds: what it must lie between;
    None: the person cannot type it. default: from the ground and the inputs declared before it.
    low, high: how far it is taken to either side; None: it is taken as it is. spread: the same in
    a few words. suffix: what its number counts, where that is not said by its unit.
    """

    id: str
    label: str
    name: str
    unit: Unit
    default: Callable[[Any, Inputs], Default]
    bounds: tuple[float, float] | None = None
    step: float = 0.001
    digits: int = 2
    low: Shift | None = None
    high: Shift | None = None
    spread: str = ""
    suffix: str = ""


def check_inputs(specs: Mapping[str, InputSpec], typed: Mapping[str, float]) -> None:
    """Refuse what cannot be worked with, naming field, value and rule."""
    for id, value in typed.items():
        spec = specs.get(id)
        if spec is None or spec.bounds is None:
            raise InvalidInput(
                "no such input",
                field="inputs",
                value=id,
                rule=f"one of {', '.join(s.id for s in specs.values() if s.bounds)}",
            )
        low, high = spec.bounds
        if not low <= value <= high:
            between = f"between {told(low, spec.unit)} and {told(high, spec.unit)}"
            raise InvalidInput(
                f"{spec.name} must lie {between}",
                field=id,
                value=value,
                rule=f"{spec.name} {between}",
            )


def told(value: float, unit: Unit) -> str:
    """A bound as it is typed: 0.001 → "0.1 %"."""
    return f"{value * 100:g} %" if unit in (Unit.FRACTION, Unit.YIELD) else f"{value:g}"


def choose(
    specs: Mapping[str, InputSpec],
    ground: object,
    typed: Mapping[str, float],
    only: Collection[str] | None = None,
    held: Mapping[str, Input] | None = None,
) -> dict[str, Input]:
    """The person's inputs, and the house's defaults for the rest, each with its origin.

    only: ids of those that are wanted; held: what is chosen already, which defaults may read.
    """
    check_inputs(specs, typed)
    chosen: dict[str, Input] = dict(held or {})
    for spec in specs.values():
        if spec.id in chosen or (only is not None and spec.id not in only):
            continue
        if spec.id in typed:
            own = given(spec.name, spec.unit, typed[spec.id], YOURS)
            found = Default(own, YOURS)
        else:
            found = spec.default(ground, chosen)
        chosen[spec.id] = Input(
            id=spec.id,
            figure=found.figure,
            low=_shifted(found.figure, spec.low),
            high=_shifted(found.figure, spec.high),
            origin=found.origin,
        )
    return chosen


def _shifted(figure: Figure, shift: Shift | None) -> Figure:
    if shift is None:
        return figure
    by, note = shift
    formula = f"{figure.label} {note}"
    return derive(f"{figure.label} ({note})", figure.unit, formula, [figure], by)
