"""The Hearth: what needs the person today. The page puts it together with Watch and Payers."""

from __future__ import annotations

from dataclasses import asdict
from datetime import date
from typing import Annotated

from fastapi import APIRouter, Query

from hearth_yield.actions.coming_payments import coming_payments
from hearth_yield.actions.find_payers import ABOVE, payers_standing

from .answer import wire
from .context import Here, When
from .payers import GroupIn
from .schemas import JobOut, Problem, StateName
from .wire import each, fill

router = APIRouter(prefix="/api", responses={422: {"model": Problem}})
WEEKS = 42


@wire
class StandingOut:
    """How all payers stand on the day. states: how many are in each; unjudged:
    how many are of a kind that is not judged; above: how many yield more
    than their own mean, by these conditions (where). pending: those not yet measured; job: how that
    stands."""

    held: int
    pending: int
    job: JobOut | None
    states: dict[StateName, int]
    unjudged: int
    above: int
    where: GroupIn


@router.get("/standing")
def standing(here: Here, when: When) -> StandingOut:
    job = here.keeping(when)
    found = payers_standing(here.cache, when.as_of)
    where = GroupIn.model_validate(asdict(ABOVE))
    return fill(StandingOut, found, job=job if found.pending else None, where=where)


@wire
class DeclaredOut:
    """A declared dividend a share."""

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
    return each(DeclaredOut, found)
