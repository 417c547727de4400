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

from ..errors import MethodError

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


def check_limit(growth: Value, r: Value) -> None:
    """Refuses a sum without limit where it is given as numbers. Raises MethodError."""
    if isinstance(growth, float | int) and isinstance(r, float | int) and r <= growth:
        raise MethodError(
            "the required return must be above the growth for ever, or the value has no limit",
            field="growth",
            value=growth,
            rule=f"growth < required return ({r:.4g})",
        )
