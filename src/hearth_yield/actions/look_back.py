"""Look back: measure every payer at every past year end, as it was known then.

What was read of a payer is kept until its facts change, whatever the rules; every batch is one
short transaction, and what a batch left undone is read the next time.
"""

from __future__ import annotations

from datetime import date

from hearth_yield.collector import at_rest
from hearth_yield.core.errors import NotFound, Uncomputable
from hearth_yield.core.facts.payer_file import PayerFile
from hearth_yield.core.finding.look_back import LookedBack, PastPayer, past_of
from hearth_yield.core.review import computing
from hearth_yield.faults_log import note_if_ours
from hearth_yield.progress import Progress
from hearth_yield.store import pasts, payer_files
from hearth_yield.store.database import Edition

from .ensure_measures import method
from .review_cache import ReviewCache

BATCH = 10


def look_back(cache: ReviewCache, as_of: date, at: Edition, progress: Progress) -> int:
    """Reads what is not kept yet. Returns how many year ends there are.

    progress: called with step, payers done and payers in all; raising from it stops between
    payers, and the batches read until then stay.
    """
    database = cache.database

    def make() -> LookedBack:
        with database.read() as connection:
            found = list(pasts.held(connection, as_of, method()))
            due = pasts.due(connection, as_of, method())
        known, shared = len(found), payer_files.Shared()
        for start in range(0, len(due), BATCH):
            made = []
            with database.read() as connection:
                for done, d in enumerate(due[start : start + BATCH], known + start):
                    progress("payers", done, known + len(due))
                    file = payer_files.load(connection, d.exchange, d.symbol, shared)
                    made.append((d, _past(file, as_of)))
            with database.write(facts=False, patient=True) as connection:
                pasts.keep(connection, as_of, method(), made)
            found += [past for _, past in made]
        return LookedBack.of(found, as_of)

    return len(cache.looked_back.get((at.facts, as_of), make).universe)


def _past(file: PayerFile, as_of: date) -> PastPayer:
    """One payer that cannot be computed does not keep the others from being looked at."""
    payer = file.payer
    try:
        with computing(payer), at_rest():
            return past_of(file, as_of)
    except Uncomputable as error:
        note_if_ours(error)
        return PastPayer(
            exchange=payer.exchange,
            symbol=payer.symbol,
            name=payer.name,
            cuts=(),
            days=(),
            candidates=(),
            reason=error.message,
        )


def held_back(cache: ReviewCache, as_of: date, at: Edition) -> LookedBack | None:
    """What was looked back on already, now or before a restart; None while any of it is not
    kept."""
    key = (at.facts, as_of)
    found = cache.looked_back.peek(key)
    if isinstance(found, LookedBack):
        return found
    with cache.database.read() as connection:
        if pasts.due(connection, as_of, method()):
            return None
        kept = pasts.held(connection, as_of, method())
    return cache.looked_back.get(key, lambda: LookedBack.of(kept, as_of)) if kept else None


def looked_back(cache: ReviewCache, as_of: date, at: Edition) -> LookedBack:
    """Raises NotFound before anyone has looked back on these facts."""
    found = held_back(cache, as_of, at)
    if found is None:
        raise NotFound(
            "nothing has been looked back on since the facts changed; look back first",
            field="as_of",
            value=as_of.isoformat(),
            rule="POST /api/look-back",
        )
    return found
