"""See how many payers yield more than they usually do, at every quarter end as it was known."""

from __future__ import annotations

from datetime import date

from hearth_yield.collector import at_rest
from hearth_yield.core.errors import Uncomputable
from hearth_yield.core.finding.breadth import Breadth, above_own_mean, breadth_of, quarter_ends_to
from hearth_yield.core.review import computing
from hearth_yield.faults_log import note_if_ours
from hearth_yield.progress import Progress
from hearth_yield.store import facts, payer_files
from hearth_yield.store.database import Edition

from .review_cache import ReviewCache


def measure_breadth(cache: ReviewCache, as_of: date, at: Edition, progress: Progress) -> int:
    """Reads every payer. Returns how many there are; raising from `progress` stops between them."""

    def make() -> Breadth:
        days, found = quarter_ends_to(as_of), []
        with cache.database.read() as connection:
            keys = sorted(facts.known_payers(connection))
        shared = payer_files.Shared()
        for done, (exchange, symbol) in enumerate(keys):
            progress("payers", done, len(keys))
            with cache.database.read() as connection:
                file = payer_files.load(connection, exchange, symbol, shared)
            try:
                with computing(file.payer), at_rest():
                    cut = file.cut(as_of)
                    found.append(((exchange, symbol, file.payer.name), above_own_mean(cut, days)))
            except Uncomputable as error:
                note_if_ours(error)
                continue
        return breadth_of(days, found)

    return max(cache.breadths.get((at.facts, as_of), make).known, default=0)


def held_breadth(cache: ReviewCache, as_of: date, at: Edition) -> Breadth | None:
    """What was measured already; None while it was not."""
    found = cache.breadths.peek((at.facts, as_of))
    return found if isinstance(found, Breadth) else None
