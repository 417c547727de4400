"""How a quantity is declared whose own past a price is held against: the yield, a multiple.

One ruler serves them all: sample, statistics, target, price of a target, the past 52 weeks.
(docs/architecture.md, How to add a quantity)
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from ..facts.records import PayerFile
from ..figures.arrays import Days, Floats
from ..figures.figure import Figure, Unit
from ..record.declared_rate import rate_steps
from ..record.history import Record


@dataclass(frozen=True, slots=True, kw_only=True)
class Quantity:
    """What a price is held against, over a per-share base.

    base: the base now; base_name: what it is called; steps: the days from which each base held, and
    the bases in today's shares, nan for a gap. value: of a base and a price; price: of a base and a
    value; both elementwise. formula, price_formula: the same in words. nothing: why there is no
    value while the base is not positive. cheap_when_high: a higher value means a lower price.
    """

    id: str
    name: str
    unit: Unit
    base: Callable[[Record], Figure]
    base_name: str
    steps: Callable[[PayerFile], tuple[Days, Floats]]
    value: Callable[[Any, Any], Any]
    price: Callable[[Any, Any], Any]
    formula: str
    price_formula: str
    nothing: str
    cheap_when_high: bool


YIELD = Quantity(
    id="yield",
    name="yield",
    unit=Unit.YIELD,
    base=lambda record: record.declared_rate,
    base_name="declared rate",
    steps=rate_steps,
    value=lambda rate, price: rate / price,
    price=lambda rate, value: rate / value,
    formula="declared rate ÷ price",
    price_formula="declared rate ÷ {}",
    nothing="nothing is being paid",
    cheap_when_high=True,
)
QUANTITIES: dict[str, Quantity] = {q.id: q for q in (YIELD,)}
"""In the order they are offered; the first is the one shown."""
