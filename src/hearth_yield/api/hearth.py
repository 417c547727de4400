"""The Hearth: what needs the person today. The page puts it together with Watch and Payers."""

from __future__ import annotations

from datetime import date
from typing import Annotated

from fastapi import APIRouter, Query
from pydantic import BaseModel, ConfigDict

from hearth_yield.actions.coming_payments import coming_payments

from .context import Here, When
from .schemas import Problem

router = APIRouter(prefix="/api", responses={422: {"model": Problem}})
WEEKS = 42


class DeclaredOut(BaseModel):
    """A declared dividend a share."""

    model_config = ConfigDict(from_attributes=True)

    exchange: str
    symbol: str
    name: str
    kind: str
    ex_date: date
    pay_date: date | None
    amount: float
    currency: str


@router.get("/coming-payments")
def coming(
    here: Here, when: When, days: Annotated[int, Query(ge=1, le=366)] = WEEKS
) -> list[DeclaredOut]:
    """Declared dividends of all payers that go ex or pay within so many days."""
    found = coming_payments(here.database, when.as_of, days)
    return [DeclaredOut.model_validate(p) for p in found]
