"""Steps to buy in by: kept on a payer, with the prices they are today."""

from __future__ import annotations

from datetime import date
from decimal import Decimal

from fastapi import APIRouter
from pydantic import BaseModel, Field

from hearth_yield.actions.keep_entry_step import forget_entry_step, keep_entry_step, steps_of
from hearth_yield.core.range.entry_steps import EntryStep

from .answer import wire
from .context import Here, Id, When
from .schemas import Problem, UnitName
from .wire import fill

router = APIRouter(prefix="/api", responses={422: {"model": Problem}})
ONE_PAYER = "/payers/{exchange}/{symbol:path}"


class EntryStepIn(BaseModel):
    """target: a value of the quantity; amount: in the payer's currency."""

    quantity: str = Field(max_length=40)
    target: float = Field(allow_inf_nan=False)
    amount: Decimal = Field(allow_inf_nan=False, max_digits=20)


@wire
class PricedStepOut:
    """price: the price that the target is today, with the reason where there is none; against:
    that price ÷ today's − 1."""

    id: int
    quantity: str
    name: str
    unit: UnitName
    target: float
    amount: float
    kept_on: date
    price: float | None
    reason: str | None
    against: float | None


@wire
class EntryStepsOut:
    """total: of the amounts."""

    steps: list[PricedStepOut]
    total: float


@wire
class EntryMade:
    id: int


@router.get(ONE_PAYER + "/range/entry-steps")
def entry_steps(here: Here, exchange: str, symbol: str, when: When) -> EntryStepsOut:
    """The steps kept on a payer, the highest price first."""
    held = steps_of(here.cache, exchange, symbol, when.as_of, when.edition)
    told = [
        fill(
            PricedStepOut,
            e.step,
            quantity=e.quantity.id,
            name=e.quantity.name,
            unit=e.quantity.unit.value,
            amount=float(e.step.amount),
            price=e.price.value,
            reason=e.price.reason,
            against=e.against.value,
        )
        for e in held
    ]
    return EntryStepsOut(steps=told, total=float(sum(e.step.amount for e in held)))


@router.put(ONE_PAYER + "/range/entry-steps", status_code=201)
def keep(here: Here, exchange: str, symbol: str, when: When, step: EntryStepIn) -> EntryMade:
    asked = EntryStep(**step.model_dump(), kept_on=when.as_of)
    return EntryMade(
        id=keep_entry_step(here.cache, exchange, symbol, when.as_of, when.edition, asked)
    )


@router.delete("/entry-steps/{id}", status_code=204)
def forget(here: Here, id: Id) -> None:
    forget_entry_step(here.cache, id)
