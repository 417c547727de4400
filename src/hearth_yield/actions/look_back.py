"""Look back: measure every payer at every past year end, as it was known then."""

from __future__ import annotations

from datetime import date

from hearth_yield.collector import at_rest
from hearth_yield.core.errors import NotFound
from hearth_yield.core.finding.look_back import LookedBack, past_of
from hearth_yield.core.review import computing
from hearth_yield.progress import Progress
from hearth_yield.store import payer_files
from hearth_yield.store.database import Edition

from .review_cache import ReviewCache


def look_back(cache: ReviewCache, as_of: date, at: Edition, progress: Progress) -> int:
    """Kept until the facts change, whatever the rules. Returns how many year ends there are.

    progress: called with step, payers done and payers in all; raising from it stops, and nothing
    is kept.
    """

    def make() -> LookedBack:
        with cache.database.read() as connection:
            keys, shared, found = payer_files.keys(connection), payer_files.Shared(), []
            for done, (exchange, symbol) in enumerate(keys):
                progress("payers", done, len(keys))
                whole = payer_files.load(connection, exchange, symbol, shared)
                with computing(whole.payer), at_rest():
                    found.append(past_of(whole, as_of))
        return LookedBack.of(found, as_of)

    return len(cache.looked_back.get((at.facts, as_of), make).universe)


def held_back(cache: ReviewCache, as_of: date, at: Edition) -> LookedBack | None:
    """What was looked back on already; None before that."""
    found = cache.looked_back.peek((at.facts, as_of))
    return found if isinstance(found, LookedBack) else None


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
