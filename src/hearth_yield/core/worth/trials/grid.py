"""A value over two of its inputs at once."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import product

from ...errors import InvalidInput
from ...figures.figure import Unknown
from ...figures.inputs import Input, InputSpec
from ..inputs import ALIKE, INPUTS
from .revalue import Valuer, middle

SIDE = 3
"""Steps to either side of the middle."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Grid:
    """across, down: the inputs and their seven values; values: row by row, None where there is no
    answer. limitless: why the first of those has none."""

    across: InputSpec
    down: InputSpec
    across_values: tuple[float, ...]
    down_values: tuple[float, ...]
    values: tuple[tuple[float | None, ...], ...]
    limitless: str | None


def movable(valuer: Valuer) -> list[str]:
    """Ids of the inputs that can be typed and are known, those taken to two sides first."""
    ids = [id for id in valuer.takes if INPUTS[id].bounds and id not in ALIKE]
    known = [id for id in ids if valuer.inputs[id].figure.value is not None]
    return sorted(known, key=lambda id: not (INPUTS[id].low or INPUTS[id].high))


def grid_of(valuer: Valuer, across: str | None, down: str | None) -> Grid | None:
    """The mean of the models over two inputs, seven values each; None where fewer than two move.

    Raises InvalidInput for an input that cannot be moved, and for one against itself.
    """
    can = movable(valuer)
    if len(can) < 2 and not (across or down):
        return None
    first = _wanted(can, across, "across") if across else _other(can, down)
    second = _wanted(can, down, "down") if down else _other(can, first)
    if first == second:
        raise InvalidInput(
            "a grid takes two different inputs", field="down", value=second, rule="not the same"
        )
    xs, ys = _values(valuer.inputs[first]), _values(valuer.inputs[second])
    found = [valuer.at(middle(valuer.instead({first: x, second: y}))) for y, x in product(ys, xs)]
    values = [None if isinstance(v, Unknown) else v for v in found]
    return Grid(
        across=INPUTS[first],
        down=INPUTS[second],
        across_values=xs,
        down_values=ys,
        values=tuple(tuple(values[i : i + len(xs)]) for i in range(0, len(values), len(xs))),
        limitless=next((v.reason for v in found if isinstance(v, Unknown)), None),
    )


def _wanted(can: Sequence[str], id: str, field: str) -> str:
    if id not in can:
        raise InvalidInput(
            "no such input to move", field=field, value=id, rule=f"one of {', '.join(can)}"
        )
    return id


def _other(can: Sequence[str], taken: str | None) -> str:
    return next((id for id in can if id != taken), "")


def _values(held: Input) -> tuple[float, ...]:
    """The middle and three steps to either side, within bounds; a step is half of what lies
    between low and high, or a tenth."""
    spec, at = INPUTS[held.id], held.figure.value or 0.0
    low, high = spec.bounds or (at, at)
    apart = abs((held.high.value or at) - (held.low.value or at)) / 2
    step = apart or abs(at) / 10 or spec.step
    found = (at + k * step for k in range(-SIDE, SIDE + 1))
    return tuple(sorted({min(max(x, low), high) for x in found}))
