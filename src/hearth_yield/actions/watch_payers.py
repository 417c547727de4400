"""What the person waits for: targets of standing decisions and entry steps, the nearest first."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from decimal import Decimal

from hearth_yield.core.errors import NotFound
from hearth_yield.core.expecting.expectation import Judged, Track
from hearth_yield.core.facts.records import split_factor
from hearth_yield.core.question import Question
from hearth_yield.core.record.ahead import Coming
from hearth_yield.core.review import Review
from hearth_yield.core.watching.reach import Aim, Reach, reach_of
from hearth_yield.store import decisions, entry_steps, watched
from hearth_yield.store.database import Edition
from hearth_yield.store.decisions import Decision
from hearth_yield.store.watched import WatchNote

from .decide import judged_now
from .keep_entry_step import entries
from .review_cache import ReviewCache

MOST = 200
Key = tuple[str, str]


@dataclass(frozen=True, slots=True, kw_only=True)
class Watched:
    """One payer with what is waited for. decision: the newest that stands; slipping: its
    expectations that are off track; said: a note and a group of the person's."""

    review: Review
    decision: Decision | None
    said: WatchNote | None
    reaches: Sequence[Reach]
    slipping: Sequence[Judged]
    coming: Coming | None

    @property
    def nearest(self) -> float:
        """Of what can be told."""
        found = [r.distance.value for r in self.reaches if r.distance.value is not None]
        return min(found, default=float("inf"))


def watch_payers(cache: ReviewCache, as_of: date, at: Edition) -> list[Watched]:
    """Payers with a decision that stands, an entry step or a note, the nearest to a target first;
    one that is no longer held is passed over."""
    with cache.database.read() as connection:
        made = decisions.all_until(connection, as_of)
        stepped = entry_steps.payers(connection)
        noted = watched.everyones(connection)
    newest: dict[Key, Decision] = {}
    for decision in made:
        newest.setdefault((decision.exchange, decision.symbol), decision)
    keys = list(dict.fromkeys([*newest, *stepped, *noted]))[:MOST]
    found = [
        w
        for k in keys
        if (w := _watched(cache, k, newest.get(k), noted.get(k), as_of, at)) is not None
    ]
    return sorted(found, key=lambda w: (w.nearest, w.review.payer.name))


def _watched(
    cache: ReviewCache,
    key: Key,
    decision: Decision | None,
    said: WatchNote | None,
    as_of: date,
    at: Edition,
) -> Watched | None:
    exchange, symbol = key
    try:
        file = cache.cut_file(at, exchange, symbol, as_of)
    except NotFound:
        return None
    review = cache.review(exchange, symbol, as_of, Question(), at)
    reaches = []
    judged: Sequence[Judged] = ()
    if decision is not None:
        factor = split_factor(file.splits, decision.as_of)
        judged = judged_now(cache, decision, as_of, at, factor)
        for aim, price in ((Aim.BUY, decision.buy_below), (Aim.TRIM, decision.trim_above)):
            target = _today(price, factor)
            if target is not None:
                reaches.append(reach_of(file, review.price, aim, target))
    for entry in entries(cache, exchange, symbol, as_of, at):
        if entry.price.value is not None and entry.price.value > 0:
            reaches.append(reach_of(file, review.price, Aim.STEP, entry.price.value))
    return Watched(
        review=review,
        decision=decision,
        said=said,
        reaches=sorted(reaches, key=lambda r: r.distance.value or 0.0),
        slipping=[j for j in judged if j.track in (Track.OFF, Track.MISSED)],
        coming=review.coming,
    )


def _today(price: Decimal | None, factor: float) -> float | None:
    """A price in today's shares."""
    return None if price is None else float(price) / factor
