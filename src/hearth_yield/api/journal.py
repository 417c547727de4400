"""The Journal place: all decisions in time, and the person's own record."""

from __future__ import annotations

from datetime import date

from fastapi import APIRouter
from pydantic import BaseModel

from hearth_yield.actions.read_journal import LEAST, Entry, read_journal

from .context import Here, When
from .decisions import JudgedOut, SinceOut, Verdict, judged_out, since_out
from .schemas import Problem, StateName

router = APIRouter(prefix="/api", responses={422: {"model": Problem}})


class JournalEntryOut(BaseModel):
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


class VerdictRecordOut(BaseModel):
    """mean_total: total return since, over those for which it is known; against_market: the mean
    of what it was above the market's."""

    verdict: Verdict
    decisions: int
    known: int
    mean_total: float | None
    against_market: float | None


class JournalOut(BaseModel):
    """held, judged: expectations on track or met, of those that can be judged. least: so many of a
    kind say something. found: decisions there are, of which the newest are listed."""

    entries: list[JournalEntryOut]
    found: int
    held: int
    judged: int
    by_verdict: list[VerdictRecordOut]
    least: int


@router.get("/journal")
def journal(here: Here, when: When) -> JournalOut:
    found = read_journal(here.cache, when.as_of, when.edition)
    return JournalOut(
        entries=[_entry(e) for e in found.entries],
        found=found.found,
        held=found.held,
        judged=found.judged,
        by_verdict=[
            VerdictRecordOut.model_validate(
                {
                    "verdict": r.verdict,
                    "decisions": r.decisions,
                    "known": r.known,
                    "mean_total": r.mean_total,
                    "against_market": r.against_market,
                }
            )
            for r in found.by_verdict
        ],
        least=LEAST,
    )


def _entry(entry: Entry) -> JournalEntryOut:
    made, outcome = entry.made, entry.outcome
    return JournalEntryOut.model_validate(
        {
            "id": made.id or 0,
            "exchange": made.exchange,
            "symbol": made.symbol,
            "name": outcome.name,
            "as_of": made.as_of,
            "verdict": made.verdict,
            "words": made.words,
            "buy_below": None if made.buy_below is None else float(made.buy_below),
            "currency": made.currency,
            "state": made.state,
            "first_to_give": made.first_to_give,
            "next_look": made.next_look,
            "since": since_out(outcome.since) if outcome.since else None,
            "expectations": [
                judged_out(j, made.id, n, made.currency) for n, j in enumerate(outcome.judged)
            ],
            "looked_back": made.looked_back,
            "waiting": outcome.waiting,
        }
    )
