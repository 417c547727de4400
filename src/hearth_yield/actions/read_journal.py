"""All decisions in time: what became of each, and the person's own record."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from functools import partial

import numpy as np

from hearth_yield.core.errors import NotFound, Uncomputable
from hearth_yield.core.expecting.expectation import Judged, Track
from hearth_yield.core.facts.payer_file import PayerFile
from hearth_yield.core.facts.records import split_factor
from hearth_yield.core.figures.ties import all_at_most
from hearth_yield.core.finding.measured import Measured
from hearth_yield.core.household.entries import Entry as LedgerEntry
from hearth_yield.core.household.entries import PayerKey
from hearth_yield.core.household.followed import Followed, followed
from hearth_yield.core.review import computing
from hearth_yield.faults_log import note_if_ours
from hearth_yield.store import decisions
from hearth_yield.store.database import Edition
from hearth_yield.store.decisions import Decision

from .decide import VERDICTS
from .read_holdings import Ground, kept_ground
from .review_cache import ReviewCache
from .since_decided import Since, judged_now, ready_measures, since_decided

BUY, WAIT = "buy", "wait"
MOST = 200
"""So many are listed; the person's own record is of all."""
LEAST = 5
"""So many of a kind say something; fewer are told as such."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Outcome:
    """What became of a decision. name: of the payer; None where it is no longer held, and then
    nothing since is known. waiting: it would buy below a price that no close has come down to."""

    name: str | None
    since: Since | None
    judged: Sequence[Judged]
    waiting: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class Entry:
    """followed: what was traded from its day on, until the next decision on the payer."""

    made: Decision
    outcome: Outcome
    followed: Followed


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
    """entries: the newest first. held: expectations met or on track of those that can be judged.
    traded: whether anything is entered in the ledger."""

    entries: Sequence[Entry]
    found: int
    held: int
    judged: int
    by_verdict: Sequence[VerdictRecord]
    traded: bool


def read_journal(cache: ReviewCache, as_of: date, at: Edition) -> Journal:
    """Decisions made by a day, each with what was known of it then."""
    with cache.database.read() as connection:
        made = decisions.all_until(connection, as_of)
    ready = ready_measures(cache, as_of)
    ground = kept_ground(cache, as_of, at)
    traded = follow_decisions(ground, made)
    entries = []
    for decision in made:
        measured = ready.get((decision.exchange, decision.symbol))
        make = partial(_outcome, cache, decision, as_of, at, measured)
        outcome = cache.followed.get((at.judged, as_of, decision.id), make)
        entries.append(Entry(made=decision, outcome=outcome, followed=traded[decision.id]))
    judged = [j for e in entries for j in e.outcome.judged if j.track is not Track.UNKNOWN]
    held = sum(j.track in (Track.ON, Track.MET) for j in judged)
    return Journal(
        entries=entries[:MOST],
        found=len(made),
        held=held,
        judged=len(judged),
        by_verdict=[r for v in VERDICTS if (r := _record(v, entries)) is not None],
        traded=bool(ground.entries),
    )


def follow_decisions(ground: Ground, made: Sequence[Decision]) -> dict[int | None, Followed]:
    """What was traded after each, by its id. made: the newest first."""
    trades: dict[PayerKey, list[LedgerEntry]] = {}
    for entry in ground.entries:
        if entry.payer is not None:
            trades.setdefault(entry.payer, []).append(entry)
    found: dict[int | None, Followed] = {}
    after: dict[PayerKey, date] = {}
    for decision in made:
        key = (decision.exchange, decision.symbol)
        found[decision.id] = followed(
            trades.get(key, ()),
            ground.known.splits.get(key, ()),
            decision.currency,
            since=decision.as_of,
            before=after.get(key),
            buy_below=decision.buy_below,
        )
        after[key] = decision.as_of
    return found


def _outcome(
    cache: ReviewCache, made: Decision, as_of: date, at: Edition, ready: Measured | None
) -> Outcome:
    try:
        name = cache.whole_file(at, made.exchange, made.symbol).payer.name
    except NotFound:
        return Outcome(name=None, since=None, judged=())
    try:
        file = cache.cut_file(at, made.exchange, made.symbol, as_of)
        with computing(file.payer):
            since = since_decided(file, made)
            judged = [j.alone() for j in judged_now(cache, made, file, at, ready)]
            waiting = waits(file, made)
            return Outcome(name=name, since=since, judged=judged, waiting=waiting)
    except Uncomputable as error:
        note_if_ours(error)
        return Outcome(name=name, since=None, judged=())


def waits(file: PayerFile, made: Decision) -> bool:
    """Whether a decision to buy still waits for its price: from the close of its day on, none was
    at or under it, in today's shares. file: cut to the day viewed."""
    if made.verdict != BUY or made.buy_below is None:
        return False
    below = float(made.buy_below) / split_factor(file.splits, made.as_of)
    first = int(np.searchsorted(file.prices.days, np.datetime64(made.as_of), side="right")) - 1
    closes = file.adjusted_closes[max(first, 0) :]
    return bool(len(closes)) and not bool(all_at_most(closes, below).any())


def _record(verdict: str, entries: Sequence[Entry]) -> VerdictRecord | None:
    """A decision to buy that waits for its price counts as waiting: nothing was bought."""
    counted = ((e, WAIT if e.outcome.waiting else e.made.verdict) for e in entries)
    mine = [e for e, counts in counted if counts == verdict]
    if not mine:
        return None
    since = [e.outcome.since for e in mine if e.outcome.since]
    totals = [s.total.value for s in since if s.total.value is not None]
    against = [s.against_market.value for s in since if s.against_market.value is not None]
    return VerdictRecord(
        verdict=verdict,
        decisions=len(mine),
        known=len(totals),
        mean_total=sum(totals) / len(totals) if totals else None,
        against_market=sum(against) / len(against) if against else None,
    )
