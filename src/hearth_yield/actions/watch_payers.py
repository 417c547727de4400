"""What the person waits for: targets of standing decisions and entry steps, the nearest first."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from decimal import Decimal
from functools import partial

from hearth_yield.core.errors import NotFound, Uncomputable
from hearth_yield.core.expecting.expectation import Judged, Track
from hearth_yield.core.facts.payer_file import PayerFile
from hearth_yield.core.facts.records import Payer, split_factor
from hearth_yield.core.figures.figure import Figure, Unit, unknown
from hearth_yield.core.finding.measured import Measured
from hearth_yield.core.judging.judge import State
from hearth_yield.core.question import Question
from hearth_yield.core.range.entry_steps import EntryStep, priced_steps
from hearth_yield.core.record.ahead import Coming
from hearth_yield.core.record.history import Record
from hearth_yield.core.record.stage import build_record_stage
from hearth_yield.core.review import computing
from hearth_yield.core.watching.reach import Aim, Reach, reach_of
from hearth_yield.faults_log import note_if_ours
from hearth_yield.store import decisions, entry_steps, watched
from hearth_yield.store.database import Edition
from hearth_yield.store.decisions import Waited
from hearth_yield.store.watched import WatchNote

from .review_cache import ReviewCache
from .since_decided import judged_now, ready_measures

MOST = 1000
Key = tuple[str, str]


@dataclass(frozen=True, slots=True, kw_only=True)
class Waiting:
    """One payer with what is waited for on a day; its figures stand alone, as many payers are kept.
    slipping: those of the newest decision's expectations that are off track, with their place in
    it."""

    payer: Payer
    state: State | None
    price: Figure
    reaches: Sequence[Reach]
    slipping: Sequence[tuple[int, Judged]]
    coming: Coming | None

    @property
    def nearest(self) -> float:
        """Of what can be told."""
        found = [r.distance.value for r in self.reaches if r.distance.value is not None]
        return min(found, default=float("inf"))


@dataclass(frozen=True, slots=True, kw_only=True)
class Watched:
    """decision: the newest that stands; said: a note and a group of the person's."""

    waiting: Waiting
    decision: Waited | None
    said: WatchNote | None


def watch_payers(cache: ReviewCache, as_of: date, at: Edition) -> list[Watched]:
    """Payers with a decision that stands, an entry step or a note, the nearest to a target first;
    one that is no longer held is passed over."""
    with cache.database.read() as connection:
        made = decisions.waited(connection, as_of)
        steps = entry_steps.everyones(connection)
        noted = watched.everyones(connection)
    newest: dict[Key, Waited] = {}
    for decision in made:
        newest.setdefault((decision.exchange, decision.symbol), decision)
    ready = ready_measures(cache, as_of)
    found = []
    for key in list(dict.fromkeys([*newest, *steps, *noted]))[:MOST]:
        last, own = newest.get(key), tuple(steps.get(key, ()))
        make = partial(_waiting, cache, key, last, own, as_of, at, ready.get(key))
        try:
            waiting = cache.followed.get((at.judged, as_of, key, last and last.id, own), make)
        except NotFound:
            continue
        found.append(Watched(waiting=waiting, decision=last, said=noted.get(key)))
    return sorted(found, key=lambda w: (w.waiting.nearest, w.waiting.payer.name))


def _waiting(
    cache: ReviewCache,
    key: Key,
    decision: Waited | None,
    steps: Sequence[EntryStep],
    as_of: date,
    at: Edition,
    ready: Measured | None,
) -> Waiting:
    """ready: the payer's measures on that day, where they are made already. Raises NotFound."""
    payer = cache.whole_file(at, *key).payer
    try:
        file = cache.cut_file(at, *key, as_of)
        with computing(payer):
            held = build_record_stage(file)
            judged = () if decision is None else judged_now(cache, decision, file, at, ready)
            return Waiting(
                payer=file.payer,
                state=_state(cache, file, at, ready),
                price=file.price.alone(),
                reaches=_reaches(file, held.record, decision, steps),
                slipping=[
                    (n, j.alone())
                    for n, j in enumerate(judged)
                    if j.track in (Track.OFF, Track.MISSED)
                ],
                coming=held.coming,
            )
    except Uncomputable as error:
        note_if_ours(error)
        return Waiting(
            payer=payer,
            state=None,
            price=unknown("price", Unit.PER_SHARE, error.message),
            reaches=(),
            slipping=(),
            coming=None,
        )


def _reaches(
    file: PayerFile, record: Record, decision: Waited | None, steps: Sequence[EntryStep]
) -> Sequence[Reach]:
    """The nearest first."""
    aims: list[tuple[Aim, float | None]] = []
    if decision is not None:
        factor = split_factor(file.splits, decision.as_of)
        aims = [
            (Aim.BUY, _today(decision.buy_below, factor)),
            (Aim.TRIM, _today(decision.trim_above, factor)),
        ]
    aims += [(Aim.STEP, e.price.value) for e in priced_steps(file, record, steps)]
    rate = record.declared_rate
    found = [reach_of(file, rate, aim, x).alone() for aim, x in aims if x is not None and x > 0]
    return sorted(found, key=lambda r: r.distance.value or 0.0)


def _state(
    cache: ReviewCache, file: PayerFile, at: Edition, ready: Measured | None
) -> State | None:
    if ready is None:
        payer = file.payer
        return cache.review(payer.exchange, payer.symbol, file.day, Question(), at).state
    word = ready.words["state"]
    return State(word) if word else None


def _today(price: Decimal | None, factor: float) -> float | None:
    """A price in today's shares."""
    return None if price is None else float(price) / factor
