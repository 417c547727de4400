"""Signals: what happened that a person wants to hear of, seen or not."""

from __future__ import annotations

from datetime import date
from typing import Annotated

from fastapi import APIRouter, Query
from pydantic import BaseModel, Field

from hearth_yield.actions.holding_signals import newest_signals
from hearth_yield.actions.make_signals import KeptSignal, mark_signals, pending_signals
from hearth_yield.core.signals.signal import Said, Value, Whose

from .answer import wire
from .context import Here, When
from .figures import FigureOut, PartOut
from .schemas import JobOut, Problem, StageName
from .wire import fill

router = APIRouter(prefix="/api", responses={422: {"model": Problem}})
MOST = 500
Short = Annotated[str, Field(max_length=200)]


@wire
class SignalOut:
    """asks: for something to be done. day: from which it could be known; stage: where its grounds
    are, as of that day; of_income: they are under Holdings."""

    exchange: str
    symbol: str
    name: str
    kind: str
    title: str
    asks: bool
    event: str
    day: date
    stage: StageName
    of_income: bool
    said: list[PartOut]
    seen: bool


@wire
class SignalsOut:
    """pending: payers whose signals are still to be made."""

    signals: list[SignalOut]
    pending: int


class SeenIn(BaseModel):
    exchange: Short
    symbol: Short
    kind: Short
    event: Short


class MarkIn(BaseModel):
    """seen: whether they are seen from now on, or unseen again."""

    signals: Annotated[list[SeenIn], Field(max_length=MOST)]
    seen: bool = True


@router.get("/signals")
def signals(
    here: Here, when: When, unseen: bool = False, limit: Annotated[int, Query(ge=1, le=MOST)] = MOST
) -> SignalsOut:
    """The newest that could be known on the day, as far as they are made."""
    found = newest_signals(here.cache, when.as_of, when.edition, unseen=unseen, limit=limit)
    rules = here.cache.house_rules(when.edition)
    pending = pending_signals(here.database, rules, when.today)
    return SignalsOut(signals=[_out(k) for k in found], pending=pending)


@router.post("/signals", status_code=202)
def make(here: Here, when: When) -> JobOut:
    """See to it that signals are made up to today."""
    return here.make_signals(when).out()


@router.post("/signals/seen", status_code=204)
def mark(here: Here, asked: MarkIn) -> None:
    """They were seen, or are unseen again."""
    events = [(s.exchange, s.symbol, s.kind, s.event) for s in asked.signals]
    mark_signals(here.database, events, at=here.now() if asked.seen else None)


def _out(kept: KeptSignal) -> SignalOut:
    signal, kind = kept.signal, kept.signal.kind
    first, *rest = signal.said
    begun = first[:1].upper() + first[1:] if isinstance(first, str) else first
    return fill(
        SignalOut,
        signal,
        exchange=kept.exchange,
        symbol=kept.symbol,
        name=kept.name,
        kind=kind.id,
        title=kind.name,
        asks=kind.asks,
        of_income=kind.whose is Whose.HELD,
        said=[_said(part) for part in (begun, *rest, ".")],
        seen=kept.seen,
    )


def _said(part: Said) -> PartOut:
    """A number of a signal has no working: what it rests on opens with its payer, on its day."""
    match part:
        case Value():
            told = FigureOut("", "", part.unit.value, part.value, currency=part.currency)
            return PartOut(figure=told)
        case date():
            return PartOut(day=part)
    return PartOut(text=part)
