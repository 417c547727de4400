"""How a quantity is declared whose own past a price is held against: the yield, a multiple.

One ruler serves them all: sample, statistics, target, price of a target, the past 52 weeks.
(docs/architecture.md, How it changes)
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from datetime import date
from typing import Any

from ..facts.payer_file import PayerFile
from ..figures.arrays import Days, Floats
from ..figures.figure import Figure, Touch, Unit
from ..record.declared_rate import rate_steps
from ..record.history import Record
from ..record.payments import READ_BACK, manual_edits_between


@dataclass(frozen=True, slots=True, kw_only=True)
class Quantity:
    """What a price is held against, over a per-share base.

    short: its name among the others. base: the base now; base_name: what it is called; steps: the
    days from which each base held, and the bases in today's shares, nan for a gap. beside,
    beside_name, beside_steps: likewise what else per share the value takes, where it takes
    anything. value: of a base, a price and what is
    beside; price: of a base, a value and what is beside; both elementwise, 0 where nothing is
    beside. formula, price_formula: the same in words. nothing: why there is no value while the base
    is not positive. by_hand: whether a person had a hand in what bases were read from since a day.
    cheap_when_high: a higher value means a lower price. typical: what stands for its usual value,
    mean or median.
    """

    id: str
    name: str
    short: str
    unit: Unit
    base: Callable[[PayerFile, Record], Figure]
    base_name: str
    steps: Callable[[PayerFile], tuple[Days, Floats]]
    value: Callable[[Any, Any, Any], Any]
    price: Callable[[Any, Any, Any], Any]
    formula: str
    price_formula: str
    nothing: str
    by_hand: Callable[[PayerFile, date], Touch | None]
    cheap_when_high: bool
    typical: str
    beside: Callable[[PayerFile], Figure] | None = None
    beside_name: str = ""
    beside_steps: Callable[[PayerFile], tuple[Days, Floats]] | None = None


YIELD = Quantity(
    id="yield",
    name="yield",
    short="yield",
    unit=Unit.YIELD,
    base=lambda _, record: record.declared_rate,
    base_name="declared rate",
    steps=rate_steps,
    value=lambda rate, price, _: rate / price,
    price=lambda rate, value, _: rate / value,
    formula="declared rate ÷ price",
    price_formula="declared rate ÷ {}",
    nothing="nothing is being paid",
    by_hand=lambda file, first: manual_edits_between(file, first - READ_BACK),
    cheap_when_high=True,
    typical="mean",
)
