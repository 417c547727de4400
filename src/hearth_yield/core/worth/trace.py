"""How a model tells what it works out, step by step, while it works it out.

One function values a model, whatever it is given: numbers, arrays of draws, or the cells of a
workbook. It does arithmetic only; what it must not be given is refused before
(`ModelSpec.refuses`).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from functools import reduce
from operator import add
from typing import Any

import numpy as np

Value = Any
"""A number, an array of draws, or a cell."""


class Trace:
    """Hears every step, and hands back what stands for it in the steps after."""

    def hold(self, year: int, column: str, value: Value) -> Value:
        """What a year comes to: its growth, amount, factor (of discount) or worth (today)."""
        return value

    def part(self, name: str, value: Value) -> Value:
        """A part of the whole value."""
        return value


PLAIN = Trace()
COLUMNS = ("growth", "amount", "factor", "worth")


@dataclass(slots=True)
class RecordedTrace(Trace):
    """Remembers what it hears."""

    years: dict[int, dict[str, float]] = field(default_factory=dict)
    parts: list[tuple[str, float]] = field(default_factory=list)

    def hold(self, year: int, column: str, value: Value) -> Value:
        self.years.setdefault(year, {})[column] = value
        return value

    def part(self, name: str, value: Value) -> Value:
        self.parts.append((name, value))
        return value


@dataclass(frozen=True, slots=True)
class Staged:
    """Where the stages end: the last year's amount and factor, and what all of them are worth."""

    amount: Value
    factor: Value
    worth: Value


def stages_worth(
    start: Value,
    stages: Sequence[tuple[int, Value]],
    r: Value,
    kept: Value = 1.0,
    trace: Trace = PLAIN,
) -> Staged:
    """Σ kept × amount ÷ (1 + r)^t over the years of all stages.

    stages: (years, growth of each). kept: of each amount.
    """
    amount, factor, year, parts = start, 1.0, 0, []
    onward, whole = 1 + r, isinstance(kept, float) and kept == 1.0
    for years, growth in stages:
        first, held, up = year + 1, [], 1 + growth
        for _ in range(years):
            year += 1
            trace.hold(year, "growth", growth)
            amount = trace.hold(year, "amount", amount * up)
            factor = trace.hold(year, "factor", factor / onward)
            now = amount * factor
            held.append(trace.hold(year, "worth", now if whole else kept * now))
        parts.append(trace.part(years_named(first, year), reduce(add, held)))
    return Staged(amount, factor, reduce(add, parts))


def years_named(first: int, last: int) -> str:
    return f"year {first}" if first == last else f"years {first} to {last}"


def not_under_nil(a: Value) -> Value:
    """A number, each of an array, or a cell; 0 where it is under 0."""
    if hasattr(a, "not_under_nil"):
        return a.not_under_nil()
    return max(0.0, a) if isinstance(a, float | int) else np.maximum(a, 0.0)


def lower_of(a: Value, b: Value) -> Value:
    """The lower of two numbers, of two arrays element by element, or of two cells."""
    for one, other in ((a, b), (b, a)):
        if hasattr(one, "lower_of"):
            return one.lower_of(other)
    if isinstance(a, float | int) and isinstance(b, float | int):
        return min(a, b)
    return np.minimum(a, b)
