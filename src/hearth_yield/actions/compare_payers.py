"""A few payers side by side, on the day that is viewed."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date

from hearth_yield.core.comparing.comparison import Asked, Comparison, compare
from hearth_yield.core.comparing.sets import compare_sets
from hearth_yield.core.errors import InvalidInput
from hearth_yield.core.figures.measure import Measure
from hearth_yield.core.household.measures import HOUSEHOLD
from hearth_yield.core.names import NUMBERS
from hearth_yield.core.question import Question
from hearth_yield.store.database import Edition

from .exchange_rates import newest_rate
from .read_holdings import read_holdings
from .review_cache import ReviewCache

MOST = 6
MOST_LINES = 20
Key = tuple[str, str]


def default_lines(id: str = "overview") -> list[Asked]:
    """Those of a set, each with a weight of one."""
    sets = compare_sets()
    found = next((s for s in sets if s.id == id), sets[0])
    return [default_line(NUMBERS[m]) for m in found.measures]


def default_line(measure: Measure) -> Asked:
    """One of which neither end is the better counts for nothing unless a weight is given."""
    if measure.better == "neither":
        return Asked(id=measure.id, better="high", weight=0.0)
    return Asked(id=measure.id, better=measure.better, weight=1.0)


def compare_payers(
    cache: ReviewCache, keys: Sequence[Key], lines: Sequence[Asked], as_of: date, at: Edition
) -> Comparison:
    """Raises: InvalidInput for too few or too many payers, or one twice; NotFound."""
    if not 1 <= len(keys) <= MOST or len(set(keys)) < len(keys):
        raise InvalidInput(
            "compare a few payers, each once",
            field="payer",
            value=len(keys),
            rule=f"1 to {MOST} payers",
        )
    reviews = [cache.review(e, s, as_of, Question(), at) for e, s in keys]
    owned = {}
    if any(line.id in HOUSEHOLD for line in lines):
        owned = read_holdings(cache, as_of, at).parts
    return compare(
        reviews, lines, lambda other, into: newest_rate(cache, other, into, as_of, at), owned
    )
