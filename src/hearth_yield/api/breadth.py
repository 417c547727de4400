"""How many payers yield more than they usually do, now and over time."""

from __future__ import annotations

from datetime import date

from fastapi import APIRouter

from hearth_yield.actions.measure_breadth import held_breadth

from .answer import wire
from .context import Here, When
from .schemas import JobOut, Problem

router = APIRouter(prefix="/api", responses={422: {"model": Problem}})


@wire
class AboveOut:
    exchange: str
    symbol: str
    name: str


@wire
class BreadthOut:
    """days: quarter ends and the day itself; above: payers that yielded more than their own mean of
    five years, of those known; shares: of them, and usual their mean. names: of those now. job: the
    task that sees to it, while it runs."""

    ready: bool
    days: list[date]
    above: list[int]
    known: list[int]
    shares: list[float | None]
    usual: float | None = None
    names: list[AboveOut]
    job: JobOut | None


@router.get("/breadth")
def breadth(here: Here, when: When, again: bool = False) -> BreadthOut:
    """Begins the task where it was not; one that was cancelled only when asked again."""
    held = held_breadth(here.cache, when.as_of, when.edition)
    if held is None:
        job = here.breadth(when, again=again)
        return BreadthOut(ready=False, days=[], above=[], known=[], shares=[], names=[], job=job)
    return BreadthOut(
        ready=True,
        days=list(held.days),
        above=list(held.above),
        known=list(held.known),
        shares=held.shares,
        usual=held.usual,
        names=[AboveOut(exchange=e, symbol=s, name=n) for e, s, n in held.names],
        job=None,
    )
