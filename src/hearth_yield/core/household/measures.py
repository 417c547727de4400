"""What the household has of a payer, as measures to search, sort and compare payers by.

They are read off its position, in all accounts together; amounts at home. (docs/method.md,
Household)
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, Literal

from ..figures.figure import Figure, Unit
from ..figures.measure import Measure, Stage, measure
from .positions import Position
from .totals import Totals, share_of

Held = Literal["held", "held before", "not held"]
NOT_HELD = "nothing of it is held"


@dataclass(frozen=True, slots=True, kw_only=True)
class Part:
    """A position that is held, and all of them."""

    position: Position
    totals: Totals

    @property
    def share_of_value(self) -> Figure:
        return share_of(self.position.value_at_home, self.totals.value, "share of value")

    @property
    def share_of_income(self) -> Figure:
        return share_of(self.position.income_at_home, self.totals.income, "share of income")


def _held(id: str, name: str, unit: Unit, words: str = "", **more: Any) -> Measure:
    """id: of the figure that stands under the same name in Part or in Position."""

    def read(part: Part) -> Figure:
        found = getattr(part if hasattr(Part, id) else part.position, id)
        assert isinstance(found, Figure)  # noqa: S101 - of our own declarations, held by a test
        return found

    return measure(
        Stage.HOUSEHOLD, f"held_{id}", name, unit, read, words, **({"better": "neither"} | more)
    )


def _placed(place: int) -> dict[str, int]:
    return {Stage.HOUSEHOLD.value: place}


HOUSEHOLD: Mapping[str, Measure] = {
    m.id: m
    for m in (
        _held("shares", "Shares held", Unit.COUNT, columns=_placed(10)),
        _held("cost_at_home", "Cost of shares held", Unit.INDEX, digits=0, columns=_placed(20)),
        _held("value_at_home", "Value held", Unit.INDEX, digits=0, columns=_placed(30)),
        _held("share_of_value", "Share of value", Unit.FRACTION, columns=_placed(40)),
        _held("income_at_home", "Income held, a year", Unit.INDEX, digits=0, columns=_placed(50)),
        _held("share_of_income", "Share of income", Unit.FRACTION, columns=_placed(60)),
        _held("yield_on_cost", "Yield on cost", Unit.YIELD, better="high", columns=_placed(70)),
        _held("gain", "Gain since bought", Unit.INDEX, digits=0, signed=True, columns=_placed(80)),
    )
}
"""By id; each opens as the figure of the position that it is."""


def is_at_home(spec: Measure) -> bool:
    """Whether a measure is an amount in the currency of home."""
    return spec.id in HOUSEHOLD and spec.unit is Unit.INDEX
