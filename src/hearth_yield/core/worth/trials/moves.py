"""One input at a time at its low and its high: which of them moves the value most."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from ...figures.figure import Figure, Unknown
from ...figures.inputs import Case
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
        """How far it moves the value."""
        ends = (x.value if x.value is not None else Unknown("") for x in (self.low, self.high))
        return _apart(*ends)


def moves_of(valuer: Valuer) -> tuple[Move, ...]:
    """Of every input that is taken to two sides, the one that moves the value most first."""
    found = [
        Move(
            id=ids[0],
            name=name,
            low_input=valuer.inputs[ids[0]].low,
            high_input=valuer.inputs[ids[0]].high,
            low=valuer.figure_at(f"combined value at the low {name}", low),
            high=valuer.figure_at(f"combined value at the high {name}", high),
        )
        for name, ids, low, high in _ends(valuer)
    ]
    return tuple(sorted((m for m in found if m.size > 0), key=lambda m: -m.size))


def moves_most(valuer: Valuer) -> str | None:
    """What the first of them is called; without their workings."""
    sizes = {name: _apart(valuer.at(low), valuer.at(high)) for name, _, low, high in _ends(valuer)}
    widest = max(sizes, key=lambda name: sizes[name], default=None)
    return widest if widest is not None and sizes[widest] > 0 else None


def _ends(valuer: Valuer) -> Iterator[tuple[str, list[str], Case, Case]]:
    """Inputs by what they are called, with the cases in which they alone are low and high."""
    inputs = valuer.inputs
    names = {id: INPUTS[id].name for id in inputs}
    for name in dict.fromkeys(names[id] for spec in valuer.specs for id in spec.takes):
        ids = [id for id in inputs if names[id] == name]
        if any(inputs[id].low is not inputs[id].high for id in ids):
            low = _tried(valuer, {id: inputs[id].low for id in ids})
            high = _tried(valuer, {id: inputs[id].high for id in ids})
            yield name, ids, low, high


def _tried(valuer: Valuer, ends: dict[str, Figure]) -> Case:
    """The case in which these inputs stand so, and what rests on them follows."""
    moved = {id: x.value for id, x in ends.items() if INPUTS[id].bounds and x.value is not None}
    followed = middle(valuer.instead(moved)) if moved else middle(valuer.inputs)
    return followed | {id: x for id, x in ends.items() if id in moved or not INPUTS[id].along}


def _apart(low: float | Unknown, high: float | Unknown) -> float:
    """Without limit where one end has none."""
    none = [isinstance(x, Unknown) for x in (low, high)]
    if any(none):
        return 0.0 if all(none) else float("inf")
    return float(abs(high - low))  # type: ignore[operator]
