"""Steps to buy in by: values of a quantity, each with an amount, and the prices they are today."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from decimal import Decimal

from ..facts.payer_file import PayerFile
from ..figures.figure import Figure, given
from ..record.history import Record
from .multiples import QUANTITIES
from .quantity import Quantity
from .quarters import over
from .ruler import beside_of, price_at_value


@dataclass(frozen=True, slots=True, kw_only=True)
class EntryStep:
    """id: 0 before it is kept. target: a value of the quantity; amount: to put in there, in the
    payer's currency."""

    id: int = 0
    quantity: str
    target: float
    amount: Decimal
    kept_on: date


@dataclass(frozen=True, slots=True, kw_only=True)
class PricedStep:
    """price: at which the quantity has the step's value today; against: the price of today."""

    step: EntryStep
    quantity: Quantity
    price: Figure
    against: Figure


def priced_steps(file: PayerFile, record: Record, steps: Sequence[EntryStep]) -> list[PricedStep]:
    """The highest price first, those without one last."""
    found = [_entry(file, record, step) for step in steps]
    return sorted(found, key=lambda e: -(e.price.value or 0.0))


def _entry(file: PayerFile, record: Record, step: EntryStep) -> PricedStep:
    quantity = QUANTITIES[step.quantity]
    target = given(f"target {quantity.name}", quantity.unit, step.target, "yours")
    base, beside = quantity.base(file, record), beside_of(file, quantity)
    price = price_at_value("price of the step", quantity, base, target, beside)
    against = over("step vs price", "price of the step ÷ price − 1", price, file.price)
    return PricedStep(step=step, quantity=quantity, price=price, against=against)
