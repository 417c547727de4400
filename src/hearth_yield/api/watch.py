"""The Watch place: who has come within reach, whose expectations are slipping."""

from __future__ import annotations

from datetime import date
from typing import Annotated, Literal

from fastapi import APIRouter
from pydantic import BaseModel, Field

from hearth_yield.actions.read_holdings import read_holdings
from hearth_yield.actions.watch_payer import WatchNote, unwatch_payer, watch_payer
from hearth_yield.actions.watch_payers import Watched, watch_payers
from hearth_yield.core.household.measures import Part
from hearth_yield.core.question_parts import write_reach
from hearth_yield.core.watching.reach import Reach

from .answer import wire
from .context import Here, When
from .decisions import JudgedOut, Verdict, judged_out
from .figures import FigureOut, figure_out
from .holdings import HeldShortOut, held_short
from .schemas import Problem, StateName
from .wire import fill

router = APIRouter(prefix="/api", responses={422: {"model": Problem}})


@wire
class ReachOut:
    """words: before the target, a price in today's shares. distance: what the price has still to
    go, as a part of the target; 0 and under, it is there. met: the share of the past year's closes
    that were there; yield_there: the declared rate at the target. reach: as a question has it,
    under which these figures open."""

    aim: Literal["buy_below", "step", "trim_above"]
    words: str
    target: float
    reach: str
    yield_there: FigureOut
    distance: FigureOut
    reached: bool
    met: FigureOut
    last_met: date | None


@wire
class WatchedOut:
    """slipping: expectations off track; next_ex_date: declared, or projected. held: what of it is
    owned; null: nothing."""

    exchange: str
    symbol: str
    name: str
    currency: str
    state: StateName | None
    price: FigureOut
    note: str
    group: str
    verdict: Verdict | None
    decided_on: date | None
    next_look: date | None
    look_due: bool
    reaches: list[ReachOut]
    slipping: list[JudgedOut]
    next_ex_date: date | None
    projected: bool
    held: HeldShortOut | None


class WatchedFromIn(BaseModel):
    note: Annotated[str, Field(max_length=10_000)] = ""
    group: Annotated[str, Field(max_length=1000)] = ""


class WatchNoteIn(BaseModel):
    """group: a name of the person's own; empty for none. begun: what stood there when this was
    begun; without it, it takes the place of anything."""

    note: Annotated[str, Field(max_length=10_000)] = ""
    group: Annotated[str, Field(max_length=1000)] = ""
    begun: WatchedFromIn | None = None


@router.put("/watch/{exchange}/{symbol:path}", status_code=204, responses={409: {"model": Problem}})
def note(here: Here, when: When, exchange: str, symbol: str, said: WatchNoteIn) -> None:
    """Watch a payer with a note or in a group; what was said before gives way."""
    watch_payer(
        here.cache,
        exchange,
        symbol,
        WatchNote(said.note, said.group),
        when.as_of,
        when.edition,
        at=here.now(),
        begun=WatchNote(said.begun.note, said.begun.group) if said.begun else None,
    )


@router.delete("/watch/{exchange}/{symbol:path}", status_code=204)
def forget(here: Here, exchange: str, symbol: str) -> None:
    """Its note and group go; what a decision or an entry step waits for stays."""
    unwatch_payer(here.cache, exchange, symbol)


@router.get("/watch")
def watch(here: Here, when: When) -> list[WatchedOut]:
    """Payers with targets, a decision or a note, the nearest first."""
    owned = read_holdings(here.cache, when.as_of, when.edition).parts
    return [
        _out(w, when.as_of, owned.get((w.waiting.payer.exchange, w.waiting.payer.symbol)))
        for w in watch_payers(here.cache, when.as_of, when.edition)
    ]


def _out(watched: Watched, as_of: date, part: Part | None) -> WatchedOut:
    waiting, decision = watched.waiting, watched.decision
    payer, coming = waiting.payer, waiting.coming
    look = decision.next_look if decision else None
    return fill(
        WatchedOut,
        payer,
        state=waiting.state.value if waiting.state else None,
        price=figure_out(waiting.price, "payer.price"),
        note=watched.said.note if watched.said else "",
        group=watched.said.group if watched.said else "",
        verdict=decision.verdict if decision else None,
        decided_on=decision.as_of if decision else None,
        next_look=look,
        look_due=look is not None and look <= as_of,
        reaches=[_reach(r) for r in waiting.reaches],
        slipping=[
            judged_out(j, decision.id if decision else None, n, payer.currency)
            for n, j in waiting.slipping
        ],
        next_ex_date=coming.ex_date if coming else None,
        projected=coming.projected if coming else False,
        held=None if part is None else held_short(part),
    )


def _reach(reach: Reach) -> ReachOut:
    target = reach.target.value or 0.0
    return fill(
        ReachOut,
        reach,
        "reach",
        words=reach.aim.asks,
        target=target,
        reach=write_reach((reach.aim, target)),
    )
