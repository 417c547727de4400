"""The Watch place: who has come within reach, whose expectations are slipping."""

from __future__ import annotations

from datetime import date
from typing import Literal

from fastapi import APIRouter
from pydantic import BaseModel

from hearth_yield.actions.watch_payers import Watched, watch_payers
from hearth_yield.core.watching.reach import Reach

from .context import Here, When
from .decisions import JudgedOut, Verdict, judged_out
from .figures import FigureOut, figure_out
from .schemas import Problem, StateName

router = APIRouter(prefix="/api", responses={422: {"model": Problem}})


class ReachOut(BaseModel):
    """target: a price in today's shares. distance: what the price has still to go, as a part of
    the target; 0 and under, it is there; null with its reason. met: the share of the past year's
    closes that were there."""

    aim: Literal["buy_below", "step", "trim_above"]
    target: float
    distance: float | None
    reason: str | None
    reached: bool
    met: float | None
    closes: int
    last_met: date | None


class WatchedOut(BaseModel):
    """slipping: expectations off track; next_ex_date: declared, or projected."""

    exchange: str
    symbol: str
    name: str
    currency: str
    state: StateName | None
    price: FigureOut
    verdict: Verdict | None
    decided_on: date | None
    next_look: date | None
    look_due: bool
    reaches: list[ReachOut]
    slipping: list[JudgedOut]
    next_ex_date: date | None
    projected: bool


@router.get("/watch")
def watch(here: Here, when: When) -> list[WatchedOut]:
    """Payers with targets or a decision, the nearest first."""
    return [_out(w, when.as_of) for w in watch_payers(here.cache, when.as_of, when.edition)]


def _out(watched: Watched, as_of: date) -> WatchedOut:
    payer, decision, coming = watched.review.payer, watched.decision, watched.coming
    look = decision.next_look if decision else None
    return WatchedOut.model_validate(
        {
            "exchange": payer.exchange,
            "symbol": payer.symbol,
            "name": payer.name,
            "currency": payer.currency,
            "state": watched.review.state.value if watched.review.state else None,
            "price": figure_out(watched.review.price, "payer.price"),
            "verdict": decision.verdict if decision else None,
            "decided_on": decision.as_of if decision else None,
            "next_look": look,
            "look_due": look is not None and look <= as_of,
            "reaches": [_reach(r) for r in watched.reaches],
            "slipping": [judged_out(j) for j in watched.slipping],
            "next_ex_date": coming.ex_date if coming else None,
            "projected": coming.projected if coming else False,
        }
    )


def _reach(reach: Reach) -> ReachOut:
    return ReachOut.model_validate(
        {
            "aim": reach.aim.value,
            "target": reach.target,
            "distance": reach.distance.value,
            "reason": reach.distance.reason,
            "reached": reach.reached,
            "met": reach.met,
            "closes": reach.closes,
            "last_met": reach.last_met,
        }
    )
