"""All decisions in time: what became of each, and the person's own record."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

from hearth_yield.core.errors import NotFound
from hearth_yield.core.expecting.expectation import Judged, Track
from hearth_yield.core.facts.records import split_factor
from hearth_yield.core.range.performance import Grown
from hearth_yield.store import decisions
from hearth_yield.store.database import Edition
from hearth_yield.store.decisions import Decision

from .decide import VERDICTS, Offered, judged_now, offered_then, since_then
from .review_cache import ReviewCache

MOST = 200
LEAST = 5
"""So many of a kind say something; fewer are told as such."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Entry:
    """name: of the payer; None where it is no longer held, and then nothing since is known."""

    made: Decision
    name: str | None
    since: Grown | None
    offered: Offered | None
    judged: Sequence[Judged]


@dataclass(frozen=True, slots=True, kw_only=True)
class VerdictRecord:
    """Of one verdict: how many, their mean total return a decision and how many beat the market;
    of those for which it is known."""

    verdict: str
    decisions: int
    known: int
    mean_total: float | None
    against_market: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class Journal:
    """entries: the newest first. held: expectations met or on track of those that can be judged."""

    entries: Sequence[Entry]
    found: int
    held: int
    judged: int
    by_verdict: Sequence[VerdictRecord]


def read_journal(cache: ReviewCache, as_of: date, at: Edition) -> Journal:
    """Decisions made by a day, each with what was known of it then."""
    with cache.database.read() as connection:
        made = decisions.all_until(connection, as_of)
    entries = [_entry(cache, d, as_of, at) for d in made[:MOST]]
    judged = [j for e in entries for j in e.judged if j.track is not Track.UNKNOWN]
    held = sum(j.track in (Track.ON, Track.MET) for j in judged)
    return Journal(
        entries=entries,
        found=len(made),
        held=held,
        judged=len(judged),
        by_verdict=[r for v in VERDICTS if (r := _record(v, entries)) is not None],
    )


def _entry(cache: ReviewCache, made: Decision, as_of: date, at: Edition) -> Entry:
    try:
        file = cache.cut_file(at, made.exchange, made.symbol, as_of)
    except NotFound:
        return Entry(made=made, name=None, since=None, offered=None, judged=())
    factor = split_factor(file.splits, made.as_of)
    return Entry(
        made=made,
        name=file.payer.name,
        since=since_then(cache, made, as_of, at),
        offered=offered_then(made, as_of),
        judged=judged_now(cache, made, as_of, at, factor),
    )


def _record(verdict: str, entries: Sequence[Entry]) -> VerdictRecord | None:
    mine = [e for e in entries if e.made.verdict == verdict]
    if not mine:
        return None
    totals = [e.since.total.value for e in mine if e.since and e.since.total.value is not None]
    against = [
        e.since.against_market.value
        for e in mine
        if e.since and e.since.against_market.value is not None
    ]
    return VerdictRecord(
        verdict=verdict,
        decisions=len(mine),
        known=len(totals),
        mean_total=sum(totals) / len(totals) if totals else None,
        against_market=sum(against) / len(against) if against else None,
    )
