"""The Journal place: all decisions in time, and the person's own record."""

from __future__ import annotations

from datetime import date

from fastapi import APIRouter

from hearth_yield.actions.read_journal import LEAST, Entry, read_journal

from .answer import wire
from .context import Here, When
from .decisions import JudgedOut, SinceOut, Verdict, judged_out, since_out
from .holdings import FollowedOut, followed_out
from .schemas import Problem, StateName
from .wire import fill

router = APIRouter(prefix="/api", responses={422: {"model": Problem}})


@wire
class JournalEntryOut:
    """name: of the payer; null where it is no longer stored. buy_below: as it was written. waiting:
    no close has come down to it yet, so that it counts as waiting."""

    id: int
    exchange: str
    symbol: str
    name: str | None
    as_of: date
    verdict: Verdict
    words: str
    buy_below: float | None
    currency: str
    state: StateName | None
    first_to_give: str | None
    next_look: date | None
    since: SinceOut | None
    expectations: list[JudgedOut]
    looked_back: str
    waiting: bool
    followed: FollowedOut


@wire
class VerdictRecordOut:
    """mean_total: total return since, over those for which it is known; against_market: the mean
    of what it was above the market's."""

    verdict: Verdict
    decisions: int
    known: int
    mean_total: float | None
    against_market: float | None


@wire
class JournalOut:
    """held, judged: expectations on track or met, of those that can be judged. least: so many of a
    kind say something. found: decisions there are, of which the newest are listed. traded:
    something is entered in the ledger."""

    entries: list[JournalEntryOut]
    found: int
    held: int
    judged: int
    by_verdict: list[VerdictRecordOut]
    least: int
    traded: bool


@router.get("/journal")
def journal(here: Here, when: When) -> JournalOut:
    found = read_journal(here.cache, when.as_of, when.edition)
    return fill(JournalOut, found, entries=[_entry(e) for e in found.entries], least=LEAST)


def _entry(entry: Entry) -> JournalEntryOut:
    made, outcome = entry.made, entry.outcome
    return fill(
        JournalEntryOut,
        made,
        id=made.id or 0,
        name=outcome.name,
        buy_below=None if made.buy_below is None else float(made.buy_below),
        since=since_out(outcome.since) if outcome.since else None,
        expectations=[
            judged_out(j, made.id, n, made.currency) for n, j in enumerate(outcome.judged)
        ],
        waiting=outcome.waiting,
        followed=followed_out(entry.followed, made.id or 0),
    )
