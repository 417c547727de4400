"""Arithmetic on cells: what a formula would give, and the formula itself.

A model is valued by the same function whatever it is given; given cells it gives its formula.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

Number = float | int


@dataclass(frozen=True, slots=True)
class Cell:
    """A formula without its "=", what it comes to, and how tightly it binds: 3 a reference or a
    number, 2 a product, 1 a sum."""

    text: str
    value: float
    binds: int = 3

    def __add__(self, other: Any) -> Cell:
        return _of(self, "+", other, 1)

    def __radd__(self, other: Any) -> Cell:
        return self if _is(other, 0) else _of(other, "+", self, 1)

    def __sub__(self, other: Any) -> Cell:
        return _of(self, "-", other, 1)

    def __rsub__(self, other: Any) -> Cell:
        return _of(other, "-", self, 1)

    def __mul__(self, other: Any) -> Cell:
        return self if _is(other, 1) else _of(self, "*", other, 2)

    def __rmul__(self, other: Any) -> Cell:
        return self if _is(other, 1) else _of(other, "*", self, 2)

    def __truediv__(self, other: Any) -> Cell:
        return _of(self, "/", other, 2)

    def __rtruediv__(self, other: Any) -> Cell:
        return _of(other, "/", self, 2)

    def __neg__(self) -> Cell:
        return Cell(f"-{_inside(self, 3)}", -self.value, 2)

    def lower_of(self, other: Any) -> Cell:
        b = cell(other)
        return Cell(f"MIN({self.text},{b.text})", min(self.value, b.value))

    def not_under_nil(self) -> Cell:
        return Cell(f"MAX(0,{self.text})", max(0.0, self.value))

    def __round__(self, digits: int | None = None) -> int:
        """How many years there are decides how many rows a sheet has, so it is not live."""
        return round(self.value)


def cell(value: Number | Cell) -> Cell:
    """A number as a formula holds it."""
    if isinstance(value, Cell):
        return value
    number = float(value)
    return Cell(repr(number) if number >= 0 else f"({number!r})", number)


def _is(other: Any, number: int) -> bool:
    return not isinstance(other, Cell) and other == number


def _of(left: Any, sign: str, right: Any, binds: int) -> Cell:
    a, b = cell(left), cell(right)
    value = {
        "+": lambda: a.value + b.value,
        "-": lambda: a.value - b.value,
        "*": lambda: a.value * b.value,
        "/": lambda: a.value / b.value if b.value else float("nan"),
    }[sign]()
    tighter = binds + (sign in "-/")
    return Cell(f"{_inside(a, binds)}{sign}{_inside(b, tighter)}", value, binds)


def _inside(part: Cell, least: int) -> str:
    return part.text if part.binds >= least else f"({part.text})"
