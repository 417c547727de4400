"""One input at a time at its low and its high: which of them moves the value most."""

from __future__ import annotations

from dataclasses import dataclass

from ...figures.figure import Figure
from ...figures.parts import HoldsFigures
from ..inputs import INPUTS
from .revalue import Valuer, middle


@dataclass(frozen=True, slots=True, kw_only=True)
class Move(HoldsFigures):
    """An input, by what it is called, at its low and high; and the value at each with all others
    at their middle."""

    id: str
    name: str
    low_input: Figure
    high_input: Figure
    low: Figure
    high: Figure

    @property
    def key(self) -> str:
        return self.id

    @property
    def size(self) -> float:
        """How far it moves the value; without limit where one end has none."""
        if self.low.value is None or self.high.value is None:
            return 0.0 if self.low.value is None and self.high.value is None else float("inf")
        return abs(self.high.value - self.low.value)


def moves_of(valuer: Valuer) -> tuple[Move, ...]:
    """Of every input that is taken to two sides, the one that moves the value most first."""
    inputs, held = valuer.inputs, middle(valuer.inputs)
    names = {id: INPUTS[id].name for id in inputs}
    found = []
    for name in dict.fromkeys(names[id] for spec in valuer.specs for id in spec.takes):
        ids = [id for id in inputs if names[id] == name]
        if all(inputs[id].low.value == inputs[id].high.value for id in ids):
            continue
        low = held | {id: inputs[id].low for id in ids}
        high = held | {id: inputs[id].high for id in ids}
        found.append(
            Move(
                id=ids[0],
                name=name,
                low_input=inputs[ids[0]].low,
                high_input=inputs[ids[0]].high,
                low=valuer.figure_at(f"combined value at the low {name}", low),
                high=valuer.figure_at(f"combined value at the high {name}", high),
            )
        )
    return tuple(sorted((m for m in found if m.size > 0), key=lambda m: -m.size))
